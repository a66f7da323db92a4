package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.diagnosis.Analysis;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * A stop on the circuit path: what it judges, the words of its state, the picture and the panel it brings to the front,
 * and where in the log it is seen best. The window asks the stop and knows none by name; {@link Stops} lists them.
 */
public interface Stop {
    /** {@return name in the program: {@code idle}, {@code transfer}, ...} */
    String id();

    /** {@return name for people} */
    default String label() {
        return say("stop." + id());
    }

    /**
     * Whether there is such a stop on a carburetor.
     *
     * @param family family of the carburetor
     * @return true where one of its circuits is judged here, or where none is needed
     */
    boolean in(Family family);

    /**
     * The circuit whose finding gives this stop its state.
     *
     * @param family family of the carburetor
     * @return the circuit; empty for a stop without one of its own
     */
    Optional<Circuit> circuit(Family family);

    /**
     * Whether a circuit belongs to this stop.
     *
     * @param c circuit
     * @return true where its readings, parts and changes are shown here
     */
    boolean holds(Circuit c);

    /**
     * All circuits that belong to this stop.
     *
     * @param family family of the carburetor
     * @return circuits in the order of work
     */
    default List<Circuit> circuits(Family family) {
        return family.circuits().stream().filter(this::holds).toList();
    }

    /**
     * State, verdict and changes in words.
     *
     * @param d open drive
     * @param against the drive it is compared with, or null
     * @return its words
     */
    StopWords words(Drive d, @Nullable Comparison against);

    /**
     * Which picture comes to the front.
     *
     * @param d open drive, or null
     * @param against the drive it is compared with, or null
     * @return picture
     */
    Evidence evidence(@Nullable Drive d, @Nullable Comparison against);

    /** {@return whether what belongs beside the pictures is another drive rather than the work card} */
    default boolean compares() {
        return false;
    }

    /**
     * The most informative moment of the log.
     *
     * @param d open drive
     * @param against the drive it is compared with, or null
     * @return sample, or empty where the log may stay where it is
     */
    OptionalInt moment(Drive d, @Nullable Comparison against);

    /**
     * Whether a mark of the plane has something to say at this stop.
     *
     * @param a analysis
     * @param cell place in its cells
     * @return true where the mark is drawn strongly
     */
    default boolean speaks(Analysis a, int cell) {
        return a.estimate().share(cell, circuits(a.observation().sheet().carburetor().family())) > 0.25;
    }

    /**
     * What the card says where there is no change to make.
     *
     * @param words words of the stop
     * @return what to do, or empty
     */
    default Optional<Guide> guide(StopWords words) {
        return Optional.empty();
    }

    /**
     * What moments of movement show that belong here.
     *
     * @param d open drive
     * @return findings, each with its heading
     */
    default List<Seen> seen(Drive d) {
        return List.of();
    }

    /** Pictures that come to the front with a stop. */
    enum Evidence {
        /** Fuel stream and plane. */
        STREAM,
        /** Mixture after the throttle opens. */
        TIP_INS,
        /** Where the enrichment opens and shuts. */
        ENRICHMENT,
        /** This drive against another. */
        DIFFERENCE
    }

    /**
     * Work that is no change of a part.
     *
     * @param heading what it is
     * @param mind caution, or empty
     * @param steps steps in order
     * @param proof what proves it, or empty
     */
    record Guide(String heading, String mind, List<String> steps, String proof) {
        /** Copies the list. */
        public Guide {
            steps = List.copyOf(steps);
        }
    }

    /**
     * Findings under one heading.
     *
     * @param heading heading
     * @param lines findings
     */
    record Seen(String heading, List<Message> lines) {
        /** Copies the list. */
        public Seen {
            lines = List.copyOf(lines);
        }
    }
}
