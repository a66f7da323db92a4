package nariz.carburetor;

/**
 * What an accelerator pump does: all carburetors of an engine together.
 *
 * @param rateKgPerS most that the nozzles pass, kg/s
 * @param strokeKg fuel of one full stroke, kg
 * @param fullRad plate travel over which the cam gives the whole stroke, rad
 * @param slackRad plate travel before the arm stirs, rad
 * @param refillS time in which an emptied chamber takes up two thirds of what it lacks, s
 * @param shape power of the travel that the lift goes with, 1 or more: 1 is a straight flank, more one that begins
 *     gently
 */
public record PumpSetting(double rateKgPerS, double strokeKg, double fullRad, double slackRad, double refillS,
        double shape) {
    /** Shape of a cam whose lift is in proportion to the travel. */
    public static final double STRAIGHT = 1.0;
    /** Refill through an inlet check valve in good order, s; judgement. */
    public static final double USUAL_REFILL_S = 0.15;

    /**
     * The same with something else.
     *
     * @param rate factor on what the nozzles pass
     * @param stroke factor on the stroke
     * @param moreSlackRad further slack, rad
     * @param refill its refill time, s
     * @return a new setting
     */
    public PumpSetting scaled(double rate, double stroke, double moreSlackRad, double refill) {
        return new PumpSetting(rate * rateKgPerS, stroke * strokeKg, fullRad, slackRad + moreSlackRad, refill,
                shape);
    }

    /**
     * The same with another cam flank.
     *
     * @param power power of the travel that the lift goes with, 1 or more
     * @return a new setting
     */
    public PumpSetting shaped(double power) {
        return new PumpSetting(rateKgPerS, strokeKg, fullRad, slackRad, refillS, power);
    }

    /**
     * Lift of the pump.
     *
     * @param travelRad plate travel from idle, rad
     * @return 0 to 1
     */
    public double lift(double travelRad) {
        double x = Math.clamp((travelRad - slackRad) / fullRad, 0.0, 1.0);
        return shape == STRAIGHT ? x : Math.pow(x, shape);
    }
}
