package nariz.store;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import nariz.log.LogProblem;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** A list of problems as JSON text in the workbook. */
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
            m.put("found", p.found());
            m.put("done", p.done());
            return m;
        }).toList());
    }

    static List<LogProblem> parse(String json) {
        return MAPPER.readValue(json, new TypeReference<List<Map<String, Object>>>() { }).stream()
                .map(m -> new LogProblem(((Number) m.get("line")).longValue(), ((Number) m.get("column")).intValue(),
                        (String) m.get("channel"), (String) m.get("found"), (String) m.get("done"))).toList();
    }
}
