package nariz.app.session;

import java.util.List;
import nariz.model.Circuit;

/** A stop on the circuit path, in the order of work. */
public enum Stop {
    /** Curb idle. */
    IDLE("Idle", Circuit.IDLE),
    /** Transfer slot and light cruise. */
    TRANSFER("Transfer", Circuit.TRANSFER),
    /** Main circuit. */
    MAIN("Main", Circuit.MAIN),
    /** Enrichment. */
    POWER("Power", Circuit.POWER),
    /** Accelerator pump. */
    PUMP("Pump", Circuit.PUMP),
    /** Secondary side. */
    SECONDARY("Secondary side", Circuit.SECONDARY_MAIN);

    private final String label;
    private final Circuit circuit;

    Stop(String label, Circuit circuit) {
        this.label = label;
        this.circuit = circuit;
    }

    /** {@return name for people} */
    public String label() {
        return label;
    }

    /** {@return the circuit whose finding gives this stop its state} */
    public Circuit circuit() {
        return circuit;
    }

    /** {@return all circuits that belong to this stop} */
    public List<Circuit> circuits() {
        return this == SECONDARY ? List.of(Circuit.SECONDARY_IDLE, Circuit.SECONDARY_MAIN) : List.of(circuit);
    }

    /**
     * The stop of a circuit.
     *
     * @param c circuit
     * @return its stop
     */
    public static Stop of(Circuit c) {
        for (Stop s : values()) {
            if (s.circuits().contains(c)) {
                return s;
            }
        }
        throw new IllegalArgumentException("no stop for " + c);
    }
}
