package nariz.log;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;

/**
 * A table in which several columns of time stand, each for the channels to its right until the next one, as loggers
 * export channels of different rates side by side: row by row the times differ. It is turned into a table with one
 * time, in which a channel is blank wherever its own clock has no reading; fields keep their places, so a message
 * still names the column of the file.
 *
 * <p>The clocks are merged as the rows come: only what the slower ones are ahead of the fastest is held.
 */
final class OwnClocks implements Rows {
    /** Clocks that begin further apart than this are not of one recording, s. */
    private static final double FURTHEST_START_S = 30.0;
    /** No logger has more clocks: thousands of columns of time are something else. */
    private static final int MOST_CLOCKS = 64;
    /** A clock that goes back by more has passed midnight. */
    private static final double HALF_A_DAY_S = 43_200.0;

    /** A column that was taken for a clock starts again: a lap timer, for example. */
    static final class NotAClock extends RuntimeException {
        private static final long serialVersionUID = 1L;
        private final long line;
        private final int field;

        NotAClock(long line, int field) {
            super("column " + (field + 1) + " goes back in line " + line, null, false, false);
            this.line = line;
            this.field = field;
        }

        /** Where it goes back, from 1. */
        long line() {
            return line;
        }

        /** Its field, from 0. */
        int field() {
            return field;
        }
    }

    private final Rows rows;
    private final Clock[] clocks;
    private final int timeField;
    private final int width;
    private boolean ended;
    private final String[] cells;
    private final long[] lines;

    /** One clock, the fields it times, and its readings that are not given out yet. */
    private static final class Clock {
        private final int from;
        private final int to;
        private final Deque<Reading> ahead = new ArrayDeque<>();
        /** Its part of the last row was blank: nobody waits for it. */
        private boolean quiet;
        private double lastS = Double.NEGATIVE_INFINITY;

        Clock(int from, int to) {
            this.from = from;
            this.to = to;
        }
    }

    /** Cells of one clock in one row, its time first. */
    private record Reading(double time, long line, String[] cells) {
    }

    private OwnClocks(Rows rows, List<int[]> spans, int width) {
        this.rows = rows;
        this.width = width;
        clocks = spans.stream().map(s -> new Clock(s[0], s[1])).toArray(Clock[]::new);
        timeField = clocks[0].from;
        cells = new String[width];
        lines = new long[width];
    }

    /** Whether a table has more than one clock. */
    static boolean several(Table t) {
        List<int[]> spans = spans(t);
        return spans.size() > 1 && spans.size() <= MOST_CLOCKS && together(t, spans);
    }

    /** {@return the table with one time, or the table itself where it has no more than one} */
    static Table merged(Table t) throws IOException {
        if (!several(t)) {
            return t;
        }
        List<int[]> spans = spans(t);
        List<List<String>> sample = new ArrayList<>();
        try (OwnClocks first = new OwnClocks(new Sampled(t.sample()), spans, t.width())) {
            while (sample.size() < t.sample().size() && first.next()) {
                sample.add(List.of(first.cells));
            }
        }
        List<String> titles = new ArrayList<>(t.titles());
        List<String> units = new ArrayList<>(t.units());
        for (int[] s : spans.subList(1, spans.size())) {
            titles.set(s[0], "");
            if (s[0] < units.size()) {
                units.set(s[0], "");
            }
        }
        return new Table(t.source(), t.preamble(), titles, t.headerLine(), units, t.separator(), sample,
                new OwnClocks(t.rows(), spans, t.width()), t.styles(), t.spread());
    }

    /** Fields of every clock with its channels, half open; empty where the times do not part the header that way. */
    private static List<int[]> spans(Table t) {
        List<Integer> times = new ArrayList<>();
        Optional<ColumnPlan> first = Optional.empty();
        for (int i = 0; i < t.titles().size(); i++) {
            Optional<ColumnPlan> c = ColumnChoice.time(t, i);
            if (c.isPresent()) {
                if (first.isPresent() && !first.get().unit().equals(c.get().unit())) {
                    return List.of();
                }
                first = c;
                times.add(i);
            }
        }
        List<int[]> out = new ArrayList<>();
        for (int k = 0; k < times.size(); k++) {
            int to = k + 1 < times.size() ? times.get(k + 1) : t.width();
            if (to - times.get(k) < 2) {
                return List.of();
            }
            out.add(new int[] {times.get(k), to});
        }
        return out;
    }

    /** Whether all clocks tell the same kind of time and begin together. */
    private static boolean together(Table t, List<int[]> spans) {
        double scale = ColumnChoice.time(t, spans.getFirst()[0]).map(c -> c.scale().toSi(1.0)).orElse(1.0);
        boolean clock = t.texts(spans.getFirst()[0]).stream().anyMatch(Cells::clock);
        double start = Double.NaN;
        for (int[] s : spans) {
            double[] at = t.texts(s[0]).stream().mapToDouble(OwnClocks::time).filter(v -> !Double.isNaN(v)).toArray();
            if (at.length == 0 || !rises(at)) {
                return false;
            }
            start = Double.isNaN(start) ? at[0] : start;
            if (Math.abs(at[0] - start) * (clock ? 1.0 : scale) > FURTHEST_START_S) {
                return false;
            }
        }
        return true;
    }

    private static boolean rises(double[] t) {
        for (int i = 1; i < t.length; i++) {
            if (t[i] < t[i - 1] && t[i - 1] - t[i] < HALF_A_DAY_S) {
                return false;
            }
        }
        return true;
    }

    private static double time(String cell) {
        return cell.indexOf(':') > 0 ? Cells.clockS(cell) : Cells.number(cell);
    }

    @Override
    public boolean next() throws IOException {
        while (!ended && (waiting() || nothingAhead())) {
            take();
        }
        if (nothingAhead()) {
            return false;
        }
        give(Arrays.stream(clocks).filter(c -> !c.ahead.isEmpty()).mapToDouble(c -> known(c.ahead.peek().time()))
                .min().orElseThrow());
        return true;
    }

    private boolean waiting() {
        return Arrays.stream(clocks).anyMatch(c -> c.ahead.isEmpty() && !c.quiet);
    }

    private boolean nothingAhead() {
        return Arrays.stream(clocks).allMatch(c -> c.ahead.isEmpty());
    }

    /** A time that cannot be read goes first: the reader of the rows says so with its place. */
    private static double known(double time) {
        return Double.isNaN(time) ? Double.NEGATIVE_INFINITY : time;
    }

    private void take() throws IOException {
        if (!rows.next()) {
            ended = true;
            return;
        }
        for (Clock c : clocks) {
            String[] own = new String[c.to - c.from];
            c.quiet = true;
            for (int i = 0; i < own.length; i++) {
                own[i] = c.from + i < rows.size() ? rows.get(c.from + i) : "";
                c.quiet &= Cells.blank(own[i].trim());
            }
            if (!c.quiet) {
                double at = time(own[0].trim());
                // The first clock is judged by whoever reads the rows.
                if (at < c.lastS && c != clocks[0] && c.lastS - at < HALF_A_DAY_S) {
                    throw new NotAClock(rows.line(), c.from);
                }
                c.lastS = Double.isNaN(at) ? c.lastS : at;
                c.ahead.add(new Reading(at, rows.line(), own));
            }
        }
    }

    private void give(double least) {
        Arrays.fill(cells, "");
        for (Clock c : clocks) {
            if (!c.ahead.isEmpty() && known(c.ahead.peek().time()) == least) {
                Reading r = c.ahead.poll();
                cells[timeField] = r.cells()[0];
                lines[timeField] = r.line();
                for (int i = 1; i < r.cells().length; i++) {
                    cells[c.from + i] = r.cells()[i];
                    lines[c.from + i] = r.line();
                }
            }
        }
    }

    @Override
    public long line() {
        return lines[timeField];
    }

    @Override
    public long line(int field) {
        return cells[field].isEmpty() ? line() : lines[field];
    }

    @Override
    public int size() {
        return width;
    }

    @Override
    public String get(int field) {
        return cells[field];
    }

    @Override
    public void close() throws IOException {
        rows.close();
    }

    /** Rows of a sample. */
    private static final class Sampled extends ListedRows {
        private final Iterator<List<String>> left;

        Sampled(List<List<String>> rows) {
            left = rows.iterator();
        }

        @Override
        public boolean next() {
            boolean more = left.hasNext();
            if (more) {
                take(left.next(), 0);
            }
            return more;
        }

        @Override
        public void close() {
            // A list needs no closing.
        }
    }
}
