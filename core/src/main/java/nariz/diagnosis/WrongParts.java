package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.carburetor.PartChange;
import org.hipparchus.util.CombinatoricsUtils;

/**
 * Which parts may be of the wrong size, what going to each other size does, and how likely that is before the drive is
 * read.
 *
 * <p>Of the car as it was found: nothing is wrong 0.12; one, two or three parts 0.36, 0.14 and 0.06, shared out over
 * all parts and, among the sizes of a part, by exp(-largest effect/0.12 - ladder steps/6): errors of a third are
 * noticed before anyone fits a sensor, and along a flat curve a near size is the likelier one. What was changed since
 * does not make it another car. That nothing is wrong after a jet was changed means that this jet was; that this jet
 * has to be changed once more is as likely beforehand; that a leak is left means that two things were wrong at once.
 */
final class WrongParts {
    /** That none, one, two or three parts are wrong, and what every further one is times. */
    private static final double[] SHARES = {0.12, 0.36, 0.14, 0.06};
    private static final double MORE = 0.4;
    private static final double EFFECT_SCALE = 0.12;
    private static final double STEPS_SCALE = 6.0;

    private final BuildSheet sheet;
    private final Scorer scorer;
    private final double most;
    private final List<Move> moves = new ArrayList<>();
    /** By part that was changed since the car was found, the log prior of what is fitted now being right. */
    private final Map<Integer, Double> changed = new LinkedHashMap<>();
    private final int parts;

    /**
     * A part going to a size.
     *
     * @param ladder the part
     * @param part index of the ladder
     * @param to size
     * @param effect ln of phi then over phi now, by cell
     * @param logPrior of this size being the right one, given that the part was wrong when the car was found
     * @param back whether this is the size it was found with: then it was not wrong
     */
    record Move(Ladder ladder, int part, double to, double[] effect, double logPrior, boolean back) {
    }

    private WrongParts(BuildSheet sheet, Scorer scorer, double most, int parts) {
        this.sheet = sheet;
        this.scorer = scorer;
        this.most = most;
        this.parts = Math.max(1, parts);
    }

    /**
     * All of a carburetor.
     *
     * @param sheet what is fitted
     * @param scorer effects
     * @param since changes made since the car was found
     * @param most effects beyond this are as large as this, ln of phi
     * @param cancelled asked now and then
     * @return every part and size within reach
     * @throws CancellationException when cancelled
     */
    static WrongParts of(BuildSheet sheet, Scorer scorer, List<PartChange> since, double most,
            BooleanSupplier cancelled) {
        List<Ladder> ladders = Ladder.of(sheet);
        WrongParts out = new WrongParts(sheet, scorer, most, ladders.size());
        for (int part = 0; part < ladders.size(); part++) {
            Ladder l = ladders.get(part);
            double found = since.stream().filter(c -> c.part().equals(l.part()) && c.side() == l.stage())
                    .mapToDouble(PartChange::from).findFirst().orElse(l.fitted(sheet));
            out.add(l, part, found, cancelled);
        }
        return out;
    }

    private void add(Ladder l, int part, double found, BooleanSupplier cancelled) {
        double fitted = l.fitted(sheet);
        double[] none = new double[scorer.size()];
        boolean touched = !l.same(found, fitted);
        double[] ofFound = touched ? effect(l, found) : none;
        double stays = touched ? weight(l, fitted - found, ofFound, none) : 0.0;
        double sum = stays;
        Map<Double, double[]> effects = new LinkedHashMap<>();
        for (double to : l.sizes(sheet)) {
            if (cancelled.getAsBoolean()) {
                throw new CancellationException("analysis was cancelled");
            }
            double[] effect = effect(l, to);
            effects.put(to, effect);
            sum += l.same(to, found) ? 0.0 : weight(l, to - found, ofFound, effect);
        }
        for (Map.Entry<Double, double[]> e : effects.entrySet()) {
            double to = e.getKey();
            boolean back = l.same(to, found);
            double log = back ? 0.0 : Math.log(weight(l, to - found, ofFound, e.getValue()) / sum);
            moves.add(new Move(l, part, to, e.getValue(), log, back));
        }
        if (touched) {
            changed.put(part, Math.log(stays / sum));
        }
    }

    private double[] effect(Ladder l, double to) {
        double[] now = scorer.today();
        double[] effect = scorer.with(l.part().fit(sheet, l.stage(), to));
        for (int i = 0; i < now.length; i++) {
            effect[i] = Math.clamp(Math.log(Math.max(1e-6, effect[i]) / now[i]), -most, most);
        }
        return effect;
    }

    /** How likely a size is beside others, by what it does and how far it is from the one the car was found with. */
    private static double weight(Ladder l, double away, double[] ofFound, double[] effect) {
        double largest = 0.0;
        for (int i = 0; i < effect.length; i++) {
            largest = Math.max(largest, Math.abs(effect[i] - ofFound[i]));
        }
        return Math.exp(-largest / EFFECT_SCALE - Math.abs(away) / l.step() / STEPS_SCALE);
    }

    /** {@return every part and size that is considered} */
    List<Move> moves() {
        return Collections.unmodifiableList(moves);
    }

    /**
     * Log prior of a set of moves being all that is to be put right.
     *
     * @param set indexes of moves, one for every part at most; others are passed over
     * @return log of the probability
     */
    double logPrior(int... set) {
        int wrong = wrong(set);
        double share = wrong < SHARES.length ? SHARES[wrong] : SHARES[SHARES.length - 1] * Math.pow(MORE, wrong
                - SHARES.length + 1);
        return Math.log(share) + logWhich(wrong, set);
    }

    /**
     * The same beside a fault.
     *
     * @param set as there
     * @param fault prior of the fault
     * @param besides how likely every part that is wrong besides is
     * @return log of the probability
     */
    double logPriorBeside(int[] set, double fault, double besides) {
        int wrong = wrong(set);
        return Math.log(fault) + wrong * Math.log(besides) + logWhich(wrong, set);
    }

    /** How many parts were wrong when the car was found: those of a set, and those that have been put right since. */
    private int wrong(int... set) {
        int wrong = 0;
        for (int v : set) {
            wrong += v < moves.size() && !moves.get(v).back() ? 1 : 0;
        }
        for (int part : changed.keySet()) {
            wrong += moved(part, set) ? 0 : 1;
        }
        return wrong;
    }

    /** Log probability of these parts and right sizes among all of so many. */
    private double logWhich(int wrong, int... set) {
        double log = -CombinatoricsUtils.binomialCoefficientLog(Math.max(parts, wrong), wrong);
        for (int v : set) {
            log += v < moves.size() ? moves.get(v).logPrior() : 0.0;
        }
        for (Map.Entry<Integer, Double> c : changed.entrySet()) {
            log += moved(c.getKey(), set) ? 0.0 : c.getValue();
        }
        return log;
    }

    private boolean moved(int part, int... set) {
        for (int v : set) {
            if (v < moves.size() && moves.get(v).part() == part) {
                return true;
            }
        }
        return false;
    }
}
