package nariz.app.state;

import java.util.List;
import java.util.stream.Stream;
import nariz.carburetor.Circuit.Role;
import nariz.carburetor.Circuit;
import nariz.carburetor.Families;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;

/** The stops there are, in the order of work; a family has those its circuits ask for. */
public final class Stops {
    /** Curb idle. */
    public static final Stop IDLE = new CircuitStop("idle", Stage.PRIMARY, Role.IDLE);
    /** Transfer slot and light cruise. */
    public static final Stop TRANSFER = new CircuitStop("transfer", Stage.PRIMARY, Role.PROGRESSION);
    /** Main circuit. */
    public static final Stop MAIN = new CircuitStop("main", Stage.PRIMARY, Role.METERING);
    /** Enrichment. */
    public static final Stop POWER = new PowerStop();
    /** What makes up for the walls as the throttle opens, of any family: a pump, or a damper in its place. */
    private static final List<Stop> OPENINGS = Families.all().stream().flatMap(f -> f.circuits().stream()).filter(c ->
            c.role() == Role.PUMP).distinct().map(c -> (Stop) new OpeningStop(c)).toList();
    /** Accelerator pump. */
    public static final Stop PUMP = OPENINGS.stream().filter(s -> s.id().equals("pump")).findFirst().orElseThrow();
    /** Second stage, all of it. */
    public static final Stop SECONDARY = new SecondaryStop();
    /** The same road again, like with like; no circuit of its own. */
    public static final Stop PROOF = new ProofStop();

    /** Circuits that share their role with others of their stage, of any family: each has a stop of its own. */
    static final List<Circuit> BANDS = Families.all().stream().flatMap(f -> f.circuits().stream().filter(c ->
            f.circuits()
            .stream().filter(o -> o.is(c.stage(), c.role())).count() > 1)).distinct().toList();
    private static final List<Stop> ALL = Stream.of(List.of(IDLE, TRANSFER, MAIN), BANDS.stream().map(c -> (Stop)
            new CircuitStop(c)).toList(), List.of(POWER), OPENINGS, List.of(SECONDARY, PROOF)).flatMap(List::stream)
            .toList();

    private Stops() {
    }

    /** {@return all stops} */
    public static List<Stop> all() {
        return ALL;
    }

    /**
     * The stops of a family.
     *
     * @param family family of the carburetor
     * @return stops in the order of work
     */
    public static List<Stop> of(Family family) {
        return ALL.stream().filter(s -> s.in(family)).toList();
    }

    /**
     * The stop of a circuit.
     *
     * @param c circuit
     * @return its stop
     */
    public static Stop of(Circuit c) {
        return ALL.stream().filter(s -> s.holds(c)).findFirst().orElseThrow(() -> new IllegalArgumentException(
                "no stop for " + c));
    }
}
