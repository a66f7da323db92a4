package nariz.advice;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import nariz.build.BuildSheet;
import nariz.build.Kit;
import nariz.build.Part;
import nariz.build.SideName;
import nariz.units.Units;

/**
 * Sizes a part can be had in, and what changing it costs.
 *
 * @param part part
 * @param side side
 * @param step distance of neighbouring sizes, in the part's unit
 * @param reach how many steps away are looked at
 * @param low smallest size
 * @param high largest size
 * @param effort cost of the change itself, in units of the decision's loss: 1 = one regime at its tolerance
 * @param access what has to come off first; its cost is paid once for all that lies behind it
 * @param kit what is at hand
 */
record Ladder(Part part, SideName side, double step, int reach, double low, double high, double effort, Access access,
        Kit kit) {
    /** What lies over a part. */
    enum Access {
        /** Reached from outside. */
        OPEN(0.0),
        /** Behind the bowl: fuel to catch, a gasket to renew. */
        BOWL(0.15),
        /** Under the cover of the step-up piston. */
        ROD_COVER(0.10);

        private final double effort;

        Access(double effort) {
            this.effort = effort;
        }
    }

    /** What buying a size adds where the tuner has a box of parts, and what drilling adds since it cannot be undone. */
    private static final double BUY = 0.25;
    private static final double DRILL = 0.15;
    /** A measured fuel level that is further off than this is put right before jets make up for it, m. */
    private static final double LEVEL_OFF_M = 1e-3;

    Ladder(Part part, SideName side, double step, int reach, double low, double high, double effort,
            Access access) {
        this(part, side, step, reach, low, high, effort, access, Kit.NONE);
    }

    private Ladder with(Kit k) {
        return new Ladder(part, side, step, reach, low, high, effort, access, k);
    }

    /** What is fitted on this sheet and can be changed with this kit. */
    static List<Ladder> of(BuildSheet sheet, Kit kit) {
        return of(sheet).stream().map(l -> l.with(kit)).toList();
    }

    /** What is fitted on this sheet and can be changed. */
    static List<Ladder> of(BuildSheet sheet) {
        List<Ladder> all = new ArrayList<>();
        SideName p = SideName.PRIMARY;
        SideName s = SideName.SECONDARY;
        var primary = sheet.carburetor().primary();
        all.add(new Ladder(Part.MIXTURE_SCREW, p, 0.125, 12, 0.25, 6, 0.05, Access.OPEN));
        if (Math.abs(sheet.carburetor().fuelLevelM()) > LEVEL_OFF_M) {
            all.add(new Ladder(Part.FLOAT_LEVEL, p, 1, 0, 0, 0, 0.00, Access.BOWL));
        }
        all.add(new Ladder(Part.IDLE_FEED_RESTRICTION, p, 1, 8, 15, 60, 0.10, Access.BOWL));
        all.add(new Ladder(Part.IDLE_AIR_BLEED, p, 2, 8, 30, 120, 0.45, Access.OPEN));
        all.add(new Ladder(Part.MAIN_JET, p, 1, 10, 35, 130, 0.05, Access.BOWL));
        all.add(new Ladder(Part.HIGH_SPEED_AIR_BLEED, p, 2, 6, 14, 70, 0.40, Access.OPEN));
        if (primary.hasRods()) {
            all.add(new Ladder(Part.STEP_UP_SPRING, p, 1, 6, 2, 12, 0.05, Access.ROD_COVER));
            all.add(new Ladder(Part.METERING_ROD, p, 1, 10, 20, Part.METERING_ROD.of(sheet.carburetor(), p) + 10,
                    0.10, Access.ROD_COVER));
        } else if (primary.enrichmentPa() > 0) {
            all.add(new Ladder(Part.POWER_VALVE_RATING, p, 1, 6, 1.5, 12.5, 0.10, Access.BOWL));
            all.add(new Ladder(Part.POWER_CHANNEL_RESTRICTION, p, 2, 12, 10, 80, 0.10, Access.BOWL));
        }
        all.add(new Ladder(Part.MAIN_JET, s, 1, 10, 35, 130, 0.05, Access.BOWL));
        all.add(new Ladder(Part.HIGH_SPEED_AIR_BLEED, s, 2, 6, 14, 70, 0.45, Access.OPEN));
        return all;
    }

    /** The stop screw: an adjustment that the idle speed asks for, not the mixture. */
    static Ladder idleStop() {
        return new Ladder(Part.IDLE_STOP, SideName.PRIMARY, 0.125, 8, -1, 1, 0.05, Access.OPEN);
    }

    /** Size now fitted. */
    double fitted(BuildSheet sheet) {
        return part.of(sheet.carburetor(), side);
    }

    /** Sizes within reach of what is fitted, without it, nearest first. */
    List<Double> sizes(BuildSheet sheet) {
        if (part == Part.FLOAT_LEVEL) {
            // No trim: it goes back to where the family has it.
            return List.of(0.0);
        }
        double now = fitted(sheet);
        double cap = part == Part.METERING_ROD ? sheet.carburetor().barrels(side).rodCruiseM() / Units.THOU : high;
        List<Double> out = new ArrayList<>();
        for (int k = 1; k <= reach; k++) {
            out.add(now + k * step);
            out.add(now - k * step);
        }
        List<Double> only = kit.ladder().getOrDefault(part, List.of());
        if (!only.isEmpty()) {
            out.removeIf(v -> !kit.drills(part, now, v));
            out.addAll(only);
        }
        out.addAll(kit.have().getOrDefault(part, List.of()));
        return out.stream().filter(v -> v >= low && v <= cap && Math.abs(v - now) > 1e-6
                        && Math.abs(v - now) <= reach * step + 1e-6)
                .distinct().sorted(Comparator.comparingDouble(v -> Math.abs(v - now))).toList();
    }

    /** {@return effort by itself, with what has to come off for it} */
    double alone() {
        return effort + access.effort;
    }

    /** Effort of taking off what lies over some parts: each bowl and cover counts once. */
    static double opening(Collection<Ladder> parts) {
        return parts.stream().filter(l -> l.access != Access.OPEN)
                .map(l -> Map.entry(l.side, l.access)).distinct().mapToDouble(e -> e.getValue().effort).sum();
    }

    /** Whether one opening serves both. */
    boolean together(Ladder other) {
        return access != Access.OPEN && access == other.access && side == other.side;
    }

    /** {@return whether petrol will run} */
    boolean bowl() {
        return access == Access.BOWL;
    }

    /**
     * Cost of going to a size, what has to come off apart: effort, and a little for every step, so that the smaller
     * of equal changes wins; more for
     * bleeds, since a level error is far more often a jet.
     */
    double cost(double from, double to) {
        double perStep = part == Part.HIGH_SPEED_AIR_BLEED || part == Part.IDLE_AIR_BLEED ? 0.02 : 0.01;
        double get = 0.0;
        if (kit.known() && !part.adjusted() && !kit.has(part, to)) {
            get = kit.drills(part, from, to) ? DRILL : BUY;
        }
        return effort + get + perStep * Math.abs(to - from) / step;
    }
}
