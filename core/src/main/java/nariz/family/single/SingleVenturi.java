package nariz.family.single;

import nariz.family.jetted.JettedFamily;

/** One barrel with a fixed venturi, a volume screw for the mixture and a bypass screw for the speed. */
public final class SingleVenturi extends JettedFamily {
    /** The family. */
    public SingleVenturi() {
        super("single-venturi", new Build(2, 1, 1, false, false, false));
    }
}
