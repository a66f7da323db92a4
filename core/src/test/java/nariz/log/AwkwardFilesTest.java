package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.github.miachm.sods.Sheet;
import com.github.miachm.sods.SpreadSheet;
import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.testing.Samples;
import nariz.text.Message;
import nariz.units.Units;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Files as loggers, spreadsheets and notebooks make them: each must become the same drive, or the exact message. */
public class AwkwardFilesTest {
    private static final BuildSheet SHEET = BuildSheetReader.parse("six.json", Samples.sheet());
    private static final double[][] ROWS = Samples.log().lines().skip(1)
            .map(l -> java.util.Arrays.stream(l.split(",")).mapToDouble(Double::parseDouble).toArray())
            .toArray(double[][]::new);
    private static final DriveLog GOOD = strict(Samples.log().getBytes(StandardCharsets.UTF_8));

    private record Case(String name, byte[] bytes) {
        @Override
        public String toString() {
            return name;
        }
    }

    private static String n(double v) {
        return String.format(Locale.ROOT, "%.4f", v);
    }

    /** The sample with another header and other cells. */
    private static String text(String header, String separator, String end, Function<double[], List<String>> cells) {
        StringBuilder s = new StringBuilder(header);
        for (double[] r : ROWS) {
            s.append(String.join(separator, cells.apply(r))).append(end);
        }
        return s.toString();
    }

    private static List<String> plain(double[] r) {
        return List.of(n(r[0]), n(r[1]), n(r[2]), n(r[3]));
    }

    private static Case text(String name, String content) {
        return new Case(name, content.getBytes(StandardCharsets.UTF_8));
    }

    private static String clock(double t, double start) {
        double s = start + t;
        return String.format(Locale.ROOT, "%02d:%02d:%06.3f", (int) (s / 3600) % 24, (int) (s / 60) % 60, s % 60);
    }

    private static String encoded(String header) {
        return text(header, ",", "\n", AwkwardFilesTest::plain);
    }

    private static Case encoded(String name, Charset charset, int... mark) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int b : mark) {
            out.write(b);
        }
        out.writeBytes(encoded("time_s,rpm,vacuum_inHg,afr,air°\n").getBytes(charset));
        return new Case(name, out.toByteArray());
    }

    @DataProvider
    Object[][] sameDrive() throws IOException {
        List<Case> c = new ArrayList<>();
        c.add(encoded("UTF-8 with mark", StandardCharsets.UTF_8, 0xef, 0xbb, 0xbf));
        c.add(encoded("UTF-16 little end with mark", StandardCharsets.UTF_16LE, 0xff, 0xfe));
        c.add(encoded("UTF-16 big end with mark", StandardCharsets.UTF_16BE, 0xfe, 0xff));
        c.add(encoded("UTF-16 little end without mark", StandardCharsets.UTF_16LE));
        c.add(encoded("UTF-16 big end without mark", StandardCharsets.UTF_16BE));
        c.add(encoded("Latin-1", StandardCharsets.ISO_8859_1));
        String header = "time_s,rpm,vacuum_inHg,afr";
        c.add(text("CRLF", text(header + "\r\n", ",", "\r\n", AwkwardFilesTest::plain)));
        c.add(text("CR alone", text(header + "\r", ",", "\r", AwkwardFilesTest::plain)));
        c.add(text("no end on the last line", encoded(header + "\n").stripTrailing()));
        c.add(text("blank lines between", text(header + "\n\n", ",", "\n\n", AwkwardFilesTest::plain)));
        c.add(text("everything quoted", text("\"time_s\",\"rpm\",\"vacuum_inHg\",\"afr\"\n", ",", "\n",
                r -> plain(r).stream().map(x -> '"' + x + '"').toList())));
        c.add(text("semicolons and decimal commas", text("time_s;rpm;vacuum_inHg;afr\n", ";", "\n",
                r -> plain(r).stream().map(x -> x.replace('.', ',')).toList())));
        c.add(text("quoted decimal commas between commas", text(header + "\n", ",", "\n",
                r -> plain(r).stream().map(x -> '"' + x.replace('.', ',') + '"').toList())));
        c.add(text("tabs and blanks", text("time_s\trpm\tvacuum_inHg\tafr\n", " \t ", "\n", AwkwardFilesTest::plain)));
        c.add(text("lines above the header", encoded("Logger 3, firmware 2.1\nDriver;nobody\n\n" + header + "\n")));
        c.add(text("comments above and between", encoded("# made up\n# twice\n" + header + "\n# units as named\n")));
        c.add(text("a row of units", encoded("Time,RPM,Vacuum,AFR\ns,1/min,inHg,\n")));
        c.add(text("units in brackets below", encoded("Time,RPM,Vacuum,AFR\n[s],[rpm],[inHg],[-]\n")));
        c.add(text("units in words", encoded("Time in s,RPM,Vacuum in inHg,AFR\n")));
        c.add(text("Spanish", encoded("Tiempo (s),Revoluciones,Vacío (inHg),Mezcla\n")));
        c.add(text("German", encoded("Zeit [s],Drehzahl [U/min],Unterdruck [inHg],AFR\n")));
        c.add(text("French", encoded("Temps (s),Régime (tr/min),Dépression (inHg),AFR\n")));
        c.add(text("lambda sign", text("time_s,rpm,vacuum_inHg,λ\n", ",", "\n",
                r -> List.of(n(r[0]), n(r[1]), n(r[2]), String.valueOf(r[3] / 14.7)))));
        c.add(text("equivalence ratio", text("time_s,rpm,vacuum_inHg,equivalence ratio\n", ",", "\n",
                r -> List.of(n(r[0]), n(r[1]), n(r[2]), String.valueOf(14.7 / r[3])))));
        c.add(text("AFR on another fuel's scale", text("time_s,rpm,vacuum_inHg,afr (E85 scale)\n", ",", "\n",
                r -> List.of(n(r[0]), n(r[1]), n(r[2]), String.valueOf(r[3] * 9.8 / 14.7)))));
        c.add(text("milliseconds", text("time_ms,rpm,vacuum_inHg,afr\n", ",", "\n",
                r -> List.of(n(1000 * r[0]), n(r[1]), n(r[2]), n(r[3])))));
        c.add(text("minutes", text("time_min,rpm,vacuum_inHg,afr\n", ",", "\n",
                r -> List.of(String.valueOf(r[0] / 60), n(r[1]), n(r[2]), n(r[3])))));
        c.add(text("clock times", text(header + "\n", ",", "\n",
                r -> List.of(clock(r[0], 40000), n(r[1]), n(r[2]), n(r[3])))));
        c.add(text("over midnight", text(header + "\n", ",", "\n",
                r -> List.of(clock(r[0], 86380), n(r[1]), n(r[2]), n(r[3])))));
        c.add(text("date and time", text("timestamp,rpm,vacuum_inHg,afr\n", ",", "\n",
                r -> List.of("2026-05-01T" + clock(r[0], 40000) + "Z", n(r[1]), n(r[2]), n(r[3])))));
        c.add(text("sample rate only", text("Sample rate: 10 Hz\nrpm,vacuum_inHg,afr\n", ",", "\n",
                r -> List.of(n(r[1]), n(r[2]), n(r[3])))));
        c.add(text("kPa", scaled("vacuum_kPa", v -> v * Units.INHG / 1e3)));
        c.add(text("mbar", scaled("vacuum (mbar)", v -> v * Units.INHG / 100)));
        c.add(text("psi", scaled("vacuum psi".replace(' ', '_'), v -> v * Units.INHG / 6894.757)));
        c.add(text("mmHg", scaled("vacuum [mmHg]", v -> v * Units.INHG / 133.3224)));
        c.add(text("gauge pressure below nought", scaled("vacuum (kPa gauge)", v -> -v * Units.INHG / 1e3)));
        c.add(text("absolute pressure", scaled("map_mbar", v -> (98.6e3 - v * Units.INHG) / 100)));
        c.add(text("other columns in between", text("no,time_s,note,rpm,x,vacuum_inHg,afr,y\n", ",", "\n",
                r -> List.of("7", n(r[0]), "ok", n(r[1]), "", n(r[2]), n(r[3]), "z"))));
        c.add(text("last columns left out where empty", text("time_s,rpm,vacuum_inHg,afr,note,lap\n", ",", "\n",
                AwkwardFilesTest::plain)));
        c.add(text("numbers with their unit", text(header + "\n", ",", "\n",
                r -> List.of(n(r[0]), n(r[1]) + " rpm", n(r[2]), n(r[3])))));
        c.add(text("exponents", text(header + "\n", ",", "\n", r -> List.of(n(r[0]),
                String.format(Locale.ROOT, "%.9e", r[1]), n(r[2]), n(r[3])))));
        c.add(text("a clock for each channel", text("Time (s),rpm,Time 2 (s),vacuum (inHg),Time 3 (s),afr\n", ",", "\n",
                r -> List.of(n(r[0]), n(r[1]), n(r[0]), n(r[2]), n(r[0]), n(r[3])))));
        c.add(new Case("spreadsheet .xlsx", xlsx()));
        c.add(new Case("spreadsheet .ods", ods()));
        return c.stream().map(x -> new Object[] {x}).toArray(Object[][]::new);
    }

    private static String scaled(String title, java.util.function.DoubleUnaryOperator f) {
        return text("time_s,rpm," + title + ",afr\n", ",", "\n",
                r -> List.of(n(r[0]), n(r[1]), String.valueOf(f.applyAsDouble(r[2])), n(r[3])));
    }

    private static byte[] xlsx() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (Workbook book = new Workbook(out, "test", "1.0")) {
            book.newWorksheet("notes").value(0, 0, "readings are on the next sheet");
            Worksheet s = book.newWorksheet("log");
            s.value(0, 0, "a heading");
            String[] titles = {"time (s)", "rpm", "vacuum (inHg)", "afr"};
            for (int k = 0; k < 4; k++) {
                s.value(2, k, titles[k]);
                for (int i = 0; i < ROWS.length; i++) {
                    s.value(3 + i, k, ROWS[i][k]);
                }
            }
        }
        return out.toByteArray();
    }

    private static byte[] ods() throws IOException {
        Sheet s = new Sheet("log", ROWS.length + 1, 4);
        String[] titles = {"time_s", "rpm", "vacuum_inHg", "afr"};
        for (int k = 0; k < 4; k++) {
            s.getRange(0, k).setValue(titles[k]);
            for (int i = 0; i < ROWS.length; i++) {
                s.getRange(i + 1, k).setValue(ROWS[i][k]);
            }
        }
        SpreadSheet book = new SpreadSheet();
        book.appendSheet(s);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        book.save(out);
        return out.toByteArray();
    }

    private static DriveLog strict(byte[] bytes) {
        try {
            return LogReader.read("drive.csv", new ByteArrayInputStream(bytes), SHEET, () -> false);
        } catch (IOException e) {
            throw new AssertionError(e);
        }
    }

    private static void assertSame(DriveLog log, String name) {
        assertThat(log.size()).as(name).isEqualTo(GOOD.size());
        for (int i = 0; i < log.size(); i += 7) {
            assertThat(log.timeS()[i] - log.timeS()[0]).as(name).isEqualTo(GOOD.timeS()[i] - GOOD.timeS()[0],
                    within(2e-3));
            assertThat(log.rpm()[i]).as(name).isEqualTo(GOOD.rpm()[i], within(1e-3));
            assertThat(log.vacuumPa()[i]).as(name).isEqualTo(GOOD.vacuumPa()[i], within(1.0));
            assertThat(log.lambda()[i]).as(name).isEqualTo(GOOD.lambda()[i], within(1e-4));
        }
        assertThat(log.problemCount()).as(name).isZero();
    }

    @Test(dataProvider = "sameDrive")
    public void becomesTheSameDrive(Object c) {
        assertSame(strict(((Case) c).bytes()), c.toString());
    }

    @Test
    public void fortyOfThemAndMore() throws IOException {
        assertThat(sameDrive().length).isGreaterThanOrEqualTo(40);
    }

    @Test
    public void unitsAndMeaningsThatAreNotNamedAreProposedAndNeverTakenUnasked() throws IOException {
        byte[] bytes = encoded("Time,RPM,Vacuum,AFR\n").getBytes(StandardCharsets.UTF_8);
        assertThatThrownBy(() -> strict(bytes)).isInstanceOf(InputProblem.class).hasMessageContaining("no unit");
        Proposal p = LogReader.propose("drive.csv", new ByteArrayInputStream(bytes));
        assertThat(p.clear()).isFalse();
        assertThat(p.plan().missing()).isEmpty();
        ColumnPlan vacuum = p.plan().column(Channel.VACUUM).orElseThrow();
        assertThat(vacuum.certainty()).isEqualTo(ColumnPlan.Certainty.LIKELY);
        assertThat(vacuum.unit()).isEqualTo("inhg");
        assertSame(LogReader.drive(LogReader.record("drive.csv", new ByteArrayInputStream(bytes),
                p.plan().confirmed(), () -> false, n -> { }), SHEET), "confirmed");
    }

    @Test
    public void tableWithoutHeaderIsGuessedFromItsNumbers() throws IOException {
        byte[] bytes = encoded("").getBytes(StandardCharsets.UTF_8);
        Proposal p = LogReader.propose("bare.csv", new ByteArrayInputStream(bytes));
        assertThat(p.plan().columns()).extracting(ColumnPlan::channel).containsExactly(Channel.TIME, Channel.RPM,
                Channel.VACUUM, Channel.AFR);
        assertThat(p.plan().columns()).allMatch(c -> c.certainty() == ColumnPlan.Certainty.GUESS);
        assertThat(p.title(1)).hasToString("column 2");
        assertSame(LogReader.drive(LogReader.record("bare.csv", new ByteArrayInputStream(bytes),
                p.plan().confirmed(), () -> false, n -> { }), SHEET), "bare");
    }

    @Test
    public void millisecondsWithoutAUnitAreSeenByTheirSteps() throws IOException {
        String s = text("time,rpm,vacuum_inHg,afr\n", ",", "\n",
                r -> List.of(String.valueOf(Math.round(1000 * r[0])), n(r[1]), n(r[2]), n(r[3])));
        Proposal p = LogReader.propose("ms.csv", new ByteArrayInputStream(s.getBytes(StandardCharsets.UTF_8)));
        assertThat(p.plan().column(Channel.TIME).orElseThrow().unit()).isEqualTo("ms");
        assertThat(p.clear()).isFalse();
    }

    @Test
    public void planIsChangedByTheUserAndKeptAsAProfile() throws IOException {
        String s = text("t,n,p,volts\n", ",", "\n", r -> List.of(n(r[0]), n(r[1]), n(98.6 - r[2] * 3.386389),
                String.valueOf((r[3] / 14.7 - 0.68) / (1.36 - 0.68) * 5.0)));
        Proposal p = LogReader.propose("v.csv", new ByteArrayInputStream(s.getBytes(StandardCharsets.UTF_8)));
        Plan plan = p.plan().with(new ColumnPlan(0, "t", Channel.TIME, "s", new Scale.Linear(1, 0),
                ColumnPlan.Certainty.SURE, Message.NONE))
                .with(new ColumnPlan(1, "n", Channel.RPM, "rpm", new Scale.Linear(1, 0), ColumnPlan.Certainty.SURE,
                Message.NONE))
                .with(new ColumnPlan(2, "p", Channel.MAP, "kpa", new Scale.Linear(1e3, 0),
                        ColumnPlan.Certainty.SURE, Message.NONE))
                .with(new ColumnPlan(3, "volts", Channel.LAMBDA, "V", new Scale.Curve(new double[] {0, 5},
                        new double[] {0.68, 1.36}), ColumnPlan.Certainty.SURE, Message.NONE));
        Plan back = PlanJson.parse("profile.json", PlanJson.write(plan));
        assertThat(PlanJson.write(back)).isEqualTo(PlanJson.write(plan));
        Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(java.nio.file.Files.readString(
                java.nio.file.Path.of("../docs/formats/profile.schema.json")), InputFormat.JSON);
        assertThat(schema.validate(PlanJson.write(plan), InputFormat.JSON)).isEmpty();
        assertThat(schema.validate(PlanJson.write(plan).replace("\"rpm\"", "\"revs\""), InputFormat.JSON)).isNotEmpty();
        assertSame(LogReader.drive(LogReader.record("v.csv",
                new ByteArrayInputStream(s.getBytes(StandardCharsets.UTF_8)), back, () -> false, n -> { }), SHEET),
                "volts");
        assertThatThrownBy(() -> PlanJson.parse("p.json", "{\"format\": \"nariz-profile/1\", \"columns\": [{\"column\":"
                + " 1, \"channel\": \"vacuum\", \"unit\": \"furlong\"}]}")).isInstanceOf(InputProblem.class)
                .hasMessageStartingWith("p.json, line 1, column ").hasMessageContaining("\"furlong\"")
                .hasMessageContaining("inhg");
    }

    @Test
    public void profileInTheDocumentsCanBeUsed() throws IOException {
        String page = java.nio.file.Files.readString(java.nio.file.Path.of("../docs/formats/profile.md"));
        String json = page.substring(page.indexOf("```json") + 7, page.indexOf("```", page.indexOf("```json") + 7));
        Plan plan = PlanJson.parse("profile.md", json);
        assertThat(plan.missing()).isEmpty();
        assertThat(plan.column(Channel.LAMBDA).orElseThrow().scale().toSi(2.5)).isEqualTo(1.02, within(1e-12));
        Plan pulses = PlanJson.parse("p", "{\"format\": \"nariz-profile/1\", \"columns\": [{\"column\": 2, "
                + "\"channel\": \"rpm\", \"pulsesPerTurn\": 3}]}");
        // 120 sparks a second of a six are 40 turns a second.
        assertThat(pulses.column(Channel.RPM).orElseThrow().scale().toSi(120)).isEqualTo(2400, within(1e-9));
    }

    @Test
    public void clockThatStepsBackGoesOnAndIsListed() {
        String[] lines = Samples.log().split("\n");
        StringBuilder s = new StringBuilder(lines[0]).append('\n');
        for (int i = 1; i < lines.length; i++) {
            String[] f = lines[i].split(",");
            double t = Double.parseDouble(f[0]) - (i > 500 ? 40.0 : 0.0);
            s.append(n(t)).append(',').append(f[1]).append(',').append(f[2]).append(',').append(f[3]).append('\n');
        }
        DriveLog log = strict(s.toString().getBytes(StandardCharsets.UTF_8));
        assertThat(log.size()).isEqualTo(999);
        assertThat(log.durationS()).isEqualTo(GOOD.durationS(), within(0.15));
        assertThat(log.problems()).extracting(x -> x.text().toString()).anyMatch(
                x -> x.startsWith("line 503, column 1 (time_s): a clock that stepped back by 39."));
    }

    @Test
    public void channelWrittenMoreSeldomIsFilledOnlyForTheComputation() throws IOException {
        int[] k = {0};
        String s = text("time_s,rpm,vacuum_inHg,afr,coolant_C\n", ",", "\n", r -> List.of(n(r[0]), n(r[1]), n(r[2]),
                n(r[3]), k[0]++ % 10 == 0 ? String.valueOf(80 + k[0] / 1000.0) : ""));
        Recording rec = LogReader.record("seldom.csv", new ByteArrayInputStream(s.getBytes(StandardCharsets.UTF_8)),
                null, () -> false, n -> { });
        assertThat(java.util.Arrays.stream(rec.written(Channel.COOLANT)).filter(v -> !Double.isNaN(v)).count())
                .isEqualTo(100);
        double[] filled = rec.drive(SHEET).values(Channel.COOLANT);
        assertThat(java.util.Arrays.stream(filled).filter(Double::isNaN).count()).isLessThan(12);
        assertThat(filled[5]).isEqualTo(273.15 + 80.006, within(1e-3));
    }

    @Test
    public void channelsWithClocksOfTheirOwnKeepTheirRates() throws IOException {
        StringBuilder s = new StringBuilder("Time (s);rpm;vacuum (inHg);Time (s);afr;Time (s);coolant (C)\n");
        // The second clock has every second row only and ends halfway down the file, the third every tenth.
        for (int i = 0; i < ROWS.length; i++) {
            s.append(n(ROWS[i][0])).append(';').append(n(ROWS[i][1])).append(';').append(n(ROWS[i][2])).append(';');
            s.append(2 * i < ROWS.length ? n(ROWS[2 * i][0]) + ';' + n(ROWS[2 * i][3]) : ";").append(';');
            s.append(10 * i < ROWS.length ? n(ROWS[10 * i][0]) + ';' + (i == 7 ? "hot" : "85") : ";").append('\n');
        }
        byte[] bytes = s.toString().getBytes(StandardCharsets.UTF_8);
        Recording rec = LogReader.record("clocks.csv", new ByteArrayInputStream(bytes), null, () -> false, n -> { });
        assertThat(rec.size()).isEqualTo(ROWS.length);
        assertThat(read(rec, Channel.RPM)).isEqualTo(ROWS.length);
        assertThat(read(rec, Channel.AFR)).isEqualTo((ROWS.length + 1) / 2);
        assertThat(read(rec, Channel.COOLANT)).isEqualTo((ROWS.length + 9) / 10 - 1);
        assertThat(rec.problems()).extracting(x -> x.text().toString()).containsExactly(
                "line 9, column 7 (coolant (C)): \"hot\" where a number belongs; the reading was left out");
        DriveLog log = rec.drive(SHEET);
        for (int i = 0; i < log.size() - 1; i++) {
            double wanted = i % 2 == 0 ? ROWS[i][3] : 0.5 * (ROWS[i - 1][3] + ROWS[i + 1][3]);
            assertThat(log.lambda()[i]).as("row " + i).isEqualTo(wanted / 14.7, within(1e-4));
        }
        Proposal p = LogReader.propose("clocks.csv", new ByteArrayInputStream(bytes));
        assertThat(p.clear()).isTrue();
        assertThat(p.plan().columns()).extracting(ColumnPlan::index).containsExactly(0, 1, 2, 4, 6);
    }

    /** Nothing but "Time" is named: what is logged more seldom is still judged by the cells it fills. */
    @Test
    public void seldomChannelsWithClocksOfTheirOwnAreProposedByTheirNumbers() throws IOException {
        StringBuilder s = new StringBuilder("Time;turns;suction;Time 2;wide;Time 3;water\n");
        for (int i = 0; i < ROWS.length; i++) {
            s.append(n(ROWS[i][0])).append(';').append(n(ROWS[i][1])).append(';').append(n(ROWS[i][2])).append(';');
            s.append(3 * i < ROWS.length ? n(ROWS[3 * i][0]) + ';' + n(ROWS[3 * i][3]) : ";").append(';');
            s.append(20 * i < ROWS.length ? n(ROWS[20 * i][0]) + ";85" : ";").append('\n');
        }
        Proposal p = LogReader.propose("clocks.csv", new ByteArrayInputStream(s.toString().getBytes(
                StandardCharsets.UTF_8)));
        assertThat(p.clear()).isFalse();
        assertThat(p.plan().missing()).isEmpty();
        assertThat(p.plan().column(Channel.AFR).orElseThrow().index()).isEqualTo(4);
        assertThat(p.plan().column(Channel.COOLANT).orElseThrow().index()).isEqualTo(6);
    }

    private static long read(Recording rec, Channel c) {
        return java.util.Arrays.stream(rec.written(c)).filter(v -> !Double.isNaN(v)).count();
    }

    @Test
    public void clocksThatDoNotBeginTogetherAreNotLaidOverEachOther() {
        String s = text("time_s,rpm,vacuum_inHg,time_s,afr\n", ",", "\n", r -> List.of(n(r[0]), n(r[1]), n(r[2]),
                n(r[0] + 400), n(r[3])));
        assertThatThrownBy(() -> strict(s.getBytes(StandardCharsets.UTF_8))).isInstanceOf(InputProblem.class)
                .hasMessageStartingWith("drive.csv, line 1, column 4 (time_s): found a second column for time");
    }

    @Test
    public void rowsWithoutAnyTimeAmongSeveralClocksAreListed() {
        String good = text("time_s,rpm,vacuum_inHg,time_s,afr\n", ",", "\n", r -> List.of(n(r[0]), n(r[1]), n(r[2]),
                n(r[0]), n(r[3])));
        int line = 500;
        String[] lines = good.split("\n");
        lines[line - 1] = "," + lines[line - 1].split(",", 2)[1];
        DriveLog log = strict(String.join("\n", lines).getBytes(StandardCharsets.UTF_8));
        assertThat(log.problemCount()).isEqualTo(1);
        assertThat(log.problems().getFirst().text()).hasToString(
                "line 500, column 1 (time_s): no time; the row was left "
                + "out");
        assertThat(log.size()).isEqualTo(GOOD.size());
    }

    @Test
    public void marksOfTheDriverAreKeptWithTheirTime() throws IOException {
        int[] k = {0};
        String s = text("time_s,rpm,vacuum_inHg,afr,event\n", ",", "\n", r -> List.of(n(r[0]), n(r[1]), n(r[2]),
                n(r[3]), k[0]++ == 300 ? "hill" : ""));
        Recording rec = LogReader.record("m.csv", new ByteArrayInputStream(s.getBytes(StandardCharsets.UTF_8)), null,
                () -> false, n -> { });
        assertThat(rec.marks()).containsExactly(new Recording.Mark(30.0, "hill"));
    }

    @Test
    public void notedPointsBecomeSteadyStretches() {
        String notes = "800 17.5 13.9\n1800, 18.2, 14.1\n2400;15;13.8\n3000 10.5 13.2\n";
        assertThat(PointReader.looksLikePoints(notes)).isTrue();
        Recording rec = PointReader.parse("notes", notes);
        assertThat(rec.marks()).hasSize(4);
        DriveLog log = rec.drive(SHEET);
        assertThat(log.rpm()[100]).isEqualTo(1800);
        assertThat(log.lambda()[0]).isEqualTo(13.9 / 14.7, within(1e-9));
        assertThatThrownBy(() -> PointReader.parse("notes", "800 17.5 13.9\n800 17.5\n")).isInstanceOf(
                InputProblem.class).hasMessageStartingWith("notes, line 2, column 3 (AFR): found nothing");
        assertThat(PointReader.looksLikePoints(Samples.log())).isFalse();
    }

    @Test
    public void trackGivesRoadSpeedByClock() {
        StringBuilder g = new StringBuilder("<gpx version=\"1.1\"><trk><trkseg>");
        for (int i = 0; i < 60; i++) {
            g.append(String.format(Locale.ROOT, "<trkpt lat=\"%.7f\" lon=\"11.0\"><ele>400</ele>"
                    + "<time>2026-05-01T11:06:%02dZ</time></trkpt>", 47.0 + i * 20.0 / 111_194.93, i));
        }
        TrackReader.Track t = TrackReader.read("t.gpx", new ByteArrayInputStream(
                (g + "</trkseg></trk></gpx>").getBytes(StandardCharsets.UTF_8)));
        // One degree of latitude is 111.195 km on a sphere of 6371 km: 20 m a second.
        assertThat(t.speedMps()[30]).isEqualTo(20.0, within(0.01));
        double[] at = t.at(t.speedMps(), new double[] {0, 10, 1000}, 11 * 3600 + 6 * 60 + 5, 0);
        assertThat(at[0]).isEqualTo(20.0, within(0.01));
        assertThat(at[2]).isNaN();
        assertThatThrownBy(() -> TrackReader.read("t.gpx", new ByteArrayInputStream("<gpx><trkpt lat='1'".getBytes(
                StandardCharsets.UTF_8)))).isInstanceOf(InputProblem.class).hasMessageContaining("not a GPX track");
    }

    @Test
    public void trackIsLaidBesideALogOfAnotherZone() throws IOException {
        StringBuilder g = new StringBuilder("<gpx version=\"1.1\"><trk><trkseg>");
        for (int i = 0; i <= 120; i++) {
            g.append(String.format(Locale.ROOT, "<trkpt lat=\"%.7f\" lon=\"11.0\"><ele>%d</ele>"
                    + "<time>2026-05-01T09:%02d:%02dZ</time></trkpt>", 47.0 + i * 15.0 / 111_194.93, 400 + i, i / 60,
                    i % 60));
        }
        TrackReader.Track track = TrackReader.read("t.gpx", new ByteArrayInputStream(
                (g + "</trkseg></trk></gpx>").getBytes(StandardCharsets.UTF_8)));
        String s = text("time,rpm,vacuum_inHg,afr\n", ",", "\n",
                r -> List.of(clock(r[0], 11 * 3600 + 10), n(r[1]), n(r[2]), n(r[3])));
        Recording rec = LogReader.record("c.csv", new ByteArrayInputStream(s.getBytes(StandardCharsets.UTF_8)), null,
                () -> false, n -> { });
        Recording with = rec.beside(track);
        assertThat(with.si(Channel.SPEED)[500]).isEqualTo(15.0, within(0.01));
        assertThat(with.si(Channel.ALTITUDE)[500]).isEqualTo(460.0, within(0.05));
        assertThat(PlanJson.write(PlanJson.parse("p", PlanJson.write(with.plan())))).isEqualTo(
                PlanJson.write(with.plan()));
        Recording bare = LogReader.record("b.csv", new ByteArrayInputStream(Samples.log().getBytes(
                StandardCharsets.UTF_8)), null, () -> false, n -> { });
        assertThatThrownBy(() -> bare.beside(track)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("without clock times");
    }

    /** West of Greenwich the evening is tomorrow in universal time; east of it the early morning is yesterday. */
    @Test
    public void trackOfAnEveningWestOfGreenwichIsLaidBesideItsLog() throws IOException {
        for (String[] zone : new String[][] {{"2026-05-02T02", "19"}, {"2026-05-01T22", "08"}}) {
            StringBuilder g = new StringBuilder("<gpx version=\"1.1\"><trk><trkseg>");
            for (int i = 0; i <= 120; i++) {
                g.append(String.format(Locale.ROOT, "<trkpt lat=\"%.7f\" lon=\"-110.0\"><ele>%d</ele>"
                        + "<time>%s:%02d:%02dZ</time></trkpt>", 41.0 + i * 15.0 / 111_194.93, 400 + i, zone[0], i / 60,
                        i % 60));
            }
            TrackReader.Track track = TrackReader.read("t.gpx", new ByteArrayInputStream(
                    (g + "</trkseg></trk></gpx>").getBytes(StandardCharsets.UTF_8)));
            String s = text("time,rpm,vacuum_inHg,afr\n", ",", "\n", r -> List.of(clock(r[0], Integer.parseInt(zone[1])
                    * 3600 + 10), n(r[1]), n(r[2]), n(r[3])));
            Recording rec = LogReader.record("c.csv", new ByteArrayInputStream(s.getBytes(StandardCharsets.UTF_8)),
                    null, () -> false, n -> { });
            assertThat(rec.beside(track).si(Channel.SPEED)[500]).as(zone[1]).isEqualTo(15.0, within(0.01));
        }
    }

    /** Whatever the bytes, asking what a file is ends in an answer or a positioned message. */
    @Test
    public void anyBytesEndInAProposalOrAMessage() throws IOException {
        java.util.Random r = new java.util.Random(21);
        byte[][] seeds = {Samples.log().getBytes(StandardCharsets.UTF_8), xlsx(), ods(),
            Samples.log().getBytes(StandardCharsets.UTF_16)};
        int answered = 0;
        for (int k = 0; k < 600; k++) {
            byte[] b = seeds[k % seeds.length].clone();
            if (k % 5 == 0) {
                b = java.util.Arrays.copyOf(b, r.nextInt(b.length));
            }
            int hits = 1 + r.nextInt(k % 3 == 0 ? 300 : 5);
            for (int h = 0; h < hits && b.length > 0; h++) {
                b[r.nextInt(k % 2 == 0 ? Math.min(b.length, 200) : b.length)] = (byte) r.nextInt(256);
            }
            try {
                LogReader.propose("x", new ByteArrayInputStream(b));
                LogReader.record("x", new ByteArrayInputStream(b), null, () -> false, n -> { });
                answered++;
            } catch (InputProblem e) {
                assertThat(e.getMessage()).startsWith("x");
            }
        }
        assertThat(answered).isBetween(20, 590);
    }

    @Test
    public void oddReadingsAreFoundAndNothingIsTakenOut() throws IOException {
        String[] lines = Samples.log().split("\n");
        lines[201] = lines[201].replaceFirst(",[0-9.]+$", ",21.5");
        StringBuilder s = new StringBuilder();
        for (int i = 0; i < lines.length; i++) {
            if (i < 600 || i > 640) {
                s.append(lines[i]).append('\n');
            }
        }
        Recording rec = LogReader.record("q.csv",
                new ByteArrayInputStream(s.toString().getBytes(StandardCharsets.UTF_8)), null, () -> false, n -> { });
        List<Quality.Finding> found = Quality.of(rec);
        assertThat(found).anyMatch(f -> f.kind() == Quality.Kind.GAP && f.toS() - f.fromS() > 4);
        assertThat(found).anyMatch(f -> f.kind() == Quality.Kind.SPIKE && f.channel() == Channel.AFR);
        assertThat(rec.size()).isEqualTo(959);
    }

    @Test
    public void longRecordingIsJudgedBySomeOfItsRows() {
        StringBuilder s = new StringBuilder("time_s,rpm,vacuum_inHg,afr\n");
        int rows = 2 * ColumnChunk.SIZE + 1000;
        for (int i = 0; i < rows; i++) {
            s.append(i / 100.0).append(',').append(800 + i % 50).append(",18,14\n");
        }
        Recording rec;
        try {
            rec = LogReader.record("long.csv", new ByteArrayInputStream(s.toString().getBytes(StandardCharsets.UTF_8)),
                    null, () -> false, n -> { });
        } catch (IOException e) {
            throw new AssertionError(e);
        }
        Recording thin = rec.thinned(10_000);
        int every = (rows + 9_999) / 10_000;
        assertThat(thin.size()).isEqualTo((rows + every - 1) / every);
        double[] all = rec.written(Channel.TIME);
        double[] some = thin.written(Channel.TIME);
        for (int i = 0; i < some.length; i++) {
            assertThat(some[i]).isEqualTo(all[i * every]);
        }
        assertThat(rec.thinned(rows)).isSameAs(rec);
    }

    @Test
    public void chunksKeepEveryBit() {
        java.util.Random r = new java.util.Random(3);
        for (int k = 0; k < 400; k++) {
            int n = 1 + r.nextInt(300);
            double[] v = new double[n];
            for (int i = 0; i < n; i++) {
                v[i] = switch (r.nextInt(k % 4 == 0 ? 9 : 4)) {
                    case 0 -> Double.NaN;
                    case 1 -> Math.round(r.nextGaussian() * 1e4) / 100.0;
                    case 2 -> r.nextInt(9000);
                    case 3 -> Math.round(r.nextDouble() * 1e6) / 1e4;
                    case 4 -> -0.0;
                    case 5 -> Double.longBitsToDouble(r.nextLong() & ~(0x7ffL << 52));
                    case 6 -> r.nextGaussian();
                    case 7 -> 1e300 * r.nextDouble();
                    default -> Double.MIN_VALUE;
                };
            }
            double[] back = new double[n];
            assertThat(ColumnChunk.unpack(ColumnChunk.pack(v, n), back, 0)).isEqualTo(n);
            for (int i = 0; i < n; i++) {
                assertThat(Double.doubleToRawLongBits(back[i])).isEqualTo(Double.doubleToRawLongBits(v[i]));
            }
        }
        assertThatThrownBy(() -> ColumnChunk.unpack(new byte[] {1, 0, 0, 1, 0, 3}, new double[300], 0))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
