package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import java.io.IOException;
import java.io.Reader;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import nariz.carburetor.InputProblem;
import org.testng.annotations.Test;

/** The short way through a text gives what the library gives. */
public class PlainRowsTest {
    private static final String[] PIECES = {"1", "2.5", ",", ",", ",", "\n", "\n", "\r\n", "\r", "#", " ", "x",
            "-3.25", "", "é",
        "\"a,b\"", "\"", "12345678901234567890"};

    /** Gives a few characters at a time, so that every line crosses the end of what was read. */
    private static Reader drip(String s, int most) {
        return new StringReader(s) {
            @Override
            public int read(char[] b, int from, int length) throws IOException {
                return super.read(b, from, Math.min(length, most));
            }
        };
    }

    private static List<String> library(String s) throws IOException {
        List<String> out = new ArrayList<>();
        try (CsvReader<CsvRecord> csv = reader(new StringReader(s))) {
            csv.forEach(r -> out.add(r.getStartingLineNumber() + " " + r.getFields()));
        }
        return out;
    }

    private static CsvReader<CsvRecord> reader(Reader r) {
        return CsvReader.builder().commentStrategy(CommentStrategy.SKIP)
                .extraFieldStrategy(FieldMismatchStrategy.IGNORE)
                .missingFieldStrategy(FieldMismatchStrategy.IGNORE).allowUnclosedQuote(false).skipEmptyLines(true)
                .ofCsvRecord(r);
    }

    private static List<String> plain(String s, int most) throws IOException {
        List<String> out = new ArrayList<>();
        try (Rows rows = new PlainRows("x.csv", drip(s, most), ',', 0, (r, lines) -> TextTable.records("x.csv", r, ',',
                lines))) {
            while (rows.next()) {
                List<String> fields = new ArrayList<>();
                for (int i = 0; i < rows.size(); i++) {
                    fields.add(rows.get(i));
                    assertThat((Double) rows.number(i, NumberStyle.EITHER)).isEqualTo(
                            (Double) NumberStyle.EITHER.number(rows.get(i)));
                }
                out.add(rows.line() + " " + fields);
            }
        }
        return out;
    }

    @Test
    public void randomTextsGiveTheSameRowsAsTheLibrary() throws IOException {
        Random r = new Random(3);
        int compared = 0;
        for (int k = 0; k < 20_000; k++) {
            StringBuilder s = new StringBuilder();
            boolean quotes = k % 3 == 0;
            for (int i = r.nextInt(40); i > 0; i--) {
                s.append(PIECES[r.nextInt(quotes ? PIECES.length : PIECES.length - 3)]);
            }
            String text = s.toString();
            List<String> expected;
            try {
                expected = library(text);
            } catch (de.siegmar.fastcsv.reader.CsvParseException e) {
                int most = 1 + r.nextInt(7);
                assertThatThrownBy(() -> plain(text, most)).as(text).isInstanceOf(InputProblem.class);
                continue;
            }
            compared++;
            assertThat(plain(text, 1 + r.nextInt(7))).as(text.replace("\n", "\\n").replace("\r",
                    "\\r")).isEqualTo(expected);
        }
        assertThat(compared).isGreaterThan(10_000);
    }

    @Test
    public void longLinesCrossTheBufferAndEndlessOnesAreRefused() throws IOException {
        String wide = "7,".repeat(60_000) + "8\n9,10\n";
        List<String> rows = plain(wide, 50_000);
        assertThat(rows).hasSize(2);
        assertThat(rows.get(1)).isEqualTo("2 [9, 10]");
        String endless = "x".repeat(20_000_000);
        assertThatThrownBy(() -> plain(endless, 1 << 20)).isInstanceOf(InputProblem.class).hasMessageContaining(
                "not a table");
    }
}
