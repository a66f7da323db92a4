package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import nariz.carburetor.Circuit;
import nariz.carburetor.PartChange;
import nariz.dynamics.OpeningStudy;
import nariz.estimation.EarlierEstimate;
import nariz.estimation.Slope;
import nariz.log.ColumnPlan;
import nariz.log.UnreadColumn;
import nariz.text.Message;
import nariz.text.Wording;
import nariz.units.Quantity;
import nariz.units.Units;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.json.JsonMapper;

/** Advice as JSON, format {@code nariz-advice/1} (docs/formats/advice.schema.json). */
public final class AdviceJson {
    /** The format's name and version. */
    public static final String FORMAT = "nariz-advice/1";
    private static final ObjectMapper MAPPER = JsonMapper.builder().build();

    private AdviceJson() {
    }

    /**
     * Writes advice.
     *
     * @param a advice
     * @return indented JSON, ends in a newline
     */
    public static String write(Advice a) {
        Map<String, Object> root = new LinkedHashMap<>();
        root.put("format", FORMAT);
        root.put("verdict", a.verdict().key());
        root.put("sentence", english(a.sentence()));
        root.put("strategy", a.strategy());
        root.put("circuits", a.circuits().stream().map(AdviceJson::circuit).toList());
        root.put("hypotheses", a.hypotheses().stream().map(AdviceJson::hypothesis).toList());
        root.put("changes", changes(a.changes()));
        root.put("predicted", a.predicted().stream().map(AdviceJson::prediction).toList());
        root.put("flags", a.flags().stream().map(AdviceJson::flag).toList());
        root.put("missing", english(a.missing()));
        root.put("asksFor", a.awaited().map(p -> english(p.text())).orElse(null));
        root.put("assumed", a.assumed());
        root.put("scored", a.scored().stream().map(AdviceJson::scored).toList());
        root.put("notes", english(a.notes()));
        root.put("schools", a.schools().stream().map(AdviceJson::school).toList());
        root.put("banks", a.banks().stream().map(AdviceJson::bank).toList());
        root.put("sensor", ordered("lagS", round(a.sensor().lagS(), 3), "exhaustL", round(a.sensor().exhaustL(), 2)));
        root.put("changedSinceFound", a.since().stream().map(AdviceJson::changed).toList());
        root.put("carried", a.carried().map(AdviceJson::carried).orElse(null));
        root.put("needle", a.needle().map(AdviceJson::needle).orElse(null));
        root.put("pump", a.pump().map(AdviceJson::pump).orElse(null));
        root.put("moments", MomentsJson.of(a.dynamics()));
        root.put("columnsNotRead", a.unread().stream().map(AdviceJson::unread).toList());
        return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n";
    }

    /** Diameters in thousandths of an inch, as needles are told in. */
    private static Map<String, Object> needle(NeedleProfile n) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("spacing", Quantity.trim(1e3 * n.spacingM(), 3) + " mm");
        m.put("unit", "thou");
        m.put("oneTurnWouldDo", n.level());
        m.put("stations", n.stations().stream().map(s -> {
            Map<String, Object> o = new LinkedHashMap<>();
            o.put("today", round(s.diameterM() / Units.THOU, 2));
            o.put("wanted", s.read() ? round(s.wantedM() / Units.THOU, 2) : null);
            o.put("low", s.read() ? round(s.lowM() / Units.THOU, 2) : null);
            o.put("high", s.read() ? round(s.highM() / Units.THOU, 2) : null);
            o.put("byFiling", s.read() && s.byFiling());
            o.put("dwellS", round(s.dwellS(), 1));
            return o;
        }).toList());
        return m;
    }

    private static Map<String, Object> pump(OpeningStudy.Finding f) {
        Map<String, Object> causes = new LinkedHashMap<>();
        f.causes().forEach((c, p) -> causes.put(c.key(), round(p, 3)));
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("openings", f.openings());
        m.put("causes", causes);
        m.put("leanAreaLambdaS", interval(f.lean()));
        m.put("leanAreaAfterLambdaS", interval(f.leanAfter()));
        Map<String, Object> others = ordered("count", f.others().count(), "leanAreaLambdaS", round(f.others().lean(),
                4));
        others.put("leanAreaAfterLambdaS", round(f.others().leanAfter(), 4));
        m.put("others", others);
        m.put("lagHides", round(f.hidden(), 2));
        m.put("look", f.look().map(OpeningStudy.Cause::key).orElse(null));
        return m;
    }

    private static Map<String, Object> interval(double[] v) {
        Map<String, Object> m = new LinkedHashMap<>(ordered("value", round(v[0], 4), "low", round(v[1], 4)));
        m.put("high", round(v[2], 4));
        return m;
    }

    private static Map<String, Object> unread(UnreadColumn u) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("column", u.index() + 1);
        m.put("title", u.title());
        m.put("looksLike", english(u.looksLike()));
        m.put("channel", u.as().map(c -> c.channel().key()).orElse(null));
        m.put("unit", u.as().map(ColumnPlan::unit).orElse(null));
        return m;
    }

    /** Two fields, always in this order. */
    private static Map<String, Object> ordered(String first, Object one, String second, Object other) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put(first, one);
        m.put(second, other);
        return m;
    }

    /** What programs read is the same in every language. */
    private static String english(Message m) {
        return Wording.ENGLISH.text(m);
    }

    private static List<String> english(List<Message> all) {
        return all.stream().map(AdviceJson::english).toList();
    }

    private static Map<String, Object> circuit(CircuitFinding c) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("circuit", c.circuit().key());
        m.put("side", c.circuit().stage().key());
        m.put("correction", round(c.correction(), 4));
        m.put("low", round(c.low(), 4));
        m.put("high", round(c.high(), 4));
        m.put("share", round(c.share(), 4));
        m.put("error", Double.isNaN(c.error()) ? null : round(c.error(), 4));
        m.put("status", c.status().key());
        m.put("slope", c.slope().map(AdviceJson::slope).orElse(null));
        m.put("confoundedWith", english(c.confoundedWith()));
        m.put("why", english(c.why()));
        m.put("settledBy", english(c.settledBy()));
        return m;
    }

    private static Map<String, Object> slope(Slope s) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("perDoubling", round(s.perDoubling(), 4));
        m.put("low", round(s.low(), 4));
        m.put("high", round(s.high(), 4));
        return m;
    }

    private static Map<String, Object> bank(BankFinding b) {
        List<Map<String, Object>> circuits = new ArrayList<>();
        for (Circuit c : b.inOrder()) {
            Map<String, Object> m = new LinkedHashMap<>();
            m.put("circuit", c.key());
            m.put("side", c.stage().key());
            m.put("correction", round(b.of(c).value(), 4));
            m.put("low", round(b.of(c).low(), 4));
            m.put("high", round(b.of(c).high(), 4));
            circuits.add(m);
        }
        return ordered("bank", b.bank(), "circuits", circuits);
    }

    private static Map<String, Object> hypothesis(Hypothesis h) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("cause", h.cause());
        m.put("probability", round(h.probability(), 4));
        m.put("evidence", english(h.evidence()));
        m.put("check", english(h.check()));
        return m;
    }

    /** Bands of one profile are one change: the profile as it is and as it is wanted, with the bands below. */
    private static List<Map<String, Object>> changes(List<Change> all) {
        List<Map<String, Object>> out = new ArrayList<>();
        Set<String> written = new HashSet<>();
        for (Change c : all) {
            if (c.profile().isEmpty()) {
                out.add(change(c));
            } else if (written.add(c.profile().get().key() + c.side())) {
                Change.Profile p = c.profile().get();
                Map<String, Object> m = change(c);
                m.put("part", p.key());
                m.put("spacing", Quantity.trim(1e3 * p.spacingM(), 3) + " mm");
                m.put("from", p.from().stream().map(v -> round(v, 3)).toList());
                m.put("to", p.to().stream().map(v -> round(v, 3)).toList());
                m.put("bands", all.stream().filter(x -> x.side() == c.side() && x.profile().map(Change.Profile::key)
                        .filter(p.key()::equals).isPresent()).map(AdviceJson::change).toList());
                out.add(m);
            }
        }
        return out;
    }

    private static Map<String, Object> change(Change c) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("part", c.part().key());
        m.put("side", c.side().key());
        m.put("circuit", c.circuit().key());
        m.put("from", round(c.from(), 3));
        m.put("to", round(c.to(), 3));
        m.put("unit", c.part().unit());
        c.part().kind(c.from()).ifPresent(k -> m.put("fromKind", k));
        c.part().kind(c.to()).ifPresent(k -> m.put("toKind", k));
        m.put("when", c.now() ? "now" : "after-reading-again");
        m.put("effort", round(c.effort(), 3));
        m.put("reasons", english(c.reasons()));
        m.put("recheck", english(c.recheck()));
        m.put("cautions", english(c.cautions()));
        return m;
    }

    private static Map<String, Object> changed(PartChange c) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("part", c.part().key());
        m.put("side", c.side().key());
        m.put("unit", c.part().unit());
        m.put("from", round(c.from(), 3));
        m.put("to", round(c.to(), 3));
        return m;
    }

    static Map<String, Object> prediction(RegimePrediction p) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("regime", p.before().regime().key());
        m.put("steadyS", round(p.before().dwellS(), 1));
        m.put("lambdaBefore", round(p.before().lambda(), 4));
        m.put("lambdaAfter", round(p.after().lambda(), 4));
        m.put("low", round(p.low(), 4));
        m.put("high", round(p.high(), 4));
        m.put("target", round(p.before().target(), 4));
        m.put("rmsBefore", round(p.before().rms(), 4));
        m.put("rmsAfter", round(p.after().rms(), 4));
        return m;
    }

    private static Map<String, Object> flag(FlagStretch f) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("kind", f.kind().name().toLowerCase(Locale.ROOT));
        m.put("fromS", round(f.fromS(), 2));
        m.put("toS", round(f.toS(), 2));
        m.put("share", round(f.share(), 5));
        return m;
    }

    private static Map<String, Object> scored(Previous.Scored p) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("regime", p.regime().key());
        m.put("predicted", round(p.predicted(), 4));
        m.put("low", round(p.low(), 4));
        m.put("high", round(p.high(), 4));
        m.put("measured", round(p.measured(), 4));
        m.put("within", p.within());
        return m;
    }

    private static Map<String, Object> school(RuleOfThumb s) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("question", english(s.question()));
        m.put("answers", s.answers().stream().map(x -> ordered("name", english(x.name()), "says",
                english(x.says()))).toList());
        m.put("followed", english(s.followed()));
        m.put("why", english(s.why()));
        return m;
    }

    private static Map<String, Object> carried(EarlierEstimate c) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("unknowns", c.names());
        m.put("mean", c.mean());
        List<double[]> rows = new ArrayList<>();
        for (int i = 0; i < c.mean().length; i++) {
            rows.add(Arrays.copyOf(c.covariance()[i], i + 1));
        }
        m.put("covariance", rows);
        m.put("enrichmentShiftInHg", round(c.shiftPa() / Units.INHG, 4));
        m.put("enrichmentShiftSdInHg", round(c.shiftSdPa() / Units.INHG, 4));
        return m;
    }

    /** Rounded; long traces go through here, so without text in between. */
    static double round(double v, int decimals) {
        double f = Math.pow(10, decimals);
        return Math.rint(v * f) / f + 0.0;
    }

    /** {@return the part keys this format can name, for the schema's own test} */
    public static List<String> partKeys() {
        return nariz.carburetor.Families.parts().stream().map(nariz.carburetor.Part::key).toList();
    }
}
