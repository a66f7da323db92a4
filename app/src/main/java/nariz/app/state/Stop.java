package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import org.jspecify.annotations.Nullable;

/** A stop on the circuit path, in the order of work; a family has those its circuits ask for. */
public enum Stop {
    /** Curb idle. */
    IDLE(Stage.PRIMARY, Circuit.Role.IDLE),
    /** Transfer slot and light cruise. */
    TRANSFER(Stage.PRIMARY, Circuit.Role.PROGRESSION),
    /** Main circuit. */
    MAIN(Stage.PRIMARY, Circuit.Role.METERING),
    /** Enrichment. */
    POWER(Stage.PRIMARY, Circuit.Role.ENRICHMENT),
    /** Accelerator pump. */
    PUMP(Stage.PRIMARY, Circuit.Role.PUMP),
    /** Second stage, all of it. */
    SECONDARY(Stage.SECONDARY, Circuit.Role.METERING),
    /** The same road again, like with like; no circuit of its own. */
    PROOF(null, null);

    private final @Nullable Stage stage;
    private final Circuit.@Nullable Role role;

    Stop(@Nullable Stage stage, Circuit.@Nullable Role role) {
        this.stage = stage;
        this.role = role;
    }

    /** {@return name for people} */
    public String label() {
        return say("stop." + name().toLowerCase(Locale.ROOT));
    }

    /**
     * The stops of a family.
     *
     * @param family family of the carburetor
     * @return stops in the order of work
     */
    public static List<Stop> of(Family family) {
        return Arrays.stream(values()).filter(s -> s == PROOF || s.circuit(family).isPresent()).toList();
    }

    /**
     * The circuit whose finding gives this stop its state.
     *
     * @param family family of the carburetor
     * @return the circuit; empty for the proof
     */
    public Optional<Circuit> circuit(Family family) {
        return stage == null || role == null ? Optional.empty() : family.circuit(stage, role);
    }

    /**
     * All circuits that belong to this stop.
     *
     * @param family family of the carburetor
     * @return circuits in the order of work
     */
    public List<Circuit> circuits(Family family) {
        return family.circuits().stream().filter(c -> of(c) == this).toList();
    }

    /**
     * The stop of a circuit.
     *
     * @param c circuit
     * @return its stop
     */
    public static Stop of(Circuit c) {
        return c.stage() == Stage.SECONDARY ? SECONDARY : Arrays.stream(values()).filter(s -> s.stage == c.stage()
                && s.role == c.role()).findFirst().orElseThrow(() -> new IllegalArgumentException("no stop for " + c));
    }
}
