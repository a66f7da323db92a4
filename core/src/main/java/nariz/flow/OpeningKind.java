package nariz.flow;

/** How the secondary side is opened. */
public enum OpeningKind {
    /** By linkage from the primary shaft. */
    MECHANICAL("mechanical"),
    /** By a vacuum diaphragm fed from the primary venturi. */
    DIAPHRAGM("diaphragm"),
    /** By linkage behind a spring-loaded or weighted air valve. */
    AIR_VALVE("air-valve");

    private final String key;

    OpeningKind(String key) {
        this.key = key;
    }

    /** {@return the name used in files} */
    public String key() {
        return key;
    }

    /**
     * Finds a kind.
     *
     * @param key as in files
     * @return the kind
     * @throws IllegalArgumentException when there is none of that key
     */
    public static OpeningKind ofKey(String key) {
        return java.util.Arrays.stream(values()).filter(k -> k.key.equals(key)).findFirst().orElseThrow(() ->
                new IllegalArgumentException("no opening " + key));
    }
}
