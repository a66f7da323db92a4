package nariz.carburetor;

import static nariz.text.Message.message;

import nariz.text.Message;

/** One of the two sides of a four-barrel. */
public enum Stage {
    /** The side the pedal opens first. */
    PRIMARY("primary"),
    /** The side that follows. */
    SECONDARY("secondary");

    private final String key;

    Stage(String key) {
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
    public static java.util.Optional<Stage> ofKey(String key) {
        return java.util.Arrays.stream(values()).filter(s -> s.key.equals(key)).findFirst();
    }

    /** {@return name for people} */
    public Message label() {
        return message("side." + key);
    }
}
