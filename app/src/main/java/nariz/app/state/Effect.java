package nariz.app.state;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.RegimePrediction;
import nariz.log.Pyramid;

/**
 * What other parts would do to the open drive: the parts advised now, or parts being tried. Arrays are shared with the
 * pictures, which only read.
 *
 * @param changes parts against the sheet; empty when nothing is to be changed
 * @param tried whether a person chose them
 * @param phi mixture in every cell, 1/lambda
 * @param trace what the sensor would have read, put to the moments of the engine; null when nothing is changed
 * @param enrichmentPa vacuum at which the enrichment is half open with these parts, Pa; NaN when there is none
 * @param regimes mean error by way of running, today and then
 */
public record Effect(List<PartChange> changes, boolean tried, double[] phi, Pyramid trace, double enrichmentPa,
        List<RegimePrediction> regimes) {
    /** Copies the lists. */
    public Effect {
        changes = List.copyOf(changes);
        regimes = List.copyOf(regimes);
    }

    /** {@return whether there is anything to draw over today} */
    public boolean changed() {
        return !changes.isEmpty();
    }

    static Effect advised(Analysis a) {
        List<PartChange> now = a.advice().changes().stream().filter(Change::now).map(c -> new PartChange(c.part(),
                c.side(), c.from(), c.to())).toList();
        double opens = Boundaries.enrichmentPa(a.sheetAfter(), a);
        if (!a.estimated() || now.isEmpty()) {
            return new Effect(List.of(), false, a.phiAfter(), null, opens, a.advice().predicted());
        }
        return new Effect(now, false, a.phiAfter(), trace(a, a.sheetAfter()), opens, a.advice().predicted());
    }

    /**
     * Reckons what parts a person chose would do.
     *
     * @param a analysis with an estimate
     * @param changes parts
     * @return their effect
     */
    static Effect tried(Analysis a, List<PartChange> changes) {
        BuildSheet parts = PartChange.fit(a.observation().sheet(), changes);
        return new Effect(changes, true, a.estimate().phiWith(parts), trace(a, parts),
                Boundaries.enrichmentPa(parts, a), a.predict(parts));
    }

    private static Pyramid trace(Analysis a, BuildSheet parts) {
        return new Pyramid(a.whatIf().shown(parts));
    }
}
