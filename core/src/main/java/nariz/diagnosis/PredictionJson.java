package nariz.diagnosis;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import nariz.carburetor.PartChange;
import tools.jackson.databind.json.JsonMapper;

/** Predictions as JSON, format {@code nariz-prediction/1} (docs/formats/prediction.schema.json). */
public final class PredictionJson {
    /** The format's name and version. */
    public static final String FORMAT = "nariz-prediction/1";

    private PredictionJson() {
    }

    /**
     * Writes a prediction.
     *
     * @param p prediction
     * @return JSON, ends in a newline
     */
    public static String write(Prediction p) {
        Map<String, Object> root = new LinkedHashMap<>();
        root.put("format", FORMAT);
        root.put("changes", p.changes().stream().map(PredictionJson::change).toList());
        root.put("predicted", p.regimes().stream().map(AdviceJson::prediction).toList());
        List<Double> time = new ArrayList<>(p.timeS().length);
        List<Double> lambda = new ArrayList<>(p.timeS().length);
        for (int i = 0; i < p.timeS().length; i++) {
            time.add(AdviceJson.round(p.timeS()[i], 3));
            lambda.add(Double.isNaN(p.lambda()[i]) ? null : AdviceJson.round(p.lambda()[i], 4));
        }
        root.put("timeS", time);
        root.put("lambda", lambda);
        return JsonMapper.builder().build().writeValueAsString(root) + "\n";
    }

    private static Map<String, Object> change(PartChange c) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("part", c.part().key());
        m.put("side", c.side().key());
        m.put("from", AdviceJson.round(c.from(), 3));
        m.put("to", AdviceJson.round(c.to(), 3));
        m.put("unit", c.part().unit());
        return m;
    }
}
