package nariz.diagnosis;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import nariz.dynamics.EnrichmentStudy;
import nariz.dynamics.PullStudy;
import nariz.dynamics.SecondStageStudy;
import nariz.units.Units;
import org.jspecify.annotations.Nullable;

/** The object {@code moments} of {@code nariz-advice/1}: what moving moments of a drive show. */
final class MomentsJson {
    private MomentsJson() {
    }

    static Map<String, @Nullable Object> of(DriveDynamics d) {
        Map<String, @Nullable Object> m = new LinkedHashMap<>();
        m.put("enrichment", d.enrichment().map(MomentsJson::enrichment).orElse(null));
        m.put("secondStage", d.second().map(MomentsJson::second).orElse(null));
        m.put("pulls", d.pulls().map(MomentsJson::pulls).orElse(null));
        return m;
    }

    private static Map<String, @Nullable Object> enrichment(EnrichmentFinding f) {
        EnrichmentStudy.Seen s = f.seen();
        Map<String, @Nullable Object> m = new LinkedHashMap<>();
        m.put("ratedInHg", inHg(f.ratedPa()));
        m.put("opensInHg", interval(s.opensPa(), Units.INHG));
        m.put("shutsInHg", interval(s.shutsPa(), Units.INHG));
        m.put("openings", s.openings());
        m.put("flutters", s.flutters());
        m.put("openS", AdviceJson.round(s.openS(), 1));
        m.put("adds", AdviceJson.round(Math.expm1(s.adds()), 4));
        m.put("staysShut", s.stuckShut());
        m.put("staysOpen", s.stuckOpen());
        m.put("stretches", s.judged());
        m.put("bestInHg", inHg(f.bestPa()));
        m.put("early", cost(f.early()));
        m.put("late", cost(f.late()));
        m.put("fullError", f.amount().map(a -> interval(a, 1.0)).orElse(null));
        m.put("asOneJetThou", f.asOneJet().map(j -> AdviceJson.round(j.diameterM() / Units.THOU, 1)).orElse(null));
        m.put("vacuum", f.ways().stream().map(MomentsJson::way).toList());
        return m;
    }

    private static double inHg(double pa) {
        return AdviceJson.round(pa / Units.INHG, 2);
    }

    private static Map<String, Object> cost(EnrichmentFinding.Cost c) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("seconds", AdviceJson.round(c.seconds(), 1));
        m.put("share", AdviceJson.round(c.share(), 4));
        m.put("fuelCm3", AdviceJson.round(1e6 * c.fuelM3(), 1));
        return m;
    }

    private static Map<String, Object> way(EnrichmentFinding.Way w) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("regime", w.regime().key());
        m.put("steadyS", AdviceJson.round(w.seconds(), 1));
        m.put("lowInHg", inHg(w.lowPa()));
        m.put("middleInHg", inHg(w.middlePa()));
        m.put("highInHg", inHg(w.highPa()));
        return m;
    }

    private static Map<String, Object> interval(double[] v, double unit) {
        double[] r = Arrays.stream(v).map(x -> AdviceJson.round(x / unit, 4)).toArray();
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("value", r[0]);
        m.put("low", r[1]);
        m.put("high", r[2]);
        return m;
    }

    private static Map<String, @Nullable Object> second(SecondStageStudy.Finding f) {
        Map<String, @Nullable Object> m = new LinkedHashMap<>();
        m.put("step", f.step().map(s -> interval(s, 1.0)).orElse(null));
        m.put("events", f.events().stream().map(MomentsJson::event).toList());
        return m;
    }

    private static Map<String, @Nullable Object> event(SecondStageStudy.Event e) {
        Map<String, @Nullable Object> m = new LinkedHashMap<>();
        m.put("atS", AdviceJson.round(e.atS(), 2));
        m.put("rpm", AdviceJson.round(e.rpm(), 0));
        m.put("vacuumInHg", inHg(e.vacuumPa()));
        m.put("sag", number(e.sag(), 4));
        m.put("withStab", e.stab());
        return m;
    }

    private static @Nullable Double number(double v, int decimals) {
        return Double.isFinite(v) ? AdviceJson.round(v, decimals) : null;
    }

    private static Map<String, @Nullable Object> pulls(PullStudy.Finding f) {
        Map<String, @Nullable Object> m = new LinkedHashMap<>();
        m.put("perThousandRpm", trend(f.perThousand()));
        m.put("perSecond", trend(f.perSecond()));
        m.put("perPull", trend(f.perPull()));
        List<Map<String, @Nullable Object>> all = f.pulls().stream().map(MomentsJson::pull).toList();
        m.put("each", all);
        return m;
    }

    private static Map<String, Object> trend(PullStudy.Trend t) {
        return interval(new double[] {t.mean(), t.low(), t.high()}, 1.0);
    }

    private static Map<String, @Nullable Object> pull(PullStudy.Pull p) {
        Map<String, @Nullable Object> m = new LinkedHashMap<>();
        m.put("atS", AdviceJson.round(p.atS(), 2));
        m.put("seconds", AdviceJson.round(p.seconds(), 2));
        m.put("fromRpm", AdviceJson.round(p.fromRpm(), 0));
        m.put("toRpm", AdviceJson.round(p.toRpm(), 0));
        m.put("error", number(p.error(), 4));
        m.put("leanest", number(p.leanest(), 4));
        m.put("accelerationMPerS2", number(p.acceleration(), 3));
        m.put("kmhPerThousandRpm", number(p.kmhPerThousand(), 2));
        m.put("stopAfterS", number(p.stopAfterS(), 2));
        return m;
    }
}
