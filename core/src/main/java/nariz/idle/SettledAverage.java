package nariz.idle;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Waits after a move until the engine has settled, then averages until the average is worth something.
 *
 * <p>Settled: two stretches of {@value #STRETCH_S} s one after the other differ in mixture and speed by no more than
 * their own scatter explains. With a sensor in each bank the mixture is the mean of both. Standard errors come from the
 * means of whole seconds, so that an engine that lopes is averaged longer. What has not settled after {@value #HANGS_S}
 * s hangs: a wet manifold, for which a blip of the throttle helps.
 */
public final class SettledAverage {
    private static final double DEAD_S = 2.5;
    private static final double STRETCH_S = 2.5;
    private static final double SHORTEST_S = 9.0;
    private static final double LONGEST_S = 28.0;
    /**
     * An idle whose average is no better than this after that long lopes. A quarter turn near its best makes less, so
     * that another half minute of it tells more than another move does.
     */
    private static final double LOPES_SHARE = 0.0015;
    private static final double LONGEST_LOPING_S = 60.0;
    private static final double HANGS_S = 24.0;
    /** Before this the scatter itself is hardly known. */
    private static final double TELLING_S = 4.0;
    private static final double RPM_SHARE = 0.0005;
    private static final double PHI_SD = 0.0025;
    private static final double SIGMAS = 2.2;
    private static final double STALLED_RPM = 200;

    private final List<double[]> samples = new ArrayList<>();
    private double beganS = Double.NaN;
    private double settledS = Double.NaN;
    private boolean hangs;
    private boolean stalled;

    /** A move was made, or the engine was disturbed: everything so far is of no account. */
    public void restart() {
        samples.clear();
        beganS = Double.NaN;
        settledS = Double.NaN;
        hangs = false;
        stalled = false;
    }

    /**
     * Takes a sample.
     *
     * @param timeS s, later than the one before
     * @param rpm speed; NaN where missing
     * @param vacuumPa vacuum, Pa; NaN where missing
     * @param lambda first sensor; NaN where missing
     * @param lambda2 second sensor; NaN where there is none
     */
    public void add(double timeS, double rpm, double vacuumPa, double lambda, double lambda2) {
        if (Double.isNaN(rpm)) {
            return;
        }
        if (rpm < STALLED_RPM) {
            restart();
            stalled = true;
            return;
        }
        stalled = false;
        if (Double.isNaN(beganS)) {
            beganS = timeS;
        }
        double first = 1.0 / lambda;
        double second = 1.0 / lambda2;
        double phi = Double.isNaN(second) ? first : Double.isNaN(first) ? second : 0.5 * (first + second);
        samples.add(new double[] {timeS, rpm, vacuumPa, phi, second - first});
        if (Double.isNaN(settledS)) {
            look(timeS);
        }
    }

    private void look(double now) {
        double since = now - beganS;
        if (since < DEAD_S + STRETCH_S) {
            return;
        }
        double[] before = stats(now - 2 * STRETCH_S, now - STRETCH_S, 3);
        double[] after = stats(now - STRETCH_S, now, 3);
        double[] speedBefore = stats(now - 2 * STRETCH_S, now - STRETCH_S, 1);
        double[] speedAfter = stats(now - STRETCH_S, now, 1);
        boolean still = same(before, after, PHI_SD) && same(speedBefore, speedAfter, 2 * RPM_SHARE * speedAfter[0]);
        hangs = since > HANGS_S;
        if (still || hangs) {
            settledS = now - STRETCH_S;
        }
    }

    private static boolean same(double[] a, double[] b, double floor) {
        return Double.isNaN(a[0]) || Double.isNaN(b[0]) || Math.abs(a[0] - b[0]) <= SIGMAS * Math.max(floor, Math
                .hypot(a[1], b[1]));
    }

    /** Mean and standard error, the latter from means of whole seconds; NaN where nothing was read. */
    private double[] stats(double fromS, double toS, int at) {
        int n = Math.max(1, (int) (toS - fromS));
        double[] sums = new double[n];
        int[] counts = new int[n];
        double sum = 0.0;
        int count = 0;
        for (int i = samples.size() - 1; i >= 0 && samples.get(i)[0] > fromS; i--) {
            double[] s = samples.get(i);
            if (s[0] <= toS && !Double.isNaN(s[at]) && !Double.isInfinite(s[at])) {
                int k = Math.min(n - 1, (int) (s[0] - fromS));
                sums[k] += s[at];
                counts[k]++;
                sum += s[at];
                count++;
            }
        }
        if (count == 0) {
            return new double[] {Double.NaN, Double.NaN};
        }
        double mean = sum / count;
        double var = 0.0;
        int blocks = 0;
        for (int k = 0; k < n; k++) {
            if (counts[k] > 0) {
                double d = sums[k] / counts[k] - mean;
                var += d * d;
                blocks++;
            }
        }
        return new double[] {mean, blocks < 2 ? Math.abs(mean) * 0.01 : Math.sqrt(var / (blocks - 1) / blocks)};
    }

    /** {@return whether it stands still since it died} */
    public boolean stalled() {
        return stalled;
    }

    /** {@return whether it will not settle: a blip of the throttle helps} */
    public boolean hangs() {
        return hangs && reading().isEmpty();
    }

    /** {@return how long it still takes, s; 0 when it is done, NaN when nothing comes} */
    public double stillS() {
        if (samples.isEmpty()) {
            return Double.NaN;
        }
        double now = samples.getLast()[0];
        if (Double.isNaN(settledS)) {
            return Math.max(1.0, DEAD_S + STRETCH_S + SHORTEST_S - (now - beganS));
        }
        if (reading().isPresent()) {
            return 0.0;
        }
        double length = now - settledS;
        double[] rpm = stats(settledS, now, 1);
        double excess = excess(rpm, stats(settledS, now, 3));
        double whole = length < TELLING_S ? SHORTEST_S : Math.clamp(length * excess * excess, SHORTEST_S,
                longest(length, rpm));
        return Math.max(1.0, whole - length);
    }

    /** How long it is averaged at most, by what its average is worth after so long: the error falls with the root. */
    private static double longest(double lengthS, double[] rpm) {
        double then = rpm[1] / rpm[0] * Math.sqrt(Math.min(1.0, lengthS / LONGEST_S));
        return then > LOPES_SHARE ? LONGEST_LOPING_S : LONGEST_S;
    }

    /** Standard error since it settled over the one that is good enough; it falls with the root of the time. */
    private static double excess(double[] rpm, double[] phi) {
        double bySpeed = rpm[1] / (RPM_SHARE * rpm[0]);
        return Double.isNaN(phi[1]) ? bySpeed : Math.max(bySpeed, phi[1] / (2 * PHI_SD));
    }

    /**
     * The average, when it is worth something.
     *
     * @return the reading, without a position, or empty while it still changes or scatters too much
     */
    public Optional<IdleReading> reading() {
        if (Double.isNaN(settledS) || samples.isEmpty()) {
            return Optional.empty();
        }
        double now = samples.getLast()[0];
        double length = now - settledS;
        if (length < SHORTEST_S) {
            return Optional.empty();
        }
        double[] rpm = stats(settledS, now, 1);
        double[] vacuum = stats(settledS, now, 2);
        double[] phi = stats(settledS, now, 3);
        double[] bank = stats(settledS, now, 4);
        if (excess(rpm, phi) > 1.0 && length < longest(length, rpm)) {
            return Optional.empty();
        }
        return Optional.of(new IdleReading(Double.NaN, Double.NaN, rpm[0], rpm[1], vacuum[0], vacuum[1], phi[0], phi[1],
                unevenness(), bank[0]));
    }

    /** Standard deviation of the single readings of speed since it settled, over their mean. */
    private double unevenness() {
        double n = 0.0;
        double sum = 0.0;
        double square = 0.0;
        for (double[] s : samples) {
            if (s[0] > settledS) {
                n++;
                sum += s[1];
                square += s[1] * s[1];
            }
        }
        return Math.sqrt(Math.max(0.0, square * n / (sum * sum) - 1.0));
    }
}
