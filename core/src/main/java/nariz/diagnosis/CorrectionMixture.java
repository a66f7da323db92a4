package nariz.diagnosis;

import java.util.ArrayList;
import java.util.List;
import org.hipparchus.analysis.solvers.BrentSolver;

/**
 * A circuit's correction where part of what was read may be a fault's doing and not the circuit's.
 *
 * <p>The estimate knows no faults: k is normal around what it found. Under a fault it is normal around what is found
 * beside the fault ({@link UnderFault}), with a further spread for the fault's size, in which the correction goes from
 * the one to the other. The interval is the 5th to the 95th percentile of the mixture of all explanations, the value
 * its mean.
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
     * @param k correction found beside it
     * @param sd standard deviation of that
     */
    record Fault(double probability, double k, double sd) {
    }

    private record Normal(double weight, double mean, double sd) {
    }

    /**
     * Mixes.
     *
     * @param k correction found
     * @param sd standard deviation of that
     * @param faults explanations by faults; what they leave of 1 is the estimate's alone
     */
    CorrectionMixture(double k, double sd, List<Fault> faults) {
        double rest = 1.0 - faults.stream().mapToDouble(Fault::probability).sum();
        parts.add(new Normal(Math.max(0.0, rest), k, Math.max(LEAST_SD, sd)));
        for (Fault f : faults) {
            parts.add(new Normal(f.probability(), f.k(), Math.max(LEAST_SD, Math.hypot(f.sd(), FAULT_SD * (f.k()
                    - k)))));
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
