package nariz.log;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.units.Units;

/**
 * What was read from a file, before anything is computed from it: the numbers as they stood there, with the plan that
 * says what they mean. Columns are packed and unpacked on demand; a channel that is written more seldom than the rest
 * keeps its blanks and is filled only for the {@link #drive} that asks.
 */
public final class Recording {
    /** A reading as old as this is not stretched to fill a blank, s. */
    static final double LONGEST_FILL_S = 3.0;
    private static final double SELDOM = 0.3;
    /** At some 160 bytes a sample an analysis stays within a third of a gigabyte: a day at 20 readings a second. */
    static final int MOST_SAMPLES = 2_000_000;

    private final String name;
    private final Plan plan;
    private final List<String> preamble;
    private final int size;
    private final long headerLine;
    private final Map<Channel, List<byte[]>> chunks;
    private final List<Mark> marks;
    private final List<LogProblem> problems;
    private final long problemCount;
    private final double startClockS;

    /**
     * A moment somebody marked while driving.
     *
     * @param timeS time in the recording, s
     * @param text what was written there
     */
    public record Mark(double timeS, String text) {
    }

    /**
     * Takes over columns.
     *
     * @param name file name or title
     * @param plan what the columns mean
     * @param preamble lines that stood above the header
     * @param size rows
     * @param headerLine line of the header in the file, from 1
     * @param chunks packed numbers by channel, time in s among them, others in the file's unit
     * @param marks marked moments
     * @param problems what was kept out, the first few hundred
     * @param problemCount how many there were in all
     * @param startClockS clock of the first row, s of the day or since 1970; NaN when the file has none
     */
    public Recording(String name, Plan plan, List<String> preamble, int size, long headerLine,
            Map<Channel, List<byte[]>> chunks, List<Mark> marks, List<LogProblem> problems, long problemCount,
            double startClockS) {
        this.name = name;
        this.plan = plan;
        this.preamble = List.copyOf(preamble);
        this.size = size;
        this.headerLine = headerLine;
        this.chunks = new EnumMap<>(chunks);
        this.marks = List.copyOf(marks);
        this.problems = List.copyOf(problems);
        this.problemCount = problemCount;
        this.startClockS = startClockS;
    }

    /** {@return file name or title} */
    public String name() {
        return name;
    }

    /** {@return what the columns mean} */
    public Plan plan() {
        return plan;
    }

    /** {@return lines that stood above the header} */
    public List<String> preamble() {
        return preamble;
    }

    /** {@return rows} */
    public int size() {
        return size;
    }

    /** {@return line of the header in the file, from 1} */
    public long headerLine() {
        return headerLine;
    }

    /** {@return channels that were read, time among them} */
    public List<Channel> channels() {
        return List.copyOf(chunks.keySet());
    }

    /** {@return marked moments} */
    public List<Mark> marks() {
        return marks;
    }

    /** {@return what was kept out, the first few hundred} */
    public List<LogProblem> problems() {
        return problems;
    }

    /** {@return how many cells and rows were kept out} */
    public long problemCount() {
        return problemCount;
    }

    /** {@return clock of the first row, s of the day or since 1970; NaN when the file has none} */
    public double startClockS() {
        return startClockS;
    }

    /**
     * Packed numbers of a channel.
     *
     * @param c channel
     * @return chunks in order
     */
    public List<byte[]> chunks(Channel c) {
        return List.copyOf(chunks.get(c));
    }

    /**
     * Numbers of a channel as they stood in the file; time in s.
     *
     * @param c channel
     * @return a new array, NaN where nothing was read
     */
    public double[] written(Channel c) {
        double[] out = new double[size];
        int at = 0;
        for (byte[] chunk : Objects.requireNonNull(chunks.get(c), "a channel that was not recorded")) {
            at += ColumnChunk.unpack(chunk, out, at);
        }
        return out;
    }

    /**
     * Numbers of a channel in SI.
     *
     * @param c channel
     * @return a new array, NaN where nothing was read
     */
    public double[] si(Channel c) {
        double[] out = written(c);
        Optional<ColumnPlan> column = plan.column(c);
        if (c != Channel.TIME && column.isPresent()) {
            Scale s = column.get().scale();
            for (int i = 0; i < out.length; i++) {
                out[i] = s.toSi(out[i]);
            }
        }
        return out;
    }

    /** {@return time from the first to the last row, s} */
    public double durationS() {
        if (size < 2) {
            return 0.0;
        }
        double[] t = written(Channel.TIME);
        return t[size - 1] - t[0];
    }

    /**
     * The recording as a drive that can be analysed: vacuum and lambda by the sheet's barometer, seldom channels filled
     * between their own readings.
     *
     * @param sheet the build it was recorded on
     * @return the drive
     * @throws InputProblem when the numbers cannot be what the plan says
     */
    public DriveLog drive(BuildSheet sheet) {
        Map<Channel, double[]> out = new EnumMap<>(Channel.class);
        int every = rowsInOne();
        double[] t = every == 1 ? written(Channel.TIME) : averaged(Channel.TIME, every);
        for (Channel c : chunks.keySet()) {
            out.put(c, c == Channel.TIME ? t : filled(t, every == 1 ? si(c) : averaged(c, every)));
        }
        toVacuum(out, sheet);
        toLambda(out, Channel.AFR, Channel.LAMBDA);
        toLambda(out, Channel.AFR_2, Channel.LAMBDA_2);
        return new DriveLog(name, out, problems, problemCount);
    }

    /**
     * How many rows become one sample of the {@link #drive}: a log of days or of a thousand readings a second is
     * averaged, so that what is computed from it stays within {@link #MOST_SAMPLES}.
     *
     * @return 1 for every log of usual length
     */
    public int rowsInOne() {
        return (size + MOST_SAMPLES - 1) / MOST_SAMPLES;
    }

    /** Means of so many rows in SI, of what was read of them; a rest of rows at the end is left out. */
    private double[] averaged(Channel c, int every) {
        Scale scale = c == Channel.TIME ? new Scale.Linear(1, 0) : plan.column(c).map(ColumnPlan::scale).orElse(
                new Scale.Linear(1, 0));
        double[] out = new double[size / every];
        double[] buffer = new double[ColumnChunk.SIZE];
        int row = 0;
        double sum = 0;
        int read = 0;
        for (byte[] chunk : Objects.requireNonNull(chunks.get(c), "a channel that was not recorded")) {
            int n = ColumnChunk.unpack(chunk, buffer, 0);
            for (int i = 0; i < n; i++) {
                double v = scale.toSi(buffer[i]);
                if (!Double.isNaN(v)) {
                    sum += v;
                    read++;
                }
                if (++row % every == 0) {
                    int at = row / every - 1;
                    if (at < out.length) {
                        out[at] = read == 0 ? Double.NaN : sum / read;
                    }
                    sum = 0;
                    read = 0;
                }
            }
        }
        return out;
    }

    /** Straight lines over blanks that come regularly, up to {@link #LONGEST_FILL_S}; single missing cells stay. */
    private static double[] filled(double[] t, double[] v) {
        int[] at = new int[v.length];
        int n = 0;
        for (int i = 0; i < v.length; i++) {
            if (!Double.isNaN(v[i])) {
                at[n++] = i;
            }
        }
        if (n < 3 || n > (1.0 - SELDOM) * v.length) {
            return v;
        }
        double[] gaps = new double[n - 1];
        for (int k = 0; k < gaps.length; k++) {
            gaps[k] = t[at[k + 1]] - t[at[k]];
        }
        double[] sorted = gaps.clone();
        Arrays.sort(sorted);
        double longest = Math.min(LONGEST_FILL_S, 2.5 * sorted[sorted.length / 2]);
        for (int k = 0; k < gaps.length; k++) {
            if (gaps[k] <= longest) {
                for (int i = at[k] + 1; i < at[k + 1]; i++) {
                    double f = (t[i] - t[at[k]]) / gaps[k];
                    v[i] = v[at[k]] + f * (v[at[k + 1]] - v[at[k]]);
                }
            }
        }
        return v;
    }

    private static void toVacuum(Map<Channel, double[]> out, BuildSheet sheet) {
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

    /**
     * The recording with road speed and altitude from a track, laid beside it by clock. A log that knows only the time
     * of the day may have been set to another zone than the track: the smallest shift by half hours that lets the track
     * cover it is taken.
     *
     * @param track track of the same drive
     * @return a recording with two channels more; channels the log has itself stay as they are
     * @throws InputProblem when the log has no clock or the track does not cover it
     */
    public Recording beside(TrackReader.Track track) {
        if (Double.isNaN(startClockS)) {
            throw new InputProblem(name, headerLine, 0, "", message("problem.a-log-without-clock-times"),
                    message("problem.a-track-is-laid-beside-a"));
        }
        double[] t = written(Channel.TIME);
        double shift = shift(track, t);
        Map<Channel, List<byte[]>> more = new EnumMap<>(chunks);
        List<ColumnPlan> columns = new ArrayList<>(plan.columns());
        add(more, columns, Channel.SPEED, "m/s", track.at(track.speedMps(), t, startClockS, shift));
        add(more, columns, Channel.ALTITUDE, "m", track.at(track.altitudeM(), t, startClockS, shift));
        return new Recording(name, new Plan(columns, plan.rateHz(), plan.events(), plan.signature(), plan.unread()),
                preamble, size,
                headerLine, more, marks, problems, problemCount, startClockS);
    }

    private double shift(TrackReader.Track track, double[] t) {
        for (int half = 0; half <= 28; half++) {
            for (int sign = -1; sign <= 1; sign += 2) {
                double shift = sign * half * 1800.0;
                double[] v = track.at(track.speedMps(), t, startClockS, shift);
                if (Arrays.stream(v).filter(x -> !Double.isNaN(x)).count() > 0.9 * v.length) {
                    return shift;
                }
            }
        }
        throw new InputProblem(name, headerLine, 0, "", message("problem.no-time-at-which-the-track"),
                message("problem.check-that-track-and-log-are"));
    }

    private static void add(Map<Channel, List<byte[]>> chunks, List<ColumnPlan> columns, Channel c, String unit,
            double[] values) {
        if (!chunks.containsKey(c)) {
            Column column = new Column();
            for (double v : values) {
                column.add(v);
            }
            chunks.put(c, column.chunks());
            columns.add(new ColumnPlan(ColumnPlan.ELSEWHERE, "track", c, unit, new Scale.Linear(1, 0),
                    ColumnPlan.Certainty.SURE, message("because.from-the-track")));
        }
    }

    /**
     * Some of the rows, evenly spread: enough to judge a long recording by without unpacking all of it.
     *
     * @param most rows to keep at most, positive
     * @return a recording of every k-th row; this one when it is short enough
     */
    public Recording thinned(int most) {
        int every = (size + most - 1) / most;
        if (every <= 1) {
            return this;
        }
        Map<Channel, List<byte[]>> thin = new EnumMap<>(Channel.class);
        double[] buffer = new double[ColumnChunk.SIZE];
        int rows = 0;
        for (Channel c : chunks.keySet()) {
            Column kept = new Column();
            int at = 0;
            for (byte[] chunk : Objects.requireNonNull(chunks.get(c), "a channel that was not recorded")) {
                int n = ColumnChunk.unpack(chunk, buffer, 0);
                for (int i = (every - at % every) % every; i < n; i += every) {
                    kept.add(buffer[i]);
                }
                at += n;
            }
            rows = kept.size();
            thin.put(c, kept.chunks());
        }
        return new Recording(name, plan, preamble, rows, headerLine, thin, marks, problems, problemCount, startClockS);
    }
}
