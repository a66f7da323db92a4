package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Kit;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import org.jspecify.annotations.Nullable;

/**
 * Which parts to change: the set of ladder steps with the least loss plus effort.
 *
 * <p>Forward selection with refinement from each of the few best single changes: add the change that lowers loss + cost
 * most, walk every chosen part along its ladder again, repeat while the gain exceeds {@link #WORTH_IT}. Of the sets so
 * found the one with the least loss + cost + {@link #WORTH_IT} a change is kept, less what does not pay for itself.
 */
final class Decision {
    /** Least gain, in units of one regime at its tolerance, that is worth one more change. */
    static final double WORTH_IT = 0.45;
    /** The same for opening the toolbox at all: healthy carburetors leave about half of this to be gained. */
    static final double WORTH_STARTING = 0.8;
    private static final int MOST = 4;
    private static final int STARTS = 4;
    /** Trims that gain less than this share of the largest change wait for the next reading. */
    private static final double SMALL_SHARE = 0.15;
    private static final double EARLY_SHARE = 0.5;

    /** A part at a size. */
    record Step(Ladder ladder, double from, double to) {
        double cost() {
            return ladder.cost(from, to);
        }
    }

    private final BuildSheet sheet;
    private final Scorer scorer;
    private final List<Ladder> ladders;
    /** Asked only while parts are being chosen: what is asked of the choice later belongs to another job. */
    private BooleanSupplier cancelled = () -> false;
    private final Map<Set<Step>, Double> known = new HashMap<>();
    private List<Step> chosen = new ArrayList<>();

    Decision(BuildSheet sheet, Scorer scorer, Kit kit) {
        this.sheet = sheet;
        this.scorer = scorer;
        ladders = Ladder.of(sheet, kit);
    }

    List<Step> decide(BooleanSupplier asked) {
        cancelled = asked;
        try {
            return decided();
        } finally {
            cancelled = () -> false;
        }
    }

    private List<Step> decided() {
        double nothing = scorer.loss(scorer.today());
        List<Step> best = List.of();
        double least = nothing;
        for (Step start : starts()) {
            chosen = new ArrayList<>();
            grow(start, nothing);
            double j = total(chosen) + worth(chosen);
            if (j < least) {
                least = j;
                best = chosen;
            }
        }
        chosen = new ArrayList<>(best);
        eliminate(WORTH_IT / 2);
        eliminate(SMALL_SHARE * chosen.stream().mapToDouble(this::gain).max().orElse(0.0));
        double most = chosen.stream().mapToDouble(this::gain).max().orElse(0.0);
        List<Part> parts = sheet.carburetor().family().parts();
        // Order of work, but a circuit that is far off goes before an earlier one that is hardly off.
        chosen.sort(Comparator.comparing((Step s) -> gain(s) < EARLY_SHARE * most)
                .thenComparing(s -> s.ladder().stage()).thenComparingInt(s -> parts.indexOf(s.ladder().part())));
        return chosen;
    }

    /** The size of one part that would do most by itself; empty when none lowers the loss. */
    Optional<Step> best(Part part, Stage side) {
        return ladders.stream().filter(l -> l.part().equals(part) && l.stage() == side).findFirst()
                .map(l -> bestSize(List.of(), l)).filter(s -> loss(List.of(s)) < loss(List.of()));
    }

    /** Loss that comes back when this change is left out. */
    double gain(Step s) {
        List<Step> without = new ArrayList<>(chosen);
        without.remove(s);
        return loss(without) - loss(chosen);
    }

    /** The best single changes: the greedy way can start with a part that does a little of everything. */
    private List<Step> starts() {
        List<Step> all = new ArrayList<>();
        for (Ladder l : ladders) {
            Step s = bestSize(List.of(), l);
            if (s != null) {
                all.add(s);
            }
        }
        all.sort(Comparator.comparingDouble(s -> total(List.of(s))));
        return all.subList(0, Math.min(STARTS, all.size()));
    }

    private void grow(Step start, double nothing) {
        double now = total(List.of(start));
        if (nothing - now < WORTH_STARTING) {
            return;
        }
        chosen.add(start);
        while (chosen.size() < MOST) {
            Step next = bestAddition();
            if (next == null) {
                return;
            }
            List<Step> tried = refined(with(next));
            double then = total(tried);
            if (now - then < worth(tried) - worth(chosen)) {
                return;
            }
            chosen = tried;
            now = then;
        }
    }

    private @Nullable Step bestAddition() {
        @Nullable Step best = null;
        double least = Double.POSITIVE_INFINITY;
        for (Ladder l : ladders) {
            if (chosen.stream().anyMatch(s -> s.ladder().equals(l))) {
                continue;
            }
            Step s = bestSize(chosen, l);
            double t = s == null ? Double.POSITIVE_INFINITY : total(plus(chosen, s));
            if (t < least) {
                least = t;
                best = s;
            }
        }
        return best;
    }

    /** Walks outward in both directions and stops where it gets worse twice: loss along a ladder has one valley. */
    private @Nullable Step bestSize(List<Step> others, Ladder l) {
        if (cancelled.getAsBoolean()) {
            throw new CancellationException("analysis was cancelled");
        }
        double from = l.fitted(sheet);
        @Nullable Step best = null;
        double least = Double.POSITIVE_INFINITY;
        for (int sign = -1; sign <= 1; sign += 2) {
            double before = Double.POSITIVE_INFINITY;
            int worse = 0;
            for (double v : l.sizes(sheet)) {
                if (Math.signum(v - from) != sign || worse >= 2) {
                    continue;
                }
                Step s = new Step(l, from, v);
                double t = total(plus(others, s));
                worse = t > before ? worse + 1 : 0;
                before = t;
                if (t < least) {
                    least = t;
                    best = s;
                }
            }
        }
        return best;
    }

    private List<Step> with(Step s) {
        return plus(chosen, s);
    }

    private static List<Step> plus(List<Step> some, Step s) {
        List<Step> all = new ArrayList<>(some);
        all.add(s);
        return all;
    }

    private List<Step> refined(List<Step> steps) {
        List<Step> out = new ArrayList<>(steps);
        if (out.size() < 2) {
            return out;
        }
        for (int i = 0; i < out.size(); i++) {
            List<Step> others = new ArrayList<>(out);
            Step was = others.remove(i);
            Step s = bestSize(others, was.ladder());
            if (s != null) {
                out.set(i, s);
            }
        }
        return out;
    }

    private void eliminate(double least) {
        boolean dropped = true;
        while (dropped && chosen.size() > 1) {
            dropped = false;
            for (Step s : List.copyOf(chosen)) {
                List<Step> without = new ArrayList<>(chosen);
                without.remove(s);
                if (total(without) - total(chosen) < least) {
                    chosen = refined(without);
                    dropped = true;
                    break;
                }
            }
        }
    }

    /** Gain that a set must bring to be worth the risk of touching so many parts; the next one in an open bowl half. */
    private static double worth(List<Step> steps) {
        double sum = 0.0;
        for (int i = 0; i < steps.size(); i++) {
            Ladder l = steps.get(i).ladder();
            boolean open = steps.subList(0, i).stream().anyMatch(s -> s.ladder().together(l));
            sum += open ? 0.5 * WORTH_IT : WORTH_IT;
        }
        return sum;
    }

    private double total(List<Step> steps) {
        return loss(steps) + steps.stream().mapToDouble(Step::cost).sum()
                + Ladder.opening(steps.stream().map(Step::ladder).toList());
    }

    /** Loss with some parts; the search comes back to the same sets many times. */
    double loss(List<Step> steps) {
        return known.computeIfAbsent(Set.copyOf(steps), s -> scorer.loss(s.isEmpty() ? scorer.today()
                : scorer.with(apply(sheet, s))));
    }

    static BuildSheet apply(BuildSheet sheet, Collection<Step> steps) {
        BuildSheet out = sheet;
        for (Step s : steps) {
            out = s.ladder().part().fit(out, s.ladder().stage(), s.to());
        }
        return out;
    }
}
