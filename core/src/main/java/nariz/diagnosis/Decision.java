package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Arrays;
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
import nariz.carburetor.Family;
import nariz.carburetor.Kit;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import org.jspecify.annotations.Nullable;

/**
 * Which parts to change, if any: the act of least expected cost over all that may be wrong ({@link CausePosterior}).
 *
 * <p>cost(a) = sum over explanations h of P(h) L(d_h + c e_a) + price(a). d_h is what h moved, e_a the effect of the
 * parts in ln phi, c how much of a predicted effect the readings show under h (1 where h says nothing about the part,
 * with its variance), L the loss of {@link Scorer#lossOf}. Of what sound hardware leaves, r - d_h, the share
 * {@link #CURABLE} counts with d_h ({@link #CURABLE_IF_SOUND} where nothing is wrong): the rest has another shape than
 * any part's effect. Under a fault parts do no good: they cost {@link Looks#MISLED}, and their effect is an error once
 * the fault is found. The price is effort, what has to be opened and bought, and what a change risks by itself
 * ({@link #worth}).
 *
 * <p>Two limits: who takes back the last change gets at best what was read before it ({@link TakenBack}), and no part
 * is expected to gain more than the equations predict of it, which is what its card says. An explanation finds how much
 * of a predicted effect there is, and would otherwise take half of a valve that opens for a smaller channel.
 *
 * <p>Searched by forward selection with refinement from the best single changes. Among sizes that cost nearly the same
 * the one nearest to what is fitted is taken: the far end of a flat curve is no better and harder to undo.
 */
final class Decision {
    /** Risk of one more change whatever it is, in units of one regime at its tolerance. */
    private static final double WORTH_IT = 0.12;
    /** The same for opening the toolbox at all. */
    private static final double WORTH_STARTING = 0.12;
    /** What a part changed in vain costs: the part, the work twice, and a reading that teaches little. */
    private static final double FITTED_IN_VAIN = 0.45;
    /** The same for a screw, which is turned back. */
    private static final double TURNED_IN_VAIN = 0.65;
    /** The same where a change was just made: the screwdriver is at hand, and who looks again at the idle trims it. */
    private static final double TURNED_AGAIN = 0.1;
    private static final int MOST = 4;
    private static final int STARTS = 4;
    /** Trims that gain less than this share of the largest change wait for the next reading. */
    private static final double SMALL_SHARE = 0.15;
    /** Costs within this, and within this share of the gain, count as the same. */
    private static final double SAME = 0.03;
    private static final double SAME_SHARE = 0.04;
    private static final double EFFECT_VARIANCE = 0.06;
    /** How much of what sound hardware leaves a part could cure; the rest has another shape than any part's effect. */
    private static final double CURABLE = 0.8;
    private static final double CURABLE_IF_SOUND = 0.6;
    /** A second part is changed with the first only where its circuit is off with this probability. */
    private static final double LIKELY_TOO = 0.35;

    /** A part at a size. */
    record Step(Ladder ladder, double from, double to) {
        double cost() {
            return ladder.cost(from, to);
        }
    }

    private final boolean touched;
    private final Optional<TakenBack> back;
    /** Loss of all that is read, whatever it comes from. */
    private final double asRead;
    private final BuildSheet sheet;
    private final Scorer scorer;
    private final CausePosterior posterior;
    private final List<Ladder> ladders;
    /** Asked only while parts are being chosen: what is asked of the choice later belongs to another job. */
    private BooleanSupplier cancelled = () -> false;
    private final Map<Set<Step>, Double> known = new HashMap<>();
    private final Map<Step, double[]> effects = new HashMap<>();
    private List<Step> chosen = new ArrayList<>();
    /** Whether all of what sound hardware leaves at idle counts as curable. */
    private boolean whole;
    /** Expected loss with nothing changed. */
    private double asItIs;

    /**
     * A decision.
     *
     * @param sheet what is fitted
     * @param scorer targets and effects
     * @param kit what is at hand
     * @param posterior what may be wrong
     * @param followed the advice before, where it was followed: the screwdriver is at hand, and a car that was out of
     *     tune is not taken to be sound
     */
    Decision(BuildSheet sheet, Scorer scorer, Kit kit, CausePosterior posterior, Optional<Previous> followed) {
        touched = followed.isPresent();
        back = TakenBack.of(followed, scorer.errors(scorer.today()));
        asRead = scorer.lossOf(posterior.residual(), new double[scorer.size()]);
        this.sheet = sheet;
        this.scorer = scorer;
        this.posterior = posterior;
        ladders = Ladder.of(sheet, kit);
        counting(touched);
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
        if (scorer.fine()) {
            return List.of();
        }
        double nothing = loss(List.of());
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
        eliminate();
        leaveSmall();
        nearest(nothing);
        trim();
        chosen = new ArrayList<>(new OrderOfWork(sheet, scorer, this::effect, this::gain).of(chosen));
        return chosen;
    }

    /** Takes every part back towards what is fitted as long as that costs hardly anything. */
    private void nearest(double nothing) {
        for (int at = 0; at < chosen.size(); at++) {
            Step s = chosen.get(at);
            double limit = total(chosen) + SAME + SAME_SHARE * Math.max(0.0, nothing - loss(chosen));
            List<Step> others = new ArrayList<>(chosen);
            others.remove(at);
            for (double to : s.ladder().sizes(sheet)) {
                Step nearer = new Step(s.ladder(), s.from(), to);
                boolean between = Math.signum(to - s.from()) == Math.signum(s.to() - s.from())
                        && Math.abs(to - s.from()) < Math.abs(s.to() - s.from());
                if (between && total(plus(others, nearer)) < limit) {
                    chosen.set(at, nearer);
                    break;
                }
            }
        }
    }

    /**
     * Sets screws that are turned anyway for the idle as it reads: what sound hardware leaves there the screws cure.
     */
    private void trim() {
        counting(true);
        for (int at = 0; at < chosen.size(); at++) {
            Step s = chosen.get(at);
            List<Step> others = new ArrayList<>(chosen);
            others.remove(at);
            Step best = s.ladder().part().adjusted() ? bestSize(others, s.ladder()) : null;
            if (best != null && Math.signum(best.to() - s.from()) == Math.signum(s.to() - s.from())) {
                chosen.set(at, best);
            }
        }
        counting(touched);
    }

    /** The size of one part that would do most by itself; empty when none lowers the expected loss. */
    Optional<Step> best(Part part, Stage side) {
        return ladders.stream().filter(l -> l.part().equals(part) && l.stage() == side).findFirst()
                .map(l -> bestSize(List.of(), l)).filter(s -> loss(List.of(s)) < loss(List.of()));
    }

    /** Expected loss that comes back when this change is left out. */
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
        if (nothing - now < worth(List.of(start))) {
            return;
        }
        chosen.add(start);
        while (chosen.size() < MOST) {
            Step next = bestAddition();
            if (next == null) {
                return;
            }
            List<Step> tried = refined(plus(chosen, next));
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
            if (s != null && wrong(s) < LIKELY_TOO) {
                continue;
            }
            double t = s == null ? Double.POSITIVE_INFINITY : total(plus(chosen, s));
            if (t < least) {
                least = t;
                best = s;
            }
        }
        return best;
    }

    private @Nullable Step bestSize(List<Step> others, Ladder l) {
        if (cancelled.getAsBoolean()) {
            throw new CancellationException("analysis was cancelled");
        }
        double from = l.fitted(sheet);
        @Nullable Step best = null;
        double least = Double.POSITIVE_INFINITY;
        for (double v : l.sizes(sheet)) {
            Step s = new Step(l, from, v);
            double t = total(plus(others, s));
            if (t < least) {
                least = t;
                best = s;
            }
        }
        return best;
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

    /** Leaves out what does not pay for itself, the rest put right for it. */
    private void eliminate() {
        boolean dropped = true;
        while (dropped && chosen.size() > 1) {
            dropped = false;
            double now = total(chosen) + worth(chosen);
            for (Step s : List.copyOf(chosen)) {
                List<Step> without = new ArrayList<>(chosen);
                without.remove(s);
                without = refined(without);
                if (total(without) + worth(without) < now) {
                    chosen = without;
                    dropped = true;
                    break;
                }
            }
        }
    }

    /** Leaves out what gains little beside the largest change. */
    private void leaveSmall() {
        double most = chosen.stream().mapToDouble(this::gain).max().orElse(0.0);
        List<Step> small = chosen.stream().filter(s -> gain(s) < SMALL_SHARE * most).toList();
        chosen.removeAll(small);
    }

    /**
     * Risk of touching these parts: a little for each, and what it costs to have changed a part in vain times the
     * probability that nothing that trims its circuit is wrong in that direction.
     */
    private double worth(List<Step> steps) {
        double sum = steps.isEmpty() ? 0.0 : WORTH_STARTING;
        for (Step s : steps) {
            boolean turned = s.ladder().part().adjusted();
            double inVain = turned && touched ? TURNED_AGAIN : turned ? TURNED_IN_VAIN : FITTED_IN_VAIN;
            sum += WORTH_IT + inVain * (1.0 - wrong(s));
        }
        return sum;
    }

    /** Probability that the circuit of a step is off the way the step corrects. */
    private double wrong(Step s) {
        boolean richer = s.ladder().part().enriches(s.from(), s.to());
        double sum = 0.0;
        for (CausePosterior.Explanation e : posterior.explanations()) {
            if (e.moves().stream().anyMatch(x -> together(x.ladder(), s.ladder())
                    && x.ladder().part().enriches(x.ladder().fitted(sheet), x.to()) == richer)) {
                sum += e.probability();
            }
        }
        return Math.min(1.0, sum);
    }

    /** Whether two parts trim the same fuel: idle and transfer share their feed. */
    private boolean together(Ladder a, Ladder b) {
        Family family = sheet.carburetor().family();
        return family.trims(a.part(), a.stage()).sharesFeed(family.trims(b.part(), b.stage()));
    }

    private double total(List<Step> steps) {
        return loss(steps) + steps.stream().mapToDouble(Step::cost).sum()
                + Ladder.opening(steps.stream().map(Step::ladder).toList());
    }

    /** Expected loss with some parts; the search comes back to the same sets many times. */
    double loss(List<Step> steps) {
        return known.computeIfAbsent(Set.copyOf(steps), s -> s.isEmpty() ? asItIs : expectedAtBest(List.copyOf(s)));
    }

    /** Nothing is expected to gain more than the card will say it does. */
    private double expectedAtBest(List<Step> steps) {
        double[] then = moved(steps);
        for (int i = 0; i < then.length; i++) {
            then[i] += posterior.residual()[i];
        }
        double gain = asRead - scorer.lossOf(then, new double[then.length]);
        double misjudged = back.map(b -> b.misjudged(steps, asItIs, this::expected)).orElse(0.0);
        return Math.max(expected(steps) + misjudged, asItIs - gain);
    }

    /** All of what sound hardware leaves at idle counts, or its share. */
    private void counting(boolean all) {
        whole = all;
        known.clear();
        asItIs = expected(List.of());
    }

    private double expected(List<Step> steps) {
        List<double[]> effect = steps.stream().map(this::effect).toList();
        double[] then = new double[scorer.size()];
        double[] variance = new double[then.length];
        double[] left = posterior.residual();
        double sum = 0.0;
        for (CausePosterior.Explanation e : posterior.explanations()) {
            boolean real = e.fault().map(FaultSignature::real).orElse(true);
            Arrays.fill(variance, 0.0);
            double curable = e.moves().isEmpty() ? CURABLE_IF_SOUND : CURABLE;
            for (int i = 0; i < then.length; i++) {
                double share = whole && scorer.regime(i) == Regime.IDLE ? 1.0 : curable;
                then[i] = e.moved()[i] + share * (left[i] - e.moved()[i] - e.byFault()[i]);
            }
            double misled = 0.0;
            if (e.fault().isPresent()) {
                // The fault is found in the end; until then it stays, and afterwards what parts do is judged alone.
                misled = (real ? scorer.lossOf(e.byFault(), variance) : 0.0) + (steps.isEmpty() ? 0.0 : Looks.MISLED);
            }
            for (int k = 0; k < steps.size(); k++) {
                add(e, steps.get(k), effect.get(k), then, variance);
            }
            sum += e.probability() * (misled + scorer.lossOf(then, variance));
        }
        return sum;
    }

    private void add(CausePosterior.Explanation e, Step s, double[] effect, double[] then, double[] variance) {
        double factor = 1.0;
        double sd2 = EFFECT_VARIANCE;
        for (int k = 0; k < e.moves().size(); k++) {
            WrongParts.Move x = e.moves().get(k);
            if (x.ladder().part().equals(s.ladder().part()) && x.ladder().stage() == s.ladder().stage()) {
                factor = Math.max(0.0, e.factors()[k]);
                sd2 = 0.0;
            }
        }
        for (int i = 0; i < then.length; i++) {
            then[i] += factor * effect[i];
            variance[i] += sd2 * effect[i] * effect[i];
        }
    }

    private double[] effect(Step s) {
        return effects.computeIfAbsent(s, x -> posterior.move(x.ladder().part(), x.ladder().stage(), x.to())
                .map(WrongParts.Move::effect).orElseGet(() -> {
                    double[] now = scorer.today();
                    double[] then = scorer.with(apply(sheet, List.of(x)));
                    for (int i = 0; i < now.length; i++) {
                        then[i] = Math.log(Math.max(1e-6, then[i]) / now[i]);
                    }
                    return then;
                }));
    }

    /**
     * The faults worth a look before anything else is done.
     *
     * @param acts what would be changed otherwise
     * @return their keys, the most worthwhile first; the two leaks are looked for together
     */
    List<String> checks(List<Step> acts) {
        return new Looks(scorer, posterior).worthIt(acts, moved(acts));
    }

    /** What steps do together, ln phi by cell. */
    private double[] moved(Collection<Step> steps) {
        double[] sum = new double[scorer.size()];
        for (Step s : steps) {
            double[] e = effect(s);
            for (int i = 0; i < sum.length; i++) {
                sum[i] += e[i];
            }
        }
        return sum;
    }

    static BuildSheet apply(BuildSheet sheet, Collection<Step> steps) {
        BuildSheet out = sheet;
        for (Step s : steps) {
            out = s.ladder().part().fit(out, s.ladder().stage(), s.to());
        }
        return out;
    }
}
