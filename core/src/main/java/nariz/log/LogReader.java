package nariz.log;

import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.function.BooleanSupplier;
import nariz.build.BuildSheet;
import nariz.build.InputProblem;
import nariz.units.Quantity;
import nariz.units.Units;

/**
 * Reads a drive log from delimited text: comma, semicolon or tab; a header line that names columns and units; comment
 * lines that start with {@code #}; UTF-8.
 *
 * <p>Needed: time, engine speed, manifold vacuum (or absolute pressure) and lambda or AFR. AFR is taken on the petrol
 * scale (lambda times 14.7), as gauges show it whatever the fuel. A cell that is no number or cannot be true becomes
 * NaN, a row that is short or goes back in time is left out; each is listed with line and column. When more than one
 * cell in five of a needed column is unusable, or the numbers cannot be what their header says, the file is refused
 * with the first such place.
 */
public final class LogReader {
    private static final int LISTED = 300;
    private static final int PEEK = 65536;
    private static final double WORST_SHARE = 0.2;
    private static final double SHORTEST_S = 10.0;
    private static final int FEWEST = 50;

    private final String source;
    private final BuildSheet sheet;
    private final BooleanSupplier cancelled;
    private final List<LogProblem> problems = new ArrayList<>();
    private long problemCount;
    private List<HeaderMatch.Column> columns = List.of();
    private int width;
    private long headerLine;
    private DoubleList[] data = {};
    private long[] badCells = {};
    private LogProblem[] firstBad = {};

    private LogReader(String source, BuildSheet sheet, BooleanSupplier cancelled) {
        this.source = source;
        this.sheet = sheet;
        this.cancelled = cancelled;
    }

    /**
     * Reads a file.
     *
     * @param file the log
     * @param sheet the build it was recorded on; gives fuel and barometer
     * @return the drive
     * @throws InputProblem when it cannot be used; nothing else is thrown for bad content
     */
    public static DriveLog read(Path file, BuildSheet sheet) {
        return read(file, sheet, () -> false);
    }

    /**
     * Reads a file, giving up when told to.
     *
     * @param file the log
     * @param sheet the build it was recorded on
     * @param cancelled asked now and then; true ends the reading
     * @return the drive
     * @throws InputProblem when it cannot be used
     * @throws java.util.concurrent.CancellationException when cancelled
     */
    public static DriveLog read(Path file, BuildSheet sheet, BooleanSupplier cancelled) {
        String name = String.valueOf(file.getFileName());
        try (InputStream in = Files.newInputStream(file)) {
            return read(name, in, sheet, cancelled);
        } catch (IOException | UncheckedIOException e) {
            throw new InputProblem(name, 0, 0, "", "a file that cannot be read (" + e.getClass().getSimpleName() + ")",
                    "Check that it exists and that you may read it.");
        }
    }

    /**
     * Reads a stream.
     *
     * @param name name for messages
     * @param in UTF-8 text; not closed
     * @param sheet the build it was recorded on
     * @param cancelled asked now and then; true ends the reading
     * @return the drive
     * @throws IOException when the stream fails
     * @throws InputProblem when it cannot be used
     */
    public static DriveLog read(String name, InputStream in, BuildSheet sheet, BooleanSupplier cancelled)
            throws IOException {
        BufferedInputStream buffered = new BufferedInputStream(in, PEEK);
        buffered.mark(PEEK);
        byte[] head = buffered.readNBytes(PEEK - 1);
        buffered.reset();
        rejectNonText(name, head);
        if (head.length >= 3 && (head[0] & 0xff) == 0xef) {
            buffered.skipNBytes(3);
        }
        LogReader r = new LogReader(name, sheet, cancelled);
        return r.parse(new InputStreamReader(buffered, StandardCharsets.UTF_8),
                new String(head, StandardCharsets.UTF_8));
    }

    private static void rejectNonText(String name, byte[] head) {
        if (head.length == 0) {
            throw new InputProblem(name, 1, 1, "", "an empty file",
                    "Export the log again; a header line and readings are needed.");
        }
        long line = 1;
        int odd = 0;
        for (int i = 0; i < head.length; i++) {
            int b = head[i] & 0xff;
            if (b == '\n') {
                line++;
            }
            odd += b < 9 || (b > 13 && b < 32) ? 1 : 0;
            if (b == 0 || odd > 20) {
                throw new InputProblem(name, line, i + 1, "", "bytes that are not text",
                        "This looks like a binary file; export the log as CSV text (UTF-8).");
            }
        }
    }

    private DriveLog parse(Reader text, String head) {
        char separator = separator(head);
        CsvReader.CsvReaderBuilder builder = CsvReader.builder().fieldSeparator(separator)
                .commentStrategy(CommentStrategy.SKIP).extraFieldStrategy(FieldMismatchStrategy.IGNORE)
                .missingFieldStrategy(FieldMismatchStrategy.IGNORE).allowUnclosedQuote(false).skipEmptyLines(true);
        boolean commaDecimals = separator != ',';
        long line = 0;
        try {
            Iterator<CsvRecord> records = builder.ofCsvRecord(text).iterator();
            header(records, separator);
            long rows = 0;
            while (records.hasNext()) {
                CsvRecord row = records.next();
                line = row.getStartingLineNumber();
                row(row, line, commaDecimals);
                if ((++rows & 0xfff) == 0 && cancelled.getAsBoolean()) {
                    throw new java.util.concurrent.CancellationException("reading " + source + " was cancelled");
                }
            }
        } catch (CsvParseException e) {
            String why = String.valueOf(e.getCause() == null ? e.getMessage() : e.getCause().getMessage());
            throw new InputProblem(source, line + 1, 1, "", "text that is not a table (" + shorten(why) + ")",
                    "Look for a quotation mark that is never closed, or a line without an end.");
        }
        return finish();
    }

    private static String shorten(String s) {
        return s.length() > 80 ? s.substring(0, 80) + "..." : s;
    }

    private static char separator(String head) {
        String first = head.lines().filter(l -> !l.isBlank() && !l.startsWith("#")).findFirst().orElse("");
        char best = ',';
        for (char c : new char[] {';', '\t'}) {
            if (count(first, c) > count(first, best)) {
                best = c;
            }
        }
        return best;
    }

    private static long count(String s, char c) {
        return s.chars().filter(x -> x == c).count();
    }

    private void header(Iterator<CsvRecord> records, char separator) {
        if (!records.hasNext()) {
            throw new InputProblem(source, 1, 1, "", "no header line",
                    "The first line names the columns, for example time_s,rpm,vacuum_inHg,afr.");
        }
        CsvRecord first = records.next();
        headerLine = first.getStartingLineNumber();
        width = first.getFieldCount();
        columns = HeaderMatch.match(source, headerLine, first.getFields());
        if (columns.isEmpty()) {
            throw new InputProblem(source, headerLine, 1, "", "a first line that names no known column (\""
                    + shorten(String.join(String.valueOf(separator), first.getFields())) + "\")",
                    "Name the columns in the first line, for example time_s,rpm,vacuum_inHg,afr.");
        }
        need(Channel.TIME, null);
        need(Channel.RPM, null);
        need(Channel.VACUUM, Channel.MAP);
        need(Channel.LAMBDA, Channel.AFR);
        data = new DoubleList[columns.size()];
        badCells = new long[columns.size()];
        firstBad = new LogProblem[columns.size()];
        for (int i = 0; i < data.length; i++) {
            data[i] = new DoubleList();
        }
    }

    private void need(Channel c, Channel or) {
        if (columns.stream().noneMatch(x -> x.channel() == c || x.channel() == or)) {
            String names = c.header() + (or == null ? "" : " or " + or.header());
            throw new InputProblem(source, headerLine, 0, "", "no column for " + c.label(),
                    "Add or rename a column to " + names + ".");
        }
    }

    /** The hot loop: one call a row. */
    private void row(CsvRecord row, long line, boolean commaDecimals) {
        if (row.getFieldCount() < width) {
            note(new LogProblem(line, row.getFieldCount(), "", "a row of " + row.getFieldCount() + " fields where the "
                    + "header has " + width, "the row was left out"));
            return;
        }
        double[] values = new double[columns.size()];
        for (int i = 0; i < values.length; i++) {
            HeaderMatch.Column c = columns.get(i);
            values[i] = cell(row.getField(c.index()), i, c, line, commaDecimals);
        }
        int t = timeColumn();
        boolean late = data[t].size() > 0 && !(values[t] > data[t].last());
        if (Double.isNaN(values[t]) || late) {
            note(new LogProblem(line, columns.get(t).index() + 1, columns.get(t).title(),
                    late ? "a time that does not rise" : "no time", "the row was left out"));
            return;
        }
        for (int i = 0; i < values.length; i++) {
            data[i].add(values[i]);
        }
    }

    private int timeColumn() {
        for (int i = 0; i < columns.size(); i++) {
            if (columns.get(i).channel() == Channel.TIME) {
                return i;
            }
        }
        throw new IllegalStateException("header() checked for a time column");
    }

    private double cell(String raw, int i, HeaderMatch.Column c, long line, boolean commaDecimals) {
        String s = raw.trim();
        if (s.isEmpty() || "nan".equalsIgnoreCase(s) || "-".equals(s)) {
            return Double.NaN;
        }
        double v;
        try {
            v = Double.parseDouble(commaDecimals ? s.replace(',', '.') : s);
        } catch (NumberFormatException e) {
            bad(i, new LogProblem(line, c.index() + 1, c.title(), "\"" + shorten(s) + "\" where a number belongs",
                    "the reading was left out"));
            return Double.NaN;
        }
        double si = v * c.unit().factor() + c.unit().shift();
        if (!(si >= c.channel().lowest() && si <= c.channel().highest())) {
            bad(i, new LogProblem(line, c.index() + 1, c.title(),
                    shorten(s) + ", outside what " + c.channel().label() + " can be", "the reading was left out"));
            return Double.NaN;
        }
        return si;
    }

    private void bad(int i, LogProblem p) {
        badCells[i]++;
        if (firstBad[i] == null) {
            firstBad[i] = p;
        }
        note(p);
    }

    private void note(LogProblem p) {
        problemCount++;
        if (problems.size() < LISTED) {
            problems.add(p);
        }
    }

    private DriveLog finish() {
        Map<Channel, double[]> out = new EnumMap<>(Channel.class);
        int rows = data[0].size();
        for (int i = 0; i < columns.size(); i++) {
            rejectIfHopeless(i, rows);
            out.put(columns.get(i).channel(), data[i].toArray());
            data[i] = new DoubleList();
        }
        if (rows < FEWEST) {
            String more = problems.isEmpty() ? "" : "; first problem: " + problems.getFirst().text();
            throw new InputProblem(source, headerLine, 0, "", rows + " usable rows" + more,
                    "At least " + FEWEST + " rows over " + (int) SHORTEST_S + " s are needed; check that the export "
                            + "is complete.");
        }
        toVacuum(out);
        toLambda(out, Channel.AFR, Channel.LAMBDA);
        toLambda(out, Channel.AFR_2, Channel.LAMBDA_2);
        DriveLog log = new DriveLog(source, out, problems, problemCount);
        rejectIfTooShort(log);
        LogPlausibility.check(source, headerLine, columns, log, sheet);
        return log;
    }

    private void rejectIfTooShort(DriveLog log) {
        if (log.durationS() < SHORTEST_S) {
            throw new InputProblem(source, headerLine, 0, "", "a log of "
                    + Quantity.trim(log.durationS(), 2) + " s", "At least " + (int) SHORTEST_S
                    + " s are needed; if the time column is in milliseconds, name it time_ms.");
        }
    }

    private void rejectIfHopeless(int i, int rows) {
        HeaderMatch.Column c = columns.get(i);
        if (firstBad[i] != null && badCells[i] > WORST_SHARE * Math.max(rows, 1)) {
            LogProblem p = firstBad[i];
            throw new InputProblem(source, p.line(), p.column(), p.channel(), p.found() + " (and " + (badCells[i] - 1)
                    + " more like it)", "Check that this column really is " + c.channel().label() + " and that its "
                    + "unit is named rightly in the header, for example " + c.channel().header() + ".");
        }
    }

    private void toVacuum(Map<Channel, double[]> out) {
        double[] map = out.remove(Channel.MAP);
        if (map != null && !out.containsKey(Channel.VACUUM)) {
            for (int i = 0; i < map.length; i++) {
                map[i] = sheet.ambient().pressurePa() - map[i];
            }
            out.put(Channel.VACUUM, map);
        }
    }

    private static void toLambda(Map<Channel, double[]> out, Channel afr, Channel lambda) {
        double[] v = out.remove(afr);
        if (v != null && !out.containsKey(lambda)) {
            for (int i = 0; i < v.length; i++) {
                v[i] /= Units.PETROL_GAUGE_STOICH;
            }
            out.put(lambda, v);
        }
    }
}
