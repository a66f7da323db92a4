package nariz.workbook;

import java.util.Arrays;
import java.util.List;

/** The tables of a workbook whose rows carry a sum, in the order in which they can be filled. */
enum SealedTable {
    VEHICLE("vehicle", "id", "id, name, created"),
    BUILD_SHEET("build_sheet", "id", "id, vehicle, previous, json, created"),
    RECORDING("recording", "id", "id, build_sheet, name, plan, started"),
    RECORDED("recorded", "recording || '/' || part", "recording, part, lines"),
    RAW_FILE("raw_file", "id", "id, sha256, name, size"),
    RAW_PART("raw_part", "raw_file || '/' || part", "raw_file, part, packed"),
    RUN("run", "id", "id, vehicle, build_sheet, raw_file, name, imported, samples, duration, start_clock, header_line, "
            + "plan, preamble, problems, problem_count, deleted"),
    CHUNK("chunk", "run || '/' || channel || '/' || part", "run, channel, part, packed"),
    MARK("mark", "id", "id, run, time, text"),
    EXCLUDED("excluded", "id", "id, run, from_s, to_s, reason"),
    NOTE("note", "id", "id, vehicle, run, text, created, at_s"),
    LOOKED_FOR("looked_for", "id", "id, run, cause, created"),
    ADVICE("advice", "id", "id, run, strategy, json, created"),
    PROFILE("profile", "signature", "signature, json, used"),
    PLAN("plan", "id", "id, vehicle, build_sheet, name, created"),
    PLANNED("planned", "plan || '/' || part || '/' || side", "plan, part, side, size");

    private final String table;
    private final String key;
    private final String columns;

    SealedTable(String table, String key, String columns) {
        this.table = table;
        this.key = key;
        this.columns = columns;
    }

    String table() {
        return table;
    }

    /** The key of a row, as the seals have it. */
    String key() {
        return "CAST(" + key + " AS TEXT)";
    }

    List<String> columns() {
        return Arrays.asList(columns.split(", "));
    }

    /** Whether rows are large: their sums are looked at when they are read, not when the workbook is opened. */
    boolean large() {
        return this == CHUNK || this == RAW_PART || this == RECORDED;
    }

    /** Keys of rows whose sum is not theirs, or that have none. */
    String spoiled(String where) {
        return "SELECT k FROM (SELECT " + key() + " AS k, row_sum(" + columns + ") AS s FROM main." + table + where
                + ") LEFT JOIN main.seal ON tab = '" + table + "' AND seal.key = k WHERE seal.sum IS NOT s";
    }

    /** Keys of rows that are gone. */
    String gone() {
        return "SELECT key FROM main.seal WHERE tab = '" + table + "' AND key NOT IN (SELECT " + key() + " FROM main."
                + table + ")";
    }
}
