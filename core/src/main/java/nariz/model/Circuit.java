package nariz.model;

import static nariz.words.CoreWords.say;

import java.util.Locale;
import nariz.build.SideName;

/** A path fuel can take, in the order of work; the index into every array of shares is {@link #ordinal()}. */
public enum Circuit {
    /** Curb-idle port of the primary side, trimmed by the mixture screws. */
    IDLE("idle", SideName.PRIMARY),
    /** Transfer slot of the primary side. */
    TRANSFER("transfer", SideName.PRIMARY),
    /** Main jet and booster of the primary side. */
    MAIN("main", SideName.PRIMARY),
    /** Enrichment of the primary side: power valve and its channel, or the power step of the rods. */
    POWER("power", SideName.PRIMARY),
    /** Idle port and slot of the secondary side. */
    SECONDARY_IDLE("idle", SideName.SECONDARY),
    /** Main and enrichment of the secondary side. */
    SECONDARY_MAIN("main", SideName.SECONDARY),
    /** Accelerator pump shot. */
    PUMP("pump", SideName.PRIMARY);

    private final String key;
    private final SideName side;

    Circuit(String key, SideName side) {
        this.key = key;
        this.side = side;
    }

    /** {@return the circuit's name in files} */
    public String key() {
        return key;
    }

    /** {@return the side it belongs to} */
    public SideName side() {
        return side;
    }

    /** {@return a name for people, for example "secondary main"} */
    public String label() {
        return say("circuit." + name().toLowerCase(Locale.ROOT).replace('_', '-'));
    }

    /** {@return the same in fewer letters, for narrow places} */
    public String shortLabel() {
        return side == SideName.SECONDARY ? say("circuit.short." + key) : label();
    }
}
