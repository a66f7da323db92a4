package nariz.family.blockmetered;

import java.util.List;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredFamily;

/** Removable metering blocks, main jets, a power valve per block; the rear one often plugged. */
public final class BlockMeteredFourBarrel extends MeteredFamily {
    /** The family. */
    public BlockMeteredFourBarrel() {
        super("block-metered-4", false, List.of(Stage.PRIMARY, Stage.SECONDARY), 2);
    }
}
