package nariz.family;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;

/** A family that is told its name, stages, circuits and parts once. */
public abstract class AbstractFamily implements Family {
    /** A measured fuel level that is further off than this is put right before anything makes up for it, m. */
    private static final double LEVEL_OFF_M = 1e-3;

    private final String key;
    private final List<Stage> stages;
    private final List<Circuit> circuits;
    private final List<Part> parts;

    /**
     * A family.
     *
     * @param key name in files
     * @param stages its stages
     * @param circuits its circuits, each at its index
     * @param parts every part that can be changed, in the order of work
     */
    protected AbstractFamily(String key, List<Stage> stages, List<Circuit> circuits, List<Part> parts) {
        this.key = key;
        this.stages = List.copyOf(stages);
        this.circuits = List.copyOf(circuits);
        this.parts = List.copyOf(parts);
    }

    @Override
    public final String key() {
        return key;
    }

    @Override
    public final List<Stage> stages() {
        return stages;
    }

    @Override
    public final List<Circuit> circuits() {
        return circuits;
    }

    @Override
    public final List<Part> parts() {
        return parts;
    }

    /** {@return whether a second stage follows the first} */
    protected final boolean twoStages() {
        return stages.contains(Stage.SECONDARY);
    }

    /**
     * A part as this family names it: with its stage or without.
     *
     * @param p one of {@link #parts()}
     * @return that one
     */
    protected final Part own(Part p) {
        return parts.get(parts.indexOf(p));
    }

    /**
     * The fuel level, where it was measured off: it goes back, it is no trim.
     *
     * @param sheet build sheet
     * @param level the part
     * @return its ladder, or empty where the level is right
     */
    protected final Optional<Ladder> levelPutRight(BuildSheet sheet, Part level) {
        return Math.abs(sheet.carburetor().number("fuelLevel")) > LEVEL_OFF_M ? Optional.of(new Ladder(own(level),
                Stage.PRIMARY, 1, 0, 0, 0, 0.0)) : Optional.empty();
    }

    /**
     * Slack at what works the pump: it is taken up, in steps of half a millimetre where a sheet has it.
     *
     * @param clearance the part
     * @return its ladder
     */
    protected final Ladder pumpSlack(Part clearance) {
        return new Ladder(own(clearance), Stage.PRIMARY, 0.5, 10, 0, 5, 0.20);
    }

    @Override
    public final String toString() {
        return key;
    }
}
