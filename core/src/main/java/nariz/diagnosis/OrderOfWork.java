package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Part;

/**
 * In which order changes are made: by circuit, primary side first, idle before main before enrichment, for an earlier
 * one may move a later one. A circuit that is hardly off waits for one that is far off, and one whose change leaves
 * what the later one has to cure where it is waits for any that gains clearly more, unless both sit behind the same
 * bowl and are made together.
 */
final class OrderOfWork {
    /** An earlier circuit that gains less than this share of the largest gain waits. */
    private static final double EARLY_SHARE = 0.5;
    /** The same where it does not move the later one. */
    private static final double APART_SHARE = 0.75;
    /** Share of a later change that an earlier one has to make or undo to move it. */
    private static final double MOVES = 0.25;

    private final List<Part> parts;
    private final Scorer scorer;
    private final Function<Decision.Step, double[]> effect;
    private final ToDoubleFunction<Decision.Step> gain;

    /**
     * An order.
     *
     * @param sheet whose family's parts come in their order of work
     * @param scorer weights of cells
     * @param effect what a change does, ln phi by cell
     * @param gain what a change is worth among the others
     */
    OrderOfWork(BuildSheet sheet, Scorer scorer, Function<Decision.Step, double[]> effect,
            ToDoubleFunction<Decision.Step> gain) {
        parts = sheet.carburetor().family().parts();
        this.scorer = scorer;
        this.effect = effect;
        this.gain = gain;
    }

    /**
     * Sorts.
     *
     * @param chosen changes
     * @return the same, the first to be made first
     */
    List<Decision.Step> of(List<Decision.Step> chosen) {
        double most = chosen.stream().mapToDouble(gain).max().orElse(0.0);
        List<Decision.Step> out = new ArrayList<>(chosen);
        out.sort(Comparator.comparing((Decision.Step s) -> gain.applyAsDouble(s) < EARLY_SHARE * most)
                .thenComparing(s -> s.ladder().stage()).thenComparingInt(s -> parts.indexOf(s.ladder().part())));
        List<Decision.Step> order = List.copyOf(out);
        order.stream().filter(s -> order.stream().takeWhile(t -> !t.equals(s)).noneMatch(t -> moves(t, s)))
                .max(Comparator.comparingDouble(gain))
                .filter(s -> gain.applyAsDouble(order.getFirst()) < APART_SHARE * gain.applyAsDouble(s))
                .filter(s -> !s.ladder().together(order.getFirst().ladder()))
                .ifPresent(s -> {
                    out.remove(s);
                    out.addFirst(s);
                });
        return out;
    }

    /** Whether one change moves what another has to cure. */
    private boolean moves(Decision.Step one, Decision.Step other) {
        double[] a = effect.apply(one);
        double[] b = effect.apply(other);
        double both = 0.0;
        double own = 0.0;
        for (int i = 0; i < a.length; i++) {
            both += scorer.importance(i) * a[i] * b[i];
            own += scorer.importance(i) * b[i] * b[i];
        }
        return Math.abs(both) > MOVES * own;
    }
}
