package nariz.family.stackjet;

import nariz.family.jetted.JettedFamily;

/** Jet stacks and no enrichment, one to three barrels a body, usually one barrel a cylinder. */
public final class StackJet extends JettedFamily {
    /** The family. */
    public StackJet() {
        super("stack-jet", new Build(4, 1, 3, false, false, false));
    }
}
