package nariz.carburetor;

import java.util.List;
import java.util.Optional;
import nariz.text.Message;

/**
 * A family of carburetors: everything the program needs to know of how it works. What estimates, decides, draws and
 * asks goes through this and names no circuit and no part itself, so that a family is added by adding a package and one
 * line in {@code META-INF/services/nariz.carburetor.Family}.
 */
public interface Family {
    /** {@return the name used in files, for example {@code block-metered-4}} */
    String key();

    /** {@return its name for people, in generic words} */
    default Message label() {
        return nariz.text.Message.message("family." + key());
    }

    /** {@return its stages; one or two} */
    List<Stage> stages();

    /** {@return its circuits in the order of work; each one's index is its place here} */
    List<Circuit> circuits();

    /** {@return every part that can be changed, in the order of work} */
    List<Part> parts();

    /** {@return bands of stations its circuits are, in their order; empty where circuits are passages} */
    default Optional<Bands> bands() {
        return Optional.empty();
    }

    /**
     * The needle of a sheet.
     *
     * @param sheet build sheet of this family
     * @return the needle; empty where there is none
     */
    default Optional<Needle> needle(BuildSheet sheet) {
        return Optional.empty();
    }

    /**
     * The jet a needle stands in.
     *
     * @param sheet build sheet of this family
     * @return diameter, m; NaN where there is no needle
     */
    default double needleJetM(BuildSheet sheet) {
        return Double.NaN;
    }

    /**
     * Progression holes of the first stage.
     *
     * @param sheet build sheet of this family
     * @return holes from the lowest; none where there is a slot or a needle
     */
    default List<ProgressionHole> holes(BuildSheet sheet) {
        return List.of();
    }

    /** {@return numbers of its model that no sheet gives, those that the estimate may move} */
    List<Coefficient> coefficients();

    /** {@return the standard carburetor of this family} */
    Coefficients standard();

    /**
     * Reads the object {@code carburetor} of a build sheet, in which the family itself has been read.
     *
     * @param f fields; every one that is left out takes this family's default and is listed as assumed
     * @param engine engine the defaults are chosen for
     * @return the carburetor
     * @throws InputProblem for what cannot be
     */
    Carburetor read(SheetFields f, Engine engine);

    /** {@return fields of the object {@code carburetor} for the form, in the order a person would fill them in} */
    List<SheetDraft.Field> fields();

    /**
     * The forward model.
     *
     * @param sheet build sheet of this family
     * @param levelM fuel level above the sheet's, m
     * @param k coefficients
     * @return a model; one thread each
     */
    DeliveryModel model(BuildSheet sheet, double levelM, Coefficients k);

    /**
     * The accelerator pumps of all carburetors together.
     *
     * @param sheet build sheet of this family
     * @param play share of the stroke below which nothing stirs, 0 to 1
     * @return a pump at rest; empty where the family has none
     */
    Optional<PumpModel> pump(BuildSheet sheet, double play);

    /**
     * What the accelerator pumps of all carburetors together are set to.
     *
     * @param sheet build sheet of this family
     * @return the setting; empty where the family has none
     */
    default Optional<PumpSetting> pumpSetting(BuildSheet sheet) {
        return Optional.empty();
    }

    /**
     * How dampers hold pistons back that carry needles.
     *
     * @param sheet build sheet of this family
     * @return the setting; empty where the family has none
     */
    default Optional<DamperSetting> damper(BuildSheet sheet) {
        return Optional.empty();
    }

    /**
     * Sizes of the parts of an accelerator pump, or of the damper that stands in for one.
     *
     * @param sheet build sheet of this family
     * @return ladders, the one that takes least work first; none where there is neither
     */
    default List<Ladder> pumpParts(BuildSheet sheet) {
        return List.of();
    }

    /**
     * Size of a part that carburetors like this one usually have for such an engine.
     *
     * @param sheet build sheet of this family
     * @param part one of {@link #parts()}
     * @return in the part's unit; empty where there is no such thing
     */
    default Optional<Double> usual(BuildSheet sheet, Part part) {
        return Optional.empty();
    }

    /**
     * Sizes of what is fitted and can be changed.
     *
     * @param sheet build sheet of this family
     * @return ladders in the order of work
     */
    List<Ladder> ladders(BuildSheet sheet);

    /** {@return how far off its setting a fuel level usually is where it is wrong, m: less where it stands high} */
    default double levelErrorM() {
        return 2e-3;
    }

    /**
     * How many screws or jet nuts trim the idle mixture of a whole set.
     *
     * @param c carburetor
     * @return at least 1; one a carburetor by default
     */
    default int idleTrims(Carburetor c) {
        return c.count();
    }

    /**
     * Whether a second stage opens with the pedal alone.
     *
     * @param c carburetor of this family
     * @return false where air or vacuum has a say, or there is no second stage
     */
    default boolean linked(Carburetor c) {
        return false;
    }

    /**
     * What says when a second stage opens.
     *
     * @param sheet build sheet of this family
     * @return the ladder of its spring or linkage; empty where there is none
     */
    default Optional<Ladder> openingPart(BuildSheet sheet) {
        return Optional.empty();
    }

    /**
     * What lets idle air past elsewhere than under the front plates. It is no trim of the mixture and is not blamed.
     *
     * @param sheet build sheet of this family
     * @return ladders, the one that takes less work first; none by default
     */
    default List<Ladder> bypasses(BuildSheet sheet) {
        return List.of();
    }

    /**
     * How much of the shape over speed and load that no part cures, as the model has it, a sound carburetor may show.
     *
     * @return standard deviation of that share about none; 0 where what sound ones leave was measured on enough of them
     */
    default double incurableShape() {
        return 0.5;
    }

    /**
     * Sizes on a sheet that can be fitted and hardly ever are: a slip of the pen more often than a choice.
     *
     * @param sheet the build
     * @return what is odd, for people; none by default
     */
    default List<Message> oddities(BuildSheet sheet) {
        return List.of();
    }

    /**
     * The circuit a part trims.
     *
     * @param part one of {@link #parts()}
     * @param stage stage
     * @return the circuit
     */
    Circuit trims(Part part, Stage stage);

    /**
     * Manifold vacuum under which a stage enriches, as rated.
     *
     * @param c carburetor of this family
     * @param stage stage
     * @return Pa; 0 when it never does
     */
    double enrichmentPa(Carburetor c, Stage stage);

    /**
     * The part of a role that a stage carries.
     *
     * @param c carburetor of this family
     * @param stage stage
     * @param role role
     * @return the part, fitted or not; empty where the stage has no place for one
     */
    Optional<Part> part(Carburetor c, Stage stage, Part.Role role);

    /**
     * The circuit of a stage and role.
     *
     * @param stage stage
     * @param role role
     * @return the circuit, or empty
     */
    default Optional<Circuit> circuit(Stage stage, Circuit.Role role) {
        return circuits().stream().filter(c -> c.is(stage, role)).findFirst();
    }

    /**
     * The standard model of a sheet.
     *
     * @param sheet build sheet of this family
     * @return a model; one thread each
     */
    default DeliveryModel model(BuildSheet sheet) {
        return model(sheet, 0.0, standard());
    }
}
