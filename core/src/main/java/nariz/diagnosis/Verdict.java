package nariz.diagnosis;

/** The four full answers. */
public enum Verdict {
    /** Change a part. */
    CHANGE("change"),
    /** Something that no fuel part cures may explain it: check that first. */
    CHECK_FIRST("check-first"),
    /** Not enough was read. */
    MORE_DATA("more-data"),
    /** Leave it alone. */
    LEAVE("leave");

    private final String key;

    Verdict(String key) {
        this.key = key;
    }

    /** {@return key in files} */
    public String key() {
        return key;
    }
}
