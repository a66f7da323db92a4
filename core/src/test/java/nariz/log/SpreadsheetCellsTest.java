package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.Locale;
import java.util.function.IntFunction;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import nariz.carburetor.InputProblem;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Cells of spreadsheets as they are shown, and packages that unpack to more than any log. */
public class SpreadsheetCellsTest {
    private static final int ROWS = 300;
    private static final double DAY = 86_400.0;

    private static Recording read(byte[] file, Plan plan) throws IOException {
        return LogReader.record("log.xlsx", new ByteArrayInputStream(file), plan, () -> false, n -> { });
    }

    private static Plan proposed(byte[] file) throws IOException {
        return LogReader.propose("log.xlsx", new ByteArrayInputStream(file)).plan();
    }

    private static byte[] xlsx(String timeTitle, String format, IntFunction<Double> time) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (Workbook book = new Workbook(out, "test", "1.0")) {
            Worksheet s = book.newWorksheet("log");
            String[] titles = {timeTitle, "rpm", "vacuum_inHg", "afr", "TPS"};
            for (int k = 0; k < titles.length; k++) {
                s.value(0, k, titles[k]);
            }
            for (int i = 0; i < ROWS; i++) {
                s.value(i + 1, 0, time.apply(i));
                s.style(i + 1, 0).format(format).set();
                s.value(i + 1, 1, 900 + i);
                s.value(i + 1, 2, 12.5 + 0.01 * i);
                s.value(i + 1, 3, 13.2);
                s.value(i + 1, 4, i / (double) ROWS);
                s.style(i + 1, 4).format("0%").set();
            }
        }
        return out.toByteArray();
    }

    /** Formats of clocks, each with the serial of its first reading. */
    @DataProvider
    Object[][] clocks() {
        return new Object[][] {{"hh:mm:ss", 0.45}, {"hh:mm:ss.000", 0.45}, {"mm:ss.0", 0.01}, {"h:mm:ss AM/PM", 0.7},
            {"[h]:mm:ss", 0.2}, {"yyyy-mm-dd hh:mm:ss", 46143.45}, {"dd/mm/yyyy hh:mm:ss.000", 46143.9999},
            {"[mm]:ss", 1.2}};
    }

    @Test(dataProvider = "clocks")
    public void clocksOfSpreadsheetsAreTimes(String format, double first) throws IOException {
        byte[] file = xlsx("Time", format, i -> first + 0.1 * i / DAY);
        Recording r = read(file, null);
        assertThat(r.size()).isEqualTo(ROWS);
        assertThat(r.durationS()).isCloseTo(0.1 * (ROWS - 1), within(1e-3));
        assertThat(r.problems()).isEmpty();
    }

    @Test
    public void percentOfASpreadsheetIsPercent() throws IOException {
        Recording r = read(xlsx("time_s", "0.00", i -> 0.1 * i), null);
        assertThat(r.si(Channel.THROTTLE)[ROWS / 2]).isCloseTo(0.5, within(1e-9));
        assertThat(SheetCells.percent("0.0%")).isTrue();
        assertThat(SheetCells.percent("0 \"%\"")).isFalse();
    }

    private static byte[] ods(String rows) throws IOException {
        return zip("content.xml",
                ("<?xml version=\"1.0\"?><office:document-content xmlns:office=\"o\" xmlns:table=\"t\" "
                + "xmlns:text=\"x\"><office:body><office:spreadsheet><table:table>" + rows
                + "</table:table></office:spreadsheet></office:body></office:document-content>").getBytes(
                StandardCharsets.UTF_8));
    }

    private static byte[] zip(String name, byte[] content) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream z = new ZipOutputStream(out)) {
            z.putNextEntry(new ZipEntry(name));
            z.write(content);
            z.closeEntry();
        }
        return out.toByteArray();
    }

    private static String cell(String type, String value) {
        String attribute = type.equals("time") ? "office:time-value" : type.equals("date") ? "office:date-value"
                : "office:value";
        return type.equals("string") ? "<table:table-cell office:value-type=\"string\"><text:p>" + value
                + "</text:p></table:table-cell>" : "<table:table-cell office:value-type=\"" + type + "\" " + attribute
                + "=\"" + value + "\"/>";
    }

    @Test
    public void openDocumentKnowsTimesPercentAndRepeatedCells() throws IOException {
        StringBuilder s = new StringBuilder("<table:table-row>");
        for (String t : new String[] {"Time", "rpm", "vacuum_inHg", "afr", "TPS"}) {
            s.append(cell("string", t));
        }
        s.append("<table:table-cell table:number-columns-repeated=\"16379\"/></table:table-row>");
        for (int i = 0; i < ROWS; i++) {
            s.append("<table:table-row>").append(cell("time", String.format(Locale.ROOT, "PT11H%02dM%06.3fS",
                    i / 600, 0.1 * (i % 600)))).append(cell("float", "" + (900 + i))).append(cell("float", "12.5"))
                    .append(cell("float", "13.2")).append(cell("percentage", "0.35")).append("</table:table-row>");
        }
        s.append("<table:table-row table:number-rows-repeated=\"1048000\"><table:table-cell "
                + "table:number-columns-repeated=\"16384\"/></table:table-row>");
        Recording r = read(ods(s.toString()), null);
        assertThat(r.size()).isEqualTo(ROWS);
        assertThat(r.durationS()).isCloseTo(0.1 * (ROWS - 1), within(1e-6));
        assertThat(r.si(Channel.THROTTLE)[7]).isCloseTo(0.35, within(1e-9));
    }

    /** Each of these stands for gigabytes; each is refused in a small memory, with a word on what to do. */
    @Test(timeOut = 60_000)
    public void bombsAreRefused() throws IOException {
        byte[] wide = xlsx("time_s", "0.00", i -> 0.1 * i);
        assertThatThrownBy(() -> proposed(replaced(wide, "xl/worksheets/sheet1.xml", "r=\"A1\"", "r=\"ZZZZZZ50\"")))
                .isInstanceOf(InputProblem.class).hasMessageContaining("far to the right");
        String cell = cell("string", "x");
        assertThatThrownBy(() -> proposed(ods("<table:table-row>" + cell.replace("<table:table-cell",
                "<table:table-cell "
                + "table:number-columns-repeated=\"1000000000\"") + "</table:table-row>"))).isInstanceOf(
                        InputProblem.class).hasMessageContaining("far to the right");
        String titles = "<table:table-row>" + cell("string", "time_s") + cell("string", "rpm") + cell("string",
                "vacuum_inHg") + cell("string", "afr") + "</table:table-row>";
        assertThatThrownBy(() -> read(ods(titles + "<table:table-row table:number-rows-repeated=\"1000000000\">" + cell(
                "float", "1") + "</table:table-row>"), null)).isInstanceOf(InputProblem.class);
        byte[] text = new byte[300_000_000];
        java.util.Arrays.fill(text, (byte) 'a');
        byte[] begin = "<sst><si><t>".getBytes(StandardCharsets.US_ASCII);
        System.arraycopy(begin, 0, text, 0, begin.length);
        assertThatThrownBy(() -> proposed(added(wide, "xl/sharedStrings.xml", text))).isInstanceOf(InputProblem.class)
                .hasMessageContaining("unpacks to more than fits");
        assertThatThrownBy(() -> proposed(ods("<table:table-row><table:table-cell office:value-type=\"string\"><text:p>"
                + "a".repeat(20_000_000) + "</text:p></table:table-cell></table:table-row>"))).isInstanceOf(
                        InputProblem.class);
    }

    /** What is not needed of a package is not unpacked, however large it is. */
    @Test(timeOut = 60_000)
    public void whatIsNotNeededIsNotUnpacked() throws IOException {
        byte[] log = added(xlsx("time_s", "0.00", i -> 0.1 * i), "media/film.bin", new byte[200_000_000]);
        assertThat(read(log, null).size()).isEqualTo(ROWS);
    }

    private static byte[] added(byte[] zip, String name, byte[] content) throws IOException {
        return copied(zip, name, null, null, content);
    }

    private static byte[] replaced(byte[] zip, String name, String was, String is) throws IOException {
        return copied(zip, name, was, is, null);
    }

    private static byte[] copied(byte[] zip, String name, String was, String is, byte[] content) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipFile in = ZipFile.builder().setSeekableByteChannel(new SeekableInMemoryByteChannel(zip)).get();
                ZipOutputStream z = new ZipOutputStream(out)) {
            for (ZipArchiveEntry e : Collections.list(in.getEntries())) {
                byte[] all = in.getInputStream(e).readAllBytes();
                if (content != null && e.getName().equals(name)) {
                    continue;
                }
                z.putNextEntry(new ZipEntry(e.getName()));
                z.write(was != null && e.getName().equals(name) ? new String(all, StandardCharsets.UTF_8).replace(was,
                        is)
                        .getBytes(StandardCharsets.UTF_8) : all);
                z.closeEntry();
            }
            if (content != null) {
                z.putNextEntry(new ZipEntry(name));
                z.write(content);
                z.closeEntry();
            }
        }
        return out.toByteArray();
    }
}
