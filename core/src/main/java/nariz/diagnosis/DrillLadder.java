package nariz.diagnosis;

import java.util.ArrayList;
import java.util.List;

/**
 * Twist drills as they are sold, in steps of 0.05 mm from 0.20 mm up (preferred diameters of ISO 235). Holes are
 * drilled
 * upward only, a drill at a time.
 */
public final class DrillLadder {
    private static final double STEP_M = 0.05e-3;
    private static final double LEAST_M = 0.20e-3;
    /** A drill this little larger than the hole only scrapes it. */
    private static final double SCRAPES_M = 0.01e-3;

    private DrillLadder() {
    }

    /**
     * The next drills above a hole.
     *
     * @param holeM diameter of the hole, m
     * @param count how many
     * @return diameters, m, rising
     */
    public static List<Double> above(double holeM, int count) {
        List<Double> out = new ArrayList<>();
        long step = Math.max(Math.round(LEAST_M / STEP_M), (long) Math.ceil((holeM + SCRAPES_M) / STEP_M - 1e-9));
        for (int i = 0; i < count; i++) {
            out.add((step + i) * STEP_M);
        }
        return out;
    }
}
