package nariz.carburetor;

import static nariz.text.Message.message;

import java.util.List;
import nariz.text.Message;

/**
 * A path fuel can take, as one family has it. A family's circuits stand in the order of work;
 * {@link #index()} is the place of a circuit's share in every array of shares of that family.
 *
 * <p>Two circuits are equal when their {@link #id()} is: the main circuit of a two-barrel and that of a four-barrel are
 * the same to whoever compares drives.
 */
public final class Circuit {
    /** What a circuit does in any family; everything outside a family reasons by this and by {@link #stage()}. */
    public enum Role {
        /** Delivers with the plates shut; trimmed by mixture screws. */
        IDLE,
        /** Delivers as the plates start to open. */
        PROGRESSION,
        /** Delivers with airflow through a venturi, or by stations of lift. */
        METERING,
        /** Adds to the metering circuit where manifold vacuum falls. */
        ENRICHMENT,
        /** Delivers while the throttle moves. */
        PUMP
    }

    private final String id;
    private final String key;
    private final Stage stage;
    private final Role role;
    private final int index;
    private final double levelSd;
    private final List<String> sizes;

    /**
     * A circuit of a family.
     *
     * @param id name that is unique within the family, for example {@code secondary-main}; its words are
     *     {@code circuit.<id>}
     * @param key its name in files, where the stage stands beside it, for example {@code main}
     * @param stage stage it belongs to
     * @param role what it does
     * @param index place among the family's circuits, from 0
     * @param levelSd how much carburetors of the family differ in its level, standard deviation of the factor
     * @param sizes fields of its stage on the sheet that set its level, for example {@code mainJet}
     */
    public Circuit(String id, String key, Stage stage, Role role, int index, double levelSd, List<String> sizes) {
        this.id = id;
        this.key = key;
        this.stage = stage;
        this.role = role;
        this.index = index;
        this.levelSd = levelSd;
        this.sizes = List.copyOf(sizes);
    }

    /**
     * The same circuit at another place, in a family that has fewer.
     *
     * @param place index there
     * @return equal to this one
     */
    public Circuit at(int place) {
        return new Circuit(id, key, stage, role, place, levelSd, sizes);
    }

    /** {@return name that is unique within the family} */
    public String id() {
        return id;
    }

    /** {@return the circuit's name in files} */
    public String key() {
        return key;
    }

    /** {@return the stage it belongs to} */
    public Stage stage() {
        return stage;
    }

    /** {@return what it does} */
    public Role role() {
        return role;
    }

    /** {@return place among the family's circuits, from 0} */
    public int index() {
        return index;
    }

    /** {@return prior standard deviation of its level} */
    public double levelSd() {
        return levelSd;
    }

    /** {@return fields of its stage on the sheet that set its level} */
    public List<String> sizes() {
        return sizes;
    }

    /**
     * Compares stage and role.
     *
     * @param s stage
     * @param r role
     * @return whether this circuit has both
     */
    public boolean is(Stage s, Role r) {
        return stage == s && role == r;
    }

    /**
     * Whether two circuits are trimmed by the same parts: idle and progression of a stage share their feed.
     *
     * @param other another circuit, or this one
     * @return true for the same circuit and for the two low-speed ones of a stage
     */
    public boolean sharesFeed(Circuit other) {
        return equals(other) || (stage == other.stage && lowSpeed() && other.lowSpeed());
    }

    /** {@return whether it delivers while the plates are nearly shut: idle and progression of any stage} */
    public boolean lowSpeed() {
        return role == Role.IDLE || role == Role.PROGRESSION;
    }

    /** {@return a name for people, for example "secondary main"} */
    public Message label() {
        return message("circuit." + id);
    }

    /** {@return the same in fewer letters, for narrow places} */
    public Message shortLabel() {
        return stage == Stage.SECONDARY ? message("circuit.short." + key) : label();
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof Circuit c && c.id.equals(id);
    }

    @Override
    public int hashCode() {
        return id.hashCode();
    }

    @Override
    public String toString() {
        return id;
    }
}
