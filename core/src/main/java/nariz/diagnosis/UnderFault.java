package nariz.diagnosis;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import nariz.estimation.EarlierEstimate;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.Observation;

/**
 * What the circuits give if a fault is there: the estimate from readings that are freed of what it makes of them.
 *
 * <p>A leak that fades with the airflow is taken for a lean idle and a rich main circuit by an estimate that knows no
 * leaks, each further off than all the leak makes anywhere; so it is not enough to take from a circuit what the fault
 * makes where it works.
 *
 * @param probability that it is there
 * @param made ln phi that it makes, by cell
 * @param real whether the cylinders burn it, and not only the sensor reads it
 * @param estimate of the carburetor beside it
 */
record UnderFault(double probability, double[] made, boolean real, Estimate estimate) {
    /** What is less likely hardly moves the ends of a 90 % interval. */
    private static final double LEAST = 0.03;

    /**
     * Estimates under every fault that counts.
     *
     * @param o the drive
     * @param posterior what may be wrong
     * @param before what an earlier drive taught
     * @param cancelled asked once
     * @return one for every fault with a shape of its own and 3 % or more
     * @throws CancellationException when cancelled
     */
    static List<UnderFault> of(Observation o, CausePosterior posterior, Optional<EarlierEstimate> before,
            BooleanSupplier cancelled) {
        Map<String, Double> probability = new LinkedHashMap<>();
        Set<String> real = new HashSet<>();
        for (CausePosterior.Explanation e : posterior.explanations()) {
            e.fault().ifPresent(f -> {
                probability.merge(f.cause(), e.probability(), Double::sum);
                if (f.real()) {
                    real.add(f.cause());
                }
            });
        }
        if (cancelled.getAsBoolean()) {
            throw new CancellationException("analysis was cancelled");
        }
        return probability.entrySet().parallelStream().filter(c -> c.getValue() >= LEAST).map(c -> {
            double[] made = posterior.ofFaults(List.of(c.getKey()));
            return new UnderFault(c.getValue(), made, real.contains(c.getKey()), Estimator.beside(o, made, before));
        }).toList();
    }
}
