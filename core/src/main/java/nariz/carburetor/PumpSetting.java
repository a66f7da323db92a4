package nariz.carburetor;

/**
 * What an accelerator pump does: all carburetors of an engine together.
 *
 * @param rateKgPerS most that the nozzles pass, kg/s
 * @param strokeKg fuel of one full stroke, kg
 * @param fullRad plate travel over which the cam gives the whole stroke, rad
 * @param slackRad plate travel before the arm stirs, rad
 * @param refillS time in which an emptied chamber takes up two thirds of what it lacks, s
 */
public record PumpSetting(double rateKgPerS, double strokeKg, double fullRad, double slackRad, double refillS) {
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
        return new PumpSetting(rate * rateKgPerS, stroke * strokeKg, fullRad, slackRad + moreSlackRad, refill);
    }
}
