package nariz.log;

import static nariz.text.Message.message;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Supplier;
import nariz.carburetor.InputProblem;

/** Finds the table of readings in a spreadsheet file: the sheet and row that name most channels. */
final class SheetTable {
    private static final int SAMPLE = 400;
    /** Rows looked at before anything is read, and how many of them are looked at only now and then. */
    private static final int LOOK = 20_000;
    private static final int EVERY = 20;
    private static final int DEEPEST_HEADER = 100;
    private static final byte[] ZIP = {'P', 'K', 3, 4};

    private SheetTable() {
    }

    static boolean looksLikeOne(byte[] head) {
        return head.length >= ZIP.length && Arrays.equals(head, 0, ZIP.length, ZIP, 0, ZIP.length);
    }

    /** Opens a spreadsheet; the packed file is held in memory while it is read, its rows are not. */
    static Table open(String source, InputStream in) throws IOException {
        SheetPackage packed = SheetPackage.read(source, in);
        List<Supplier<Rows>> sheets;
        try {
            sheets = packed.openDocument() ? OpenDocumentRows.sheets(source, packed)
                    : OfficeOpenRows.sheets(source, packed);
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
        List<List<String>> spread = new ArrayList<>();
        List<String> titles = List.of();
        try (Rows r = sheet.get()) {
            for (int k = 0; k < LOOK && r.next(); k++) {
                if (sample.size() >= SAMPLE) {
                    if (k % EVERY == 0) {
                        spread.add(fields(r));
                    }
                } else if (r.line() < at) {
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
        return new Table(source, preamble, titles, at, units, '\t', sample, rows, spread);
    }

    private static List<String> fields(Rows r) {
        List<String> out = new ArrayList<>();
        for (int i = 0; i < r.size(); i++) {
            out.add(r.get(i));
        }
        return out;
    }

    /** A table wider than any log. */
    static InputProblem tooWide(String source, long line) {
        return new InputProblem(source, line, TextTable.MOST_COLUMNS + 1, "", message("problem.a-spreadsheet-too-wide"),
                message("problem.no-more-than-columns", TextTable.MOST_COLUMNS));
    }

    /** The library, or the parser under it, throws many kinds of things at a damaged file. */
    static InputProblem damaged(String source, long line, Exception e) {
        return new InputProblem(source, Math.max(1, line), 1, "", message("problem.a-damaged-spreadsheet",
                e.getClass().getSimpleName()), message("problem.open-it-in-a-spreadsheet-program"));
    }
}
