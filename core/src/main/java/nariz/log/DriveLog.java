package nariz.log;

import java.util.BitSet;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import nariz.text.Message;

/**
 * A recorded drive. Sample i of every channel belongs to {@code timeS()[i]}; times rise strictly; a missing reading is
 * NaN. The arrays are shared, not copied, for a log may hold millions of samples: do not change them.
 */
public final class DriveLog {
    private final String name;
    private final Map<Channel, double[]> channels;
    private final List<LogProblem> problems;
    private final long problemCount;
    private final Aside aside;

    /**
     * What goes with the readings: stretches taken out, samples that were not read but filled in, what is to be told.
     */
    private record Aside(List<Span> excluded, BitSet filled, List<Message> remarks, List<UnreadColumn> unread) {
        private static final Aside NONE = new Aside(List.of(), new BitSet(), List.of(), List.of());
    }

    /**
     * Takes over the arrays.
     *
     * @param name file name or title
     * @param channels values in SI, all of one length; TIME, RPM, VACUUM and LAMBDA must be there
     * @param problems what was kept out, at most the first few hundred
     * @param problemCount how many there were in all
     */
    public DriveLog(String name, Map<Channel, double[]> channels, List<LogProblem> problems, long problemCount) {
        this(name, channels, problems, problemCount, Aside.NONE);
    }

    private DriveLog(String name, Map<Channel, double[]> channels, List<LogProblem> problems, long problemCount,
            Aside aside) {
        this.aside = aside;
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
        return new DriveLog(name, channels, problems, problemCount, new Aside(List.copyOf(stretches), aside.filled(),
                aside.remarks(), aside.unread()));
    }

    /**
     * The same drive with what is to be told of its columns.
     *
     * @param remarks what speaks against what a person said they are
     * @param unread columns that are not read
     * @return a drive over the same arrays
     */
    DriveLog telling(List<Message> remarks, List<UnreadColumn> unread) {
        return new DriveLog(name, channels, problems, problemCount, new Aside(aside.excluded(), aside.filled(),
                List.copyOf(remarks), List.copyOf(unread)));
    }

    /** {@return what speaks against what a person said the columns are; the answer stands on it all the same} */
    public List<Message> remarks() {
        return aside.remarks();
    }

    /** {@return columns of the file that are not read, with what they look like} */
    public List<UnreadColumn> unread() {
        return aside.unread();
    }

    /**
     * The drive as a computation takes it: time that rises, speed and vacuum at every sample. Where one of these is
     * missing it lies on a straight line between its neighbours, which keeps what is computed sample by sample finite;
     * such a sample is {@link #filled} and no reading counts there.
     *
     * @return this drive where nothing is missing
     * @throws IllegalArgumentException when time does not rise, or speed or vacuum was never read
     */
    public DriveLog complete() {
        double[] t = timeS();
        for (int i = 0; i < t.length; i++) {
            if (!(Double.isFinite(t[i]) && (i == 0 || t[i] > t[i - 1]))) {
                throw new IllegalArgumentException("time {" + i + "} is " + t[i] + (i == 0 ? "" : " after "
                        + t[i - 1]));
            }
        }
        BitSet blank = new BitSet();
        Map<Channel, double[]> whole = new EnumMap<>(channels);
        for (Channel c : List.of(Channel.RPM, Channel.VACUUM)) {
            double[] v = needed(c);
            BitSet missing = new BitSet();
            for (int i = 0; i < v.length; i++) {
                missing.set(i, !Double.isFinite(v[i]));
            }
            if (!missing.isEmpty()) {
                whole.put(c, bridged(t, v, missing, c));
                blank.or(missing);
            }
        }
        return blank.isEmpty() ? this : new DriveLog(name, whole, problems, problemCount, new Aside(aside.excluded(),
                blank, aside.remarks(), aside.unread()));
    }

    private static double[] bridged(double[] t, double[] v, BitSet missing, Channel c) {
        double[] out = v.clone();
        int after = missing.nextClearBit(0);
        if (after >= v.length) {
            throw new IllegalArgumentException(c.key() + " was never read");
        }
        int before = -1;
        for (int i = missing.nextSetBit(0); i >= 0; i = missing.nextSetBit(i + 1)) {
            before = i == 0 ? -1 : missing.previousClearBit(i - 1);
            after = missing.nextClearBit(i);
            double from = before < 0 ? v[after] : v[before];
            double to = after >= v.length ? from : v[after];
            double share = before < 0 || after >= v.length ? 0.0 : (t[i] - t[before]) / (t[after] - t[before]);
            out[i] = from + share * (to - from);
        }
        return out;
    }

    /**
     * Whether speed or vacuum of a sample was filled in by {@link #complete}.
     *
     * @param i sample
     * @return true where it was not read
     */
    public boolean filled(int i) {
        return aside.filled().get(i);
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
        return aside.excluded();
    }

    /**
     * Whether a sample was taken out.
     *
     * @param i sample
     * @return true within an excluded stretch
     */
    public boolean excluded(int i) {
        double t = timeS()[i];
        for (Span s : aside.excluded()) {
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
