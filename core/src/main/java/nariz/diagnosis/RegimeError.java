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
 * @param sd standard deviation of the mean error
 * @param sdForSensor the same for this sensor's own scale: without what it is off by throughout
 */
public record RegimeError(Regime regime, double dwellS, double target, double lambda, double mean, double rms,
        double sd, double sdForSensor) {
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
