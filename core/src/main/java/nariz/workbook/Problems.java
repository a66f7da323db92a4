package nariz.workbook;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import nariz.log.LogProblem;
import nariz.text.MessageJson;
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
            m.put("found", MessageJson.of(p.found()));
            m.put("done", MessageJson.of(p.done()));
            return m;
        }).toList());
    }

    static List<LogProblem> parse(String json) {
        List<LogProblem> out = new ArrayList<>();
        for (Map<String, Object> m : MAPPER.readValue(json, new TypeReference<List<Map<String, Object>>>() { })) {
            out.add(new LogProblem(((Number) m.get("line")).longValue(), ((Number) m.get("column")).intValue(),
                    (String) m.get("channel"), MessageJson.read(m.get("found")), MessageJson.read(m.get("done"))));
        }
        return out;
    }
}
