package nariz.log;

import static nariz.text.Message.message;

import com.github.miachm.sods.Range;
import com.github.miachm.sods.SpreadSheet;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Objects;
import java.util.function.Supplier;
import java.util.stream.Stream;
import nariz.carburetor.InputProblem;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.Row;
import org.dhatim.fastexcel.reader.Sheet;
import org.jspecify.annotations.Nullable;

/** Finds the table of readings in a spreadsheet file: the sheet and row that name most channels. */
final class SheetTable {
    private static final int SAMPLE = 400;
    private static final int DEEPEST_HEADER = 100;
    private static final byte[] ZIP = {'P', 'K', 3, 4};

    private SheetTable() {
    }

    static boolean looksLikeOne(byte[] head) {
        return head.length >= ZIP.length && Arrays.equals(head, 0, ZIP.length, ZIP, 0, ZIP.length);
    }

    /** Opens a spreadsheet; the whole file is held in memory while it is read. */
    static Table open(String source, InputStream in) throws IOException {
        byte[] all = in.readAllBytes();
        List<Supplier<Rows>> sheets;
        try {
            sheets = sheets(source, all);
        } catch (InputProblem e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw new InputProblem(source, 1, 1, "", message("problem.bytes-that-are-not-text"),
                    message("problem.it-is-packed-like-a-spreadsheet"));
        }
        Supplier<Rows> best = null;
        int most = 1;
        long at = 1;
        for (Supplier<Rows> sheet : sheets) {
            try (Rows r = sheet.get()) {
                for (int i = 0; i < DEEPEST_HEADER && r.next(); i++) {
                    int known = HeaderMatch.known(fields(r));
                    if (known > most) {
                        most = known;
                        best = sheet;
                        at = r.line();
                    }
                }
            }
        }
        if (best == null) {
            throw new InputProblem(source, 1, 1, "", message("problem.a-spreadsheet-in-which-no-row"),
                    message("problem.name-the-columns-in-one-row"));
        }
        return table(source, best, at);
    }

    private static Table table(String source, Supplier<Rows> sheet, long at) throws IOException {
        List<String> preamble = new ArrayList<>();
        List<List<String>> sample = new ArrayList<>();
        List<String> titles = List.of();
        try (Rows r = sheet.get()) {
            while (sample.size() < SAMPLE && r.next()) {
                if (r.line() < at) {
                    preamble.add(String.join(" ", fields(r)).trim());
                } else if (r.line() == at) {
                    titles = fields(r);
                } else {
                    sample.add(fields(r));
                }
            }
        }
        List<String> units = !sample.isEmpty() && HeaderMatch.unitsRow(titles, sample.getFirst())
                ? sample.removeFirst() : List.of();
        Rows rows = sheet.get();
        while (rows.next() && rows.line() < at) {
            // To the header.
        }
        if (!units.isEmpty()) {
            rows.next();
        }
        return new Table(source, preamble, titles, at, units, '\t', sample, rows);
    }

    private static List<String> fields(Rows r) {
        List<String> out = new ArrayList<>();
        for (int i = 0; i < r.size(); i++) {
            out.add(r.get(i));
        }
        return out;
    }

    private static List<Supplier<Rows>> sheets(String source, byte[] all) throws IOException {
        List<Supplier<Rows>> out = new ArrayList<>();
        if (openDocument(all)) {
            SpreadSheet book = new SpreadSheet(new ByteArrayInputStream(all));
            book.getSheets().forEach(s -> out.add(() -> new OpenDocument(s.getDataRange())));
            return out;
        }
        try (ReadableWorkbook book = new ReadableWorkbook(new ByteArrayInputStream(all))) {
            int n = (int) book.getSheets().count();
            for (int i = 0; i < n; i++) {
                int sheet = i;
                out.add(() -> new OfficeOpen(source, all, sheet));
            }
        }
        return out;
    }

    /** By the names in the package's directory: one kind keeps its cells in content.xml, the other under xl/. */
    private static boolean openDocument(byte[] all) {
        String names = new String(all, StandardCharsets.ISO_8859_1);
        return names.contains("content.xml") && !names.contains("xl/workbook.xml");
    }

    /** Rows of an .xlsx sheet, streamed. */
    private static final class OfficeOpen implements Rows {
        private final String source;
        private final ReadableWorkbook book;
        private final Stream<Row> stream;
        private final Iterator<Row> rows;
        private @Nullable Row row;

        OfficeOpen(String source, byte[] all, int sheet) {
            this.source = source;
            try {
                book = new ReadableWorkbook(new ByteArrayInputStream(all));
                Sheet s = book.getSheet(sheet).orElseThrow();
                stream = s.openStream();
                rows = stream.iterator();
            } catch (IOException | RuntimeException e) {
                throw damaged(e);
            }
        }

        /** The library throws many kinds of things at a damaged file. */
        private InputProblem damaged(Exception e) {
            return new InputProblem(source, row == null ? 1 : row.getRowNum() + 1L, 1, "",
                    message("problem.a-damaged-spreadsheet", e.getClass().getSimpleName()),
                    message("problem.open-it-in-a-spreadsheet-program"));
        }

        @Override
        public boolean next() {
            try {
                if (!rows.hasNext()) {
                    return false;
                }
                row = rows.next();
                return true;
            } catch (RuntimeException e) {
                throw damaged(e);
            }
        }

        private Row current() {
            return Objects.requireNonNull(row, "next() comes first");
        }

        @Override
        public long line() {
            return current().getRowNum();
        }

        @Override
        public int size() {
            return current().getCellCount();
        }

        @Override
        public String get(int field) {
            try {
                Cell c = current().getOptionalCell(field).orElse(null);
                if (c == null || c.getRawValue() == null) {
                    return "";
                }
                String format = c.getDataFormatString();
                boolean time = format != null && format.matches(".*[hH]+.*[mM]+.*") && !format.contains("\"h");
                return time ? c.asDate().toString() : c.getText();
            } catch (RuntimeException e) {
                throw damaged(e);
            }
        }

        @Override
        public void close() throws IOException {
            stream.close();
            book.close();
        }
    }

    /** Rows of an .ods sheet, which the library reads as a whole. */
    private static final class OpenDocument implements Rows {
        private final Object[][] values;
        private int at = -1;

        OpenDocument(Range range) {
            values = range == null ? new Object[0][] : range.getValues();
        }

        @Override
        public boolean next() {
            at++;
            return at < values.length;
        }

        @Override
        public long line() {
            return at + 1L;
        }

        @Override
        public int size() {
            return values[at].length;
        }

        @Override
        public String get(int field) {
            Object v = field < values[at].length ? values[at][field] : null;
            return switch (v) {
                case null -> "";
                case LocalDateTime t -> t.toString();
                case LocalTime t -> t.toString();
                case Duration d -> String.valueOf(d.toMillis() / 1e3);
                default -> v.toString();
            };
        }

        @Override
        public void close() {
            // Nothing is held open.
        }
    }
}
