package nariz.build;

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
}
