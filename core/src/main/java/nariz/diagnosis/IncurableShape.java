package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import nariz.carburetor.BuildSheet;
import nariz.estimation.Estimate;
import org.jspecify.annotations.Nullable;

/**
 * What no part cures of the estimated carburetor's ln(phi/target), as the model has it: what is left of it by cell with
 * the sizes on the ladders that make sum w_i v_i² + sum (steps/{@value #STEPS_SD})² least, w the weights of the
 * decision's loss and steps how far a part goes from what is fitted.
 *
 * <p>One part after the other goes to its best size until none moves any more (coordinate descent); effects of parts
 * add up in ln phi, as everywhere in the decision.
 */
final class IncurableShape {
    /** Steps of its ladder that a part is usually away from where it does best. */
    private static final double STEPS_SD = 4.0;
    private static final int MOST_PASSES = 6;

    private final BuildSheet sheet;
    private final Scorer scorer;
    private final double[] v;

    private IncurableShape(BuildSheet sheet, Scorer scorer, double[] v) {
        this.sheet = sheet;
        this.scorer = scorer;
        this.v = v;
    }

    /**
     * Works it out.
     *
     * @param sheet parts
     * @param scorer targets and weights
     * @param estimate the carburetor that was found
     * @param moves every part and size that is considered
     * @return ln(phi/target) by cell; nought where the family's sound scatter was measured
     */
    static double[] of(BuildSheet sheet, Scorer scorer, Estimate estimate, List<WrongParts.Move> moves) {
        double[] v = new double[scorer.size()];
        if (sheet.carburetor().family().incurableShape() == 0.0) {
            return v;
        }
        double[][] phi = estimate.carburetor().phi(sheet, estimate.cells());
        for (int i = 0; i < v.length; i++) {
            v[i] = Math.log(Arrays.stream(phi[i]).sum() / scorer.targetPhi(i));
        }
        new IncurableShape(sheet, scorer, v).descend(moves);
        return v;
    }

    private void descend(List<WrongParts.Move> moves) {
        Map<Integer, List<WrongParts.Move>> sizes = new LinkedHashMap<>();
        moves.forEach(x -> sizes.computeIfAbsent(x.part(), k -> new ArrayList<>()).add(x));
        Map<Integer, WrongParts.Move> fitted = new HashMap<>();
        boolean moved = true;
        for (int pass = 0; moved && pass < MOST_PASSES; pass++) {
            moved = false;
            for (Map.Entry<Integer, List<WrongParts.Move>> part : sizes.entrySet()) {
                WrongParts.@Nullable Move was = fitted.remove(part.getKey());
                if (was != null) {
                    add(was, -1.0);
                }
                WrongParts.@Nullable Move best = best(part.getValue());
                if (best != null) {
                    add(best, 1.0);
                    fitted.put(part.getKey(), best);
                }
                moved |= !Objects.equals(best, was);
            }
        }
    }

    /** The size that leaves least; null where that is the fitted one. */
    private WrongParts.@Nullable Move best(List<WrongParts.Move> sizes) {
        WrongParts.@Nullable Move best = null;
        double least = left(null);
        for (WrongParts.Move x : sizes) {
            double then = left(x);
            if (then < least) {
                least = then;
                best = x;
            }
        }
        return best;
    }

    private void add(WrongParts.Move x, double by) {
        for (int i = 0; i < v.length; i++) {
            v[i] += by * x.effect()[i];
        }
    }

    private double left(WrongParts.@Nullable Move x) {
        double steps = x == null ? 0.0 : (x.to() - x.ladder().fitted(sheet)) / x.ladder().step() / STEPS_SD;
        double sum = steps * steps;
        for (int i = 0; i < v.length; i++) {
            double e = v[i] + (x == null ? 0.0 : x.effect()[i]);
            sum += scorer.importance(i) * e * e;
        }
        return sum;
    }
}
