package nariz.estimation;

import java.util.Arrays;
import java.util.stream.IntStream;
import nariz.log.DriveLog;

/**
 * Fuel film on the manifold walls, found from the log.
 *
 * <p>X-tau model (Aquino, SAE 810494, 1981): dF/dt = X f - F/tau, burnt = (1 - X) f + F/tau, f the metered fuel, with
 * X = x L^{@value #LOAD_POWER}, L = p/p_ambient: under vacuum nearly all evaporates, under load much less (Hires and
 * Overington, SAE 810495, 1981). Films of an independent simulator wet 0.02 of the fuel at L = 0.5, 0.07 at 0.7, 0.15
 * at 0.9 and up to 0.3 at full load; a share in proportion to L fits the part loads and finds 60 % of the film in
 * pulls. x and tau are the pair, on a grid, that makes readings taken at the same speed and vacuum at different times
 * agree best (least variance within cells): that criterion needs no calibration to be right, only the film. A film
 * slower than the last tau cannot be told from a mixture that changes with speed inside a pull.
 */
public final class WallFilm {
    /** The film's factor is good to about this share of what it differs from 1: a fifth on 74 independent drives. */
    public static final double DOUBT = 0.25;
    /** The same of how it changes inside a pull, where what it leaves lines up with time. */
    public static final double TREND_DOUBT = 0.35;
    private static final double[] SHARES = {0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4, 0.5, 0.6};
    private static final double[] TIMES_S = {0.4, 0.8, 1.2, 1.7, 2.4};
    private static final double LOAD_POWER = 2.5;
    /** The film moves in steps of at least this: logs come at up to a thousand hertz, films take tenths of a second. */
    private static final double STEP_S = 0.02;
    /** A film has to explain this share of the variance more than one that was tried before it. */
    private static final double BETTER = 0.002;
    private static final double LIMIT = 0.30;
    private static final int SPEEDS = 60;
    private static final int LOADS = 30;

    private final double share;
    private final double timeS;
    private final float[] settles;
    private final double[] t;

    private WallFilm(double share, double timeS, float[] settles, double[] t) {
        this.t = t;
        this.share = share;
        this.timeS = timeS;
        this.settles = settles;
    }

    static WallFilm of(Observation o) {
        Readings readings = Readings.of(o);
        double[] fuel = new double[o.log().size()];
        double[] wets = new double[fuel.length];
        double ambient = o.sheet().ambient().pressurePa();
        for (int i = 0; i < fuel.length; i++) {
            fuel[i] = o.predictedPhi(i) * o.airKgPerS(i);
            wets[i] = Math.pow(Math.clamp(1.0 - o.log().vacuumPa()[i] / ambient, 0.0, 1.0), LOAD_POWER);
        }
        double least = readings.within(fuel, wets, new double[fuel.length], 0.0);
        double share = 0.0;
        double time = 1.0;
        double[] found = new double[fuel.length];
        double[][] gives = new double[TIMES_S.length][];
        for (int k = 0; k < gives.length; k++) {
            gives[k] = gives(o.log().timeS(), fuel, wets, TIMES_S[k]);
        }
        for (double x : SHARES) {
            for (int k = 0; k < gives.length; k++) {
                double v = readings.within(fuel, wets, gives[k], x);
                if (v < least * (1.0 - BETTER)) {
                    least = v;
                    share = x;
                    time = TIMES_S[k];
                    found = gives[k];
                }
            }
        }
        float[] settles = new float[fuel.length];
        for (int i = 0; i < settles.length; i++) {
            settles[i] = settles(fuel[i], wets[i], found[i], share);
        }
        return new WallFilm(share, time, settles, o.log().timeS());
    }

    /**
     * Steady readings, in bins of speed and load for the criterion alone, coarser than the cells of the estimate.
     *
     * @param state sample of the engine's state each belongs to
     * @param bin bin
     * @param lnPhi ln of what was read
     */
    private record Readings(int[] state, int[] bin, double[] lnPhi) {
        static Readings of(Observation o) {
            DriveLog log = o.log();
            int[] steady = IntStream.range(0, log.size()).filter(i -> o.flag(i) == Flag.STEADY).toArray();
            int[] state = new int[steady.length];
            int[] bin = new int[steady.length];
            double[] lnPhi = new double[steady.length];
            double ambient = o.sheet().ambient().pressurePa();
            for (int k = 0; k < steady.length; k++) {
                state[k] = o.stateOf(steady[k]);
                int r = (int) Math.clamp(Math.log(log.rpm()[state[k]] / 300.0) / 0.08, 0, SPEEDS - 1);
                int v = (int) Math.clamp(log.vacuumPa()[state[k]] / ambient * LOADS, 0, LOADS - 1);
                bin[k] = r * LOADS + v;
                lnPhi[k] = Math.log(o.measuredPhi(steady[k]));
            }
            return new Readings(state, bin, lnPhi);
        }

        /** Variance within bins of what was read, freed of a film; fuel, wets and gives by sample of state. */
        double within(double[] fuel, double[] wets, double[] gives, double x) {
            double[] n = new double[SPEEDS * LOADS];
            double[] sum = new double[n.length];
            double[] square = new double[n.length];
            for (int k = 0; k < bin.length; k++) {
                int s = state[k];
                double y = lnPhi[k] + Math.log(settles(fuel[s], wets[s], gives[s], x));
                n[bin[k]]++;
                sum[bin[k]] += y;
                square[bin[k]] += y * y;
            }
            double total = 0.0;
            for (int k = 0; k < n.length; k++) {
                if (n[k] > 3) {
                    // Square root of dwell: a long idle says nothing about the film and must not outvote the pulls.
                    total += (square[k] / n[k] - (sum[k] / n[k]) * (sum[k] / n[k])) * Math.sqrt(n[k]);
                }
            }
            return total;
        }
    }

    /**
     * F/tau by sample for x = 1; the equation is linear, so it goes with x and one run serves every share.
     *
     * @return kg/s; 0 where the fuel is not known
     */
    private static double[] gives(double[] t, double[] fuel, double[] wets, double tau) {
        double[] out = new double[t.length];
        double film = Double.NaN;
        int last = 0;
        for (int i = 0; i < out.length; i++) {
            if (!known(fuel[i])) {
                continue;
            }
            double wet = wets[i] * fuel[i] * tau;
            if (Double.isNaN(film)) {
                film = wet;
                last = i;
            } else if (t[i] - t[last] >= STEP_S) {
                double keeps = Math.exp((t[last] - t[i]) / tau);
                film = film * keeps + wet * (1.0 - keeps);
                last = i;
            }
            out[i] = film / tau;
        }
        return out;
    }

    private static boolean known(double fuel) {
        return fuel > 0.0;
    }

    /** Ratio of metered to burnt fuel; 1 where the fuel is not known. */
    private static float settles(double fuel, double wets, double gives, double x) {
        return known(fuel) ? (float) Math.clamp(fuel / ((1.0 - x * wets) * fuel + x * gives), 1.0 - LIMIT, 1.0 + LIMIT)
                : 1f;
    }

    /** {@return x, the share that wets the walls at full load} */
    public double share() {
        return share;
    }

    /** {@return tau, s} */
    public double timeS() {
        return timeS;
    }

    /**
     * Ratio of the settled mixture to the one burnt.
     *
     * @param sample state sample
     * @return factor on phi, 0.7 to 1.3
     */
    public double settles(int sample) {
        return settles[sample];
    }

    /**
     * How fast the walls' part of the mixture moves.
     *
     * @param sample state sample
     * @param spanS how far to look back, s
     * @return relative change a second, 0 or more; infinite at the start of the log
     */
    double perS(int sample, double spanS) {
        int at = Arrays.binarySearch(t, 0, sample + 1, t[sample] - spanS);
        int before = at >= 0 ? at : -at - 2;
        return before < 0 ? Double.POSITIVE_INFINITY
                : Math.abs(Math.log(settles[sample] / settles[before])) / (t[sample] - t[before]);
    }
}
