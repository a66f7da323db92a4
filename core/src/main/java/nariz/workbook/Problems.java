package nariz.workbook;

import static nariz.text.Message.literal;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import nariz.log.LogProblem;
import nariz.text.Measure;
import nariz.text.Message;
import org.jspecify.annotations.NullUnmarked;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * A list of problems as JSON text in the workbook: codes with their values, so that they are told in the language of
 * whoever reads. What older workbooks keep as text is told as it stands.
 */
// Reads what this program wrote; anything else ends as a damaged workbook.
@NullUnmarked
final class Problems {
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private Problems() {
    }

    static String write(List<LogProblem> problems) {
        return MAPPER.writeValueAsString(problems.stream().map(p -> {
            Map<String, Object> m = new LinkedHashMap<>();
            m.put("line", p.line());
            m.put("column", p.column());
            m.put("channel", p.channel());
            m.put("found", json(p.found()));
            m.put("done", json(p.done()));
            return m;
        }).toList());
    }

    static List<LogProblem> parse(String json) {
        List<LogProblem> out = new ArrayList<>();
        for (Map<String, Object> m : MAPPER.readValue(json, new TypeReference<List<Map<String, Object>>>() { })) {
            out.add(new LogProblem(((Number) m.get("line")).longValue(), ((Number) m.get("column")).intValue(),
                    (String) m.get("channel"), message(m.get("found")), message(m.get("done"))));
        }
        return out;
    }

    private static Map<String, Object> json(Message m) {
        Map<String, Object> out = new LinkedHashMap<>();
        out.put("code", m.code());
        out.put("values", m.values().stream().map(v -> switch (v) {
            case Message inner -> json(inner);
            case Measure q -> measure(q);
            default -> v;
        }).toList());
        return out;
    }

    /** Two fields, always in this order: what is written twice is the same twice. */
    private static Map<String, Object> measure(Measure q) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("measure", q.kind().name());
        m.put("si", q.si());
        return m;
    }

    private static Message message(Object json) {
        if (!(json instanceof Map<?, ?> m)) {
            return literal(String.valueOf(json));
        }
        List<Object> values = new ArrayList<>();
        for (Object v : (List<?>) m.get("values")) {
            values.add(!(v instanceof Map<?, ?> inner) ? v : inner.containsKey("measure")
                    ? new Measure(Measure.Kind.valueOf((String) inner.get("measure")), ((Number) inner.get("si"))
                            .doubleValue()) : message(inner));
        }
        return Message.restored((String) m.get("code"), values);
    }
}
