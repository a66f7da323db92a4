package nariz.build;

/** A family of carburetors, named by how it works. */
public enum Family {
    /** Removable metering blocks, main jets, a power valve per block. */
    BLOCK_METERED_4("block-metered-4"),
    /** Stepped rods hanging in the primary jets from a vacuum piston. */
    ROD_METERED_4("rod-metered-4");

    private final String key;

    Family(String key) {
        this.key = key;
    }

    /** {@return the name used in files} */
    public String key() {
        return key;
    }
}
