package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.sim.DemoDrive;
import nariz.units.Units;
import org.testng.annotations.Test;

/** Headers over the wrong columns, hoses on the wrong nipple, and what only looks like it. */
public class SwappedColumnsTest {
    private static final BuildSheet SHEET = DemoDrive.sheet();
    private static final String[] TITLES = {"time_s", "rpm", "vacuum_inHg", "afr", "tps_pct", "speed_kmh", "coolant_C",
        "afr2", "airflow_gs", "altitude_m"};
    private static final List<String[]> ROWS = rows();

    /** The demo's drive with a second sensor, metered air and a road that climbs. */
    private static List<String[]> rows() {
        DriveLog d = DemoDrive.drive().log();
        List<String[]> out = new ArrayList<>();
        double perTurn = 0.85 * SHEET.engine().displacementM3() / 2 * 1.18 / 60;
        for (int i = 0; i < d.size(); i++) {
            double filled = 1 - d.vacuumPa()[i] / 100e3;
            out.add(new String[] {n(d.timeS()[i], 2), n(d.rpm()[i], 0), n(d.vacuumPa()[i] / Units.INHG, 2),
                n(14.7 * d.lambda()[i], 2), n(100 * d.values(Channel.THROTTLE)[i], 1),
                n(3.6 * d.values(Channel.SPEED)[i], 1), n(d.values(Channel.COOLANT)[i] - 273.15, 1),
                n(14.7 * d.lambda()[i] * 1.01, 2), n(1e3 * perTurn * d.rpm()[i] * filled, 2),
                n(420 + 60 * Math.sin(i / 3000.0), 1)});
        }
        return out;
    }

    private static String n(double v, int digits) {
        return Double.isNaN(v) ? "" : String.format(Locale.ROOT, "%." + digits + "f", v);
    }

    private static byte[] log(String[] titles, List<String[]> rows) {
        StringBuilder s = new StringBuilder(String.join(",", titles)).append('\n');
        rows.forEach(r -> s.append(String.join(",", r)).append('\n'));
        return s.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static DriveLog read(byte[] log) throws IOException {
        return LogReader.read("swapped.csv", new ByteArrayInputStream(log), SHEET, () -> false);
    }

    @Test
    public void theLogAsItIsIsReadWithoutAWord() throws IOException {
        DriveLog d = read(log(TITLES, ROWS));
        assertThat(d.recorded()).contains(Channel.AIRFLOW, Channel.ALTITUDE, Channel.LAMBDA_2, Channel.SPEED);
        assertThat(d.remarks()).isEmpty();
        assertThat(d.unread()).isEmpty();
    }

    /** Each of the 45 pairs of ten columns: refused with a place, but for the two sensors of one mixture. */
    @Test
    public void everyPairOfSwappedHeadersIsNoticed() {
        List<String> analysed = new ArrayList<>();
        for (int a = 0; a < TITLES.length; a++) {
            for (int b = a + 1; b < TITLES.length; b++) {
                String[] swapped = TITLES.clone();
                swapped[a] = TITLES[b];
                swapped[b] = TITLES[a];
                try {
                    read(log(swapped, ROWS));
                    analysed.add(TITLES[a] + " and " + TITLES[b]);
                } catch (InputProblem e) {
                    assertThat(e.column()).as(TITLES[a] + " and " + TITLES[b] + ": " + e.getMessage()).isPositive();
                } catch (IOException e) {
                    throw new AssertionError(e);
                }
            }
        }
        assertThat(analysed).containsExactly("afr and afr2");
    }

    /** Who names the columns by hand has the last word, and is told what speaks against it. */
    @Test
    public void whatAPersonNamedIsReadWithARemark() throws IOException {
        String[] swapped = TITLES.clone();
        swapped[5] = "coolant_C";
        swapped[6] = "speed_kmh";
        byte[] log = log(swapped, ROWS);
        assertThatThrownBy(() -> read(log)).isInstanceOf(InputProblem.class);
        Plan named = LogReader.propose("swapped.csv", new ByteArrayInputStream(log)).plan().confirmed();
        DriveLog d = LogReader.drive(LogReader.record("swapped.csv", new ByteArrayInputStream(log), named, () -> false,
                x -> { }), SHEET);
        assertThat(d.remarks().stream().map(Object::toString)).anyMatch(m ->
                m.startsWith("\"coolant_C\" was read as you "
                + "said, and shows"));
    }

    /** Next to nothing at idle, and vacuum at once when the plate passes the nipple. */
    @Test
    public void aPortedHoseIsNamedAndNothingIsSaidFromIt() {
        List<String[]> ported = new ArrayList<>();
        for (String[] r : ROWS) {
            String[] p = r.clone();
            p[2] = !r[4].isEmpty() && Double.parseDouble(r[4]) < 2.5 ? "0.1" : r[2];
            ported.add(p);
        }
        assertThatThrownBy(() -> read(log(TITLES, ported))).isInstanceOf(InputProblem.class).hasMessageContaining(
                "ported nipple").hasMessageContaining("(vacuum_inHg)");
        Plan named = plan(log(TITLES, ported)).confirmed();
        assertThatThrownBy(() -> LogReader.drive(LogReader.record("ported.csv", new ByteArrayInputStream(log(TITLES,
                ported)), named, () -> false, x -> { }), SHEET)).hasMessageContaining("ported nipple");
    }

    private static Plan plan(byte[] log) {
        try {
            return LogReader.propose("ported.csv", new ByteArrayInputStream(log)).plan();
        } catch (IOException e) {
            throw new AssertionError(e);
        }
    }

    /** Deep overrun with a rich tail, pressure named as what it is: no reason to refuse anything. */
    @Test
    public void deepOverrunWithRichTailsIsNoAbsolutePressure() {
        List<String[]> deep = new ArrayList<>();
        for (String[] r : ROWS) {
            String[] p = r.clone();
            boolean overrun = !r[4].isEmpty() && Double.parseDouble(r[4]) < 0.5 && !r[1].isEmpty()
                    && Double.parseDouble(r[1]) > 1500;
            double vacuum = r[2].isEmpty() ? Double.NaN : overrun ? 27.2 : Double.parseDouble(r[2]);
            p[2] = n(SHEET.ambient().pressurePa() / 1e3 - vacuum * 3.386389, 2);
            p[3] = overrun ? "12.1" : r[3];
            deep.add(p);
        }
        String[] titles = TITLES.clone();
        titles[2] = "map_kPa";
        assertThatCode(() -> read(log(titles, deep))).doesNotThrowAnyException();
        for (String[] p : deep) {
            p[2] = p[2].isEmpty() ? "" : n((SHEET.ambient().pressurePa() / 1e3 - Double.parseDouble(p[2])) / 3.386389,
                    2);
        }
        assertThatCode(() -> read(log(TITLES, deep))).doesNotThrowAnyException();
    }

    /** Vacuum in a column called pressure is told by the name of that column. */
    @Test
    public void pressureThatHoldsVacuumNamesItsOwnColumn() {
        String[] titles = TITLES.clone();
        titles[2] = "map_inHg";
        assertThatThrownBy(() -> read(log(titles, ROWS))).isInstanceOf(InputProblem.class).hasMessageContaining(
                "column 3 (map_inHg)");
    }
}
