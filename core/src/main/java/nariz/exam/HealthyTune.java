package nariz.exam;

import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredFamily;
import nariz.family.metered.MeteredParts;
import nariz.flow.Barrels;
import nariz.units.Units;

/**
 * Sets a practice engine up well, knowing its true mixture on its own drive: parts one step at a time until no step
 * helps. Gives the starting point into which errors are then put, and what the best parts reach; the estimator never
 * sees it.
 */
final class HealthyTune {
    private static final int MOST_ROUNDS = 40;
    /** Long strides too: feed and bleed have a valley that single steps do not cross. */
    private static final int[] STEPS = {-4, -1, 1, 4};

    /** A part, its step, and the sizes it is moved within. */
    private record Move(Part part, Stage side, double step, double low, double high) {
        Move(Part part, Stage side, double step) {
            this(part, side, step, Double.NEGATIVE_INFINITY, Double.POSITIVE_INFINITY);
        }
    }

    private HealthyTune() {
    }

    static BuildSheet of(BuildSheet start, Truth truth) {
        List<Move> moves = moves(start);
        BuildSheet best = start;
        double least = truth.loss(best);
        boolean better = true;
        for (int round = 0; better && round < MOST_ROUNDS; round++) {
            better = false;
            for (Move m : moves) {
                for (int steps : STEPS) {
                    double v = m.part().of(best.carburetor(), m.side()) + steps * m.step();
                    if (outside(m, best, v)) {
                        continue;
                    }
                    BuildSheet tried = m.part().fit(best, m.side(), v);
                    double loss = truth.loss(tried);
                    if (loss < least - 1e-3) {
                        least = loss;
                        best = tried;
                        better = true;
                    }
                }
            }
        }
        return best;
    }

    /** Whether carburetors have metering blocks or rods, whose usual ranges are known here. */
    static boolean metered(BuildSheet sheet) {
        return sheet.carburetor().family() instanceof MeteredFamily;
    }

    private static List<Move> moves(BuildSheet start) {
        if (!metered(start)) {
            return start.carburetor().family().ladders(start).stream().map(l -> new Move(l.part(), l.stage(), l.step(),
                    l.low(), l.high())).toList();
        }
        List<Move> moves = new ArrayList<>(List.of(
                new Move(MeteredParts.MIXTURE_SCREW, Stage.PRIMARY, 0.125),
                new Move(MeteredParts.IDLE_FEED_RESTRICTION, Stage.PRIMARY, 1),
                new Move(MeteredParts.IDLE_AIR_BLEED, Stage.PRIMARY, 2),
                new Move(MeteredParts.MAIN_JET, Stage.PRIMARY, 1),
                new Move(MeteredParts.HIGH_SPEED_AIR_BLEED, Stage.PRIMARY, 1),
                new Move(MeteredParts.MAIN_JET, Stage.SECONDARY, 1),
                new Move(MeteredParts.HIGH_SPEED_AIR_BLEED, Stage.SECONDARY, 1)));
        if (Barrels.of(start.carburetor(), Stage.PRIMARY).enrichment().hasRods()) {
            moves.add(new Move(MeteredParts.METERING_ROD, Stage.PRIMARY, 1));
            moves.add(new Move(MeteredParts.STEP_UP_SPRING, Stage.PRIMARY, 1));
        } else {
            moves.add(new Move(MeteredParts.POWER_CHANNEL_RESTRICTION, Stage.PRIMARY, 2));
            moves.add(new Move(MeteredParts.POWER_VALVE_RATING, Stage.PRIMARY, 1));
        }
        moves.removeIf(m -> !start.carburetor().family().stages().contains(m.side()));
        return moves;
    }

    private static boolean outside(Move m, BuildSheet best, double v) {
        if (!metered(best)) {
            return v < m.low() || v > m.high();
        }
        return v <= 0 || tooThick(m, best, v) || unusual(m, v);
    }

    private static boolean tooThick(Move m, BuildSheet sheet, double v) {
        return m.part().equals(MeteredParts.METERING_ROD) && v * Units.THOU > Barrels.of(sheet.carburetor(),
                Stage.PRIMARY).enrichment().rodCruiseM();
    }

    private static boolean unusual(Move m, double v) {
        return (m.part().equals(MeteredParts.HIGH_SPEED_AIR_BLEED) && (v < 20 || v > 60))
                || (m.part().equals(MeteredParts.IDLE_AIR_BLEED) && (v < 50 || v > 110))
                || (m.part().equals(MeteredParts.MIXTURE_SCREW) && (v < 0.75 || v > 5))
                || (m.part().equals(MeteredParts.POWER_VALVE_RATING) && (v < 2.5 || v > 10.5));
    }
}
