package nariz.diagnosis;

import static nariz.text.Message.message;

import nariz.text.Message;

/** State of a circuit, shown in words and shape. */
public enum Status {
    /** Hardly any steady running with this circuit. */
    NOT_READ("not-read"),
    /** Another change has to be made before this circuit can be judged. */
    WAITING("waiting"),
    /** Off, and a change is proposed. */
    OFF("off"),
    /** Read, but too uncertain or in competition with a fault. */
    IN_DOUBT("in-doubt"),
    /** On target within tolerance. */
    SETTLED("settled");

    private final String key;

    Status(String key) {
        this.key = key;
    }

    /** {@return key in files} */
    public String key() {
        return key;
    }

    /** {@return words for people} */
    public Message label() {
        return message("status." + key);
    }
}
