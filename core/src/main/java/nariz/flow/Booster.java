package nariz.flow;

/** Booster venturi kinds. */
public enum Booster {
    /** Plain bar booster, weakest signal. */
    STRAIGHT("straight"),
    /** Drop-leg booster sitting in the venturi throat. */
    DOWNLEG("downleg"),
    /** Ring booster with several outlets, strongest signal. */
    ANNULAR("annular");

    private final String key;

    Booster(String key) {
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
    public static Booster ofKey(String key) {
        return java.util.Arrays.stream(values()).filter(b -> b.key.equals(key)).findFirst().orElseThrow(() ->
                new IllegalArgumentException("no booster " + key));
    }
}
