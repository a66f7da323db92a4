package nariz.diagnosis;

import static nariz.text.Message.message;

import nariz.text.Message;

/**
 * How far a regime is from its target.
 *
 * @param regime regime
 * @param dwellS steady time in it, s
 * @param target mean target lambda
 * @param lambda mean lambda
 * @param mean mean of lambda/target - 1; positive is lean
 * @param rms root mean square of the same
 * @param sdForSensor standard deviation of the mean error by this sensor's own scale: without what it is off by
 *     throughout
 */
public record RegimeError(Regime regime, double dwellS, double target, double lambda, double mean, double rms,
        double sdForSensor) {
    /** What a sensor in use is good to, share of lambda; at 0.011 the intervals held 81 % on three sets of sixty. */
    static final double SENSOR_SD = 0.014;
    private static final double ONE_SIDE = 0.5;

    /** {@return standard deviation of the mean error, what the sensor is off by included} */
    public double sd() {
        return Math.hypot(SENSOR_SD, sdForSensor);
    }

    /** {@return whether it is off to one side: the mean makes at least a quarter of the mean square} */
    public boolean sided() {
        return Math.abs(mean) >= ONE_SIDE * rms;
    }

    /** {@return error in words, for example "9 % rich"} */
    public Message words() {
        long percent = Math.round(Math.abs(mean) * 100);
        return percent == 0 ? message("error.on-target") : message(mean > 0 ? "error.lean" : "error.rich", percent);
    }

    /** {@return what was read, what is wanted, and for how long, in a sentence} */
    public Message sentence() {
        return message("advice-builder.reads-lambda-where-is", regime.label(), lambda, target, words(), dwellS);
    }
}
