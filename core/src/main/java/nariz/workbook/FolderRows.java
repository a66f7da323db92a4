package nariz.workbook;

import static nariz.text.Message.message;

import java.time.DateTimeException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Families;
import nariz.carburetor.InputProblem;
import nariz.log.PlanJson;
import org.jdbi.v3.core.Handle;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** Rows of an exported folder: looked at value by value before they go into a workbook. */
final class FolderRows {
    private static final Set<String> KEYS = Set.of("id", "vehicle", "previous", "build_sheet", "raw_file", "run",
            "plan");
    private static final Set<String> COUNTS = Set.of("size", "samples", "header_line", "problem_count");
    private static final Set<String> INSTANTS = Set.of("created", "imported", "used");
    private static final Set<String> NUMBERS = Set.of("duration", "start_clock", "time", "from_s", "to_s", "at_s");
    private static final Set<String> MAY_BE_MISSING = Set.of("previous", "raw_file", "start_clock", "at_s", "run");
    private static final JsonMapper MAPPER = JsonMapper.builder().build();

    private FolderRows() {
    }

    /**
     * Puts a row in.
     *
     * @param h database
     * @param t its table
     * @param index place in the list, from 0
     * @param row values by column
     * @throws InputProblem when a value cannot be what its column says
     */
    static void insert(Handle h, SealedTable t, int index, Map<?, ?> row) {
        for (Object name : row.keySet()) {
            if (!t.columns().contains(String.valueOf(name))) {
                throw problem(t, index, String.valueOf(name), String.valueOf(name));
            }
        }
        var u = h.createUpdate("INSERT INTO " + t.table() + " (" + String.join(", ", t.columns()) + ") VALUES ("
                + String.join(", ", java.util.Collections.nCopies(t.columns().size(), "?")) + ")");
        int i = 0;
        for (String c : t.columns()) {
            Object v = row.get(c);
            if (v == null ? !MAY_BE_MISSING.contains(c) : !sound(t, c, v)) {
                throw problem(t, index, c, v);
            }
            u.bind(i++, v);
        }
        u.execute();
    }

    private static InputProblem problem(SealedTable t, int index, String column, @Nullable Object found) {
        String s = String.valueOf(found);
        return new InputProblem("workbook.json", 0, 0, t.table() + "[" + index + "]." + column, "\"" + (s.length() > 60
                ? s.substring(0, 60) + "..." : s) + "\"", message("problem.export-the-workbook-again"));
    }

    private static boolean sound(SealedTable t, String c, Object v) {
        boolean key = KEYS.contains(c) && !(t == SealedTable.RUN && c.equals("plan"));
        if (key) {
            return whole(v) && ((Number) v).longValue() > 0;
        }
        if (COUNTS.contains(c) && !(t == SealedTable.PLANNED && c.equals("size"))) {
            return whole(v) && ((Number) v).longValue() >= 0;
        }
        if (NUMBERS.contains(c) || (t == SealedTable.PLANNED && c.equals("size"))) {
            return v instanceof Number n && Double.isFinite(n.doubleValue()) && (!c.equals("duration")
                    || n.doubleValue() >= 0);
        }
        if (c.equals("deleted")) {
            return whole(v) && (((Number) v).longValue() == 0 || ((Number) v).longValue() == 1);
        }
        return v instanceof String s && text(t, c, s);
    }

    private static boolean whole(Object v) {
        return v instanceof Integer || v instanceof Long;
    }

    /** Texts that mean something must mean it here too: what cannot be read back must not go in. */
    private static boolean text(SealedTable t, String c, String s) {
        try {
            if (INSTANTS.contains(c)) {
                Instant.parse(s);
            } else if (t == SealedTable.BUILD_SHEET && c.equals("json")) {
                BuildSheetReader.parse("build_sheet", s);
            } else if ((t == SealedTable.RUN && c.equals("plan")) || (t == SealedTable.PROFILE && c.equals("json"))) {
                PlanJson.parse("plan", s);
            } else if (c.equals("problems")) {
                Problems.parse(s);
            } else if (t == SealedTable.ADVICE && c.equals("json")) {
                MAPPER.readValue(s, Map.class);
            } else if (t == SealedTable.PLANNED && c.equals("part")) {
                return Families.parts().stream().anyMatch(p -> p.key().equals(s));
            } else if (t == SealedTable.PLANNED && c.equals("side")) {
                return List.of("primary", "secondary").contains(s);
            } else if (c.equals("sha256")) {
                return Inside.sha256(s);
            }
            return true;
        } catch (InputProblem | DateTimeException | tools.jackson.core.JacksonException | ClassCastException
                | NullPointerException | IllegalArgumentException e) {
            return false;
        }
    }
}
