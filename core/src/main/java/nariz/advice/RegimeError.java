package nariz.advice;

import static nariz.words.CoreWords.say;

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
 */
public record RegimeError(Regime regime, double dwellS, double target, double lambda, double mean, double rms,
        double sd) {
    /** {@return error in words, for example "9 % rich"} */
    public String words() {
        long percent = Math.round(Math.abs(mean) * 100);
        return percent == 0 ? say("error.on-target") : say(mean > 0 ? "error.lean" : "error.rich", percent);
    }
}
