package nariz.diagnosis;

import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.estimation.Calibrated;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;

/**
 * Errors against target, and the loss of a set of parts.
 *
 * <p>Loss = sum over regimes r of a_r mean_r[w e² u(e)] / tol_r², e = lambda/target - 1. w is dwell, capped so that no
 * cell is more than a quarter of its regime; u doubles lean errors above load 0.75, where lean is dangerous; a_r is
 * 1 with three seconds of steady running or more and less in proportion.
 */
final class Scorer {
    private static final double FULL_WEIGHT_S = 3.0;
    private static final double SHORTEST_S = 1.0;
    /** Idle and full load are trimmed no finer than this: sound hardware leaves as much. */
    private static final double LEAST_TOLERANCE = 0.055;
    /** Share of its tolerance up to which no way of running asks for anything. */
    private static final double FINE = 0.9;
    /** Above this load lean melts pistons. */
    private static final double DANGEROUS_LOAD = 0.75;
    private static final double LEAN_UNDER_LOAD = 2.0;

    private final BuildSheet sheet;
    private final Strategy strategy;
    private final Estimate estimate;
    private final double[] targetPhi;
    private final double[] weight;
    private final double[] whenRich;
    private final double[] whenLean;
    private final Regime[] regime;
    private final double[] dwell = new double[Regime.values().length];

    Scorer(BuildSheet sheet, Strategy strategy, Estimate estimate) {
        this.sheet = sheet;
        this.strategy = strategy;
        this.estimate = estimate;
        List<Cell> cells = estimate.cells();
        int m = cells.size();
        targetPhi = new double[m];
        weight = new double[m];
        whenRich = new double[m];
        whenLean = new double[m];
        regime = new Regime[m];
        double[][] base = Calibrated.standard(sheet).phi(sheet, cells);
        for (int i = 0; i < m; i++) {
            targetPhi[i] = 1.0 / strategy.of(cells.get(i), sheet);
            regime[i] = Strategy.regime(cells.get(i), sheet, base[i]);
            dwell[regime[i].ordinal()] += cells.get(i).dwellS();
        }
        for (int i = 0; i < m; i++) {
            weight[i] = Math.min(cells.get(i).dwellS(), Math.max(0.25 * dwell[regime[i].ordinal()], 0.5));
        }
        factors();
    }

    int size() {
        return regime.length;
    }

    Regime regime(int cell) {
        return regime[cell];
    }

    double weight(int cell) {
        return weight[cell];
    }

    /** Factor of a cell's squared deviation in the decision's loss where it is rich. */
    double importance(int cell) {
        return whenRich[cell];
    }

    double targetPhi(int cell) {
        return targetPhi[cell];
    }

    double dwellS(Regime r) {
        return dwell[r.ordinal()];
    }

    boolean read(Regime r) {
        return dwell[r.ordinal()] >= SHORTEST_S;
    }

    Strategy strategy() {
        return strategy;
    }

    /** Phi in every cell today. */
    double[] today() {
        double[] out = new double[targetPhi.length];
        for (int i = 0; i < out.length; i++) {
            out[i] = estimate.phi(i);
        }
        return out;
    }

    /**
     * The shape of a mixture within a way of running.
     *
     * @param phi by cell
     * @param g way of running
     * @return ln(phi/target) less its mean there by cell; 0 elsewhere
     */
    double[] shape(double[] phi, Regime g) {
        double[] out = new double[phi.length];
        double sum = 0.0;
        double mean = 0.0;
        for (int i = 0; i < out.length; i++) {
            if (regime[i] == g) {
                out[i] = Math.log(phi[i] / targetPhi[i]);
                sum += weight[i];
                mean += weight[i] * out[i];
            }
        }
        for (int i = 0; i < out.length; i++) {
            out[i] = regime[i] == g ? out[i] - mean / sum : 0.0;
        }
        return out;
    }

    /** Phi in every cell with other parts. */
    double[] with(BuildSheet parts) {
        return estimate.phiWith(parts);
    }

    double loss(double[] phi) {
        int r = Regime.values().length;
        double[] sum = new double[r];
        double[] w = new double[r];
        for (int i = 0; i < phi.length; i++) {
            double e = targetPhi[i] / phi[i] - 1.0;
            int k = regime[i].ordinal();
            sum[k] += weight[i] * e * e * (e > 0 ? whenLeanBy(i) : 1.0);
            w[k] += weight[i];
        }
        double total = 0.0;
        for (Regime g : Regime.values()) {
            int k = g.ordinal();
            if (read(g)) {
                total += trust(g) * sum[k] / w[k] / (g.tolerance() * g.tolerance());
            }
        }
        return total;
    }

    /**
     * Loss of deviations that a decision is weighed with: like {@link #loss}, but no tolerance is finer than
     * {@value #LEAST_TOLERANCE}.
     *
     * @param moved ln of phi over that, by cell; positive is rich
     * @param variance of the same
     * @return loss
     */
    double lossOf(double[] moved, double[] variance) {
        double total = 0.0;
        for (int i = 0; i < moved.length; i++) {
            total += (moved[i] < 0 ? whenLean[i] : whenRich[i]) * (moved[i] * moved[i] + variance[i]);
        }
        return total;
    }

    /**
     * Loss of one way of running as it was read, sound hardware's share and all.
     *
     * @param e its error
     * @return loss, 1 at its tolerance where it is rich
     */
    static double lossAsRead(RegimeError e) {
        double off = e.rms() / Math.max(e.regime().tolerance(), LEAST_TOLERANCE);
        boolean dangerous = e.mean() > 0.0 && (e.regime() == Regime.POWER || e.regime() == Regime.FULL);
        return Math.min(1.0, e.dwellS() / FULL_WEIGHT_S) * off * off * (dangerous ? LEAN_UNDER_LOAD : 1.0);
    }

    /**
     * Whether every way of running that was read is well within what sound hardware leaves.
     *
     * @return true where nobody would touch the car for what it reads
     */
    boolean fine() {
        return errors(today()).stream().allMatch(Scorer::fine);
    }

    /** Whether one way of running is well within what sound hardware leaves. */
    static boolean fine(RegimeError e) {
        return e.rms() < FINE * Math.max(e.regime().tolerance(), LEAST_TOLERANCE);
    }

    /** How much worse lean is than rich in a cell. */
    private double whenLeanBy(int cell) {
        return Strategy.load(estimate.cells().get(cell), sheet) > DANGEROUS_LOAD ? LEAN_UNDER_LOAD : 1.0;
    }

    /** a_r: less than 1 where a way of running was read for less than three seconds. */
    private double trust(Regime g) {
        return Math.min(1.0, dwell[g.ordinal()] / FULL_WEIGHT_S);
    }

    /** Factors of squared deviations in the loss, by cell. */
    private void factors() {
        double[] sum = new double[Regime.values().length];
        for (int i = 0; i < weight.length; i++) {
            sum[regime[i].ordinal()] += weight[i];
        }
        for (int i = 0; i < weight.length; i++) {
            Regime g = regime[i];
            double usual = Math.max(g.tolerance(), LEAST_TOLERANCE);
            whenRich[i] = (read(g) ? trust(g) : 0.0) * weight[i] / sum[g.ordinal()] / (usual * usual);
            whenLean[i] = whenRich[i] * whenLeanBy(i);
        }
    }

    List<RegimeError> errors(double[] phi) {
        List<RegimeError> out = new ArrayList<>();
        for (Regime g : Regime.values()) {
            if (!read(g)) {
                continue;
            }
            double w = 0;
            double mean = 0;
            double square = 0;
            double target = 0;
            double sd = 0;
            for (int i = 0; i < phi.length; i++) {
                if (regime[i] == g) {
                    double e = targetPhi[i] / phi[i] - 1.0;
                    w += weight[i];
                    mean += weight[i] * e;
                    square += weight[i] * e * e;
                    target += weight[i] / targetPhi[i];
                    // Neighbouring cells share the model's error: their deviations add up, not their squares.
                    sd += weight[i] * estimate.phiSd(i) / phi[i];
                }
            }
            mean /= w;
            out.add(new RegimeError(g, dwell[g.ordinal()], target / w, target / w * (1 + mean), mean,
                    Math.sqrt(square / w), sd / w));
        }
        return out;
    }
}
