package nariz.log;

import static nariz.text.Message.message;

import java.io.IOException;
import java.io.Reader;
import java.util.Arrays;
import java.util.function.BiFunction;
import nariz.carburetor.InputProblem;
import org.jspecify.annotations.Nullable;

/**
 * Rows of a text without quotation marks, which nearly every log is: fields lie in one buffer, and a number is read
 * from there without a text being made of it. From the first line with a quotation mark on the CSV library goes on.
 *
 * <p>Lines end in LF, CR or CRLF; empty ones and those that begin with {@code #} are passed over, as the library does.
 */
final class PlainRows implements Rows {
    private static final int BUFFER = 1 << 16;
    /** The library gives up at the same length of a record. */
    private static final int LONGEST_LINE = 1 << 24;

    private final String source;
    private final Reader text;
    private final char separator;
    /** What goes on where a quotation mark stands: a reader from the start of that line, and the lines before it. */
    private final BiFunction<Reader, Long, Rows> library;
    private char[] buffer = new char[BUFFER];
    /** Begin of the line after the current one, and end of what was read. */
    private int next;
    private int end;
    private boolean ended;
    private int[] starts = new int[16];
    private int[] stops = new int[16];
    private int fields;
    private long line;
    private @Nullable Rows rest;

    PlainRows(String source, Reader text, char separator, long before, BiFunction<Reader, Long, Rows> library) {
        this.source = source;
        this.text = text;
        this.separator = separator;
        this.library = library;
        line = before;
    }

    @Override
    public boolean next() throws IOException {
        if (rest != null) {
            return rest.next();
        }
        while (more()) {
            if (rest != null) {
                return rest.next();
            }
            boolean empty = fields == 1 && stops[0] == starts[0];
            if (!empty && buffer[starts[0]] != '#') {
                return true;
            }
            if (empty && starts[0] == end && ended) {
                return false;
            }
        }
        return false;
    }

    /** The hot loop: one pass over the characters of a line. */
    private boolean more() throws IOException {
        int start = next;
        int at = start;
        fields = 0;
        int fieldStart = start;
        while (true) {
            if (at == end) {
                int moved = fill(start);
                if (moved < 0) {
                    if (start == end) {
                        return false;
                    }
                    field(fieldStart, at);
                    next = at;
                    line++;
                    return true;
                }
                start -= moved;
                at -= moved;
                fieldStart -= moved;
                for (int i = 0; i < fields; i++) {
                    starts[i] -= moved;
                    stops[i] -= moved;
                }
            }
            char c = buffer[at];
            if (c == separator) {
                field(fieldStart, at);
                fieldStart = at + 1;
            } else if (c == '\n' || c == '\r') {
                field(fieldStart, at);
                next = at + 1;
                line++;
                if (c == '\r' && !(next == end && fillAfter(start) < 0) && buffer[next] == '\n') {
                    next++;
                }
                return true;
            } else if (c == '"' && buffer[start] != '#') {
                rest = library.apply(new Remaining(start), line);
                return true;
            }
            at++;
        }
    }

    private void field(int from, int to) {
        if (fields == starts.length) {
            starts = Arrays.copyOf(starts, 2 * fields);
            stops = Arrays.copyOf(stops, 2 * fields);
        }
        starts[fields] = from;
        stops[fields++] = to;
    }

    /** Whether a line feed may still follow a carriage return at the end of the buffer; keeps the line in place. */
    private int fillAfter(int start) throws IOException {
        int moved = fill(start);
        if (moved > 0) {
            for (int i = 0; i < fields; i++) {
                starts[i] -= moved;
                stops[i] -= moved;
            }
            next -= moved;
        }
        return moved;
    }

    /** Reads on, keeping what begins at {@code keep}; by how much that moved, -1 at the end of the text. */
    private int fill(int keep) throws IOException {
        if (ended) {
            return -1;
        }
        int moved = 0;
        if (end == buffer.length) {
            moved = keep;
            if (keep == 0) {
                if (buffer.length >= LONGEST_LINE) {
                    throw new InputProblem(source, line + 1, 1, "", message("problem.text-that-is-not-a-table",
                            "a line of " + buffer.length + " characters"),
                            message("problem.look-for-a-quotation-mark-that"));
                }
                buffer = Arrays.copyOf(buffer, 4 * buffer.length);
            } else {
                System.arraycopy(buffer, keep, buffer, 0, end - keep);
                end -= keep;
            }
        }
        int n = text.read(buffer, end, buffer.length - end);
        if (n < 0) {
            ended = true;
            // What was kept may have moved all the same: then the caller asks once more and is told of the end.
            return moved > 0 ? moved : -1;
        }
        end += n;
        return moved;
    }

    /** What is left of the buffer from a place on, and then the text. */
    private final class Remaining extends Reader {
        private int at;

        Remaining(int from) {
            at = from;
        }

        @Override
        public int read(char[] into, int from, int length) throws IOException {
            if (at < end) {
                int n = Math.min(length, end - at);
                System.arraycopy(buffer, at, into, from, n);
                at += n;
                return n;
            }
            return text.read(into, from, length);
        }

        @Override
        public void close() throws IOException {
            text.close();
        }
    }

    @Override
    public long line() {
        return rest != null ? rest.line() : line;
    }

    @Override
    public int size() {
        return rest != null ? rest.size() : fields;
    }

    @Override
    public String get(int field) {
        if (rest != null) {
            return rest.get(field);
        }
        if (field >= fields) {
            throw new IndexOutOfBoundsException("field " + field + " of " + fields);
        }
        return new String(buffer, starts[field], stops[field] - starts[field]);
    }

    @Override
    public double number(int field, NumberStyle style) {
        if (rest != null) {
            return rest.number(field, style);
        }
        double v = Cells.plain(buffer, starts[field], stops[field], style.decimal());
        return Double.isNaN(v) ? style.number(get(field)) : v;
    }

    @Override
    public void close() throws IOException {
        text.close();
    }
}
