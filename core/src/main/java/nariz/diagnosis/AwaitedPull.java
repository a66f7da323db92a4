package nariz.diagnosis;

import nariz.text.Message;

/**
 * A pull that an answer waits for, since without it two parts read alike.
 *
 * @param text what to drive
 * @param wantedS how much of it, s
 * @param readS how much of it the drive holds, s
 */
public record AwaitedPull(Message text, double wantedS, double readS) {
}
