package nariz.diagnosis;

import java.util.List;
import java.util.Map;
import java.util.Objects;
import nariz.carburetor.Circuit;

/**
 * The circuits as the sensor of one bank sees them.
 *
 * @param bank 1 or 2
 * @param circuits correction and its 90 % interval by circuit, for circuits the drive read
 */
public record BankFinding(int bank, Map<Circuit, Interval> circuits) {
    /**
     * A number and how far it can be trusted.
     *
     * @param value best estimate
     * @param low lower end of the 90 % interval
     * @param high upper end
     */
    public record Interval(double value, double low, double high) {
    }

    /**
     * What the sensor says of a circuit.
     *
     * @param c a circuit it read
     * @return its interval
     * @throws NullPointerException for any other
     */
    public Interval of(Circuit c) {
        return Objects.requireNonNull(circuits.get(c), "a circuit this sensor did not read");
    }

    /** {@return the circuits in the order of work} */
    public List<Circuit> inOrder() {
        return circuits.keySet().stream().sorted(java.util.Comparator.comparingInt(Circuit::index)).toList();
    }
}
