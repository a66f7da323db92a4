package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.sim.SimulatedDrive;
import org.testng.annotations.Test;

public class PullTrendTest {
    private static Observation with(Map<Fault, Double> faults) {
        SimulatedDrive d = new EngineSimulator(DemoDrive.sheet(), DemoDrive.SEED, faults, 5)
                .drive(DriveScript.twelveMinutes(), 20, "pulls.csv");
        return Observation.of(d.log(), DemoDrive.sheet(), () -> false);
    }

    @Test
    public void supplyThatRunsShortShowsAsLeaningWithTimeInAPull() {
        PullTrend t = PullTrend.of(with(Map.of(Fault.FALLING_FUEL_LEVEL, 1.0)));
        // The simulator takes 2.5 % a second away; in part of each pull.
        assertThat(t.perS()).isBetween(-0.040, -0.010);
        assertThat(t.perS() + 4 * t.sdPerS()).isNegative();
    }

    @Test
    public void steadySupplyShowsNoTrend() {
        PullTrend t = PullTrend.of(with(Map.of()));
        assertThat(Math.abs(t.perS())).isLessThan(3 * t.sdPerS());
        assertThat(t.pressureRatio()).isNaN();
    }

    @Test
    public void shortLeanSpikesAreFlaggedAsMisfireAndLeftOutOfTheCells() {
        Observation sound = with(Map.of());
        Observation missing = with(Map.of(Fault.MISFIRE, 1.0));
        assertThat(sound.spikeShare()).isLessThan(0.012);
        assertThat(missing.spikeShare()).isGreaterThan(0.02);
        int flagged = 0;
        for (int i = 0; i < missing.log().size(); i++) {
            if (missing.flag(i) == Flag.MISFIRE) {
                flagged++;
                assertThat(missing.cellOf(i)).isEqualTo(-1);
            }
        }
        assertThat(flagged).isPositive();
    }

    @Test
    public void fuelPressureUnderLoadIsComparedWithRest() {
        DriveLog log = DemoDrive.drive().log();
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> channels.put(c, log.values(c)));
        double[] pressure = new double[log.size()];
        for (int i = 0; i < pressure.length; i++) {
            // 40 kPa at rest, half of it with the throttle well open.
            pressure[i] = log.values(Channel.THROTTLE)[i] > 0.3 ? 20e3 : 40e3;
        }
        channels.put(Channel.FUEL_PRESSURE, pressure);
        Observation o = Observation.of(new DriveLog("pressure", channels, List.of(), 0), DemoDrive.sheet(),
                () -> false);
        assertThat(PullTrend.of(o).pressureRatio()).isBetween(0.4, 0.9);
    }
}
