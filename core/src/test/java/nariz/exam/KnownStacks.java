package nariz.exam;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.sim.DriveScript;
import nariz.sim.Seeds;

/**
 * Practice engines with jet stacks whose sizes are known: those that {@link PracticeCase#ofFamily} finds in half a
 * minute each, by driving up to a dozen engines.
 */
enum KnownStacks {
    SEED_10(10, 8, false, 0.5, 0.3, 1.1, 1.2, 2.35),
    SEED_14(14, 0, true, 1.625, 0.325, 1.1, 1.2, 0.8),
    SEED_17(17, 0, false, 0.875, 0.3, 1.1, 1.05, 2.3),
    SEED_24(24, 11, true, 1.75, 0.325, 1.1, 1.15, 0.8),
    SEED_38(38, 7, true, 0.5, 0.25, 1.0, 0.95, 3.0),
    SEED_39(39, 1, true, 1.375, 0.325, 1.0, 1.15, 2.95);

    private static final String FAMILY = "stack-jet";

    private final long seed;
    private final int draw;
    private final boolean twoSensors;
    private final double[] sizes;

    /**
     * An engine.
     *
     * @param seed its seed
     * @param draw how many engines were drawn before it
     * @param twoSensors whether each bank has a sensor
     * @param sizes what is fitted, in the order of the ladders: turns, and mm
     */
    KnownStacks(long seed, int draw, boolean twoSensors, double... sizes) {
        this.seed = seed;
        this.draw = draw;
        this.twoSensors = twoSensors;
        this.sizes = sizes;
    }

    PracticeCase practice() {
        Random r = Seeds.random(seed, 17);
        DriveScript script = DriveScript.twelveMinutes().varied(r);
        BuildSheet sheet = PracticeEngines.of(FAMILY, r);
        for (int i = 0; i < draw; i++) {
            sheet = PracticeEngines.of(FAMILY, r);
        }
        List<Ladder> ladders = Ladder.of(sheet);
        if (ladders.size() != sizes.length) {
            throw new IllegalStateException("found ladders " + ladders + ", sizes are " + Arrays.toString(sizes));
        }
        for (int i = 0; i < sizes.length; i++) {
            Ladder l = ladders.get(i);
            sheet = l.part().fit(sheet, l.stage(), sizes[i]);
        }
        return new PracticeCase(seed, sheet, sheet, List.of(), Map.of(), script, twoSensors, true, false);
    }
}
