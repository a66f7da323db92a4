package nariz.idle;

/**
 * Averages over a settled stretch at one position of the screws.
 *
 * @param turns mean position of the screws that are moved, turns as on a sheet
 * @param stop how far the stop screw has been turned in all, turns
 * @param rpm mean speed, positive
 * @param rpmSd standard error of it
 * @param vacuumPa mean vacuum, Pa; NaN where none is read
 * @param vacuumSd standard error of it
 * @param phi mean 1/lambda; NaN where none is read
 * @param phiSd standard error of it
 * @param bankPhi second bank's 1/lambda less the first's; NaN with one sensor
 */
public record IdleReading(double turns, double stop, double rpm, double rpmSd, double vacuumPa, double vacuumSd,
        double phi, double phiSd, double bankPhi) {
    /** {@return whether the mixture is read} */
    public boolean mixed() {
        return !Double.isNaN(phi);
    }

    /**
     * Speed and vacuum somebody read off gauges and typed in.
     *
     * @param turns position of the screws
     * @param stop how far the stop screw has been turned in all, turns
     * @param rpm speed
     * @param vacuumPa vacuum, Pa, or NaN
     * @return a reading as sure as a gauge with a needle that moves
     */
    public static IdleReading byHand(double turns, double stop, double rpm, double vacuumPa) {
        return new IdleReading(turns, stop, rpm, 8.0, vacuumPa, 350.0, Double.NaN, Double.NaN, Double.NaN);
    }
}
