package nariz.diagnosis;

/**
 * What the recommended changes do to a regime.
 *
 * @param before errors today
 * @param after errors with the changes to make now; equal to before when there are none
 * @param low lower end of the 90 % interval of the mean lambda that this sensor reads on the next drive
 * @param high upper end
 */
public record RegimePrediction(RegimeError before, RegimeError after, double low, double high) {
}
