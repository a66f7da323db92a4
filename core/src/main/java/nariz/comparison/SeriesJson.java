package nariz.comparison;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import nariz.diagnosis.Regime;
import nariz.text.Message;
import nariz.text.Wording;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** A trial series as JSON, format {@code nariz-series/1} (docs/formats/series.schema.json). */
public final class SeriesJson {
    /** The format's name and version. */
    public static final String FORMAT = "nariz-series/1";
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private SeriesJson() {
    }

    /**
     * Writes a series.
     *
     * @param s series
     * @return indented JSON, ends in a newline
     */
    public static String write(TrialSeries s) {
        Map<String, @Nullable Object> root = new LinkedHashMap<>();
        root.put("format", FORMAT);
        root.put("part", s.part().key());
        root.put("side", s.stage().key());
        root.put("unit", s.part().unit());
        root.put("sentence", english(s.sentence()));
        List<Map<String, Object>> trials = new ArrayList<>();
        for (TrialSeries.Trial t : s.trials()) {
            Map<String, Object> m = new LinkedHashMap<>();
            m.put("name", t.name());
            m.put("size", t.size());
            m.put("score", round(t.score()));
            m.put("scoreSd", round(t.scoreSd()));
            List<Map<String, Object>> regimes = new ArrayList<>();
            for (Regime r : s.regimes()) {
                double[] e = t.errors().getOrDefault(r, new double[4]);
                Map<String, Object> x = new LinkedHashMap<>();
                x.put("regime", r.key());
                x.put("error", round(e[0]));
                x.put("low", round(e[1]));
                x.put("high", round(e[2]));
                x.put("rms", round(e[3]));
                regimes.add(x);
            }
            m.put("regimes", regimes);
            trials.add(m);
        }
        root.put("trials", trials);
        root.put("best", s.best());
        root.put("told", s.told());
        root.put("next", s.next().orElse(null));
        root.put("warnings", s.warnings().stream().map(SeriesJson::english).toList());
        return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n";
    }

    private static double round(double v) {
        return Math.rint(1e4 * v) / 1e4 + 0.0;
    }

    /** What programs read is the same in every language. */
    private static String english(Message m) {
        return Wording.ENGLISH.text(m);
    }
}
