package nariz.idle;

import java.util.Arrays;
import java.util.Optional;

/** Where an idle is finished; good people disagree. */
public enum School {
    /** Where vacuum is highest. */
    HIGHEST_VACUUM("highest-vacuum"),
    /** Where speed is highest. */
    HIGHEST_SPEED("highest-speed"),
    /** Lean-best, then a little richer: where leaning out has cost {@link #LITTLE} of the speed. */
    LEAN_BEST("lean-best"),
    /** Middle between the two places where {@link #DROP} of the speed is lost. */
    MIDDLE("middle"),
    /** A mixture aimed at. */
    MIXTURE("mixture");

    /** Share of the speed that is hardly missed. */
    public static final double LITTLE = 0.004;
    /** Share of the speed that anybody hears. */
    public static final double DROP = 0.02;

    private final String key;

    School(String key) {
        this.key = key;
    }

    /** {@return name in files and bundles} */
    public String key() {
        return key;
    }

    /**
     * Finds a school.
     *
     * @param key its name
     * @return the school, or empty
     */
    public static Optional<School> ofKey(String key) {
        return Arrays.stream(values()).filter(s -> s.key.equals(key)).findFirst();
    }
}
