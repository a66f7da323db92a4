package nariz.log;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/**
 * A recorded drive. Sample i of every channel belongs to {@code timeS()[i]}; times rise strictly; a missing reading is
 * NaN. The arrays are shared, not copied, for a log may hold millions of samples: do not change them.
 */
public final class DriveLog {
    private final String name;
    private final Map<Channel, double[]> channels;
    private final List<LogProblem> problems;
    private final long problemCount;
    private final List<Span> excluded;

    /**
     * Takes over the arrays.
     *
     * @param name file name or title
     * @param channels values in SI, all of one length; TIME, RPM, VACUUM and LAMBDA must be there
     * @param problems what was kept out, at most the first few hundred
     * @param problemCount how many there were in all
     */
    public DriveLog(String name, Map<Channel, double[]> channels, List<LogProblem> problems, long problemCount) {
        this(name, channels, problems, problemCount, List.of());
    }

    private DriveLog(String name, Map<Channel, double[]> channels, List<LogProblem> problems, long problemCount,
            List<Span> excluded) {
        this.excluded = List.copyOf(excluded);
        this.name = name;
        this.channels = new EnumMap<>(channels);
        this.problems = List.copyOf(problems);
        this.problemCount = problemCount;
        for (Channel c : List.of(Channel.TIME, Channel.RPM, Channel.VACUUM, Channel.LAMBDA)) {
            if (!channels.containsKey(c)) {
                throw new IllegalArgumentException("channel " + c + " is missing");
            }
        }
        int n = Objects.requireNonNull(channels.get(Channel.TIME)).length;
        channels.forEach((c, v) -> {
            if (v.length != n) {
                throw new IllegalArgumentException("channel " + c + " has " + v.length + " samples, time has " + n);
            }
        });
    }

    /**
     * The same drive with some stretches taken out of the computation; the samples stay where they are.
     *
     * @param stretches what not to count
     * @return a drive over the same arrays
     */
    public DriveLog without(List<Span> stretches) {
        return new DriveLog(name, channels, problems, problemCount, stretches);
    }

    private double[] needed(Channel c) {
        double[] v = channels.get(c);
        if (v == null) {
            throw new IllegalArgumentException(c.key() + " was not recorded");
        }
        return v;
    }

    /** {@return stretches that do not count} */
    public List<Span> excluded() {
        return excluded;
    }

    /**
     * Whether a sample was taken out.
     *
     * @param i sample
     * @return true within an excluded stretch
     */
    public boolean excluded(int i) {
        double t = timeS()[i];
        for (Span s : excluded) {
            if (s.holds(t)) {
                return true;
            }
        }
        return false;
    }

    /** {@return file name or title} */
    public String name() {
        return name;
    }

    /** {@return number of samples} */
    public int size() {
        return timeS().length;
    }

    /** {@return sample times, s, strictly rising} */
    public double[] timeS() {
        return needed(Channel.TIME);
    }

    /** {@return engine speed, rpm} */
    public double[] rpm() {
        return needed(Channel.RPM);
    }

    /** {@return manifold vacuum, Pa} */
    public double[] vacuumPa() {
        return needed(Channel.VACUUM);
    }

    /** {@return lambda as read, mean of both sensors is not taken here} */
    public double[] lambda() {
        return needed(Channel.LAMBDA);
    }

    /**
     * Whether a channel was recorded.
     *
     * @param c channel
     * @return true when there are values
     */
    public boolean has(Channel c) {
        return channels.containsKey(c);
    }

    /**
     * Values of a channel.
     *
     * @param c channel, one that {@link #has}
     * @return SI values
     */
    public double[] values(Channel c) {
        return needed(c);
    }

    /** {@return recorded channels} */
    public Set<Channel> recorded() {
        return channels.keySet();
    }

    /** {@return what was kept out, the first few hundred} */
    public List<LogProblem> problems() {
        return problems;
    }

    /** {@return how many cells and rows were kept out} */
    public long problemCount() {
        return problemCount;
    }

    /** {@return time from the first to the last sample, s} */
    public double durationS() {
        return size() < 2 ? 0.0 : timeS()[size() - 1] - timeS()[0];
    }

    /**
     * The sample nearest a time.
     *
     * @param timeS time, s
     * @return index, 0 to size - 1
     */
    public int indexAt(double timeS) {
        double[] t = timeS();
        int i = java.util.Arrays.binarySearch(t, timeS);
        if (i >= 0) {
            return i;
        }
        int after = Math.min(-i - 1, t.length - 1);
        return after > 0 && timeS - t[after - 1] < t[after] - timeS ? after - 1 : after;
    }
}
