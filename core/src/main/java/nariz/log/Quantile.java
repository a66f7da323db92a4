package nariz.log;

import java.util.Arrays;

/** Quantiles of readings. */
final class Quantile {
    private Quantile() {
    }

    /**
     * A quantile.
     *
     * @param v readings, NaN where missing
     * @param q share of the readings that lie below, 0 to 1
     * @return the reading there; NaN without any
     */
    static double of(double[] v, double q) {
        double[] s = Arrays.stream(v).filter(x -> !Double.isNaN(x)).sorted().toArray();
        return s.length == 0 ? Double.NaN : s[(int) Math.min(s.length - 1, q * s.length)];
    }
}
