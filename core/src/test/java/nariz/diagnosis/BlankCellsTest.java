package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import nariz.estimation.Flag;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Cells that are blank where a computation wants a number: the answer stands, and no reading counts there. */
public class BlankCellsTest {
    private static final DriveLog WHOLE = DemoDrive.drive().log();

    private static DriveLog blanked(Map<Channel, Double> share, int single) {
        Random r = new Random(5);
        Map<Channel, double[]> all = new EnumMap<>(Channel.class);
        for (Channel c : WHOLE.recorded()) {
            double[] v = WHOLE.values(c).clone();
            double p = share.getOrDefault(c, 0.0);
            for (int i = 0; i < v.length; i++) {
                v[i] = r.nextDouble() < p || (i == single && c == Channel.VACUUM) ? Double.NaN : v[i];
            }
            all.put(c, v);
        }
        return new DriveLog("blanks", all, List.of(), 0);
    }

    @DataProvider
    Object[][] blanks() {
        return new Object[][] {{Map.of(), 12628}, {Map.of(), 0}, {Map.of(), WHOLE.size() - 1},
            {Map.of(Channel.VACUUM, 0.002), -1}, {Map.of(Channel.RPM, 0.01), -1},
            {Map.of(Channel.VACUUM, 0.1, Channel.RPM, 0.1, Channel.THROTTLE, 0.1, Channel.LAMBDA, 0.1), -1}};
    }

    @Test(dataProvider = "blanks")
    public void blankCellsLeaveTheAnswerAsItIs(Map<Channel, Double> share, int single) {
        Analysis a = Analysis.of(DemoDrive.sheet(), blanked(share, single), Strategy.BALANCED);
        assertThat(a.advice().verdict()).isEqualTo(Verdict.CHANGE);
        Change first = a.advice().first().orElseThrow();
        assertThat(first.title()).hasToString("primary idle feed restrictions: 37 thou to 34 thou");
        for (int i = 0; i < a.observation().log().size(); i++) {
            if (a.observation().log().filled(i)) {
                assertThat(a.observation().flag(i)).isNotEqualTo(Flag.STEADY);
            }
            assertThat(a.observation().log().vacuumPa()[i]).isFinite();
            assertThat(a.observation().log().rpm()[i]).isFinite();
        }
        // What was logged is what is shown: only the computation has the blanks bridged.
        assertThat(Prediction.of(a, List.of()).lambda()).hasSameSizeAs(WHOLE.timeS());
    }

    @Test
    public void blanksAreBridgedByStraightLines() {
        DriveLog d = blanked(Map.of(), 100);
        DriveLog c = d.complete();
        double[] v = WHOLE.vacuumPa();
        assertThat(c.vacuumPa()[100]).isCloseTo(0.5 * (v[99] + v[101]), org.assertj.core.api.Assertions.within(1.0));
        assertThat(c.filled(100)).isTrue();
        assertThat(c.filled(101)).isFalse();
        assertThat(d.vacuumPa()[100]).isNaN();
        assertThat(WHOLE.complete()).isSameAs(WHOLE);
    }

    @Test
    public void noTimeThatDoesNotRisePassesTheDoor() {
        Map<Channel, double[]> all = new EnumMap<>(Channel.class);
        WHOLE.recorded().forEach(c -> all.put(c, WHOLE.values(c).clone()));
        all.get(Channel.TIME)[7] = all.get(Channel.TIME)[6];
        DriveLog d = new DriveLog("stuck clock", all, List.of(), 0);
        assertThatThrownBy(d::complete).isInstanceOf(IllegalArgumentException.class)
                .hasMessageStartingWith("time {7} is");
        all.get(Channel.TIME)[7] = Double.NaN;
        assertThatThrownBy(d::complete).hasMessage("time {7} is NaN after 0.345");
    }
}
