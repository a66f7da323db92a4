package nariz.family.twobarrel;

import java.util.List;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredFamily;

/** The primary side of a block-metered four-barrel alone; one to three of them make a set. */
public final class BlockMeteredTwoBarrel extends MeteredFamily {
    /** The family. */
    public BlockMeteredTwoBarrel() {
        super("block-metered-2", false, List.of(Stage.PRIMARY), 3);
    }
}
