package nariz.diagnosis;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;

/**
 * The last change taken back: what that brings need not be predicted, since it was driven.
 *
 * <p>Without this a jet between whose sizes nothing suits better goes to and fro: from either size the other one is
 * predicted to be a little better than it reads. Loss is that of {@link Scorer#lossAsRead} over the ways of running
 * that both drives read.
 *
 * @param changes the change, as it was made
 * @param gain loss as read with it less loss as read before it; positive where the car was better before
 */
record TakenBack(List<PartChange> changes, double gain) {
    TakenBack {
        changes = List.copyOf(changes);
    }

    /**
     * Taking back what the advice before had changed.
     *
     * @param followed that advice, where it was followed
     * @param today what is read now
     * @return it; empty where something was changed that no ladder takes back, or no way of running was read twice
     */
    static Optional<TakenBack> of(Optional<Previous> followed, List<RegimeError> today) {
        List<PartChange> changes = followed.map(Previous::fitted).orElse(List.of());
        if (changes.isEmpty() || changes.stream().anyMatch(c -> c.part().role() == Part.Role.IDLE_STOP || c.from()
                == c.to())) {
            return Optional.empty();
        }
        double gain = 0.0;
        int both = 0;
        for (Previous.Expected e : followed.map(Previous::predicted).orElse(List.of())) {
            Optional<RegimeError> now = today.stream().filter(t -> t.regime() == e.regime()).findFirst();
            if (now.isPresent()) {
                gain += Scorer.lossAsRead(now.get()) - Scorer.lossAsRead(e.before());
                both++;
            }
        }
        return both == 0 ? Optional.empty() : Optional.of(new TakenBack(changes, gain));
    }

    /**
     * How much more than predicted a set of steps loses, for what of it was driven. Never less: a way of running that
     * was not read before the change may be the very one that it was made for.
     *
     * @param steps parts and sizes
     * @param asItIs loss with nothing changed
     * @param predicted loss of a set as predicted
     * @return what to add, 0 or more; 0 where the last change is not taken back with them
     */
    double misjudged(Collection<Decision.Step> steps, double asItIs,
            ToDoubleFunction<List<Decision.Step>> predicted) {
        List<Decision.Step> back = steps.stream().filter(s -> changes.stream().anyMatch(c -> undone(s, c))).toList();
        return back.size() < changes.size() ? 0.0 : Math.max(0.0, asItIs - gain - predicted.applyAsDouble(
                back));
    }

    private static boolean undone(Decision.Step s, PartChange c) {
        return s.ladder().part().equals(c.part()) && s.ladder().stage() == c.side()
                && s.ladder().same(s.to(), c.from());
    }
}
