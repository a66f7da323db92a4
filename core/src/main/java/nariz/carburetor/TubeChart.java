package nariz.carburetor;

import static nariz.text.Message.message;

import de.siegmar.fastcsv.reader.CsvRecord;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.text.Message;
import nariz.units.Dimension;

/**
 * Emulsion tubes by the letter stamped on them: a user's own table, one row of holes a line. The first line is "tube,
 * depth (mm), diameter (mm), holes"; a line without a letter belongs to the tube above it.
 *
 * @param tubes tubes in the order of the table
 */
public record TubeChart(List<Tube> tubes) {
    private static final String NAME = "tube";
    private static final String WHOLE = "[1-9][0-9]?";
    private static final int DEPTH = 1;
    private static final int DIAMETER = 2;
    private static final int HOLES = 3;

    /**
     * A row of holes.
     *
     * @param depthM depth below the fuel level of a still engine, m, more than 0
     * @param diameterM diameter of each hole, m
     * @param holes how many there are in the row, 1 to 99
     */
    public record Row(double depthM, double diameterM, int holes) {
    }

    /**
     * A tube of the table.
     *
     * @param letter what is stamped on it
     * @param rows rows from the top
     */
    public record Tube(String letter, List<Row> rows) {
        /** Copies the list. */
        public Tube {
            rows = List.copyOf(rows);
        }
    }

    /** Copies the list. */
    public TubeChart {
        tubes = List.copyOf(tubes);
    }

    /**
     * Reads a table.
     *
     * @param file CSV
     * @return the chart
     * @throws InputProblem with line and column for what cannot be
     */
    public static TubeChart read(Path file) {
        return parse(String.valueOf(file.getFileName()), ChartTable.text(file,
                message("problem.a-tube-chart-is-short")));
    }

    /**
     * Reads a table.
     *
     * @param source name for messages
     * @param csv the table
     * @return the chart
     * @throws InputProblem for what cannot be
     */
    public static TubeChart parse(String source, String csv) {
        Message remedy = message("problem.tube-chart-header");
        ChartTable table = ChartTable.parse(source, csv, NAME, remedy);
        List<String> header = table.header();
        for (int c = DEPTH; c <= HOLES; c++) {
            boolean length = c != HOLES;
            if (c >= header.size() || (length && Dimension.LENGTH.unit(ChartTable.unit(header.get(c))).isEmpty())) {
                throw new InputProblem(source, 1, c + 1, "", c < header.size() ? Message.literal(header.get(c))
                        : message("problem.nothing"), remedy);
            }
        }
        Map<String, List<Row>> out = new LinkedHashMap<>();
        String letter = "";
        for (CsvRecord line : table.lines()) {
            String stamped = line.getField(0).trim();
            if (!stamped.isEmpty() && !stamped.equalsIgnoreCase(letter)) {
                if (out.keySet().stream().anyMatch(stamped::equalsIgnoreCase)) {
                    throw table.problem(line, 0, message("problem.tube-stands-twice"));
                }
                letter = stamped;
            }
            if (letter.isEmpty()) {
                throw table.problem(line, 0, message("problem.tube-without-letter"));
            }
            List<Row> rows = out.computeIfAbsent(letter, k -> new ArrayList<>());
            Row row = new Row(length(table, line, DEPTH), length(table, line, DIAMETER), holes(table, line));
            if (!rows.isEmpty() && row.depthM() <= rows.getLast().depthM()) {
                throw table.problem(line, DEPTH, message("problem.tube-rows-go-down"));
            }
            rows.add(row);
        }
        return new TubeChart(out.entrySet().stream().map(e -> new Tube(e.getKey(), e.getValue())).toList());
    }

    private static double length(ChartTable table, CsvRecord line, int column) {
        return Optional.of(line).filter(l -> column < l.getFieldCount()).flatMap(l -> table.length(l.getField(
                column).trim(), ChartTable.unit(table.header().get(column)))).orElseThrow(() -> table.problem(line,
                column, message("problem.chart-number")));
    }

    private static int holes(ChartTable table, CsvRecord line) {
        String text = line.getFieldCount() > HOLES ? line.getField(HOLES).trim() : "";
        if (!text.matches(WHOLE)) {
            throw table.problem(line, HOLES, message("problem.tube-holes-whole"));
        }
        return Integer.parseInt(text);
    }

    /**
     * A tube by its letter.
     *
     * @param letter what is stamped on it; small letters are capitals
     * @return the tube; empty where the table has none of that letter
     */
    public Optional<Tube> tube(String letter) {
        return tubes.stream().filter(t -> t.letter().equalsIgnoreCase(letter.trim())).findFirst();
    }
}
