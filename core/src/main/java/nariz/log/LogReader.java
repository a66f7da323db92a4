package nariz.log;

import static nariz.text.Message.message;

import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import java.util.function.LongConsumer;
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
    /** More steps back than this, and more than one in a hundred rows, are no clock. */
    private static final int MOST_STEPS = 5;

    private final Table table;
    private final Plan plan;
    private final BooleanSupplier cancelled;
    private final LongConsumer progress;
    private final List<LogProblem> problems = new ArrayList<>();
    private final List<Recording.Mark> marks = new ArrayList<>();
    private long problemCount;
    private final ColumnReader[] columns;
    private final Column time = new Column();
    private final int needed;
    private final int width;
    private long wideRows;
    private @Nullable LogProblem firstWide;
    private final int timeAt;
    private final RowClock clock = new RowClock();
    private long row;
    private long lastLine;

    private LogReader(Table table, Plan plan, BooleanSupplier cancelled, LongConsumer progress) {
        this.table = table;
        this.plan = plan;
        this.cancelled = cancelled;
        this.progress = progress;
        ColumnReader.Problems listed = new ColumnReader.Problems() {
            @Override
            public void note(LogProblem p) {
                LogReader.this.note(p);
            }

            @Override
            public void count() {
                problemCount++;
            }

            @Override
            public boolean full() {
                return problems.size() >= LISTED;
            }
        };
        columns = plan.columns().stream().filter(c -> c.index() >= 0).map(c -> new ColumnReader(c, table.style(
                c.index()), listed)).toArray(ColumnReader[]::new);
        int t = -1;
        int last = -1;
        for (int i = 0; i < columns.length; i++) {
            t = columns[i].channel() == Channel.TIME ? i : t;
            last = Math.max(last, columns[i].plan().index());
        }
        width = table.titles().isEmpty() ? table.width() : table.titles().size();
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
        List<Message> remarks = LogPlausibility.check(recording.name(), recording.headerLine(), columns, log, sheet);
        List<Message> told = new ArrayList<>(remarks);
        if (recording.rowsInOne() > 1) {
            told.add(message("problem.rows-are-averaged", recording.size(), recording.rowsInOne()));
        }
        return log.telling(told, recording.plan().unread());
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
        List<ColumnPlan> columns = ColumnChoice.propose(t);
        boolean timed = columns.stream().anyMatch(c -> c.channel() == Channel.TIME);
        int events = HeaderMatch.events(t);
        Plan plan = new Plan(columns, timed ? 0.0 : HeaderPlan.rate(t), events, HeaderPlan.signature(t),
                ColumnChoice.unread(t, columns, events));
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
    public static Recording record(Path file, @Nullable Plan plan, BooleanSupplier cancelled, LongConsumer progress) {
        String name = String.valueOf(file.getFileName());
        return fromFile(file, in -> {
            try {
                return read(table(name, in), plan, cancelled, progress);
            } catch (OwnClocks.NotAClock e) {
                try (InputStream again = Files.newInputStream(file)) {
                    Table t = plain(name, new BufferedInputStream(again, PEEK));
                    return read(t.withTitle(e.field(), t.titles().get(e.field()) + " lap time"), plan, cancelled,
                            progress);
                }
            }
        });
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
    public static Recording record(String name, InputStream in, @Nullable Plan plan, BooleanSupplier cancelled,
            LongConsumer progress) throws IOException {
        try {
            return read(table(name, in), plan, cancelled, progress);
        } catch (OwnClocks.NotAClock e) {
            throw new InputProblem(name, e.line(), e.field() + 1, "", message("problem.a-clock-that-starts-again"),
                    message("problem.leave-that-column-out"));
        }
    }

    private static Recording read(Table t, @Nullable Plan plan, BooleanSupplier cancelled, LongConsumer progress)
            throws IOException {
        Plan p = plan == null ? HeaderPlan.strict(t) : plan;
        try (Rows rows = t.rows()) {
            return new LogReader(t, p, cancelled, progress).parse(rows);
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
        LogReader r = new LogReader(t, plan == null ? HeaderPlan.strict(t) : plan, () -> false, n -> { });
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
        return clock.firstS();
    }

    double lastTimeS() {
        return time.last();
    }

    /** The last number of a channel in SI; NaN where it is not read or missing. */
    double last(Channel c) {
        for (int i = 0; i < columns.length; i++) {
            if (i != timeAt && columns[i].channel() == c && columns[i].data().size() > 0) {
                return columns[i].plan().scale().toSi(columns[i].data().last());
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
                out.put(columns[i].channel(), columns[i].data().chunks());
            }
        }
        return new Recording(table.source(), plan, table.preamble(), time.size(), table.headerLine(), out, marks,
                problems, problemCount, clock.startS());
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
        if (fields > width && tooWide(r, fields, line)) {
            return;
        }
        double t = timeAt < 0 ? row / plan.rateHz() : timeS(r);
        if (!inOrder(t, line)) {
            return;
        }
        lastLine = line;
        time.add(clock.lastS());
        for (int i = 0; i < columns.length; i++) {
            if (i != timeAt) {
                ColumnReader c = columns[i];
                c.data().add(c.plan().index() < fields ? c.cell(r) : Double.NaN);
            }
        }
        if (plan.events() >= 0 && plan.events() < fields) {
            mark(r.get(plan.events()).trim());
        }
    }

    /** Whether something stands beyond the last column: then nobody knows which field slipped where. */
    private boolean tooWide(Rows r, int fields, long line) {
        for (int i = width; i < fields; i++) {
            if (!Cells.blank(r.get(i).trim())) {
                LogProblem p = new LogProblem(line, width + 1, "", message("problem.a-row-of-fields-where-the", fields,
                        width), message("problem.the-row-was-left-out"));
                firstWide = firstWide == null ? p : firstWide;
                wideRows++;
                note(p);
                return true;
            }
        }
        return false;
    }

    private double timeS(Rows r) {
        ColumnReader c = columns[timeAt];
        double si = c.plainSi(r);
        if (!Double.isNaN(si)) {
            return si;
        }
        String s = r.get(c.plan().index()).trim();
        if (s.indexOf(':') > 0 && Cells.clock(s)) {
            return clock.sinceStart(Cells.clockS(s));
        }
        return c.plan().scale().toSi(c.cell(r));
    }

    /** Whether a row's time goes on from the one before. */
    private boolean inOrder(double t, long line) {
        RowClock.Order order = clock.take(t);
        int column = timeAt < 0 ? 0 : columns[timeAt].plan().index() + 1;
        if (order == RowClock.Order.STEPPED_BACK) {
            note(new LogProblem(line, column, title(timeAt), message("problem.a-clock-that-stepped-back-by",
                    Quantity.trim(clock.steppedS(), 1)), message("problem.time-goes-on-from-where-it")));
        } else if (order == RowClock.Order.AFTER_A_JUMP) {
            note(new LogProblem(lastLine, column, title(timeAt), message(time.size() == 1
                    ? "problem.a-time-that-does-not-rise" : "problem.a-time-that-jumps-ahead"),
                    message("problem.the-row-was-left-out")));
            time.dropLast();
            Arrays.stream(columns).filter(c -> c.channel() != Channel.TIME).forEach(c -> c.data().dropLast());
        } else if (order == RowClock.Order.LEFT_OUT) {
            note(new LogProblem(line, column, title(timeAt), message(Double.isNaN(t) ? "problem.no-time"
                    : "problem.a-time-that-does-not-rise"), message("problem.the-row-was-left-out")));
        }
        return order != RowClock.Order.LEFT_OUT;
    }

    private String title(int i) {
        return i < 0 ? "" : columns[i].plan().title();
    }

    private void mark(String text) {
        if (!Cells.blank(text) && Cells.number(text) != 0.0
                && (marks.isEmpty() || !marks.getLast().text().equals(text)
                        || clock.lastS() - marks.getLast().timeS() > 2.0)
                && marks.size() < LISTED) {
            marks.add(new Recording.Mark(clock.lastS(), shorten(text)));
        }
    }

    static String shorten(String s) {
        return s.length() > 80 ? s.substring(0, 80) + "..." : s;
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
        rejectIfShifted(rows);
        for (int i = 0; i < columns.length; i++) {
            columns[i].rejectIfHopeless(table.source(), rows);
            if (i != timeAt) {
                out.put(columns[i].channel(), columns[i].data().chunks());
            }
        }
        if (clock.stepsBack() > Math.max(MOST_STEPS, rows / 100)) {
            throw new InputProblem(table.source(), table.headerLine(), columns[timeAt].plan().index() + 1,
                    title(timeAt),
                    message("problem.a-time-that-goes-back-times", clock.stepsBack()),
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
                problemCount, clock.startS());
    }

    private void rejectIfShifted(int rows) {
        if (firstWide != null && wideRows > WORST_SHARE * (rows + wideRows)) {
            throw new InputProblem(table.source(), firstWide.line(), firstWide.column(), "", message(
                    "problem.and-more-like-it", firstWide.found(), wideRows - 1),
                    message("problem.every-row-has-as-many-fields"));
        }
    }
}
