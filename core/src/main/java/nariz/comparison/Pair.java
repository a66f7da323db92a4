package nariz.comparison;

import nariz.diagnosis.Regime;
import nariz.estimation.Cell;

/**
 * Steady running at one place of the plane in both drives.
 *
 * @param before the place in the first drive
 * @param regime way of running there
 * @param seconds steady time that could be matched, s: the shorter of both
 * @param difference ln(lambda of the second / lambda of the first); positive is leaner in the second
 * @param sd standard deviation of the difference from scatter and mismatch alone
 * @param predicted the same difference as other parts would have it; NaN when both have the same parts
 * @param afterSample a sample in the middle of the longest stay in the second drive
 */
public record Pair(Cell before, Regime regime, double seconds, double difference, double sd, double predicted,
        int afterSample) {
}
