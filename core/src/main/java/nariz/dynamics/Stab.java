package nariz.dynamics;

import java.util.Arrays;
import java.util.List;
import java.util.function.IntToDoubleFunction;
import java.util.stream.IntStream;
import nariz.carburetor.Ambient;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.DriveLog;

/**
 * One opening of the throttle with what led up to it, on a grid of {@value #STEP_S} s: what the plates did, what the
 * settled carburetor meters, and the readings with the moment of the grid that each belongs to.
 *
 * <p>The carburetor meters by the air that passes it: what the cylinders draw and what fills the manifold, V/(R T)
 * dp/dt with V the displacement times {@value #MANIFOLD} (Heywood 1988, section 7.6.2).
 */
final class Stab {
    static final double STEP_S = 0.02;
    static final double BEFORE_S = 2.0;
    static final double AFTER_S = 1.6;
    static final int STEPS = (int) Math.round((BEFORE_S + AFTER_S) / STEP_S);
    /** Grid step at which the throttle begins to open. */
    static final int START = (int) Math.round(BEFORE_S / STEP_S);
    private static final double MANIFOLD = 0.9;
    private static final double LEAST_OF_DRAWN = 0.7;
    private static final double MOST_OF_DRAWN = 1.8;
    /** Vacuum is smoothed over this before its slope is taken, s. */
    private static final double SLOPE_S = 0.06;
    private static final double READ_S = 0.04;
    static final double READ_BEFORE_S = 0.8;
    /** An opening out of a mixture that is further off than this is out of another transient. */
    private static final double MOST_BEFORE = 0.12;

    private static final int MOST = 16;

    private final TipIn event;
    /** Plate travel from idle, rad. */
    private final float[] theta = new float[STEPS];
    /** Settled fuel times the stoichiometric ratio: phi times the air that passes the carburetor, kg/s. */
    private final float[] metered = new float[STEPS];
    /** Air into the cylinders, kg/s. */
    private final float[] air = new float[STEPS];
    /** Manifold over ambient pressure. */
    private final float[] load = new float[STEPS];
    /** Settled phi. */
    private final float[] phi = new float[STEPS];
    private final float[] gasStep;
    private final float[] afterS;
    private final float[] dtS;
    private final float[] lnLambda;
    private final float[] lnPhi;
    private final byte[] kind;
    private final boolean whole;

    /** A reading that counts, one at the sensor's lean limit, and one that only keeps the sensor going. */
    static final byte COUNTS = 1;
    static final byte LEAN_LIMIT = 2;
    static final byte RICH_LIMIT = 3;

    /**
     * Cuts an opening out of a drive.
     *
     * @param o drive
     * @param settled settled phi at a sample's state
     * @param event opening
     */
    Stab(Observation o, IntToDoubleFunction settled, TipIn event) {
        this.event = event;
        DriveLog log = o.log();
        double[] t = log.timeS();
        double from = event.atS() - BEFORE_S;
        whole = grid(o, settled, from);
        int first = log.indexAt(event.atS() - READ_BEFORE_S - 0.3);
        int last = first;
        while (last < t.length && t[o.stateOf(last)] < event.atS() + AFTER_S - STEP_S) {
            last++;
        }
        // A fast logger says the same many times: its readings are thinned to what the model's grid resolves.
        double usual = (t[Math.max(first, last - 1)] - t[first]) / Math.max(1, last - 1 - first);
        int every = (int) Math.max(1, Math.floor(READ_S / Math.max(1e-4, usual)));
        int n = Math.max(0, last - first) / every;
        gasStep = new float[n];
        afterS = new float[n];
        dtS = new float[n];
        lnLambda = new float[n];
        lnPhi = new float[n];
        kind = new byte[n];
        for (int k = 0; k < n; k++) {
            int i = first + k * every;
            double at = t[i] - o.gasDelayS(i);
            gasStep[k] = (float) Math.clamp((at - from) / STEP_S, 0.0, STEPS - 1.001);
            double state = t[i] - o.gasDelayS(i) - o.sensorLagS() - event.atS();
            afterS[k] = (float) state;
            dtS[k] = (float) (t[i] - t[Math.max(0, i - every)]);
            lnPhi[k] = (float) Math.log(phi[(int) gasStep[k]]);
            double lambda = 1.0 / o.measuredPhi(i);
            lnLambda[k] = (float) Math.log(lambda);
            boolean own = state >= event.readFromS() && t[i] - event.atS() <= event.readToS() + 0.3;
            boolean read = o.flag(i) == Flag.STEADY || o.flag(i) == Flag.TRANSIENT;
            if (own && read) {
                kind[k] = COUNTS;
            } else if (own && o.flag(i) == Flag.RAIL) {
                kind[k] = lambda > 1.0 ? LEAN_LIMIT : RICH_LIMIT;
            }
        }
    }

    /** Not more than the work of weighing them allows, over the whole drive: further ones teach little. */
    static List<Stab> few(List<Stab> all) {
        return all.size() <= MOST ? all : IntStream.range(0, MOST).mapToObj(k -> all.get(k * all.size() / MOST))
                .toList();
    }

    private boolean grid(Observation o, IntToDoubleFunction settled, double from) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        int i = Math.max(0, log.indexAt(from) - 1);
        double volume = MANIFOLD * o.sheet().engine().displacementM3();
        double perPa = volume / (Ambient.R_AIR * o.sheet().ambient().temperatureK());
        double ambient = o.sheet().ambient().pressurePa();
        float[] fill = new float[STEPS];
        for (int k = 0; k < STEPS; k++) {
            double at = from + k * STEP_S;
            while (i + 2 < t.length && t[i + 1] <= at) {
                i++;
            }
            if (t[i + 1] - t[i] > o.gapS() || Double.isNaN(o.airKgPerS(i)) || Double.isNaN(o.airKgPerS(i + 1))) {
                if (k > 0 && k < START - (int) (0.3 / STEP_S)) {
                    // What came long before hardly matters: it stands still there.
                    copy(k);
                    continue;
                }
                return false;
            }
            double f = Math.clamp((at - t[i]) / (t[i + 1] - t[i]), 0.0, 1.0);
            theta[k] = (float) Math.max(0.0, between(o.thetaRad(i), o.thetaRad(i + 1), f) - o.idleRad());
            air[k] = (float) between(o.airKgPerS(i), o.airKgPerS(i + 1), f);
            phi[k] = (float) between(settled.applyAsDouble(i), settled.applyAsDouble(i + 1), f);
            load[k] = (float) Math.clamp(1.0 - between(log.vacuumPa()[i], log.vacuumPa()[i + 1], f) / ambient, 0.05,
                    1.0);
            if (Float.isNaN(phi[k]) || Float.isNaN(theta[k])) {
                return false;
            }
        }
        int wide = (int) Math.round(SLOPE_S / STEP_S);
        for (int k = 0; k < STEPS; k++) {
            int a = Math.max(0, k - wide);
            int b = Math.min(STEPS - 1, k + wide);
            fill[k] = (float) (perPa * ambient * (load[b] - load[a]) / ((b - a) * STEP_S));
            double carb = Math.clamp(air[k] + fill[k], LEAST_OF_DRAWN * air[k], MOST_OF_DRAWN * air[k]);
            metered[k] = (float) (phi[k] * carb);
        }
        return true;
    }

    private void copy(int k) {
        theta[k] = theta[k - 1];
        air[k] = air[k - 1];
        phi[k] = phi[k - 1];
        load[k] = load[k - 1];
    }

    private static double between(double a, double b, double f) {
        return a + f * (b - a);
    }

    /** {@return whether speed and vacuum were there all the time: what burns is known, read or not} */
    boolean whole() {
        return whole;
    }

    /** {@return whether that is so, and something was read} */
    boolean usable() {
        int counts = 0;
        for (int k = 0; k < kind.length; k++) {
            counts += kind[k] != 0 && afterS[k] > 0 ? 1 : 0;
        }
        return whole && counts >= 4 && Math.abs(before()) < MOST_BEFORE;
    }

    /** How much leaner than settled it read before the opening; 0 where nothing was read there. */
    private double before() {
        double[] v = new double[kind.length];
        int n = 0;
        for (int k = 0; k < kind.length; k++) {
            if (kind[k] == COUNTS && afterS[k] > -READ_BEFORE_S && afterS[k] < -0.05) {
                v[n++] = lnLambda[k] + lnPhi[k];
            }
        }
        Arrays.sort(v, 0, n);
        return n < 3 ? 0.0 : v[n / 2];
    }

    TipIn event() {
        return event;
    }

    float[] theta() {
        return theta;
    }

    float[] metered() {
        return metered;
    }

    /** Air that passes the carburetors at a step, kg/s. */
    double carburetorAir(int k) {
        return metered[k] / phi[k];
    }

    float[] air() {
        return air;
    }

    float[] load() {
        return load;
    }

    float[] phi() {
        return phi;
    }

    int readings() {
        return kind.length;
    }

    float gasStep(int k) {
        return gasStep[k];
    }

    float afterS(int k) {
        return afterS[k];
    }

    float dtS(int k) {
        return dtS[k];
    }

    float lnLambda(int k) {
        return lnLambda[k];
    }

    /** ln of settled phi at the moment of a reading. */
    float lnPhi(int k) {
        return lnPhi[k];
    }

    byte kind(int k) {
        return kind[k];
    }
}
