package nariz.app.session;

import java.util.List;
import nariz.advice.Analysis;
import nariz.advice.Change;
import nariz.advice.RegimePrediction;
import nariz.build.BuildSheet;
import nariz.build.PartChange;

/**
 * What other parts would do to the open drive: the parts advised now, or parts being tried. Arrays are shared with the
 * pictures, which only read.
 *
 * @param changes parts against the sheet; empty when nothing is to be changed
 * @param tried whether a person chose them
 * @param phi mixture in every cell, 1/lambda
 * @param lambda what the sensor would have read, by sample; empty when nothing is changed
 * @param enrichmentPa vacuum at which the enrichment is half open with these parts, Pa; NaN when there is none
 * @param regimes mean error by way of running, today and then
 */
public record Effect(List<PartChange> changes, boolean tried, double[] phi, double[] lambda, double enrichmentPa,
        List<RegimePrediction> regimes) {
    private static final double[] NONE = {};

    /** Copies the lists. */
    public Effect {
        changes = List.copyOf(changes);
        regimes = List.copyOf(regimes);
    }

    /** Whether there is anything to draw over today. */
    public boolean changed() {
        return !changes.isEmpty();
    }

    static Effect advised(Analysis a) {
        List<PartChange> now = a.advice().changes().stream().filter(Change::now).map(c -> new PartChange(c.part(),
                c.side(), c.from(), c.to())).toList();
        if (!a.estimated()) {
            return new Effect(List.of(), false, NONE, NONE, opens(a.sheetAfter(), 0), a.advice().predicted());
        }
        return new Effect(now, false, a.phiAfter(), now.isEmpty() ? NONE : a.whatIf().lambda(a.sheetAfter()),
                opens(a.sheetAfter(), a.estimate().shiftPa()), a.advice().predicted());
    }

    /**
     * Reckons what parts would do.
     *
     * @param a analysis with an estimate
     * @param changes parts
     * @param tried whether a person chose them
     * @return their effect
     */
    static Effect of(Analysis a, List<PartChange> changes, boolean tried) {
        BuildSheet parts = a.observation().sheet();
        for (PartChange c : changes) {
            parts = c.fit(parts);
        }
        return new Effect(changes, tried, a.estimate().phiWith(parts), a.whatIf().lambda(parts),
                opens(parts, a.estimate().shiftPa()), a.predict(parts));
    }

    private static double opens(BuildSheet parts, double shiftPa) {
        double rating = parts.carburetor().primary().enrichmentPa();
        return rating > 0 ? rating + shiftPa : Double.NaN;
    }
}
