package nariz.family.rodmetered;

import java.util.List;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredFamily;

/** Stepped rods hanging in the primary jets from a vacuum piston. */
public final class RodMeteredFourBarrel extends MeteredFamily {
    /** The family. */
    public RodMeteredFourBarrel() {
        super("rod-metered-4", true, List.of(Stage.PRIMARY, Stage.SECONDARY), 2);
    }
}
