package nariz.carburetor;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/**
 * Sizes a part can be had in, and what changing it costs.
 *
 * @param part part
 * @param stage stage
 * @param step distance of neighbouring sizes, in the part's unit
 * @param reach how many steps away are looked at
 * @param low smallest size
 * @param high largest size
 * @param effort cost of the change itself, in units of the decision's loss: 1 = one regime at its tolerance
 * @param kit what is at hand
 */
public record Ladder(Part part, Stage stage, double step, int reach, double low, double high, double effort, Kit kit) {
    /** What buying a size adds where the tuner has a box of parts, and what drilling adds since it cannot be undone. */
    private static final double BUY = 0.25;
    private static final double DRILL = 0.15;
    /** What every step costs, so that the smaller of equal changes wins; a level error is far more often a jet. */
    private static final double PER_STEP = 0.01;
    private static final double PER_BLEED_STEP = 0.02;
    /** Fewer turns out than this an eighth is a tenth of the hole and more: such screws are turned by sixteenths. */
    private static final double FEW_TURNS = 1.25;
    private static final double SAME_SIZE = 0.02;

    /**
     * A ladder in the usual steps.
     *
     * @param part part
     * @param stage stage
     * @param step distance of neighbouring sizes, in the part's unit
     * @param reach how many steps away are looked at
     * @param low smallest size
     * @param high largest size
     * @param effort cost of the change itself
     */
    public Ladder(Part part, Stage stage, double step, int reach, double low, double high, double effort) {
        this(part, stage, step, reach, low, high, effort, Kit.NONE);
    }

    /**
     * What is fitted on a sheet and can be changed with a kit.
     *
     * @param sheet sheet
     * @param kit what is at hand
     * @return ladders in the order of work
     */
    public static List<Ladder> of(BuildSheet sheet, Kit kit) {
        Family family = sheet.carburetor().family();
        Kit own = kit.in(family.parts());
        return family.ladders(sheet).stream().map(l -> new Ladder(l.part, l.stage, l.step, l.reach, l.low, l.high,
                l.effort, own)).toList();
    }

    /**
     * What is fitted on a sheet and can be changed.
     *
     * @param sheet sheet
     * @return ladders in the order of work
     */
    public static List<Ladder> of(BuildSheet sheet) {
        return sheet.carburetor().family().ladders(sheet);
    }

    /**
     * Size now fitted.
     *
     * @param sheet sheet
     * @return in the part's unit
     */
    public double fitted(BuildSheet sheet) {
        return part.of(sheet.carburetor(), stage);
    }

    /**
     * Sizes within reach of what is fitted, without it.
     *
     * @param sheet sheet
     * @return in the part's unit, nearest first
     */
    public List<Double> sizes(BuildSheet sheet) {
        if (part.role() == Part.Role.FUEL_LEVEL) {
            // No trim: it goes back to where the family has it.
            return List.of(0.0);
        }
        double now = fitted(sheet);
        List<Double> out = new ArrayList<>();
        for (int k = 1; k <= reach; k++) {
            out.add(now + k * step);
            out.add(now - k * step);
        }
        if (part.role() == Part.Role.IDLE_MIXTURE && !part.isFromDatum() && now < FEW_TURNS) {
            for (double halves : new double[] {0.5, 1.5}) {
                out.add(now + halves * step);
                out.add(now - halves * step);
            }
        }
        List<Double> only = kit.ladder().getOrDefault(part, List.of());
        if (!only.isEmpty()) {
            out.removeIf(v -> !kit.drills(part, now, v));
            out.addAll(only);
        }
        out.addAll(kit.have().getOrDefault(part, List.of()));
        return out.stream().filter(v -> v >= low && v <= high && Math.abs(v - now) > 1e-6
                        && Math.abs(v - now) <= reach * step + 1e-6)
                .distinct().sorted(Comparator.comparingDouble(v -> Math.abs(v - now))).toList();
    }

    /**
     * Whether two sizes are one: files round them.
     *
     * @param a size
     * @param b another
     * @return true where they are nearer than a fiftieth of a step
     */
    public boolean same(double a, double b) {
        return Math.abs(a - b) <= SAME_SIZE * step;
    }

    /** {@return effort by itself, with what has to come off for it} */
    public double alone() {
        return effort + part.access().effort();
    }

    /**
     * Effort of taking off what lies over some parts: each bowl and cover counts once.
     *
     * @param parts what is changed
     * @return in units of the decision's loss
     */
    public static double opening(Collection<Ladder> parts) {
        return parts.stream().filter(l -> l.part.access() != Part.Access.OPEN)
                .map(l -> Map.entry(l.stage, l.part.access())).distinct().mapToDouble(e -> e.getValue().effort()).sum();
    }

    /**
     * Whether one opening serves both.
     *
     * @param other another part
     * @return true behind the same bowl or cover
     */
    public boolean together(Ladder other) {
        return part.access() != Part.Access.OPEN && part.access() == other.part.access() && stage == other.stage;
    }

    /** {@return whether petrol will run} */
    public boolean bowl() {
        return part.access() == Part.Access.BOWL;
    }

    /**
     * Cost of going to a size, what has to come off apart.
     *
     * @param from size now
     * @param to size then
     * @return effort, what has to be bought, and a little for every step
     */
    public double cost(double from, double to) {
        boolean bleed = part.role() == Part.Role.METERING_AIR || part.role() == Part.Role.IDLE_AIR;
        double get = 0.0;
        if (kit.known() && !part.adjusted() && !kit.has(part, to)) {
            get = kit.drills(part, from, to) ? DRILL : BUY;
        }
        return effort + get + (bleed ? PER_BLEED_STEP : PER_STEP) * Math.abs(to - from) / step;
    }
}
