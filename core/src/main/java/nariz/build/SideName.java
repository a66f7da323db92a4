package nariz.build;

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
}
