package nariz.log;

import static nariz.text.Message.message;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * Readings noted by hand: one steady point a line, engine speed, vacuum and AFR or lambda, for example {@code 2200 15.5
 * 13.4}. A header line may name other columns, units and order; without one the three are rpm, inHg and AFR (or lambda
 * below 3).
 *
 * <p>The points become a recording in which each is held for {@link #HELD_S}, with a pause between them, so that the
 * same
 * computation takes them as so many steady stretches.
 */
public final class PointReader {
    /** How long a noted point counts, s. */
    public static final double HELD_S = 12.0;
    private static final Rows NO_ROWS = new Rows() {
        @Override
        public boolean next() {
            return false;
        }

        @Override
        public long line() {
            return 0;
        }

        @Override
        public int size() {
            return 0;
        }

        @Override
        public String get(int field) {
            throw new IndexOutOfBoundsException(field);
        }

        @Override
        public void close() {
        }
    };
    private static final double PAUSE_S = 2.0;
    private static final double STEP_S = 0.2;
    private static final double LARGEST_LAMBDA = 3.0;
    private static final int FEWEST = 3;
    private static final long LONGEST_BYTES = 100_000;

    private PointReader() {
    }

    /**
     * Whether a text can be such a list: a few short lines of three or four numbers.
     *
     * @param text any text
     * @return true when it is worth a try
     */
    public static boolean looksLikePoints(String text) {
        List<String> lines = text.lines().filter(l -> !l.isBlank() && !l.startsWith("#")).toList();
        return !lines.isEmpty() && lines.size() < 400 && lines.stream().skip(1).allMatch(l -> {
            int n = fields(l).size();
            return n >= 3 && n <= 5 && fields(l).stream().noneMatch(f -> Double.isNaN(Cells.number(f)));
        }) && lines.stream().noneMatch(l -> l.toLowerCase(java.util.Locale.ROOT).contains("time"));
    }

    /**
     * Reads a file when it is such a list.
     *
     * @param file any file
     * @return a recording that holds each point; empty when the file is something else
     * @throws InputProblem when it cannot be read, or is such a list with a line that cannot be used
     */
    public static Optional<Recording> read(Path file) {
        String name = String.valueOf(file.getFileName());
        try {
            if (!Files.isRegularFile(file) || Files.size(file) > LONGEST_BYTES) {
                return Optional.empty();
            }
            String text = new String(Files.readAllBytes(file), StandardCharsets.UTF_8);
            return looksLikePoints(text) ? Optional.of(parse(name, text)) : Optional.empty();
        } catch (IOException e) {
            throw InputProblem.unreadable(name, e);
        }
    }

    private static List<String> fields(String line) {
        String separators = line.indexOf(';') >= 0 || line.indexOf('\t') >= 0 ? "[;\t]" : "\\s*,\\s+|,(?=.*,)|\\s+|,";
        return java.util.Arrays.stream(line.trim().split(separators)).map(String::trim).filter(f -> !f.isEmpty())
                .toList();
    }

    /**
     * Reads a list of points.
     *
     * @param name name for messages
     * @param text lines of numbers, with or without a header
     * @return a recording that holds each point
     * @throws InputProblem when a line cannot be used
     */
    public static Recording parse(String name, String text) {
        List<String> lines = text.lines().toList();
        @Nullable List<ColumnPlan> columns = null;
        List<double[]> points = new ArrayList<>();
        for (int i = 0; i < lines.size(); i++) {
            List<String> f = lines.get(i).isBlank() || lines.get(i).startsWith("#") ? List.of() : fields(lines.get(i));
            if (!f.isEmpty() && columns == null && Double.isNaN(Cells.number(f.getFirst()))) {
                columns = ColumnChoice.strict(new Table(name, List.of(), f, i + 1, List.of(), ' ', List.of(), NO_ROWS));
            } else if (!f.isEmpty()) {
                columns = columns == null ? usual(f) : columns;
                points.add(point(name, i + 1, f, columns));
            }
        }
        if (columns == null || points.size() < FEWEST) {
            throw new InputProblem(name, lines.size(), 0, "", message("problem.points", points.size()),
                    message("problem.note-at-least-steady-points-one", FEWEST));
        }
        return held(name, new Plan(columns, 1.0 / STEP_S, -1, "points"), points);
    }

    private static List<ColumnPlan> usual(List<String> first) {
        double mixture = Cells.number(first.size() > 2 ? first.get(2) : "");
        Channel c = mixture < LARGEST_LAMBDA ? Channel.LAMBDA : Channel.AFR;
        return List.of(column(0, Channel.RPM, "rpm"), column(1, Channel.VACUUM, "inhg"), column(2, c, ""));
    }

    private static ColumnPlan column(int i, Channel c, String unit) {
        Channel.Unit u = c.unit(unit).orElseThrow();
        return new ColumnPlan(i, c.label().toString(), c, unit, new Scale.Linear(u.factor(), u.shift()),
                ColumnPlan.Certainty.SURE, message("because.the-order-of-noted-points"));
    }

    private static double[] point(String name, long line, List<String> f, List<ColumnPlan> columns) {
        double[] v = new double[columns.size()];
        for (int k = 0; k < v.length; k++) {
            ColumnPlan c = columns.get(k);
            v[k] = c.index() < f.size() ? Cells.number(f.get(c.index())) : Double.NaN;
            double si = c.scale().toSi(v[k]);
            if (!(si >= c.channel().lowest() && si <= c.channel().highest())) {
                throw new InputProblem(name, line, c.index() + 1, c.title(), c.index() < f.size()
                        ? Message.literal("\"" + f.get(c.index()) + "\"") : message("problem.nothing"),
                                message("problem.a-steady-point-is-rpm-vacuum"));
            }
        }
        return v;
    }

    private static Recording held(String name, Plan plan, List<double[]> points) {
        Column time = new Column();
        List<Column> data = new ArrayList<>();
        plan.columns().forEach(c -> data.add(new Column()));
        List<Recording.Mark> marks = new ArrayList<>();
        double t = 0;
        for (double[] p : points) {
            marks.add(new Recording.Mark(t, "point " + (marks.size() + 1)));
            for (int k = 0; k < HELD_S / STEP_S; k++) {
                time.add(Math.rint(t * 10.0) / 10.0);
                for (int i = 0; i < p.length; i++) {
                    data.get(i).add(p[i]);
                }
                t += STEP_S;
            }
            t += PAUSE_S;
        }
        Map<Channel, List<byte[]>> chunks = new EnumMap<>(Channel.class);
        chunks.put(Channel.TIME, time.chunks());
        for (int i = 0; i < data.size(); i++) {
            chunks.put(plan.columns().get(i).channel(), data.get(i).chunks());
        }
        return new Recording(name, plan, List.of(), time.size(), 1, chunks, marks, List.of(), 0, Double.NaN);
    }
}
