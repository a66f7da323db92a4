package nariz.log;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import nariz.text.Message;

/**
 * What is odd about a recording: gaps, stuck values, spikes, readings at the end of a gauge's scale, channels that are
 * hardly there. Cells and rows that could not be read are listed by {@link Recording#problems}; here is what reads well
 * and is still not to be trusted. Nothing is taken out.
 *
 * <p>A spike is a single reading that leaves its neighbours, which agree, by more than {@link #SPIKES} times the usual
 * step between readings and by a twentieth of the channel's range. A value is stuck when it stays the same to the last
 * digit for {@link #STUCK_S} while engine speed moves by a tenth.
 */
public final class Quality {
    private static final double SPIKES = 12.0;
    private static final double SPIKE_SHARE = 0.05;
    private static final double STUCK_S = 5.0;
    private static final double GAP_TIMES = 5.0;
    private static final double LEAST_GAP_S = 0.5;
    private static final double RAIL_S = 1.0;
    private static final double THIN_SHARE = 0.1;
    private static final double SELDOM_SHARE = 0.7;
    private static final int MOST = 200;
    private static final Set<Channel> SLOW = Set.of(Channel.COOLANT, Channel.OIL_TEMPERATURE, Channel.HEAD_TEMPERATURE,
            Channel.RUN_TIME, Channel.ALTITUDE, Channel.SPEED);

    private final double[] t;
    private final List<Finding> out;

    /** Kinds of oddity. */
    public enum Kind {
        /** Time without rows. */
        GAP,
        /** One reading far off its neighbours. */
        SPIKE,
        /** The same value too long. */
        STUCK,
        /** At the end of the scale. */
        RAIL,
        /** A channel with few readings. */
        THIN
    }

    /**
     * One oddity.
     *
     * @param kind what it is
     * @param channel where; time for gaps
     * @param fromS start, s in the recording
     * @param toS end
     * @param text for people
     */
    public record Finding(Kind kind, Channel channel, double fromS, double toS, Message text) {
    }

    private Quality(double[] t, List<Finding> out) {
        this.t = t;
        this.out = out;
    }

    /**
     * Looks through a recording.
     *
     * @param recording what was read
     * @return oddities in the order of time, at most a few hundred
     */
    public static List<Finding> of(Recording recording) {
        Quality q = new Quality(recording.written(Channel.TIME), new ArrayList<>());
        q.gaps();
        double[] rpm = recording.channels().contains(Channel.RPM) ? recording.si(Channel.RPM) : new double[0];
        for (Channel c : recording.channels()) {
            if (c != Channel.TIME) {
                double[] v = recording.si(c);
                int[] read = IntStream.range(0, v.length).filter(i -> !Double.isNaN(v[i])).toArray();
                q.thin(c, read, v.length);
                // A channel with a clock of its own is held against its own neighbours, not against blank rows.
                boolean own = read.length < SELDOM_SHARE * v.length;
                Quality k = own ? new Quality(at(q.t, read), q.out) : q;
                double[] values = own ? at(v, read) : v;
                k.spikes(c, values);
                k.stuck(c, values, own && rpm.length > 0 ? at(rpm, read) : rpm);
                k.rails(c, values);
            }
        }
        q.out.sort(java.util.Comparator.comparingDouble(Finding::fromS));
        return List.copyOf(q.out);
    }

    private void add(Kind kind, Channel c, double from, double to, Message text) {
        if (out.size() < MOST) {
            out.add(new Finding(kind, c, from, to, text));
        }
    }

    private double usualStep() {
        double[] d = new double[Math.max(0, t.length - 1)];
        for (int i = 0; i < d.length; i++) {
            d[i] = t[i + 1] - t[i];
        }
        Arrays.sort(d);
        return d.length == 0 ? 0.0 : d[d.length / 2];
    }

    private void gaps() {
        double longest = Math.max(LEAST_GAP_S, GAP_TIMES * usualStep());
        for (int i = 1; i < t.length; i++) {
            if (t[i] - t[i - 1] > longest) {
                add(Kind.GAP, Channel.TIME, t[i - 1], t[i], message("quality.no-rows-for-s", t[i] - t[i - 1]));
            }
        }
    }

    private static double[] at(double[] v, int[] places) {
        return Arrays.stream(places).mapToDouble(i -> v[i]).toArray();
    }

    private void thin(Channel c, int[] read, int rows) {
        if (rows > 0 && read.length < THIN_SHARE * rows && !(slow(c) && often(read))) {
            add(Kind.THIN, c, t[0], t[t.length - 1], message("quality.has-readings-in-rows", c.label(), read.length,
                    rows));
        }
    }

    /** What changes so slowly that loggers read it once in a while. */
    private static boolean slow(Channel c) {
        return SLOW.contains(c);
    }

    /** Whether the usual time from one reading to the next is short enough for blanks to be filled. */
    private boolean often(int[] read) {
        double[] at = at(t, read);
        return at.length > 2 && new Quality(at, List.of()).usualStep() <= Recording.LONGEST_FILL_S;
    }

    private void spikes(Channel c, double[] v) {
        double[] steps = new double[v.length];
        int n = 0;
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (int i = 1; i < v.length; i++) {
            double d = Math.abs(v[i] - v[i - 1]);
            if (!Double.isNaN(d)) {
                steps[n++] = d;
                low = Math.min(low, v[i]);
                high = Math.max(high, v[i]);
            }
        }
        if (n < 10) {
            return;
        }
        double[] sorted = Arrays.copyOf(steps, n);
        Arrays.sort(sorted);
        double limit = Math.max(SPIKES * sorted[(int) (0.75 * n)], SPIKE_SHARE * (high - low));
        for (int i = 1; i + 1 < v.length; i++) {
            double up = v[i] - v[i - 1];
            double down = v[i] - v[i + 1];
            if (up * down > 0 && Math.min(Math.abs(up), Math.abs(down)) > limit
                    && Math.abs(v[i + 1] - v[i - 1]) < 0.3 * Math.abs(up)) {
                add(Kind.SPIKE, c, t[i - 1], t[i + 1], message("quality.jumps-for-one-reading", c.label()));
            }
        }
    }

    private void stuck(Channel c, double[] v, double[] rpm) {
        if (rpm.length == 0 || SLOW.contains(c) || c == Channel.THROTTLE) {
            // These stand still for good reasons: a thermostat, a car that stands, a foot that is held.
            return;
        }
        int from = 0;
        for (int i = 1; i <= v.length; i++) {
            if (i == v.length || v[i] != v[from]) {
                if (!Double.isNaN(v[from]) && t[i - 1] - t[from] > STUCK_S && (c == Channel.RPM || moves(rpm, from,
                        i))) {
                    add(Kind.STUCK, c, t[from], t[i - 1], message("quality.stays-the-same-for", c.label(),
                            t[i - 1] - t[from]));
                }
                from = i;
            }
        }
    }

    private static boolean moves(double[] rpm, int startInclusive, int endExclusive) {
        double low = Double.POSITIVE_INFINITY;
        double high = 0.0;
        for (int i = startInclusive; i < endExclusive; i++) {
            low = Math.min(low, Double.isNaN(rpm[i]) ? low : rpm[i]);
            high = Math.max(high, Double.isNaN(rpm[i]) ? high : rpm[i]);
        }
        return high > 1.1 * low;
    }

    /** The very highest or lowest value of a mixture channel, held: the gauge can show no more. */
    private void rails(Channel c, double[] v) {
        if (c != Channel.LAMBDA && c != Channel.AFR && c != Channel.LAMBDA_2 && c != Channel.AFR_2) {
            return;
        }
        double high = Arrays.stream(v).filter(x -> !Double.isNaN(x)).max().orElse(Double.NaN);
        double low = Arrays.stream(v).filter(x -> !Double.isNaN(x)).min().orElse(Double.NaN);
        int from = 0;
        for (int i = 1; i <= v.length; i++) {
            if (i == v.length || v[i] != v[from]) {
                if ((v[from] == high || v[from] == low) && t[i - 1] - t[from] > RAIL_S) {
                    add(Kind.RAIL, c, t[from], t[i - 1], message("quality.at-the-end-of", c.label(),
                            t[i - 1] - t[from]));
                }
                from = i;
            }
        }
    }
}
