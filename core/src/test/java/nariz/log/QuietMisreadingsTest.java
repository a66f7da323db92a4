package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.function.IntFunction;
import nariz.carburetor.InputProblem;
import org.testng.annotations.Test;

/** What could be read wrong without a word: it is read rightly, asked about, or listed with its place. */
public class QuietMisreadingsTest {
    private static final int ROWS = 1000;

    private static double vacuum(int i) {
        return 14 + 6 * Math.sin(i / 60.0);
    }

    private static double rpm(int i) {
        return 1550 + 750 * Math.sin(i / 90.0);
    }

    @SuppressWarnings("AnnotateFormatMethod")
    private static String f(String format, Object... v) {
        return String.format(Locale.ROOT, format, v);
    }

    private static String text(String header, IntFunction<String> row) {
        StringBuilder s = new StringBuilder(header).append('\n');
        for (int i = 0; i < ROWS; i++) {
            s.append(row.apply(i)).append('\n');
        }
        return s.toString();
    }

    private static Recording strict(String text) {
        return record(text, null);
    }

    private static Recording record(String text, Plan plan) {
        try {
            return LogReader.record("quiet.csv", new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)), plan,
                    () -> false, n -> { });
        } catch (IOException e) {
            throw new AssertionError(e);
        }
    }

    private static Plan proposed(String text) {
        try {
            return LogReader.propose("quiet.csv", new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)))
                    .plan();
        } catch (IOException e) {
            throw new AssertionError(e);
        }
    }

    @Test
    public void timeWithoutAUnitInMillisecondsIsAskedAbout() {
        String log = text("Time,RPM,Vacuum (inHg),AFR", i -> f("%d,%.0f,%.2f,13.2", 50 * i, rpm(i), vacuum(i)));
        assertThatThrownBy(() -> strict(log)).isInstanceOf(InputProblem.class).hasMessageContaining("line 1, column 1 "
                + "(Time)").hasMessageContaining("would fit ms").hasMessageContaining("--columns 1=time:ms");
        assertThat(record(log, proposed(log).confirmed()).durationS()).isCloseTo(49.95, within(1e-9));
        String minutes = text("Time,RPM,Vacuum (inHg),AFR", i -> f("%.7f,%.0f,%.2f,13.2", 0.05 / 60 * i, rpm(i),
                vacuum(i)));
        assertThatThrownBy(() -> strict(minutes)).hasMessageContaining("would fit min");
        String seconds = text("Time,RPM,Vacuum (inHg),AFR", i -> f("%.2f,%.0f,%.2f,13.2", 0.05 * i, rpm(i), vacuum(i)));
        assertThat(strict(seconds).durationS()).isCloseTo(49.95, within(1e-9));
    }

    @Test
    public void throttleWithoutAUnitIsReadOnlyAsPercent() {
        String head = "time_s,rpm,vacuum_inHg,afr,throttle";
        String share = text(head, i -> f("%.2f,%.0f,%.2f,13.2,%.3f", 0.05 * i, rpm(i), vacuum(i), 0.001 * (i % 900)));
        assertThat(strict(share).channels()).doesNotContain(Channel.THROTTLE);
        assertThat(strict(share).plan().unread().getFirst().looksLike()).hasToString("looks like throttle in 0..1");
        assertThat(record(share, proposed(share).confirmed()).si(Channel.THROTTLE)[500]).isCloseTo(0.5, within(1e-9));
        String volts = text(head, i -> f("%.2f,%.0f,%.2f,13.2,%.3f", 0.05 * i, rpm(i), vacuum(i), 0.5 + 0.004 * (i
                % 1000)));
        assertThat(strict(volts).channels()).doesNotContain(Channel.THROTTLE);
        assertThat(strict(volts).plan().unread().getFirst().looksLike()).hasToString("looks like throttle in volts");
        assertThat(record(volts, proposed(volts).confirmed()).si(Channel.THROTTLE)[999]).isCloseTo(1.0, within(0.2));
        String percent = text(head, i -> f("%.2f,%.0f,%.2f,13.2,%.1f", 0.05 * i, rpm(i), vacuum(i), 0.1 * (i % 900)));
        assertThat(strict(percent).si(Channel.THROTTLE)[500]).isCloseTo(0.5, within(1e-9));
    }

    @Test
    public void thousandsAreToldFromDecimalsByTheRestOfTheFile() {
        String log = text("time_s,rpm,vacuum_inHg,afr", i -> f("%.2f,\"%,.0f\",%.2f,13.2", 0.05 * i, rpm(i),
                vacuum(i)));
        assertThat(log).contains("\"1,550\"");
        assertThat(strict(log).si(Channel.RPM)[0]).isEqualTo(1550);
        String continental = text("time_s;rpm;vacuum_inHg;afr", i -> f("%.2f;%,.0f;%.2f;13.2", 0.05 * i, rpm(i),
                vacuum(i)).replace('.', '#').replace(',', '.').replace('#', ','));
        assertThat(continental).contains(";1.550;");
        assertThat(strict(continental).si(Channel.RPM)[0]).isEqualTo(1550);
        assertThat(strict(continental).si(Channel.AFR)[0]).isEqualTo(13.2);
        // Nothing in the file tells: then nothing is taken for granted.
        String open = text("time_s;rpm;vacuum_mbar;afr", i -> f("%d;%d;%d;13", i, 900 + i, 300 + i % 200))
                .replace(";900;", ";1,550;");
        Recording r = strict(open);
        assertThat(r.si(Channel.RPM)[0]).isNaN();
        assertThat(r.problems().getFirst().text().toString()).contains(
                "line 2, column 2").contains("could be two numbers");
    }

    @Test
    public void aCellsOwnUnitCounts() {
        String log = text("time_s,rpm,vacuum_mbar,afr", i -> f("%.2f,%.0f,%s,13.2", 0.05 * i, rpm(i), i == 500
                ? "455 mmHg"
                : i == 501 ? "20 furlong" : f("%.0f mbar", 33.86 * vacuum(i))));
        Recording r = strict(log);
        assertThat(r.si(Channel.VACUUM)[500]).isCloseTo(455 * 133.3224, within(1.0));
        assertThat(r.si(Channel.VACUUM)[501]).isNaN();
        assertThat(r.problems().getFirst().text().toString()).startsWith(
                "line 503, column 3 (vacuum_mbar): \"20 furlong\"");
        String bare = text("time_s,rpm,vacuum,afr", i -> f("%.2f,%.0f,%.2f inHg,13.2", 0.05 * i, rpm(i), vacuum(i)));
        assertThat(strict(bare).si(Channel.VACUUM)[0]).isCloseTo(14 * 3386.389, within(1.0));
    }

    @Test
    public void rowsWithTooManyFieldsAreListedAndManyOfThemRefused() {
        IntFunction<String> row = i -> f("%.2f,%.0f,%.2f,13.2", 0.05 * i, rpm(i), vacuum(i));
        Recording r = strict(text("time_s,rpm,vacuum_inHg,afr", i -> i == 300 ? "99," + row.apply(i) : row.apply(i)));
        assertThat(r.size()).isEqualTo(ROWS - 1);
        assertThat(r.problems().getFirst().text().toString()).contains(
                "line 302").contains("a row of 5 fields where the "
                + "header has 4");
        assertThatThrownBy(() -> strict(text("time_s,rpm,vacuum_inHg,afr", i -> f("%d,%02d,%.0f,%d,%02d,13,2", i / 20,
                i % 20 * 5, rpm(i), 14, i % 100)))).isInstanceOf(InputProblem.class).hasMessageContaining(
                        "decimal comma needs another separator");
        // Separators that end a row are no fields.
        assertThat(strict(text("time_s,rpm,vacuum_inHg,afr", i -> row.apply(i) + ",,")).problems()).isEmpty();
    }

    /** One wrong time does not move all that comes after it. */
    @Test
    public void aSingleTimeThatJumpsAheadIsLeftOut() {
        Recording r = strict(text("time_s,rpm,vacuum_inHg,afr", i -> f("%.2f,%.0f,%.2f,13.2", i == 400 ? 27.1
                : 0.05 * i,
                rpm(i), vacuum(i))));
        assertThat(r.size()).isEqualTo(ROWS - 1);
        assertThat(r.written(Channel.TIME)[400]).isCloseTo(20.05, within(1e-9));
        assertThat(r.si(Channel.RPM)[400]).isEqualTo(Math.rint(rpm(401)));
        assertThat(r.problems().getFirst().text().toString()).isEqualTo(
                "line 402, column 1 (time_s): a time that jumps "
                + "ahead for one row; the row was left out");
        // A first row that is out of order is no reason for two rows at one time.
        Recording first = strict(text("time_s,rpm,vacuum_inHg,afr", i -> f("%.2f,%.0f,%.2f,13.2", i == 0 ? 17.8
                : 0.05 * i,
                rpm(i), vacuum(i))));
        RecordingCheck.check("first row", first);
        // A clock that was set back goes on from where it was, as ever.
        Recording set = strict(text("time_s,rpm,vacuum_inHg,afr", i -> f("%.2f,%.0f,%.2f,13.2", i < 400 ? 50 + 0.05 * i
                : 0.05 * (i - 400), rpm(i), vacuum(i))));
        assertThat(set.durationS()).isCloseTo(49.95, within(0.06));
    }

    @Test
    public void aLapTimerIsNoClock() throws IOException {
        String log = text("Time (s),RPM,Vacuum (inHg),Time 2 (s),AFR", i -> f("%.2f,%.0f,%.2f,%.2f,13.2", 0.05 * i,
                rpm(i),
                vacuum(i), 0.05 * (i % 700)));
        Path file = Files.writeString(Files.createTempFile("nariz", ".csv"), log);
        Recording r = LogReader.record(file, null, () -> false, n -> { });
        assertThat(r.size()).isEqualTo(ROWS);
        assertThat(r.durationS()).isCloseTo(49.95, within(1e-9));
        assertThat(r.plan().unread().getFirst().looksLike().toString()).contains("lap timer");
        // One that restarts within the first rows is seen at once.
        String early = text("Time (s),RPM,Vacuum (inHg),Time 2 (s),AFR", i -> f("%.2f,%.0f,%.2f,%.2f,13.2", 0.05 * i,
                rpm(i), vacuum(i), 0.05 * (i % 70)));
        assertThat(strict(early).durationS()).isCloseTo(49.95, within(1e-9));
    }

    @Test
    public void twoColumnsOfOneChannelAreAskedAbout() {
        String log = text("time_s,rpm,vacuum_inHg,afr,Wideband AFR", i -> f("%.2f,%.0f,%.2f,13.2,%.1f", 0.05 * i,
                rpm(i),
                vacuum(i), 14.1));
        assertThatThrownBy(() -> strict(log)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("a second column for AFR "
                + "(the first is \"afr\")");
        assertThat(proposed(log).certain()).isFalse();
        // Of what is not needed neither is taken, and both are named.
        String speeds = text("time_s,rpm,vacuum_inHg,afr,GPS speed (km/h),Wheel speed (km/h)", i -> f(
                "%.2f,%.0f,%.2f,13.2,%d,%d", 0.05 * i, rpm(i), vacuum(i), i / 20, i / 19));
        assertThat(strict(speeds).channels()).doesNotContain(Channel.SPEED);
        assertThat(strict(speeds).plan().unread()).extracting(UnreadColumn::title).containsExactly("GPS speed (km/h)",
                "Wheel speed (km/h)");
        assertThat(strict(speeds).plan().unread()).allMatch(UnreadColumn::matters);
    }

    @Test
    public void columnsPartedByRunsOfBlanksAreRead() {
        String log = text("time_s    rpm   vacuum_inHg   afr", i -> f("%8.2f %6.0f   %9.2f %9.2f", 0.05 * i, rpm(i),
                vacuum(i), 13.2));
        Recording r = strict(log);
        assertThat(r.size()).isEqualTo(ROWS);
        assertThat(r.si(Channel.RPM)[0]).isEqualTo(1550);
        String words = text("Time (s)   Engine Speed   Man Vac (inHg)   AFR", i -> f("%.2f  %.0f  %.2f  %.2f", 0.05 * i,
                rpm(i), vacuum(i), 13.2));
        assertThat(strict(words).si(Channel.VACUUM)[0]).isCloseTo(14 * 3386.389, within(1.0));
    }

    /** Oil, the cylinder head or the time since the start tell a cold engine where no coolant does. */
    @Test
    public void otherSignsOfWarmthAreRead() {
        for (String h : new String[] {"Oil temp (C)", "CHT (F)", "Run time (min)"}) {
            String log = text("time_s,rpm,vacuum_inHg,afr," + h, i -> f("%.2f,%.0f,%.2f,13.2,%.1f", 0.05 * i, rpm(i),
                    vacuum(i), 20 + 0.01 * i));
            assertThat(strict(log).channels()).as(h).containsAnyOf(Channel.OIL_TEMPERATURE, Channel.HEAD_TEMPERATURE,
                    Channel.RUN_TIME);
        }
    }

    /** A hundred thousand words, four thousand clocks: an answer at once. */
    @Test(timeOut = 20_000)
    public void absurdHeadersAreAnsweredSoon() {
        String words = "word ".repeat(100_000) + "\n" + "1 ".repeat(100_000) + "\n";
        assertThatThrownBy(() -> strict(words)).isInstanceOf(InputProblem.class);
        String commas = "rpm,afr,vacuum_inHg,time_s," + "word,".repeat(100_000) + "\n" + "1,".repeat(100_004) + "\n";
        assertThatThrownBy(() -> strict(commas)).isInstanceOf(InputProblem.class).hasMessageContaining("columns");
        StringBuilder clocks = new StringBuilder();
        for (int i = 0; i < 2000; i++) {
            clocks.append("Time ").append(i).append(" (s),x").append(i).append(',');
        }
        StringBuilder all = new StringBuilder(clocks).append("rpm,vacuum_inHg,afr\n");
        for (int i = 0; i < 200; i++) {
            all.append((i + ",1,").repeat(2000)).append("900,15,13\n");
        }
        // Two thousand clocks that tell the same are one.
        assertThat(strict(all.toString()).size()).isEqualTo(200);
    }

    /** A log begins with idle: what a throttle's numbers are is judged by what comes later as well. */
    @Test
    public void rangesAreJudgedByMoreThanTheFirstRows() {
        String log = text("time_s,rpm,vacuum_inHg,afr,throttle", i -> f("%.2f,%.0f,%.2f,13.2,%.1f", 0.05 * i, rpm(i),
                vacuum(i), i < 600 ? 0.1 : 0.1 * (i - 600)));
        assertThat(strict(log).si(Channel.THROTTLE)[900]).isCloseTo(0.3, within(1e-9));
        String idle = text("time_s,rpm,vacuum_inHg,afr,throttle", i -> f("%.2f,%.0f,%.2f,13.2,0.1", 0.05 * i, rpm(i),
                vacuum(i)));
        assertThat(strict(idle).plan().unread().getFirst().looksLike()).hasToString("looks like throttle in %");
    }

    /** A profile keeps what was not read, so that it can still be asked about. */
    @Test
    public void whatIsNotReadIsKeptWithThePlan() {
        String log = text("time_s,rpm,vacuum_inHg,afr,throttle,battery_V", i -> f("%.2f,%.0f,%.2f,13.2,%.3f,13.8", 0.05
                * i, rpm(i), vacuum(i), 0.001 * (i % 900)));
        Plan p = strict(log).plan();
        assertThat(p.unread()).hasSize(2);
        Plan back = PlanJson.parse("plan", PlanJson.write(p));
        assertThat(back.unread()).extracting(UnreadColumn::title, u -> u.looksLike().toString(), UnreadColumn::matters)
                .containsExactlyElementsOf(p.unread().stream().map(u -> org.assertj.core.groups.Tuple.tuple(u.title(),
                        u.looksLike().toString(), u.matters())).toList());
        assertThat(PlanJson.write(back)).isEqualTo(PlanJson.write(p));
        assertThat(List.of(p.with(p.unread().getFirst().as().orElseThrow()).unread())).hasSize(1);
    }
}
