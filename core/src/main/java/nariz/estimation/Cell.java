package nariz.estimation;

/**
 * Steady running around one engine speed and vacuum.
 *
 * @param rpm mean speed, rpm
 * @param vacuumPa mean manifold vacuum, Pa
 * @param thetaRad primary plate angle, rad
 * @param airKgPerS air, kg/s
 * @param dwellS time spent, s
 * @param phi 1/lambda of what burns here once the walls are nearly steady: mean of the readings, freed of the film they
 *     were read with, times {@code film}
 * @param phiError standard error of that mean from scatter alone
 * @param film fuel burnt over fuel metered once the walls are nearly steady, since they take up and give back; 1 when
 *     they are settled
 * @param filmError standard error of that factor
 * @param idle whether this is curb idle
 * @param airMeasured whether the air was metered and not reckoned from filling
 * @param longestSample sample of the engine's state in the middle of the longest stay
 */
public record Cell(double rpm, double vacuumPa, double thetaRad, double airKgPerS, double dwellS, double phi,
        double phiError, double film, double filmError, boolean idle, boolean airMeasured, int longestSample) {
    private static final double AIR_LENGTH = 0.6;
    private static final double LOAD_LENGTH = 0.2;

    /**
     * The same running with another reading.
     *
     * @param other phi
     * @return a new cell
     */
    Cell withPhi(double other) {
        return new Cell(rpm, vacuumPa, thetaRad, airKgPerS, dwellS, other, phiError, film, filmError, idle, airMeasured,
                longestSample);
    }

    /**
     * How far errors of a smooth kind are shared with another cell: exp(-(dx²/0.6² + dL²/0.2²)/2), x = ln airflow, L =
     * load.
     *
     * @param other another cell
     * @param ambientPa ambient pressure, Pa
     * @return correlation, 0 to 1
     */
    public double kinship(Cell other, double ambientPa) {
        return kinship(other, ambientPa, AIR_LENGTH, LOAD_LENGTH);
    }

    /**
     * The same with other lengths.
     *
     * @param other another cell
     * @param ambientPa ambient pressure, Pa
     * @param airLength length over ln airflow
     * @param loadLength length over load
     * @return correlation, 0 to 1
     */
    public double kinship(Cell other, double ambientPa, double airLength, double loadLength) {
        double dx = Math.log(airKgPerS / other.airKgPerS) / airLength;
        double dl = (vacuumPa - other.vacuumPa) / ambientPa / loadLength;
        return Math.exp(-0.5 * (dx * dx + dl * dl));
    }
}
