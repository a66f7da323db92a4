package nariz.build;

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
}
