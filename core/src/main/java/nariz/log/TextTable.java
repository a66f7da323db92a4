package nariz.log;

import static nariz.text.Message.message;

import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.regex.Pattern;
import nariz.carburetor.InputProblem;

/** Finds separator, header and units row of a delimited text. */
final class TextTable {
    /** So much is looked at before anything is read: half an hour of a usual log. */
    private static final int LOOK = 4_000_000;
    private static final int SAMPLE = 400;
    private static final int SPREAD = 2000;
    private static final int DEEPEST_HEADER = 100;
    /** More columns than this are no log: a sentence, or the whole file in one line. */
    static final int MOST_COLUMNS = 4096;
    private static final char[] SEPARATORS = {',', ';', '\t', '|', ' '};
    private static final Pattern BLANKS = Pattern.compile("\\s+");
    private static final Pattern WIDE_BLANKS = Pattern.compile("\\s{2,}|\\t");

    private TextTable() {
    }

    static Table open(String source, BufferedReader text) throws IOException {
        text.mark(LOOK + 1);
        char[] buffer = new char[LOOK];
        int n = 0;
        int got = 0;
        while (n < LOOK && got >= 0) {
            n += got;
            got = text.read(buffer, n, LOOK - n);
        }
        text.reset();
        // Lines as the parser counts them: CR, LF and CRLF all end one.
        List<String> lines = new String(buffer, 0, n).lines().toList();
        char best = ',';
        int at = -1;
        int most = 1;
        for (char c : SEPARATORS) {
            // Blanks part words as well as columns: only where nothing else does.
            for (int i = 0; i < Math.min(lines.size(), DEEPEST_HEADER) && (c != ' ' || at < 0); i++) {
                List<String> fields = comment(lines.get(i)) ? List.of() : split(lines.get(i), c);
                int known = fields.size() > MOST_COLUMNS || (c == ' ' && !spaced(lines, i, fields.size())) ? 0
                        : HeaderMatch.known(fields);
                if (known > most) {
                    most = known;
                    at = i;
                    best = c;
                }
            }
        }
        if (at < 0) {
            at = firstLine(lines);
            best = mostFrequent(at < lines.size() ? lines.get(at) : "");
        }
        return open(source, text, lines, at, best);
    }

    /** Whether the line below parts into as many fields as a header parted by blanks. */
    private static boolean spaced(List<String> lines, int header, int fields) {
        return lines.stream().skip(header + 1L).filter(l -> !l.isBlank() && !comment(l)).limit(2).anyMatch(l ->
                BLANKS.split(l.trim()).length == fields);
    }

    private static Table open(String source, BufferedReader text, List<String> lines, int at, char separator)
            throws IOException {
        List<String> preamble = lines.subList(0, Math.min(at, lines.size())).stream().filter(l -> !l.isBlank())
                .toList();
        skipLines(text, at);
        Rows rows = separator == ' ' ? new Spaced(text, at) : plain(source, text, separator, at);
        if (!rows.next()) {
            throw new InputProblem(source, 1, 1, "", message("problem.no-header-line"),
                    message("problem.the-first-line-names-the-columns"));
        }
        List<String> titles = separator == ' ' ? split(lines.get(at), ' ') : fields(rows);
        if (titles.size() > MOST_COLUMNS) {
            throw new InputProblem(source, rows.line(), 0, "", message("problem.a-header-of-columns", titles.size()),
                    message("problem.no-more-than-columns", MOST_COLUMNS));
        }
        long headerLine = rows.line();
        boolean headless = titles.stream().allMatch(t -> Cells.blank(t.trim()) || !Double.isNaN(Cells.number(t))
                || Cells.clock(t));
        List<List<String>> sample = new ArrayList<>();
        for (int i = at + (headless ? 0 : 1); i < lines.size() - (lines.size() > SAMPLE ? 1 : 0)
                && sample.size() < SAMPLE; i++) {
            row(lines.get(i), separator, sample);
        }
        List<List<String>> spread = new ArrayList<>();
        int every = Math.max(1, (lines.size() - at - SAMPLE) / SPREAD);
        // The last line may have been cut short.
        for (int i = at + 1 + SAMPLE; i < lines.size() - 1; i += every) {
            row(lines.get(i), separator, spread);
        }
        List<String> units = List.of();
        if (headless) {
            rows = new Again(rows);
        } else if (!sample.isEmpty() && HeaderMatch.unitsRow(titles, sample.getFirst())) {
            units = sample.removeFirst();
            rows.next();
        }
        return new Table(source, preamble, headless ? List.of() : titles, headerLine, units, separator, sample, rows,
                spread);
    }

    private static void row(String line, char separator, List<List<String>> into) {
        if (!line.isBlank() && !comment(line)) {
            into.add(separator == ' ' ? List.of(BLANKS.split(line.trim())) : split(line, separator));
        }
    }

    private static List<String> fields(Rows r) {
        List<String> out = new ArrayList<>();
        for (int i = 0; i < r.size(); i++) {
            out.add(r.get(i));
        }
        return out;
    }

    static boolean comment(String line) {
        return line.startsWith("#");
    }

    private static int firstLine(List<String> lines) {
        for (int i = 0; i < lines.size(); i++) {
            if (!lines.get(i).isBlank() && !comment(lines.get(i))) {
                return i;
            }
        }
        return lines.size();
    }

    private static char mostFrequent(String line) {
        char best = ',';
        for (char c : new char[] {';', '\t', '|'}) {
            if (count(line, c) > count(line, best)) {
                best = c;
            }
        }
        boolean none = count(line, best) == 0 && BLANKS.split(line.trim()).length > 2 && line.chars().noneMatch(
                Character::isLetter);
        return none ? ' ' : best;
    }

    private static long count(String s, char c) {
        return s.chars().filter(x -> x == c).count();
    }

    /** Fields of one line; quoted fields that go over several lines are read only by the parser itself. */
    static List<String> split(String line, char separator) {
        if (separator == ' ') {
            List<String> wide = List.of(WIDE_BLANKS.split(line.trim()));
            return wide.size() > 1 ? wide : List.of(BLANKS.split(line.trim()));
        }
        if (line.indexOf('"') < 0) {
            return List.of(line.split(java.util.regex.Pattern.quote(String.valueOf(separator)), -1));
        }
        try (CsvReader<CsvRecord> r = CsvReader.builder().fieldSeparator(separator).ofCsvRecord(line)) {
            Iterator<CsvRecord> i = r.iterator();
            return i.hasNext() ? i.next().getFields() : List.of();
        } catch (IOException | CsvParseException e) {
            return List.of(line);
        }
    }

    private static void skipLines(BufferedReader text, int lines) throws IOException {
        for (int i = 0; i < lines; i++) {
            text.readLine();
        }
    }

    private static Rows plain(String source, BufferedReader text, char separator, long before) {
        return new PlainRows(source, text, separator, before, (reader, lines) -> records(source, reader, separator,
                lines));
    }

    /** Rows by the CSV library, which knows quotation marks. */
    static Rows records(String source, Reader text, char separator, long before) {
        return new Records(source, text, separator, before);
    }

    /** Rows of which the first was read to look at it. */
    private static final class Again implements Rows {
        private final Rows rows;
        private boolean first = true;

        Again(Rows rows) {
            this.rows = rows;
        }

        @Override
        public boolean next() throws IOException {
            boolean was = first;
            first = false;
            return was || rows.next();
        }

        @Override
        public long line() {
            return rows.line();
        }

        @Override
        public int size() {
            return rows.size();
        }

        @Override
        public String get(int field) {
            return rows.get(field);
        }

        @Override
        public double number(int field, NumberStyle style) {
            return rows.number(field, style);
        }

        @Override
        public void close() throws IOException {
            rows.close();
        }
    }

    /** Lines whose fields are parted by runs of blanks. */
    private static final class Spaced extends ListedRows {
        private final BufferedReader text;
        private long lines;

        Spaced(BufferedReader text, long before) {
            this.text = text;
            lines = before;
        }

        @Override
        public boolean next() throws IOException {
            for (String s = text.readLine(); s != null; s = text.readLine()) {
                lines++;
                if (!s.isBlank() && !comment(s)) {
                    take(List.of(BLANKS.split(s.trim())), lines);
                    return true;
                }
            }
            return false;
        }

        @Override
        public void close() throws IOException {
            text.close();
        }
    }

    /** Records of the CSV library as rows. */
    private static final class Records implements Rows {
        private final String source;
        private final Reader text;
        private final Iterator<CsvRecord> records;
        private final long before;
        @SuppressWarnings("NullAway.Init") // There once next() has been called.
        private CsvRecord row;

        Records(String source, Reader text, char separator, long before) {
            this.source = source;
            this.text = text;
            this.before = before;
            records = CsvReader.builder().fieldSeparator(separator).commentStrategy(CommentStrategy.SKIP)
                    .extraFieldStrategy(FieldMismatchStrategy.IGNORE).missingFieldStrategy(FieldMismatchStrategy.IGNORE)
                    .allowUnclosedQuote(false).skipEmptyLines(true).ofCsvRecord(text).iterator();
        }

        @Override
        public boolean next() {
            long last = row == null ? before : line();
            try {
                if (!records.hasNext()) {
                    return false;
                }
                row = records.next();
                return true;
            } catch (CsvParseException e) {
                String why = String.valueOf(e.getCause() == null ? e.getMessage() : e.getCause().getMessage());
                throw new InputProblem(source, last + 1, 1, "", message("problem.text-that-is-not-a-table",
                        shorten(why)),
                        message("problem.look-for-a-quotation-mark-that"));
            }
        }

        private static String shorten(String s) {
            return s.length() > 80 ? s.substring(0, 80) + "..." : s;
        }

        @Override
        public long line() {
            return before + row.getStartingLineNumber();
        }

        @Override
        public int size() {
            return row.getFieldCount();
        }

        @Override
        public String get(int field) {
            return row.getField(field);
        }

        @Override
        public void close() throws IOException {
            text.close();
        }
    }
}
