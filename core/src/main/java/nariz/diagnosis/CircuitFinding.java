package nariz.diagnosis;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.Circuit;
import nariz.estimation.Slope;
import nariz.text.Message;

/**
 * What the log says about one circuit.
 *
 * @param circuit circuit
 * @param correction fuel delivered over fuel the sheet would deliver
 * @param low lower end of its 90 % interval
 * @param high upper end
 * @param share share of the steady time in which it delivered at least a quarter of the fuel
 * @param error mean of lambda/target - 1 where it delivers at least a quarter of the fuel; NaN when not read
 * @param status state
 * @param confoundedWith what it cannot be told apart from on this log
 * @param slope change of what the main circuit delivers against the sheet for twice the air; empty for others
 * @param why what keeps it from being judged, or empty where nothing does
 * @param settledBy the short drive that would settle it, or empty where none would or the log already holds it
 */
public record CircuitFinding(Circuit circuit, double correction, double low, double high, double share, double error,
        Status status, List<Message> confoundedWith, Optional<Slope> slope, Message why, Message settledBy) {
    /** Seconds of full load after which no more are asked for: it is driven in pulls, not held. */
    public static final double ENOUGH_PULL_S = 8.0;

    /** Copies the list. */
    public CircuitFinding {
        confoundedWith = List.copyOf(confoundedWith);
    }
}
