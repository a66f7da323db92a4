package nariz.live;

import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Makes the lines of a device fit for a log: the header once, then rows with as many fields as it has titles and a
 * clock that only goes forward. What is no row is kept out and counted. One thread at a time.
 *
 * <p>Format {@code nariz-lines/1}: a header of titles with units, then a line of numbers a sample, parted by commas,
 * semicolons or tabs; a line may end in {@code *} and two hexadecimal digits, the sum of all bytes before it modulo
 * 256. The header may be sent again at any time. Without a column of time a line counts from when it arrived.
 */
public final class LineFilter {
    /** Rows without a header after which the columns get numbers for titles. */
    static final int HEADLESS = 20;
    /** Lines looked back on to tell garbage from a line that was hit. */
    static final int RECENT = 40;
    /** Longest line, bytes; what is longer is no line of text. */
    static final int LONGEST = 4096;
    /** A clock that is off by more than this against the arrival was set, s. */
    private static final double JUMP_S = 2.0;
    /** Nothing for so long is a gap, s. */
    private static final double GAP_S = 2.0;
    private static final double LEAST_STEP_S = 1e-3;
    private static final Pattern SUMMED = Pattern.compile("(.*)\\*([0-9A-Fa-f]{2})\\s*");
    private static final Pattern NUMBER = Pattern.compile("[-+]?(\\d+([.,]\\d*)?|[.,]\\d+)([eE][-+]?\\d{1,3})?");
    private static final Pattern TIME = Pattern.compile("(?i)\\s*\"?(time|t|zeit|tiempo|temps|elapsed)\\b.*");
    private static final Pattern MILLIS = Pattern.compile("(?i).*[\\[(]\\s*ms\\s*[\\])].*");

    private String header = "";
    private char separator = ',';
    private int titles;
    /** Field of the device's clock; -1 where it has none. */
    private int clock = -1;
    private double perSecond = 1.0;
    private double offsetS;
    private double lastS = Double.NaN;
    private double lastArrivedS = Double.NaN;
    /** Last time of the device's clock as it was passed on, and when it came. */
    private double expectedS = Double.NaN;
    private double expectedAtS;
    private @Nullable List<String> headless = new ArrayList<>();
    private final Deque<Boolean> recent = new ArrayDeque<>();
    private int recentBad;
    private long rows;
    private long malformed;
    private long sums;
    private long jumps;
    private long gaps;

    /**
     * What was counted so far.
     *
     * @param rows rows passed on
     * @param malformed lines that were no row: wrong number of fields, no numbers, bytes that are no text
     * @param sums lines whose checksum was not theirs
     * @param jumps times the device's clock was set
     * @param gaps times nothing came for over two seconds
     */
    public record Tally(long rows, long malformed, long sums, long jumps, long gaps) {
        /** {@return lines that were lost} */
        public long lost() {
            return malformed + sums;
        }
    }

    /**
     * Takes a line.
     *
     * @param raw the line without its end
     * @param arrivedS when it came, s on a clock that only goes forward
     * @return the lines it makes of a log: none, a row, or the header with the rows that waited for it
     */
    public List<String> take(String raw, double arrivedS) {
        if (raw.isBlank()) {
            return List.of();
        }
        if (arrivedS - lastArrivedS > GAP_S) {
            gaps++;
        }
        Optional<String> checked = checked(raw);
        if (checked.isEmpty()) {
            return lost(() -> sums++);
        }
        String line = checked.get();
        if (line.length() > LONGEST || !text(line)) {
            return lost(() -> malformed++);
        }
        if (header.isEmpty()) {
            return beforeHeader(line, arrivedS);
        }
        if (line.equals(header)) {
            return List.of();
        }
        List<String> fields = split(line, separator);
        if (fields.size() != titles || !numbers(fields)) {
            return lost(() -> malformed++);
        }
        lastArrivedS = arrivedS;
        Optional<String> row = row(fields, line, arrivedS);
        if (row.isEmpty()) {
            return lost(() -> malformed++);
        }
        judged(false);
        rows++;
        return List.of(row.get());
    }

    private List<String> lost(Runnable count) {
        count.run();
        judged(true);
        return List.of();
    }

    private void judged(boolean bad) {
        recent.addLast(bad);
        recentBad += bad ? 1 : 0;
        if (recent.size() > RECENT) {
            recentBad -= recent.removeFirst() ? 1 : 0;
        }
    }

    /** {@return whether most of what comes is no text of this kind: a wrong rate, another device} */
    public boolean garbage() {
        return recent.size() >= RECENT / 2 && 2 * recentBad > recent.size();
    }

    /** {@return whether it is known what the columns are called} */
    public boolean begun() {
        return !header.isEmpty();
    }

    /** {@return what was counted so far} */
    public Tally tally() {
        return new Tally(rows, malformed, sums, jumps, gaps);
    }

    /** The line without its checksum; empty where the two do not go together. */
    private static Optional<String> checked(String raw) {
        Matcher m = SUMMED.matcher(raw);
        if (!m.matches()) {
            return Optional.of(raw.strip());
        }
        return sum(m.group(1)) == Integer.parseInt(m.group(2), 16) ? Optional.of(m.group(1).strip())
                : Optional.empty();
    }

    /**
     * The checksum of a line.
     *
     * @param line the line before its asterisk
     * @return sum of its bytes in UTF-8 modulo 256
     */
    public static int sum(String line) {
        int s = 0;
        for (byte b : line.getBytes(StandardCharsets.UTF_8)) {
            s = (s + b) & 0xFF;
        }
        return s;
    }

    private static boolean text(String line) {
        return line.codePoints().allMatch(c -> (c >= ' ' && c != 0xFFFD && c != 0x7F) || c == '\t');
    }

    private static boolean numbers(List<String> fields) {
        return fields.stream().allMatch(f -> f.isBlank() || NUMBER.matcher(f.strip()).matches()) && fields.stream()
                .anyMatch(f -> !f.isBlank());
    }

    private List<String> beforeHeader(String line, double arrivedS) {
        char by = separatorOf(line);
        List<String> fields = split(line, by);
        if (fields.size() < 2) {
            return lost(() -> malformed++);
        }
        if (numbers(fields)) {
            return withoutHeader(line, by, fields.size(), arrivedS);
        }
        boolean named = fields.stream().filter(f -> f.codePoints().anyMatch(Character::isLetter)).count() * 2
                >= fields.size();
        if (!named) {
            return lost(() -> malformed++);
        }
        return begin(line, by, fields, arrivedS);
    }

    private List<String> begin(String line, char by, List<String> fields, double arrivedS) {
        header = line;
        separator = by;
        titles = fields.size();
        headless = null;
        for (int i = 0; i < titles && clock < 0; i++) {
            clock = TIME.matcher(fields.get(i)).matches() ? i : -1;
        }
        if (clock >= 0) {
            perSecond = MILLIS.matcher(fields.get(clock)).matches() ? 1e3 : 1.0;
        }
        lastArrivedS = arrivedS;
        return List.of(clock < 0 ? "time (s)" + by + line : line);
    }

    /** A device that was switched on first has sent its header before anybody listened. */
    private List<String> withoutHeader(String line, char by, int fields, double arrivedS) {
        List<String> waiting = headless == null ? new ArrayList<>() : headless;
        if (!waiting.isEmpty() && split(waiting.getFirst(), by).size() != fields) {
            waiting.clear();
        }
        waiting.add(line);
        headless = waiting;
        if (waiting.size() < HEADLESS) {
            return List.of();
        }
        List<String> names = new ArrayList<>();
        for (int i = 1; i <= fields; i++) {
            names.add("column " + i);
        }
        return begin(String.join(String.valueOf(by), names), by, names, arrivedS);
    }

    private static char separatorOf(String line) {
        for (char c : new char[] {'\t', ';'}) {
            if (line.indexOf(c) >= 0) {
                return c;
            }
        }
        return ',';
    }

    private static List<String> split(String line, char by) {
        return Arrays.asList(line.split(Pattern.quote(String.valueOf(by)), -1));
    }

    /** The row with a clock that goes on; empty where it says the same moment as the one before. */
    private Optional<String> row(List<String> fields, String line, double arrivedS) {
        if (clock < 0) {
            double t = Double.isNaN(lastS) ? 0.0 : Math.max(lastS + LEAST_STEP_S, arrivedS - offsetS);
            if (Double.isNaN(lastS)) {
                offsetS = arrivedS;
            }
            lastS = t;
            return Optional.of(seconds(t, separator) + separator + line);
        }
        double said;
        try {
            said = Double.parseDouble(fields.get(clock).strip().replace(',', '.')) / perSecond;
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
        double t = said + offsetS;
        double sinceArrival = Double.isNaN(expectedS) ? 0.0 : arrivedS - expectedAtS;
        if (!Double.isNaN(lastS) && Math.abs(t - (expectedS + sinceArrival)) > JUMP_S) {
            jumps++;
            offsetS += expectedS + Math.max(LEAST_STEP_S, sinceArrival) - t;
            t = said + offsetS;
        } else if (t <= lastS) {
            return Optional.empty();
        }
        lastS = t;
        expectedS = t;
        expectedAtS = arrivedS;
        if (offsetS == 0.0) {
            return Optional.of(line);
        }
        List<String> moved = new ArrayList<>(fields);
        moved.set(clock, seconds(t * perSecond, separator));
        return Optional.of(String.join(String.valueOf(separator), moved));
    }

    private static String seconds(double t, char by) {
        String s = String.format(Locale.ROOT, "%.3f", t);
        return by == ';' ? s.replace('.', ',') : s;
    }
}
