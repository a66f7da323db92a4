package nariz.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.exam.PracticeCase;
import nariz.sim.SimulatedDrive;
import nariz.units.Units;
import org.testng.annotations.Test;

public class ObservationTest {
    private static final SimulatedDrive DEMO = DemoDrive.drive();

    private static Observation observe(DriveLog log) {
        return Observation.of(log, DemoDrive.sheet(), () -> false);
    }

    private static DriveLog with(Channel c, java.util.function.IntToDoubleFunction f) {
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        for (Channel k : DEMO.log().recorded()) {
            channels.put(k, DEMO.log().values(k).clone());
        }
        for (int i = 0; i < DEMO.log().size(); i++) {
            channels.get(c)[i] = f.applyAsDouble(i);
        }
        return new DriveLog("changed", channels, List.of(), 0);
    }

    @Test
    public void everySampleHasAFlagAndSteadyOnesGoIntoCells() {
        Observation o = observe(DEMO.log());
        double[] dwell = new double[o.cells().size()];
        for (int i = 0; i < DEMO.log().size(); i++) {
            assertThat(o.flag(i)).isNotNull();
            if (o.cellOf(i) >= 0) {
                assertThat(o.flag(i)).isEqualTo(Flag.STEADY);
                dwell[o.cellOf(i)] += 0.05;
            }
        }
        for (int k = 0; k < dwell.length; k++) {
            assertThat(dwell[k]).isCloseTo(o.cells().get(k).dwellS(), org.assertj.core.api.Assertions.within(0.15));
        }
        assertThat(o.steadyS()).isGreaterThan(300);
        assertThat(o.cells().stream().filter(Cell::idle)).hasSize(1);
    }

    @Test
    public void readingsOfASlowerSensorBelongToEarlierStates() {
        double[] slow = DEMO.log().lambda().clone();
        double state = slow[0];
        for (int i = 0; i < slow.length; i++) {
            if (!Double.isNaN(slow[i])) {
                state += (1 / slow[i] - state) * (1 - Math.exp(-0.05 / 0.3));
                slow[i] = 1 / state;
            }
        }
        Observation usual = observe(DEMO.log());
        Observation late = observe(with(Channel.LAMBDA, i -> slow[i]));
        assertThat(usual.sensorLagS()).isBetween(0.03, 0.16);
        // Lag and exhaust volume trade against each other; together they must make up for most of 0.3 s.
        double shift = 0;
        int n = 0;
        for (int i = 200; i < slow.length; i++) {
            if (usual.flag(i) == Flag.STEADY) {
                shift += DEMO.log().timeS()[usual.stateOf(i)] - DEMO.log().timeS()[late.stateOf(i)];
                n++;
            }
        }
        assertThat(shift / n).isBetween(0.05, 0.4);
    }

    @Test
    public void coldRunningNeverCounts() {
        Observation o = observe(with(Channel.COOLANT, i -> i < 4000 ? 320 : 360));
        for (int i = 0; i < 4000; i++) {
            assertThat(o.flag(i)).isNotEqualTo(Flag.STEADY);
        }
    }

    @Test
    public void overrunIsFlaggedAndTrueLambdaThereStaysOut() {
        Observation o = observe(DEMO.log());
        int overrun = 0;
        for (int i = 0; i < DEMO.log().size(); i++) {
            boolean shutAndFast = DEMO.log().values(Channel.THROTTLE)[i] == 0.0 && DEMO.log().rpm()[i] > 1800;
            if (shutAndFast) {
                assertThat(o.flag(i)).isIn(Flag.OVERRUN, Flag.RAIL, Flag.MISSING);
                overrun++;
            }
        }
        assertThat(overrun).isGreaterThan(500);
    }

    @Test
    public void steadyReadingsAreCloseToTheTruthAfterTheFilmIsAccountedFor() {
        double raw = 0;
        double settled = 0;
        for (long seed = 1; seed <= 6; seed++) {
            PracticeCase c = PracticeCase.of(seed);
            SimulatedDrive d = c.drive();
            Observation o = Observation.of(d.log(), c.fitted(), () -> false);
            for (int i = 0; i < d.log().size(); i++) {
                if (o.flag(i) == Flag.STEADY && d.log().vacuumPa()[i] < 3 * Units.INHG) {
                    double metered = 0;
                    for (double[] k : d.truePhi()) {
                        metered += k[o.stateOf(i)];
                    }
                    raw += Math.abs(o.measuredPhi(i) / metered - 1);
                    settled += Math.abs(o.measuredPhi(i) * o.film().settles(o.stateOf(i)) / metered - 1);
                }
            }
        }
        assertThat(raw).isGreaterThan(10);
        assertThat(settled).isLessThan(0.9 * raw);
    }

    @Test
    public void withoutAThrottleChannelTheDriveIsStillRead() {
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        for (Channel k : List.of(Channel.TIME, Channel.RPM, Channel.VACUUM, Channel.LAMBDA)) {
            channels.put(k, DEMO.log().values(k));
        }
        Observation o = observe(new DriveLog("bare", channels, List.of(), 0));
        assertThat(o.steadyS()).isGreaterThan(250);
    }

    @Test
    public void workEndsWhenCancelled() {
        assertThatThrownBy(() -> Observation.of(DEMO.log(), DemoDrive.sheet(), () -> true))
                .isInstanceOf(CancellationException.class);
    }
}
