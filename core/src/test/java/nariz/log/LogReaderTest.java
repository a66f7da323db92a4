package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import java.util.concurrent.CancellationException;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.sim.DemoDrive;
import nariz.testing.Samples;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LogReaderTest {
    private static final BuildSheet SHEET = BuildSheetReader.parse("six.json", Samples.sheet());

    private static DriveLog read(String text) {
        try {
            return LogReader.read("drive.csv", new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)), SHEET,
                    () -> false);
        } catch (IOException e) {
            throw new AssertionError(e);
        }
    }

    @Test
    public void ownFormatIsReadInSi() {
        DriveLog log = read("# a comment\n" + Samples.log());
        assertThat(log.size()).isEqualTo(1000);
        assertThat(log.timeS()[10]).isEqualTo(1.0);
        assertThat(log.vacuumPa()[0]).isEqualTo(18 * 3386.389, within(800.0));
        assertThat(log.lambda()[0]).isEqualTo(14.0 / 14.7, within(0.03));
        assertThat(log.problemCount()).isZero();
    }

    @DataProvider
    Object[][] headers() {
        return new Object[][] {
            {"Time (s);Engine Speed [rpm];Vacuum (inHg);AFR\n", ';'}, {"TIME\tRPM\tvac_inhg\tafr1\n", '\t'},
            {"\uFEFFtime_s,rpm,vacuum_inHg,afr\n", ','}, {"\"time_s\",\"rpm\",\"vacuum_inHg\",\"afr\"\n", ','},
            {"elapsed (sec),RPM,Manifold Vacuum [inHg],Air Fuel Ratio\n", ','},
        };
    }

    @Test(dataProvider = "headers")
    public void otherSpellingsAndSeparatorsMeanTheSame(String header, char separator) {
        DriveLog log = read(Samples.log(header, separator));
        assertThat(log.size()).isEqualTo(1000);
        assertThat(log.vacuumPa()).containsExactly(read(Samples.log()).vacuumPa());
    }

    @Test
    public void absolutePressureBecomesVacuum() {
        StringBuilder s = new StringBuilder("time_s,rpm,map_kPa,lambda\n");
        DriveLog good = read(Samples.log());
        for (int i = 0; i < good.size(); i++) {
            s.append(good.timeS()[i]).append(',').append(good.rpm()[i]).append(',')
                    .append(98.6 - good.vacuumPa()[i] / 1e3).append(',').append(good.lambda()[i]).append('\n');
        }
        DriveLog log = read(s.toString());
        for (int i = 0; i < good.size(); i++) {
            assertThat(log.vacuumPa()[i]).isEqualTo(good.vacuumPa()[i], within(1.0));
        }
    }

    @Test
    public void badCellsAndRowsAreKeptOutAndListedWithTheirPlace() {
        String[] lines = Samples.log().split("\n", -1);
        lines[5] = lines[5].replaceFirst(",[0-9.]+$", ",oops");
        lines[7] = "0.6,820";
        lines[9] = lines[3];
        DriveLog log = read(String.join("\n", lines));
        assertThat(log.size()).isEqualTo(998);
        assertThat(log.lambda()[4]).isNaN();
        assertThat(log.problems().stream().map(x -> x.text().toString())).containsExactly(
                "line 6, column 4 (afr): \"oops\" where a number belongs; the reading was left out",
                "line 8, column 2: a row of 2 fields where the header has 4; the row was left out",
                "line 10, column 1 (time_s): a time that does not rise; the row was left out");
    }

    @Test
    public void readingCanBeCancelled() {
        byte[] big = Samples.log().repeat(40).getBytes(StandardCharsets.UTF_8);
        assertThatThrownBy(() -> LogReader.read("x.csv", new ByteArrayInputStream(big), SHEET, () -> true))
                .isInstanceOf(CancellationException.class);
    }

    @Test
    public void whatIsWrittenReadsBackEqual() throws IOException {
        DriveLog log = DemoDrive.drive().log();
        StringWriter w = new StringWriter();
        LogWriter.write(log, w);
        DriveLog back = LogReader.read("back.csv",
                new ByteArrayInputStream(w.toString().getBytes(StandardCharsets.UTF_8)), DemoDrive.sheet(),
                () -> false);
        StringWriter again = new StringWriter();
        LogWriter.write(back, again);
        assertThat(again.toString()).isEqualTo(w.toString());
        assertThat(back.size()).isEqualTo(log.size());
    }

    /** Any bytes end in a result or in one positioned message: 3000 random spoilings of a good log. */
    @Test
    public void spoiledBytesNeverEndInAnythingButAResultOrAMessage() throws IOException {
        Random r = new Random(11);
        byte[] good = Samples.log().getBytes(StandardCharsets.UTF_8);
        int refused = 0;
        for (int k = 0; k < 3000; k++) {
            byte[] bad = good.clone();
            int hits = 1 + r.nextInt(k % 3 == 0 ? 400 : 4);
            for (int h = 0; h < hits; h++) {
                bad[r.nextInt(k % 2 == 0 ? 60 : bad.length)] = (byte) r.nextInt(256);
            }
            try {
                LogReader.read("x.csv", new ByteArrayInputStream(bad), SHEET, () -> false);
            } catch (InputProblem e) {
                refused++;
                assertThat(e.getMessage()).startsWith("x.csv");
            }
        }
        assertThat(refused).isBetween(300, 2900);
    }
}
