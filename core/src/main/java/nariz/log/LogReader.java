package nariz.log;

import static nariz.text.Message.message;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import nariz.units.Quantity;
import org.jspecify.annotations.Nullable;

/**
 * Reads drive logs: delimited text (comma, semicolon, tab; decimal point or comma; UTF-8, UTF-16, Latin-1) and
 * spreadsheets (.xlsx, .ods). Lines above the header, a row of units below it and comment lines that start with
 * {@code #} are understood.
 *
 * <p>Needed: time (seconds, milliseconds, clock time, or a sample rate), engine speed, manifold vacuum (or absolute
 * pressure) and lambda or AFR. AFR is taken on the petrol scale (lambda times 14.7), as gauges show it whatever the
 * fuel. A cell that is no number or cannot be true becomes NaN, a row that is short or repeats a time is left out, a
 * clock that steps back goes on from where it was; each is listed with line and column. When more than one cell in five
 * of a needed column is unusable, or the numbers cannot be what their header says, the file is refused with the first
 * such place.
 *
 * <p>{@link #propose} says what the columns of a file seem to mean, guessing where the header does not say; a plan the
 * user agreed to is passed to {@link #record}. Without one nothing is guessed.
 */
public final class LogReader {
    private static final int LISTED = 300;
    private static final int PEEK = 65536;
    private static final double WORST_SHARE = 0.2;
    private static final double SHORTEST_S = 10.0;
    private static final int FEWEST = 50;
    private static final double DAY_S = 86400.0;
    /** More steps back than this, and more than one in a hundred rows, are no clock. */
    private static final int MOST_STEPS = 5;
    private static final Pattern RATE = Pattern.compile(
            "(?i).*(?:rate|frequency|frecuencia|abtastrate|frequence)[^0-9]{0,20}([0-9]+(?:[.,][0-9]+)?)\\s*hz.*");

    private final Table table;
    private final Plan plan;
    private final BooleanSupplier cancelled;
    private final LongConsumer progress;
    private final List<LogProblem> problems = new ArrayList<>();
    private final List<Recording.Mark> marks = new ArrayList<>();
    private long problemCount;
    private final ColumnPlan[] columns;
    private final Column[] data;
    private final long[] badCells;
    private final LogProblem[] firstBad;
    private final Column time = new Column();
    private final int needed;
    private final int timeAt;
    private double offsetS;
    private double candidateS = Double.NaN;
    private double firstS;
    private double lastS = Double.NEGATIVE_INFINITY;
    private double usualS;
    private int stepsBack;
    private double startClockS = Double.NaN;
    private long row;

    private LogReader(Table table, Plan plan, BooleanSupplier cancelled, LongConsumer progress) {
        this.table = table;
        this.plan = plan;
        this.cancelled = cancelled;
        this.progress = progress;
        columns = plan.columns().stream().filter(c -> c.index() >= 0).toArray(ColumnPlan[]::new);
        data = new Column[columns.length];
        badCells = new long[columns.length];
        firstBad = new LogProblem[columns.length];
        int t = -1;
        int last = -1;
        for (int i = 0; i < columns.length; i++) {
            data[i] = new Column();
            t = columns[i].channel() == Channel.TIME ? i : t;
            last = Math.max(last, columns[i].index());
        }
        timeAt = t;
        needed = last + 1;
    }

    /**
     * Reads a drive, guessing nothing.
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
     * Reads a drive, guessing nothing, giving up when told to.
     *
     * @param file the log
     * @param sheet the build it was recorded on
     * @param cancelled asked now and then; true ends the reading
     * @return the drive
     * @throws InputProblem when it cannot be used
     * @throws CancellationException when cancelled
     */
    public static DriveLog read(Path file, BuildSheet sheet, BooleanSupplier cancelled) {
        String name = String.valueOf(file.getFileName());
        return fromFile(file, in -> read(name, in, sheet, cancelled));
    }

    /**
     * Reads a drive from a stream, guessing nothing.
     *
     * @param name name for messages
     * @param in the bytes of a file; not closed
     * @param sheet the build it was recorded on
     * @param cancelled asked now and then; true ends the reading
     * @return the drive
     * @throws IOException when the stream fails
     * @throws InputProblem when it cannot be used
     */
    public static DriveLog read(String name, InputStream in, BuildSheet sheet, BooleanSupplier cancelled)
            throws IOException {
        return drive(record(name, in, null, cancelled, n -> { }), sheet);
    }

    /**
     * A recording as a drive, once it is long enough and its numbers can be what they are said to be.
     *
     * @param recording what was read
     * @param sheet the build it was recorded on
     * @return the drive
     * @throws InputProblem when it cannot be used
     */
    public static DriveLog drive(Recording recording, BuildSheet sheet) {
        DriveLog log = recording.drive(sheet);
        List<ColumnPlan> columns = recording.plan().columns();
        if (log.durationS() < SHORTEST_S) {
            throw new InputProblem(recording.name(), recording.headerLine(), 0, "", message("problem.a-log-of-s",
                    Quantity.trim(log.durationS(), 2)), message("problem.at-least-s-are-needed-if", (int) SHORTEST_S));
        }
        LogPlausibility.check(recording.name(), recording.headerLine(), columns, log, sheet);
        return log;
    }

    /**
     * Says what the columns of a file seem to mean.
     *
     * @param name name for messages
     * @param in the bytes of a file; not closed
     * @return the plan, with how sure each column is, and the first rows
     * @throws IOException when the stream fails
     * @throws InputProblem when it is no table
     */
    public static Proposal propose(String name, InputStream in) throws IOException {
        Table t = table(name, in);
        List<ColumnPlan> columns = HeaderMatch.propose(t);
        boolean timed = columns.stream().anyMatch(c -> c.channel() == Channel.TIME);
        Plan plan = new Plan(columns, timed ? 0.0 : rate(t), HeaderMatch.events(t.titles()), signature(t));
        return new Proposal(plan, t.titles(), t.units(), t.preamble(), t.sample());
    }

    /**
     * Says what the columns of a file seem to mean.
     *
     * @param file the log
     * @return the plan and the first rows
     * @throws InputProblem when it cannot be read or is no table
     */
    public static Proposal propose(Path file) {
        return fromFile(file, in -> propose(String.valueOf(file.getFileName()), in));
    }

    /**
     * Reads all of a file.
     *
     * @param file the log
     * @param plan what its columns mean; null to go by header and units alone
     * @param cancelled asked now and then; true ends the reading
     * @param progress told the rows read so far, now and then
     * @return the recording
     * @throws InputProblem when it cannot be used
     * @throws CancellationException when cancelled
     */
    public static Recording record(Path file, Plan plan, BooleanSupplier cancelled, LongConsumer progress) {
        return fromFile(file, in -> record(String.valueOf(file.getFileName()), in, plan, cancelled, progress));
    }

    /**
     * Reads all of a stream.
     *
     * @param name name for messages
     * @param in the bytes of a file; not closed
     * @param plan what its columns mean; null to go by header and units alone
     * @param cancelled asked now and then; true ends the reading
     * @param progress told the rows read so far, now and then
     * @return the recording
     * @throws IOException when the stream fails
     * @throws InputProblem when it cannot be used
     * @throws CancellationException when cancelled
     */
    public static Recording record(String name, InputStream in, Plan plan, BooleanSupplier cancelled,
            LongConsumer progress) throws IOException {
        Table t = table(name, in);
        Plan p = plan == null ? strict(t) : plan;
        try (Rows rows = t.rows()) {
            return new LogReader(t, p, cancelled, progress).parse(rows);
        }
    }

    /**
     * Reads a table this program wrote with channel keys as its header, number for number: no range is checked, nothing
     * is left out.
     *
     * @param name name for messages
     * @param in UTF-8 text with commas
     * @return the recording, without a plan
     * @throws IOException when the stream fails
     * @throws InputProblem when it is no such table
     */
    public static Recording exact(String name, InputStream in) throws IOException {
        try (CsvReader<CsvRecord> csv = CsvReader.builder().ofCsvRecord(new InputStreamReader(in,
                StandardCharsets.UTF_8))) {
            Iterator<CsvRecord> rows = csv.iterator();
            List<Channel> channels = new ArrayList<>();
            for (String key : rows.hasNext() ? rows.next().getFields() : List.<String>of()) {
                channels.add(Channel.ofKey(key).orElseThrow(() -> new InputProblem(name, 1, channels.size() + 1, "",
                        "\"" + shorten(key) + "\"", message("problem.each-column-is-named-by-its"))));
            }
            Column[] data = new Column[channels.size()];
            java.util.Arrays.setAll(data, i -> new Column());
            while (rows.hasNext()) {
                CsvRecord r = rows.next();
                for (int i = 0; i < data.length; i++) {
                    String f = r.getField(i);
                    data[i].add(f.isEmpty() ? Double.NaN : Double.parseDouble(f));
                }
            }
            Map<Channel, List<byte[]>> chunks = new EnumMap<>(Channel.class);
            for (int i = 0; i < data.length; i++) {
                chunks.put(channels.get(i), data[i].chunks());
            }
            return new Recording(name, new Plan(List.of(), 0.0, -1, ""), List.of(), data.length == 0 ? 0
                    : data[0].size(), 1, chunks, List.of(), List.of(), 0, Double.NaN);
        } catch (CsvParseException | IndexOutOfBoundsException | NumberFormatException e) {
            throw new InputProblem(name, 0, 0, "", message("problem.a-table-that-is-damaged", e.getMessage()),
                    message("problem.export-it-again"));
        }
    }

    private interface Work<T> {
        T with(InputStream in) throws IOException;
    }

    private static <T> T fromFile(Path file, Work<T> work) {
        String name = String.valueOf(file.getFileName());
        try (InputStream in = Files.newInputStream(file)) {
            return work.with(in);
        } catch (IOException | UncheckedIOException e) {
            throw InputProblem.unreadable(name, e);
        }
    }

    private static Table table(String name, InputStream in) throws IOException {
        BufferedInputStream buffered = new BufferedInputStream(in, PEEK);
        return OwnClocks.merged(plain(name, buffered));
    }

    private static Table plain(String name, BufferedInputStream in) throws IOException {
        in.mark(8);
        byte[] head = in.readNBytes(4);
        in.reset();
        return SheetTable.looksLikeOne(head) ? SheetTable.open(name, in)
                : TextTable.open(name, TextDecoding.open(name, in));
    }

    private static Plan strict(Table t) {
        List<ColumnPlan> columns = HeaderMatch.strict(t);
        if (columns.isEmpty()) {
            List<String> first = t.titles().isEmpty() && !t.sample().isEmpty() ? t.sample().getFirst() : t.titles();
            throw new InputProblem(t.source(), t.headerLine(), 1, "", message("problem.a-first-line-that-names-no",
                    shorten(String.join(String.valueOf(t.separator()), first))),
                    message("problem.name-the-columns-in-the-first"));
        }
        double rate = rate(t);
        if (rate <= 0) {
            need(t, columns, Channel.TIME, null);
        }
        need(t, columns, Channel.RPM, null);
        need(t, columns, Channel.VACUUM, Channel.MAP);
        need(t, columns, Channel.LAMBDA, Channel.AFR);
        boolean timed = columns.stream().anyMatch(c -> c.channel() == Channel.TIME);
        return new Plan(columns, timed ? 0.0 : rate, HeaderMatch.events(t.titles()), signature(t));
    }

    private static void need(Table t, List<ColumnPlan> columns, Channel c, Channel or) {
        if (columns.stream().noneMatch(x -> x.channel() == c || x.channel() == or)) {
            String names = c.header() + (or == null ? "" : " or " + or.header());
            throw new InputProblem(t.source(), t.headerLine(), 0, "", message("problem.no-column-for", c.label()),
                    message("problem.add-or-rename-a-column-to", names));
        }
    }

    /** Sample rate named above the header, Hz; 0 when there is none. */
    private static double rate(Table t) {
        for (String line : t.preamble()) {
            Matcher m = RATE.matcher(line);
            if (m.matches()) {
                return Double.parseDouble(m.group(1).replace(',', '.'));
            }
        }
        return 0.0;
    }

    private static String signature(Table t) {
        return String.join("|", t.titles()) + (t.units().isEmpty() ? "" : " / " + String.join("|", t.units()));
    }

    /**
     * Begins to read something that is still growing, from its first lines.
     *
     * @param name name for messages
     * @param begin the bytes of the first lines: header, units, some rows
     * @param plan what the columns mean; null to go by header and units alone
     * @return a reader that takes further lines
     */
    static LogReader begun(String name, byte[] begin, @Nullable Plan plan) throws IOException {
        Table t = plain(name, new BufferedInputStream(new ByteArrayInputStream(begin), PEEK));
        if (OwnClocks.several(t)) {
            throw new InputProblem(name, t.headerLine(), 0, "", message("problem.clocks-side-by-side"),
                    message("problem.open-it-when-it-is-finished"));
        }
        LogReader r = new LogReader(t, plan == null ? strict(t) : plan, () -> false, n -> { });
        try (Rows rows = t.rows()) {
            while (rows.next()) {
                r.append(rows, rows.line());
            }
        }
        return r;
    }

    /** Takes one more row. */
    void append(Rows r, long line) {
        row(r, line);
        row++;
    }

    char separator() {
        return table.separator();
    }

    int rows() {
        return time.size();
    }

    double firstTimeS() {
        return firstS;
    }

    double lastTimeS() {
        return time.last();
    }

    /** The last number of a channel in SI; NaN where it is not read or missing. */
    double last(Channel c) {
        for (int i = 0; i < columns.length; i++) {
            if (i != timeAt && columns[i].channel() == c && data[i].size() > 0) {
                return columns[i].scale().toSi(data[i].last());
            }
        }
        return Double.NaN;
    }

    /** What has been read so far; whole chunks are shared, not copied. */
    Recording soFar() {
        Map<Channel, List<byte[]>> out = new EnumMap<>(Channel.class);
        out.put(Channel.TIME, time.chunks());
        for (int i = 0; i < columns.length; i++) {
            if (i != timeAt) {
                out.put(columns[i].channel(), data[i].chunks());
            }
        }
        return new Recording(table.source(), plan, table.preamble(), time.size(), table.headerLine(), out, marks,
                problems, problemCount, startClockS);
    }

    private Recording parse(Rows rows) throws IOException {
        while (rows.next()) {
            row(rows, rows.line());
            if ((++row & 0xfff) == 0) {
                progress.accept(row);
                if (cancelled.getAsBoolean()) {
                    throw new CancellationException("reading " + table.source() + " was cancelled");
                }
            }
        }
        progress.accept(row);
        return finish();
    }

    /** The hot loop: one call a row. */
    private void row(Rows r, long line) {
        int fields = r.size();
        if (fields < needed) {
            note(new LogProblem(line, fields, "", message("problem.a-row-of-fields-where-the", fields, table.width()),
                    message("problem.the-row-was-left-out")));
            return;
        }
        double t = timeAt < 0 ? row / plan.rateHz() : timeS(r);
        if (!inOrder(t, line)) {
            return;
        }
        firstS = time.size() == 0 ? t + offsetS : firstS;
        time.add(t + offsetS);
        for (int i = 0; i < columns.length; i++) {
            if (i != timeAt) {
                ColumnPlan c = columns[i];
                data[i].add(c.index() < fields ? cell(r, i, c) : Double.NaN);
            }
        }
        if (plan.events() >= 0 && plan.events() < fields) {
            mark(r.get(plan.events()).trim());
        }
    }

    private double timeS(Rows r) {
        String s = r.get(columns[timeAt].index()).trim();
        if (s.indexOf(':') > 0) {
            double clock = Cells.clockS(s);
            startClockS = Double.isNaN(startClockS) ? clock : startClockS;
            return clock - startClockS;
        }
        return columns[timeAt].scale().toSi(cell(r, timeAt, columns[timeAt]));
    }

    /** Whether a row's time goes on from the one before; sets what a clock that stepped back must be added. */
    private boolean inOrder(double t, long line) {
        double at = t + offsetS;
        if (at > lastS) {
            usualS = Double.isInfinite(lastS) ? usualS : at - lastS;
            lastS = at;
            candidateS = Double.NaN;
            return true;
        }
        boolean midnight = !Double.isNaN(startClockS) && lastS - at > 0.5 * DAY_S;
        boolean steps = t > candidateS;
        if (midnight || steps) {
            double on = midnight ? DAY_S : lastS + usualS - at;
            if (!midnight) {
                stepsBack++;
                note(new LogProblem(line, timeAt < 0 ? 0 : columns[timeAt].index() + 1, title(timeAt),
                        message("problem.a-clock-that-stepped-back-by", Quantity.trim(lastS - at, 1)),
                        message("problem.time-goes-on-from-where-it")));
            }
            offsetS += on;
            lastS = t + offsetS;
            candidateS = Double.NaN;
            return true;
        }
        candidateS = t;
        note(new LogProblem(line, timeAt < 0 ? 0 : columns[timeAt].index() + 1, title(timeAt),
                message(Double.isNaN(t) ? "problem.no-time" : "problem.a-time-that-does-not-rise"),
                message("problem.the-row-was-left-out")));
        return false;
    }

    private String title(int i) {
        return i < 0 ? "" : columns[i].title();
    }

    private void mark(String text) {
        if (!Cells.blank(text) && Cells.number(text) != 0.0
                && (marks.isEmpty() || !marks.getLast().text().equals(text) || lastS - marks.getLast().timeS() > 2.0)
                && marks.size() < LISTED) {
            marks.add(new Recording.Mark(lastS, shorten(text)));
        }
    }

    private double cell(Rows r, int i, ColumnPlan c) {
        String raw = r.get(c.index());
        double v = Cells.number(raw);
        String s = raw;
        if (Double.isNaN(v)) {
            s = raw.trim();
            if (Cells.blank(s)) {
                return Double.NaN;
            }
            String text = shorten(s);
            bad(r, i, () -> message("problem.where-a-number-belongs", text));
            return Double.NaN;
        }
        double si = c.scale().toSi(v);
        if (!(si >= c.channel().lowest() && si <= c.channel().highest())) {
            String text = shorten(s);
            bad(r, i, () -> message("problem.outside-what-can-be", text, c.channel().label()));
            return Double.NaN;
        }
        return v;
    }

    private static String shorten(String s) {
        return s.length() > 80 ? s.substring(0, 80) + "..." : s;
    }

    /** Counts a cell that was left out; it is put into words only where somebody may read them. */
    private void bad(Rows r, int i, Supplier<Message> found) {
        badCells[i]++;
        if (firstBad[i] != null && problems.size() >= LISTED) {
            problemCount++;
            return;
        }
        ColumnPlan c = columns[i];
        LogProblem p = new LogProblem(r.line(c.index()), c.index() + 1, c.title(), found.get(),
                message("problem.the-reading-was-left-out"));
        firstBad[i] = firstBad[i] == null ? p : firstBad[i];
        note(p);
    }

    private void note(LogProblem p) {
        problemCount++;
        if (problems.size() < LISTED) {
            problems.add(p);
        }
    }

    Recording finish() {
        Map<Channel, List<byte[]>> out = new EnumMap<>(Channel.class);
        int rows = time.size();
        out.put(Channel.TIME, time.chunks());
        for (int i = 0; i < columns.length; i++) {
            rejectIfHopeless(i, rows);
            if (i != timeAt) {
                out.put(columns[i].channel(), data[i].chunks());
            }
            data[i] = null;
        }
        if (stepsBack > Math.max(MOST_STEPS, rows / 100)) {
            throw new InputProblem(table.source(), table.headerLine(), columns[timeAt].index() + 1, title(timeAt),
                    message("problem.a-time-that-goes-back-times", stepsBack),
                    message("problem.time-rises-from-row-to-row"));
        }
        if (rows < FEWEST) {
            Message more = problems.isEmpty() ? Message.NONE : message("problem.and-more-first-problem",
                    problems.getFirst().text());
            throw new InputProblem(table.source(), table.headerLine(), 0, "", message("problem.usable-rows", rows,
                    more),
                    message("problem.at-least-rows-over-s-are", FEWEST, (int) SHORTEST_S));
        }
        return new Recording(table.source(), plan, table.preamble(), rows, table.headerLine(), out, marks, problems,
                problemCount, startClockS);
    }

    private void rejectIfHopeless(int i, int rows) {
        ColumnPlan c = columns[i];
        if (firstBad[i] != null && badCells[i] > WORST_SHARE * Math.max(rows, 1)) {
            LogProblem p = firstBad[i];
            throw new InputProblem(table.source(), p.line(), p.column(), p.channel(),
                    message("problem.and-more-like-it",
                    p.found(), (badCells[i] - 1)), message("problem.check-that-this-column-really-is",
                    c.channel().label(),
                            c.channel().header()));
        }
    }
}
