package nariz.advice;

/** State of a circuit, shown in words and shape. */
public enum Status {
    /** Hardly any steady running with this circuit. */
    NOT_READ("not-read", "not yet read"),
    /** An earlier circuit has to be put right before this one can be judged. */
    WAITING("waiting", "waits for an earlier one"),
    /** Off, and a change is proposed. */
    OFF("off", "off"),
    /** Read, but too uncertain or in competition with a fault. */
    IN_DOUBT("in-doubt", "in doubt"),
    /** On target within tolerance. */
    SETTLED("settled", "settled");

    private final String key;
    private final String label;

    Status(String key, String label) {
        this.key = key;
        this.label = label;
    }

    /** {@return key in files} */
    public String key() {
        return key;
    }

    /** {@return words for people} */
    public String label() {
        return label;
    }
}
