package nariz.diagnosis;

import java.util.ArrayList;
import java.util.List;
import nariz.estimation.Estimate;
import org.hipparchus.analysis.solvers.BrentSolver;

/**
 * A circuit's correction where part of what was read may be a fault's doing and not the circuit's.
 *
 * <p>The estimate knows no faults: k is normal around what it found. Under a fault that changes phi of the circuit's
 * places by the factor exp(b), the circuit gives between k and k exp(-b): the estimate hands what a fault makes partly
 * to the circuit, partly to what no circuit explains, and says not how much. So there k is normal around the middle of
 * the two, with the variance of a uniform distribution between them (d²/12) and that of the fault's own size besides.
 * The interval is the 5th to the 95th percentile of the mixture of all explanations, the value its mean.
 */
final class CorrectionMixture {
    /** A fault's size is known to about this share of itself. */
    private static final double FAULT_SD = 0.3;
    private static final double LEAST_SD = 1e-6;
    /** Beyond so many standard deviations of every part there is nothing. */
    private static final double REACH = 8.0;
    private static final int MOST = 200;

    private final List<Normal> parts = new ArrayList<>();
    private final double total;

    /**
     * An explanation by a fault.
     *
     * @param probability how likely it is
     * @param made ln phi that it makes of the places the circuit feeds
     */
    record Fault(double probability, double made) {
    }

    private record Normal(double weight, double mean, double sd) {
    }

    /**
     * Mixes.
     *
     * @param k correction found
     * @param low low end of its 90 % interval
     * @param high high end
     * @param faults explanations by faults; what they leave of 1 is the estimate's alone
     */
    CorrectionMixture(double k, double low, double high, List<Fault> faults) {
        double sd = Math.max(LEAST_SD, 0.5 * (high - low) / Estimate.Z90);
        double rest = 1.0 - faults.stream().mapToDouble(Fault::probability).sum();
        parts.add(new Normal(Math.max(0.0, rest), k, sd));
        for (Fault f : faults) {
            double d = k * (Math.exp(-f.made()) - 1.0);
            parts.add(new Normal(f.probability(), k + 0.5 * d, Math.sqrt(sd * sd + d * d * (1.0 / 12.0 + 0.25
                    * FAULT_SD * FAULT_SD))));
        }
        total = parts.stream().mapToDouble(Normal::weight).sum();
    }

    /** {@return mean} */
    double value() {
        return parts.stream().mapToDouble(p -> p.weight() * p.mean()).sum() / total;
    }

    /**
     * A percentile.
     *
     * @param share probability below it, over 0 and under 1
     * @return the correction there, 0 at least: no circuit takes fuel away
     */
    double quantile(double share) {
        double low = parts.stream().mapToDouble(p -> p.mean() - REACH * p.sd()).min().orElseThrow();
        double high = parts.stream().mapToDouble(p -> p.mean() + REACH * p.sd()).max().orElseThrow();
        return Math.max(0.0, new BrentSolver().solve(MOST, x -> below(x) - share, low, high));
    }

    private double below(double x) {
        return parts.stream().mapToDouble(p -> p.weight() * CausePosterior.below((x - p.mean()) / p.sd())).sum()
                / total;
    }
}
