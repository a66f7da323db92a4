package nariz.diagnosis;

import nariz.estimation.Flag;

/**
 * A stretch of the log that does not count, and why.
 *
 * @param kind why
 * @param fromS start, s
 * @param toS end, s
 * @param share share of the log's time
 */
public record FlagStretch(Flag kind, double fromS, double toS, double share) {
}
