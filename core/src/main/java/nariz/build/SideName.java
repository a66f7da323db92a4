package nariz.build;

import static nariz.words.CoreWords.say;

/** One of the two sides of a four-barrel. */
public enum SideName {
    /** The side the pedal opens first. */
    PRIMARY("primary"),
    /** The side that follows. */
    SECONDARY("secondary");

    private final String key;

    SideName(String key) {
        this.key = key;
    }

    /** {@return the name used in files} */
    public String key() {
        return key;
    }

    /**
     * Finds a side by its key.
     *
     * @param key as in files
     * @return the side, or empty
     */
    public static java.util.Optional<SideName> ofKey(String key) {
        return java.util.Arrays.stream(values()).filter(s -> s.key.equals(key)).findFirst();
    }

    /** {@return name for people} */
    public String label() {
        return say("side." + key);
    }
}
