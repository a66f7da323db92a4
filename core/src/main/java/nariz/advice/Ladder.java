package nariz.advice;

import java.util.ArrayList;
import java.util.List;
import nariz.build.BuildSheet;
import nariz.build.Part;
import nariz.build.SideName;

/**
 * Sizes a part can be had in, and what changing it costs.
 *
 * @param part part
 * @param side side
 * @param step distance of neighbouring sizes, in the part's unit
 * @param reach how many steps away are looked at
 * @param low smallest size
 * @param high largest size
 * @param effort cost in units of the decision's loss: 1 = one regime at its tolerance
 * @param bowl whether the bowl comes off
 */
record Ladder(Part part, SideName side, double step, int reach, double low, double high, double effort, boolean bowl) {
    /** What is fitted on this sheet and can be changed. */
    static List<Ladder> of(BuildSheet sheet) {
        List<Ladder> all = new ArrayList<>();
        SideName p = SideName.PRIMARY;
        SideName s = SideName.SECONDARY;
        var primary = sheet.carburetor().primary();
        all.add(new Ladder(Part.MIXTURE_SCREW, p, 0.125, 12, 0.25, 6, 0.05, false));
        all.add(new Ladder(Part.IDLE_FEED_RESTRICTION, p, 1, 8, 15, 60, 0.25, true));
        all.add(new Ladder(Part.IDLE_AIR_BLEED, p, 2, 8, 30, 120, 0.45, false));
        all.add(new Ladder(Part.MAIN_JET, p, 1, 10, 35, 130, 0.20, true));
        all.add(new Ladder(Part.HIGH_SPEED_AIR_BLEED, p, 2, 6, 14, 70, 0.30, false));
        if (primary.hasRods()) {
            all.add(new Ladder(Part.STEP_UP_SPRING, p, 1, 6, 2, 12, 0.15, false));
            all.add(new Ladder(Part.METERING_ROD, p, 1, 10, 20, Part.METERING_ROD.of(primary) + 10, 0.20, false));
        } else if (primary.enrichmentPa() > 0) {
            all.add(new Ladder(Part.POWER_VALVE_RATING, p, 1, 6, 1.5, 12.5, 0.25, true));
            all.add(new Ladder(Part.POWER_CHANNEL_RESTRICTION, p, 2, 12, 10, 80, 0.25, true));
        }
        all.add(new Ladder(Part.MAIN_JET, s, 1, 10, 35, 130, 0.20, true));
        all.add(new Ladder(Part.HIGH_SPEED_AIR_BLEED, s, 2, 6, 14, 70, 0.35, false));
        return all;
    }

    /** Size now fitted. */
    double fitted(BuildSheet sheet) {
        return part.of(sheet.carburetor().barrels(side));
    }

    /** Sizes within reach of what is fitted, without it, nearest first. */
    List<Double> sizes(BuildSheet sheet) {
        double now = fitted(sheet);
        List<Double> out = new ArrayList<>();
        for (int k = 1; k <= reach; k++) {
            for (int sign = -1; sign <= 1; sign += 2) {
                double v = now + sign * k * step;
                boolean rod = part == Part.METERING_ROD;
                double cap = rod ? sheet.carburetor().barrels(side).rodCruiseM() / 25.4e-6 : high;
                if (v >= low && v <= cap) {
                    out.add(v);
                }
            }
        }
        return out;
    }

    /**
     * Cost of going to a size: effort, and a little for every step, so that the smaller of equal changes wins; more for
     * bleeds, since a level error is far more often a jet.
     */
    double cost(double from, double to) {
        double perStep = part == Part.HIGH_SPEED_AIR_BLEED || part == Part.IDLE_AIR_BLEED ? 0.02 : 0.01;
        return effort + perStep * Math.abs(to - from) / step;
    }
}
