package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import nariz.text.Message;

/** Ways of running that are off their targets, in words: which, which way, and how far. */
final class OffTarget {
    /** A mean error that is not worth being named in a sentence. */
    static final double LEAST_TOLD = 0.015;

    private OffTarget() {
    }

    /**
     * What is off in the mean: its side can be told.
     *
     * @param today errors of every way of running
     * @return those out of tolerance that are off to one side, by at least {@value #LEAST_TOLD} in the mean
     */
    static List<RegimeError> inTheMean(List<RegimeError> today) {
        return outOfTolerance(today).stream().filter(OffTarget::sided).toList();
    }

    /**
     * Every way of running that is out of tolerance.
     *
     * @param today errors of every way of running, at least one
     * @return in words; the one that is furthest off where none is out of tolerance
     */
    static Message words(List<RegimeError> today) {
        List<RegimeError> off = outOfTolerance(today);
        return of(off.isEmpty() ? List.of(furthest(today)) : off);
    }

    /**
     * The way of running that is furthest off, for its tolerance.
     *
     * @param today errors of every way of running, at least one
     * @return in words
     */
    static Message worst(List<RegimeError> today) {
        return of(List.of(furthest(today)));
    }

    /**
     * Ways of running on one side of their targets.
     *
     * @param errors errors
     * @param lean whether they are lean
     * @return in words, by their means
     */
    static Message side(List<RegimeError> errors, boolean lean) {
        return message(lean ? "advice-builder.lean" : "advice-builder.rich", at(errors, false));
    }

    private static List<RegimeError> outOfTolerance(List<RegimeError> today) {
        return today.stream().filter(e -> !Scorer.fine(e)).toList();
    }

    private static boolean sided(RegimeError e) {
        return Math.abs(e.mean()) >= LEAST_TOLD && e.sided();
    }

    private static RegimeError furthest(List<RegimeError> today) {
        return today.stream().max(Comparator.comparingDouble(x -> x.rms() / x.regime().tolerance())).orElseThrow();
    }

    /** The side of the one furthest off first; what is lean here and rich there is told by how far it spreads. */
    private static Message of(List<RegimeError> off) {
        List<RegimeError> sided = off.stream().filter(OffTarget::sided).toList();
        List<Message> out = new ArrayList<>();
        if (!sided.isEmpty()) {
            boolean lean = furthest(sided).mean() > 0;
            for (boolean side : new boolean[] {lean, !lean}) {
                List<RegimeError> on = sided.stream().filter(e -> e.mean() > 0 == side).toList();
                if (!on.isEmpty()) {
                    out.add(side(on, side));
                }
            }
        }
        List<RegimeError> uneven = off.stream().filter(e -> !sided(e)).toList();
        if (!uneven.isEmpty()) {
            out.add(message("advice-builder.uneven", at(uneven, true)));
        }
        return Message.join(", ", out);
    }

    private static Message at(List<RegimeError> errors, boolean spread) {
        return Message.join(", ", errors.stream().map(e -> message("advice-builder.at", Math.round(100 * (spread
                ? e.rms() : Math.abs(e.mean()))), e.regime().label())).toList());
    }
}
