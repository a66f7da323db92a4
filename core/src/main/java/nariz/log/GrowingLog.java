package nariz.log;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A log that is still being written: takes a line at a time and can be looked at at any moment. Rows are judged by the
 * same code as those of a finished file, so that {@link #snapshot} after the last line equals the recording of the
 * file.
 *
 * <p>Where the columns are cannot be said from the header alone (a row of units may follow): the first
 * {@value #FIRST_LINES} lines are held back until then. One thread at a time.
 */
public final class GrowingLog {
    /** Lines that are looked at before the columns are settled. */
    public static final int FIRST_LINES = 8;

    private final String name;
    private final @Nullable Plan plan;
    private final List<String> first = new ArrayList<>();
    private @Nullable LogReader reader;
    private long lines;

    /**
     * An empty log.
     *
     * @param name name for messages and lists
     * @param plan what the columns mean; null to go by header and units alone
     */
    public GrowingLog(String name, @Nullable Plan plan) {
        this.name = name;
        this.plan = plan;
    }

    /**
     * Takes a line.
     *
     * @param line without its end
     * @return whether it made a row
     * @throws nariz.carburetor.InputProblem when the first lines cannot be those of a log
     */
    public boolean add(String line) {
        lines++;
        if (reader == null) {
            first.add(line);
            if (first.size() < FIRST_LINES) {
                return false;
            }
            reader = begun();
            return true;
        }
        if (line.isBlank() || TextTable.comment(line)) {
            return false;
        }
        int before = reader.rows();
        reader.append(new Line(TextTable.split(line, reader.separator()), lines), lines);
        return reader.rows() > before;
    }

    private LogReader begun() {
        try {
            return LogReader.begun(name, (String.join("\n", first) + "\n").getBytes(StandardCharsets.UTF_8), plan);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /** {@return rows so far} */
    public int size() {
        return reader == null ? 0 : reader.rows();
    }

    /** {@return time of the last row, s; NaN before the first} */
    public double lastTimeS() {
        return size() == 0 || reader == null ? Double.NaN : reader.lastTimeS();
    }

    /** {@return time from the first row to the last, s} */
    public double durationS() {
        return size() == 0 || reader == null ? 0.0 : reader.lastTimeS() - reader.firstTimeS();
    }

    /**
     * The last number of a channel.
     *
     * @param c channel
     * @return SI; NaN where it is missing or not logged
     */
    public double last(Channel c) {
        return size() == 0 || reader == null ? Double.NaN : reader.last(c);
    }

    /**
     * What has been written so far, as a recording like any other; what is added later does not change it.
     *
     * @return the recording; its cost grows with the number of chunks, not of rows
     * @throws nariz.carburetor.InputProblem when the first lines cannot be those of a log
     */
    public Recording snapshot() {
        return reader == null ? begun().soFar() : reader.soFar();
    }

    /**
     * The recording when nothing more will come, by the rules that a finished file is held to.
     *
     * @return the recording
     * @throws nariz.carburetor.InputProblem when it cannot be used
     */
    public Recording finished() {
        return (reader == null ? begun() : reader).finish();
    }

    /** One line as a row. */
    private record Line(List<String> fields, long line) implements Rows {
        @Override
        public boolean next() {
            return false;
        }

        @Override
        public int size() {
            return fields.size();
        }

        @Override
        public String get(int field) {
            return fields.get(field);
        }

        @Override
        public void close() {
        }
    }
}
