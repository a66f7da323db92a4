package nariz.estimation;

import java.util.Arrays;
import java.util.function.DoubleUnaryOperator;
import nariz.carburetor.Ambient;
import nariz.carburetor.BuildSheet;
import nariz.log.DriveLog;

/**
 * Which engine state each reading belongs to: exhaust volume and lag of the sensor, found from the log itself by lining
 * up changes of measured and predicted phi.
 */
final class SensorAlignment {
    static final double USUAL_LAG_S = 0.1;
    private static final double[] LAGS_S = {0.03, 0.045, 0.065, 0.08, 0.1, 0.125, 0.155, 0.2, 0.27, 0.4};
    /** Exhaust ahead of the sensor over displacement. */
    private static final double[] VOLUMES = {0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.85, 1.0, 1.25, 1.6, 2.0, 2.5};
    static final double USUAL_VOLUME = 0.7;
    private static final double ALIGNMENT_SPREAD = 0.5;
    private static final double MOVES = 0.02;
    private static final int LONGEST_ALIGNMENT = 500_000;
    /** Mean temperature of the gas between valve and sensor, K. */
    static final double EXHAUST_K = 750.0;
    /** Cycles between a mixture in the port and its gas behind the valve. */
    static final double CYCLES = 1.2;
    /** No sensor is read later than this, s. */
    static final double LONGEST_DELAY_S = 1.5;

    private final DriveLog log;
    private final BuildSheet sheet;
    private final double[] predicted;
    private final double[] air;
    private final double[] measured;
    private final double gapS;
    private final Runnable check;
    private final int n;
    private final int[] stateOf;
    private final int[] readingOf;
    private double exhaustM3;
    private double lagS;

    /**
     * Nothing lined up yet.
     *
     * @param log the drive
     * @param sheet the build
     * @param predicted phi by the sheet, NaN where it cannot be said
     * @param air air, kg/s, NaN where it cannot be said
     * @param measured phi as read
     * @param gapS time between two samples from which on something is missing between them, s
     * @param check called now and then; throws when the work is cancelled
     */
    SensorAlignment(DriveLog log, BuildSheet sheet, double[] predicted, double[] air, double[] measured, double gapS,
            Runnable check) {
        this.log = log;
        this.sheet = sheet;
        this.predicted = predicted;
        this.air = air;
        this.measured = measured;
        this.gapS = gapS;
        this.check = check;
        n = log.size();
        stateOf = new int[n];
        readingOf = new int[n];
    }

    private double delayS(int i, double volumeM3) {
        return delayS(log.rpm()[i], air[i], volumeM3, sheet.ambient().pressurePa());
    }

    /** Time from the port to the sensor, s. */
    static double delayS(double rpm, double airKgPerS, double volumeM3, double ambientPa) {
        double gas = airKgPerS * Ambient.R_AIR * EXHAUST_K / ambientPa;
        return Math.min(LONGEST_DELAY_S, CYCLES * 120.0 / rpm + volumeM3 / gas);
    }

    /**
     * Exhaust volume and sensor lag by greatest posterior: log normal priors around what exhausts and sensors usually
     * have, -ln(1 - rho^2)/2 for every half second in which the mixture moved. Each is searched with the other held,
     * the volume twice. They trade against each other, so that the sum of both delays is known better than either.
     */
    void align() {
        exhaustM3 = volume(USUAL_LAG_S);
        lagS = mostLikely(LAGS_S, USUAL_LAG_S, lag -> alignment(exhaustM3, lag));
        exhaustM3 = volume(lagS);
        // To slow changes a first-order lag is a delay of its own length.
        index(exhaustM3, lagS, n);
        Arrays.fill(readingOf, -1);
        for (int i = 0; i < n; i++) {
            readingOf[stateOf[i]] = i;
        }
        // The first reading belongs to the first state: nothing comes before it.
        for (int s = 1; s < n; s++) {
            readingOf[s] = Math.max(readingOf[s], readingOf[s - 1]);
        }
    }

    private double volume(double lag) {
        double displacement = sheet.engine().displacementM3();
        return displacement * mostLikely(VOLUMES, USUAL_VOLUME, v -> alignment(v * displacement, lag));
    }

    private double mostLikely(double[] values, double usual, DoubleUnaryOperator logLikelihood) {
        double best = Double.NEGATIVE_INFINITY;
        double found = usual;
        for (double v : values) {
            check.run();
            double x = Math.log(v / usual) / ALIGNMENT_SPREAD;
            double score = logLikelihood.applyAsDouble(v) - 0.5 * x * x;
            if (score > best) {
                best = score;
                found = v;
            }
        }
        return found;
    }

    /** Fills {@link #stateOf}: the sample whose state each reading belongs to. */
    private void index(double volumeM3, double extraS, int end) {
        double[] t = log.timeS();
        int j = 0;
        for (int i = 0; i < end; i++) {
            double d = Double.isNaN(air[i]) ? 0.0 : delayS(i, volumeM3) + extraS;
            double at = t[i] - d;
            while (j > 0 && t[j] > at) {
                j--;
            }
            while (j + 1 < i && t[j + 1] <= at) {
                j++;
            }
            stateOf[i] = Math.min(j, i);
        }
    }

    /**
     * How well changes over half a second of the readings follow what a sensor of this lag makes of the prediction one
     * delay earlier: log likelihood of their correlation, over the first {@link #LONGEST_ALIGNMENT} samples.
     */
    private double alignment(double volumeM3, double lag) {
        int end = Math.min(n, LONGEST_ALIGNMENT);
        index(volumeM3, 0.0, end);
        double[] t = log.timeS();
        int moved = 0;
        int step = Math.max(1, (int) Math.round(0.5 * (n - 1) / Math.max(1.0, log.durationS())));
        double[] sensed = new double[step + 1];
        double state = Double.NaN;
        double usual = 0;
        double keeps = 1;
        double gap = gapS;
        double sxy = 0;
        double sxx = 0;
        double syy = 0;
        for (int i = 0; i < end; i++) {
            double in = predicted[stateOf[i]];
            double dt = i == 0 ? 0.0 : t[i] - t[i - 1];
            // Exact for a step held over dt; a gap starts the sensor anew.
            if (dt != usual) {
                usual = dt;
                keeps = Math.exp(-dt / lag);
            }
            state = Double.isNaN(state) || dt > gap ? in : in + (state - in) * keeps;
            sensed[i % (step + 1)] = state;
            if (i >= step) {
                double a = state - sensed[(i + 1) % (step + 1)];
                double b = measured[i] - measured[i - step];
                if (!Double.isNaN(a) && !Double.isNaN(b) && Math.abs(b) < 0.25 && Math.abs(a) > MOVES
                        && Math.abs(a) < 0.25) {
                    moved++;
                    sxy += a * b;
                    sxx += a * a;
                    syy += b * b;
                }
            }
        }
        double rho = sxx <= 0 || syy <= 0 ? 0 : Math.max(0.0, sxy / Math.sqrt(sxx * syy));
        return -0.5 * moved / step * Math.log(Math.max(1e-6, 1.0 - rho * rho));
    }

    /** Sample of the state of each reading. */
    int[] stateOf() {
        return stateOf;
    }

    /** Sample of the latest reading of each state. */
    int[] readingOf() {
        return readingOf;
    }

    /** Exhaust volume ahead of the sensor, m³. */
    double exhaustM3() {
        return exhaustM3;
    }

    /** First-order lag of the sensor, s. */
    double lagS() {
        return lagS;
    }
}
