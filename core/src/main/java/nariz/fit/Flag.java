package nariz.fit;

/** Why a sample does not count toward steady calibration; a sample keeps its first reason in this order. */
public enum Flag {
    /** The user took this stretch out. */
    EXCLUDED("taken out by you"),
    /** A needed reading is missing. */
    MISSING("missing reading"),
    /** The sensor stands at the end of its range. */
    RAIL("sensor at its limit"),
    /** Engine not warm. */
    COLD("cold engine"),
    /** Throttle shut above idle speed. */
    OVERRUN("overrun"),
    /** Time jumps in the log. */
    GAP("gap in the log"),
    /** Load or throttle moved within the sensor's memory. */
    TRANSIENT("load moving"),
    /** A short lean spike in steady running: unburnt oxygen of a cylinder that missed. */
    MISFIRE("misfire"),
    /** Counts. */
    STEADY("steady");

    private final String label;

    Flag(String label) {
        this.label = label;
    }

    /** {@return words for people} */
    public String label() {
        return label;
    }
}
