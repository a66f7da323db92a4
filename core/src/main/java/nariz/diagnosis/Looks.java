package nariz.diagnosis;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import nariz.carburetor.Ladder;

/** Which faults are looked for before anything is changed: where a look saves more than it takes. */
final class Looks {
    /** What a part fitted over a fault costs: a reading that misleads, and the work of a job behind a bowl, at most. */
    private static final double MISREAD = 0.75;
    static final double MISLED = 1.5;
    /** How much of that such work is, by its effort: a job behind a bowl is all of it, a screw an eighth. */
    private static final double WASTED_SHARE = 2.5;
    /** What the parts themselves cost once the fault is found and they are too much of a good thing, at most. */
    private static final double MOST_UNDONE = 1.0;
    /** A leak with less than this share of what both are worth is not looked for. */
    private static final double LEAST_OF_LEAKS = 0.1;

    private final Scorer scorer;
    private final CausePosterior posterior;

    Looks(Scorer scorer, CausePosterior posterior) {
        this.scorer = scorer;
        this.posterior = posterior;
    }

    /**
     * The faults worth a look before anything else is done: what a look saves outweighs what it takes. It saves parts
     * fitted over a fault where parts would be changed, and the fault's own error where nothing would be.
     *
     * @param acts what would be changed otherwise
     * @param effect what that does, ln phi by cell
     * @return their keys, the most worthwhile first; the two leaks are looked for together
     */
    List<String> worthIt(List<Decision.Step> acts, double[] effect) {
        Map<String, Double> saves = new HashMap<>();
        Map<String, Double> minutes = new HashMap<>();
        double leaks = 0.0;
        for (CausePosterior.Explanation e : posterior.explanations()) {
            if (e.fault().isPresent()) {
                FaultSignature f = e.fault().get();
                double s = e.probability() * (acts.isEmpty() ? f.harm() + felt(e)
                        : Math.max(f.harm(), misled(e, effect, acts)));
                saves.merge(f.cause(), s, Double::sum);
                minutes.put(f.cause(), f.minutes());
                leaks += f.leak() ? s : 0.0;
            }
        }
        Map<String, Double> worth = new HashMap<>();
        for (Map.Entry<String, Double> s : saves.entrySet()) {
            boolean leak = Hypothesis.LEAKS.contains(s.getKey());
            double all = leak && s.getValue() > LEAST_OF_LEAKS * leaks ? leaks : s.getValue();
            worth.put(s.getKey(), all - minutes.getOrDefault(s.getKey(), FaultSignatures.LOOK));
        }
        if (!acts.isEmpty()) {
            worth.put(Hypothesis.WRONG_SHEET, MISLED * posterior.wrongSheet() - FaultSignatures.LOOK);
        }
        return worth.entrySet().stream().filter(w -> w.getValue() > 0.0)
                .sorted(Map.Entry.<String, Double>comparingByValue().reversed()).map(Map.Entry::getKey).toList();
    }

    /**
     * What of today's error goes when a fault is found and the parts that were set to it are put right: a fault that
     * parts make up for is hardly felt.
     */
    private double felt(CausePosterior.Explanation e) {
        double[] none = new double[scorer.size()];
        double[] rest = posterior.residual().clone();
        for (int i = 0; i < rest.length; i++) {
            rest[i] -= e.byFault()[i] + e.moved()[i];
        }
        return Math.clamp(scorer.lossOf(posterior.residual(), none) - scorer.lossOf(rest, none), 0.0,
                scorer.lossOf(e.byFault(), none));
    }

    /**
     * What parts fitted before a fault is found cost: a reading that misleads, and work, which is little where a screw
     * is turned. Those that put right what is wrong besides the fault are not in vain: of the work only the share that
     * the parts' own error keeps is, and what they make worse has to be undone.
     */
    private double misled(CausePosterior.Explanation e, double[] effect, List<Decision.Step> acts) {
        double effort = acts.stream().mapToDouble(a -> a.ladder().effort()).sum() + Ladder.opening(acts.stream().map(
                Decision.Step::ladder).toList());
        double work = Math.min(MISLED - MISREAD, WASTED_SHARE * effort);
        double[] none = new double[effect.length];
        double[] then = e.moved().clone();
        for (int i = 0; i < then.length; i++) {
            then[i] += effect[i];
        }
        double was = scorer.lossOf(e.moved(), none);
        double is = scorer.lossOf(then, none);
        double inVain = was > 0.0 ? Math.min(1.0, is / was) : 1.0;
        return MISREAD + work * inVain + Math.clamp(is - was, 0.0, MOST_UNDONE);
    }
}
