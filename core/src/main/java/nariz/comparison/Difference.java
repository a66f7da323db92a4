package nariz.comparison;

import nariz.diagnosis.Regime;

/**
 * Difference of two drives in one way of running.
 *
 * @param regime way of running
 * @param places matched places
 * @param seconds matched steady time, s
 * @param mean mean difference of lambda, share; positive is leaner in the second drive
 * @param low lower end of the 90 % interval
 * @param high upper end
 * @param predicted what the other parts should have done, share; NaN when both drives have the same parts
 * @param predictedSd standard deviation of that; 0 without
 */
public record Difference(Regime regime, int places, double seconds, double mean, double low, double high,
        double predicted, double predictedSd) {
    private static final double Z90 = 1.645;

    /** {@return whether the interval leaves no difference out} */
    public boolean certain() {
        return low > 0 || high < 0;
    }

    /** {@return whether it is certain and more than half of what counts as tuned there} */
    public boolean matters() {
        return certain() && Math.abs(mean) > 0.5 * regime.tolerance();
    }

    /** {@return whether a prediction was made and the difference lies in its interval and its own, taken together} */
    public boolean asPredicted() {
        double sd = (high - low) / (2 * Z90);
        return !Double.isNaN(predicted) && Math.abs(mean - predicted) <= Z90 * Math.hypot(sd, predictedSd);
    }
}
