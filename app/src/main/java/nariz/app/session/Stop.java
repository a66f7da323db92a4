package nariz.app.session;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.model.Circuit;

/** A stop on the circuit path, in the order of work. */
public enum Stop {
    /** Curb idle. */
    IDLE(Circuit.IDLE),
    /** Transfer slot and light cruise. */
    TRANSFER(Circuit.TRANSFER),
    /** Main circuit. */
    MAIN(Circuit.MAIN),
    /** Enrichment. */
    POWER(Circuit.POWER),
    /** Accelerator pump. */
    PUMP(Circuit.PUMP),
    /** Secondary side. */
    SECONDARY(Circuit.SECONDARY_MAIN),
    /** The same road again, like with like; no circuit of its own. */
    PROOF(null);

    private final Circuit circuit;

    Stop(Circuit circuit) {
        this.circuit = circuit;
    }

    /** {@return name for people} */
    public String label() {
        return say("stop." + name().toLowerCase(Locale.ROOT));
    }

    /** {@return the circuit whose finding gives this stop its state; empty for the proof} */
    public Optional<Circuit> circuit() {
        return Optional.ofNullable(circuit);
    }

    /** {@return all circuits that belong to this stop} */
    public List<Circuit> circuits() {
        return this == SECONDARY ? List.of(Circuit.SECONDARY_IDLE, Circuit.SECONDARY_MAIN)
                : circuit().map(List::of).orElse(List.of());
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
