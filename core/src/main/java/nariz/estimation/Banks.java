package nariz.estimation;

import java.util.Optional;
import nariz.log.Channel;

/**
 * How two sensors, one a bank, differ in steady running: d = mean of ln(phi_1/phi_2), positive where the second bank is
 * leaner.
 *
 * @param idle d at curb idle; NaN when it was not read
 * @param light d below load 0.75
 * @param load d above load 0.75; NaN when it was not read
 */
public record Banks(double idle, double light, double load) {
    private static final double UNDER_LOAD = 0.75;
    private static final int FEWEST = 20;

    /**
     * Compares.
     *
     * @param o a drive made ready
     * @return the difference, or empty with one sensor
     */
    public static Optional<Banks> of(Observation o) {
        if (!o.log().has(Channel.LAMBDA_2)) {
            return Optional.empty();
        }
        double[] one = o.log().lambda();
        double[] two = o.log().values(Channel.LAMBDA_2);
        double ambient = o.sheet().ambient().pressurePa();
        double[] sum = new double[3];
        int[] n = new int[3];
        for (int i = 0; i < one.length; i++) {
            double d = Math.log(two[i] / one[i]);
            if (o.cellOf(i) >= 0 && !Double.isNaN(d)) {
                boolean idle = o.cells().get(o.cellOf(i)).idle();
                boolean high = 1.0 - o.log().vacuumPa()[o.stateOf(i)] / ambient > UNDER_LOAD;
                int k = idle ? 0 : (high ? 2 : 1);
                sum[k] += d;
                n[k]++;
            }
        }
        double[] mean = new double[3];
        for (int k = 0; k < 3; k++) {
            mean[k] = n[k] >= FEWEST ? sum[k] / n[k] : Double.NaN;
        }
        return Optional.of(new Banks(mean[0], mean[1], mean[2]));
    }
}
