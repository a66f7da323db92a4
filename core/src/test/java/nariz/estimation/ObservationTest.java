package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import java.util.stream.LongStream;
import nariz.exam.PracticeCase;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
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
    public void readingsAndTheStatesTheyBelongToAreFoundBothWays() {
        Observation o = observe(DEMO.log());
        int exact = 0;
        for (int s = 0; s < DEMO.log().size(); s++) {
            int i = o.readingOf(s);
            assertThat(o.stateOf(i)).isLessThanOrEqualTo(s);
            assertThat(i + 1 == DEMO.log().size() || o.stateOf(i + 1) != s).isTrue();
            exact += o.stateOf(i) == s ? 1 : 0;
        }
        assertThat(exact).isGreaterThan(DEMO.log().size() * 9 / 10);
    }

    /** A throttle channel that trembles does not work the pump; a foot does. */
    @Test
    public void pumpDeliversAtOpeningsAndNotWhileThePlateTrembles() {
        java.util.Random noise = new java.util.Random(5);
        double[] pedal = DEMO.log().values(Channel.THROTTLE);
        Observation plain = observe(DEMO.log());
        Observation trembles = observe(with(Channel.THROTTLE, i -> Math.clamp(pedal[i] + 0.004 * noise.nextGaussian(),
                0.0, 1.0)));
        Observation coarse = observe(with(Channel.THROTTLE, i -> Math.floor(pedal[i] * 128 + noise.nextDouble())
                / 128));
        for (Observation o : List.of(plain, trembles, coarse)) {
            double steady = 0;
            double steadyShot = 0;
            double shot = 0;
            for (int s = 0; s < DEMO.log().size(); s++) {
                double pump = o.phi(nariz.family.metered.MeteredCircuits.PUMP, s);
                shot += pump;
                // The demo has come to rest for a while wherever the plain one calls it steady.
                if (plain.flag(plain.readingOf(s)) == Flag.STEADY) {
                    steadyShot += pump;
                    steady += o.predictedPhi(s);
                }
            }
            assertThat(steadyShot / steady).isLessThan(0.002);
            // Eleven openings of some tenths of a second in twelve minutes.
            assertThat(shot).isGreaterThan(20.0);
        }
    }

    @Test
    public void tremorIsFourDeviationsOrOneStep() {
        java.util.Random noise = new java.util.Random(7);
        double[] white = java.util.stream.IntStream.range(0, 20_000).mapToDouble(i -> 0.01 * noise.nextGaussian())
                .toArray();
        assertThat(Observation.tremor(white)).isCloseTo(0.04, org.assertj.core.api.Assertions.within(0.001));
        double[] toggles = java.util.stream.IntStream.range(0, 1000).mapToDouble(i -> i % 50 == 0 ? 0.5 : 0.496)
                .toArray();
        assertThat(Observation.tremor(toggles)).isCloseTo(1.01 * 0.004, org.assertj.core.api.Assertions.within(1e-9));
        assertThat(Observation.tremor(new double[] {0.2, 0.2, Double.NaN, 0.2})).isZero();
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
        double[] off = LongStream.rangeClosed(1, 6).parallel().mapToObj(ObservationTest::offUnderLoad)
                .reduce((a, b) -> new double[] {a[0] + b[0], a[1] + b[1]}).orElseThrow();
        assertThat(off[0]).isGreaterThan(10);
        assertThat(off[1]).isLessThan(0.9 * off[0]);
    }

    /** Sum of how far readings under load are from what was metered: as read, and freed of the film. */
    private static double[] offUnderLoad(long seed) {
        PracticeCase c = PracticeCase.of(seed);
        SimulatedDrive d = c.drive();
        Observation o = Observation.of(d.log(), c.fitted(), () -> false);
        double raw = 0;
        double settled = 0;
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
        return new double[] {raw, settled};
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
