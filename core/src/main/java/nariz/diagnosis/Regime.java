package nariz.diagnosis;

import static nariz.text.Message.message;

import nariz.text.Message;

/** Ways of running that have a target of their own, in the order of work. */
public enum Regime {
    /** Curb idle. */
    IDLE("idle", 0.04),
    /** More than 60 % of the fuel comes from idle port and slot. */
    TRANSFER("transfer", 0.07),
    /** Main circuit, load under 0.6. */
    CRUISE("cruise", 0.07),
    /** Load 0.6 to 0.8. */
    MODERATE("moderate-load", 0.07),
    /** Load 0.8 to 0.9. */
    POWER("power", 0.07),
    /** Load above 0.9. */
    FULL("full-load", 0.05);

    /**
     * Share of the fuel from idle port and slot above which running belongs to them: clearly more than half, so that
     * their parts move the mixture more than main parts do. A judgement.
     */
    public static final double SLOT_SHARE = 0.6;

    private final String key;
    private final double tolerance;

    Regime(String key, double tolerance) {
        this.key = key;
        this.tolerance = tolerance;
    }

    /** {@return words for people} */
    public Message label() {
        return message("regime." + key);
    }

    /**
     * Rms error of lambda that still counts as tuned: what remains with the best parts a ladder has, since a
     * carburetor's curve never follows a target everywhere.
     *
     * @return share of lambda
     */
    public double tolerance() {
        return tolerance;
    }

    /** {@return key in files} */
    public String key() {
        return key;
    }
}
