package nariz.idle;

/**
 * Averages over a settled stretch at one position of the screws.
 *
 * @param turns mean position of the screws that are moved, turns as on a sheet; NaN where it is not known yet
 * @param stop how far the stop screw has been turned in all, turns
 * @param rpm mean speed, positive
 * @param rpmSd standard error of it
 * @param vacuumPa mean vacuum, Pa; NaN where none is read
 * @param vacuumSd standard error of it
 * @param phi mean 1/lambda; NaN where none is read
 * @param phiSd standard error of it
 * @param rough scatter of single readings of speed over its mean; NaN where it was typed in
 * @param bankPhi second bank's 1/lambda less the first's; NaN with one sensor
 */
public record IdleReading(double turns, double stop, double rpm, double rpmSd, double vacuumPa, double vacuumSd,
        double phi, double phiSd, double rough, double bankPhi) {
    /** A reading that scatters less than this does not follow the engine, 1/lambda. */
    private static final double DEAD = 1.3e-4;

    /**
     * The same averages at a position.
     *
     * @param position turns of the screws
     * @param stopped turns of the stop screw
     * @return a new reading
     */
    IdleReading at(double position, double stopped) {
        return new IdleReading(position, stopped, rpm, rpmSd, vacuumPa, vacuumSd, phi, phiSd, rough, bankPhi);
    }

    /** {@return whether the mixture is read} */
    public boolean mixed() {
        return !Double.isNaN(phi);
    }

    /** {@return whether the sensor stands at the end of its range: it reads, and does not move with the engine} */
    public boolean atLimit() {
        return mixed() && phiSd < DEAD;
    }

    /**
     * Speed and vacuum somebody read off gauges and typed in.
     *
     * @param rpm speed
     * @param vacuumPa vacuum, Pa, or NaN
     * @return a reading without a position, as sure as a gauge with a needle that moves
     */
    public static IdleReading byHand(double rpm, double vacuumPa) {
        return new IdleReading(Double.NaN, Double.NaN, rpm, 8.0, vacuumPa, 350.0, Double.NaN, Double.NaN, Double.NaN,
                Double.NaN);
    }
}
