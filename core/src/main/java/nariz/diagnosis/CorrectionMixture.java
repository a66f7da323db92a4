package nariz.diagnosis;

import java.util.ArrayList;
import java.util.List;
import nariz.estimation.Estimate;

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
    private static final int HALVINGS = 40;

    private final List<double[]> parts = new ArrayList<>();
    private final double k;
    private final double sd;
    private double rest = 1.0;

    /**
     * Begins with the estimate alone.
     *
     * @param k correction found
     * @param low low end of its 90 % interval
     * @param high high end
     */
    CorrectionMixture(double k, double low, double high) {
        this.k = k;
        sd = Math.max(LEAST_SD, 0.5 * (high - low) / Estimate.Z90);
    }

    /**
     * Adds an explanation by a fault.
     *
     * @param probability how likely it is
     * @param made ln phi that it makes of the places the circuit feeds
     */
    void add(double probability, double made) {
        double d = k * (Math.exp(-made) - 1.0);
        parts.add(new double[] {probability, k + 0.5 * d, Math.sqrt(sd * sd + d * d * (1.0 / 12.0 + 0.25 * FAULT_SD
                * FAULT_SD))});
        rest -= probability;
    }

    /** {@return mean} */
    double value() {
        double sum = Math.max(0.0, rest) * k;
        for (double[] p : parts) {
            sum += p[0] * p[1];
        }
        return sum / total();
    }

    private double total() {
        return Math.max(0.0, rest) + parts.stream().mapToDouble(p -> p[0]).sum();
    }

    /**
     * A percentile.
     *
     * @param share probability below it, over 0 and under 1
     * @return the correction there, 0 at least: no circuit takes fuel away
     */
    double quantile(double share) {
        double low = k - 8.0 * sd;
        double high = k + 8.0 * sd;
        for (double[] p : parts) {
            low = Math.min(low, p[1] - 8.0 * p[2]);
            high = Math.max(high, p[1] + 8.0 * p[2]);
        }
        for (int n = 0; n < HALVINGS; n++) {
            double middle = 0.5 * (low + high);
            if (below(middle) < share) {
                low = middle;
            } else {
                high = middle;
            }
        }
        return Math.max(0.0, 0.5 * (low + high));
    }

    private double below(double x) {
        double sum = Math.max(0.0, rest) * CausePosterior.below((x - k) / sd);
        for (double[] p : parts) {
            sum += p[0] * CausePosterior.below((x - p[1]) / p[2]);
        }
        return sum / total();
    }
}
