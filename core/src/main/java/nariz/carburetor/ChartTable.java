package nariz.carburetor;

import static nariz.text.Message.message;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import nariz.text.Message;
import nariz.units.Dimension;
import nariz.units.Quantity;

/** A user's own short table of parts that can be had, whose first line says what its columns are. */
final class ChartTable {
    private static final Pattern UNIT = Pattern.compile("\\(([^)]*)\\)");
    private static final List<Character> SEPARATORS = List.of(';', '\t');

    private static final int LONGEST_BYTES = 1_000_000;

    private final String source;
    private final List<CsvRecord> rows;
    /** Where a comma stands between no columns it is a decimal one. */
    private final boolean decimalCommas;

    private ChartTable(String source, List<CsvRecord> rows, boolean decimalCommas) {
        this.source = source;
        this.rows = rows;
        this.decimalCommas = decimalCommas;
    }

    /**
     * Text of a table's file.
     *
     * @param file CSV
     * @param tooLong what is said of a file that is too long for such a table
     * @return the text
     * @throws InputProblem for what cannot be read
     */
    static String text(Path file, Message tooLong) {
        return TextFile.read(file, LONGEST_BYTES, tooLong, message("problem.save-the-chart-as"));
    }

    /**
     * Reads a table: commas between its columns, or the semicolons or tabs that stand in its first line.
     *
     * @param source name for messages
     * @param csv the table
     * @param first what its first column is called
     * @param remedy what the first line ought to be
     * @return the table
     * @throws InputProblem where the first line is another, or quotation marks do not end
     */
    static ChartTable parse(String source, String csv, String first, Message remedy) {
        String header = csv.lines().filter(l -> !l.isBlank()).findFirst().orElse("");
        char separator = SEPARATORS.stream().filter(s -> header.indexOf(s) >= 0).findFirst().orElse(',');
        List<CsvRecord> rows;
        try (CsvReader<CsvRecord> reader = CsvReader.builder().fieldSeparator(separator).extraFieldStrategy(
                FieldMismatchStrategy.IGNORE).missingFieldStrategy(FieldMismatchStrategy.IGNORE).skipEmptyLines(true)
                .ofCsvRecord(csv)) {
            rows = reader.stream().filter(r -> r.getFields().stream().anyMatch(f -> !f.isBlank())).toList();
        } catch (CsvParseException | IOException e) {
            throw new InputProblem(source, 1, 1, "", message("problem.nothing"), remedy);
        }
        if (rows.isEmpty() || !first.equalsIgnoreCase(rows.getFirst().getField(0).trim())) {
            throw new InputProblem(source, 1, 1, "", rows.isEmpty() ? message("problem.nothing") : Message.literal(rows
                    .getFirst().getField(0)), remedy);
        }
        return new ChartTable(source, rows, separator != ',');
    }

    /** {@return names of the columns} */
    List<String> header() {
        return rows.getFirst().getFields();
    }

    /** {@return every line below the first that is not empty} */
    List<CsvRecord> lines() {
        return rows.subList(1, rows.size());
    }

    /**
     * The unit in the brackets of a column's name.
     *
     * @param name name of the column
     * @return what stands in the brackets; empty without any
     */
    static String unit(String name) {
        Matcher m = UNIT.matcher(name);
        return m.find() ? m.group(1).trim() : "";
    }

    /**
     * A length of a line.
     *
     * @param text what stands there
     * @param unit unit of a bare number
     * @return more than 0, m; empty where it is none
     */
    Optional<Double> length(String text, String unit) {
        String number = decimalCommas ? text.replace(',', '.') : text;
        return Quantity.parse(unit.isEmpty() ? number : number + " " + unit, Dimension.LENGTH).map(Quantity::si).filter(
                v -> v > 0.0);
    }

    /**
     * What is wrong with a line.
     *
     * @param row the line
     * @param column column from 0
     * @param remedy what to write
     * @return to be thrown
     */
    InputProblem problem(CsvRecord row, int column, Message remedy) {
        return new InputProblem(source, (int) row.getStartingLineNumber(), column + 1, row.getField(0),
                Message.literal(column < row.getFieldCount() ? row.getField(column).trim() : ""), remedy);
    }
}
