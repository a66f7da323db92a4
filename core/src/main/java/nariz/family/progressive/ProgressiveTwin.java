package nariz.family.progressive;

import nariz.family.jetted.JettedFamily;

/** A small first barrel and a larger second one that a diaphragm or a late linkage opens. */
public final class ProgressiveTwin extends JettedFamily {
    /** The family. */
    public ProgressiveTwin() {
        super("progressive-twin", new Build(1, 1, 1, true, true, true));
    }
}
