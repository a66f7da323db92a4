package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.sim.SimulatedDrive;
import nariz.units.Units;
import org.testng.annotations.Test;

public class EstimatorTest {
    /** A sheet that names other parts than are fitted: the correction must find the ratio of what they deliver. */
    private static Estimate estimate(BuildSheet fitted, BuildSheet written) {
        SimulatedDrive d = DemoDrive.drive(fitted, 99);
        return Estimator.of(Observation.of(d.log(), written, () -> false));
    }

    @Test
    public void correctionsOfAnHonestSheetAreNearOne() {
        Estimate e = estimate(DemoDrive.sheet(), DemoDrive.sheet());
        for (Circuit c : new Circuit[] {MeteredCircuits.IDLE, MeteredCircuits.TRANSFER, MeteredCircuits.MAIN}) {
            assertThat(e.correction(c)).as(c.label().toString()).isBetween(0.8, 1.2);
            assertThat(e.low(c)).isLessThan(e.correction(c));
            assertThat(e.high(c)).isGreaterThan(e.correction(c));
        }
    }

    /** By how far a third linearisation moves away a correction is known the less well, and nothing else changes. */
    @Test
    public void whatIsNotSettledIsKnownLessWell() {
        Estimate e = estimate(DemoDrive.sheet(), DemoDrive.sheet());
        Estimate further = estimate(MeteredParts.MAIN_JET.fit(DemoDrive.sheet(), Stage.PRIMARY, 66),
                DemoDrive.sheet());
        Circuit c = MeteredCircuits.MAIN;
        assertThat(e.unsettledBy(e).sd(c)).isEqualTo(e.sd(c));
        assertThat(e.unsettledBy(further).sd(c)).isEqualTo(Math.hypot(e.sd(c), further.correction(c) - e.correction(
                c)), within(1e-12));
        assertThat(e.unsettledBy(further).correction(c)).isEqualTo(e.correction(c));
    }

    @Test
    public void jetsThatAreNotOnTheSheetShowAsMainCorrection() {
        BuildSheet fitted = MeteredParts.MAIN_JET.fit(DemoDrive.sheet(), Stage.PRIMARY, 66);
        Estimate honest = estimate(DemoDrive.sheet(), DemoDrive.sheet());
        Estimate e = estimate(fitted, DemoDrive.sheet());
        double ratio = e.correction(MeteredCircuits.MAIN) / honest.correction(MeteredCircuits.MAIN);
        // (66/61)² = 1.17 more jet area; bleed and nozzle take part of it back.
        assertThat(ratio).isBetween(1.06, 1.22);
        assertThat(e.correction(MeteredCircuits.IDLE) / honest.correction(MeteredCircuits.IDLE)).isEqualTo(1.0,
                within(0.09));
    }

    @Test
    public void mixtureThatGrowsRicherWithAirflowShowsAsSlope() {
        Slope honest = estimate(DemoDrive.sheet(), DemoDrive.sheet()).mainSlope().orElseThrow();
        DriveLog log = DemoDrive.drive(DemoDrive.sheet(), 77).log();
        Observation o = Observation.of(log, DemoDrive.sheet(), () -> false);
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> channels.put(c, log.values(c).clone()));
        for (int i = 0; i < log.size(); i++) {
            channels.get(Channel.LAMBDA)[i] *= Math.pow(o.airKgPerS(o.stateOf(i)) / 0.06, -0.09);
        }
        DriveLog tilted = new DriveLog("tilted", channels, List.of(), 0);
        Slope s = Estimator.of(Observation.of(tilted, DemoDrive.sheet(), () -> false)).mainSlope().orElseThrow();
        // 2^0.09 = 1.064, six per cent of all fuel for twice the air; power and transfer explain a part of it as well.
        assertThat(s.perDoubling() - honest.perDoubling()).isBetween(0.015, 0.10);
        assertThat(honest.perDoubling() + 0.06).isBetween(s.low(), s.high());
        assertThat(s.low()).isLessThan(s.perDoubling());
        assertThat(s.high()).isEqualTo(2 * s.perDoubling() - s.low(), within(1e-9));
    }

    @Test
    public void valveThatOpensElsewhereThanWrittenIsFound() {
        BuildSheet fitted = MeteredParts.POWER_VALVE_RATING.fit(DemoDrive.sheet(), Stage.PRIMARY, 5.5);
        Estimate e = estimate(fitted, DemoDrive.sheet());
        // Written 3.5, fitted 5.5 inHg: it opens about 2 inHg early, and the prior of 0.8 inHg pulls a little back.
        assertThat(e.shiftPa() / Units.INHG).isBetween(1.0, 2.5);
        assertThat(e.shiftSdPa() / Units.INHG).isBetween(0.1, 0.8);
    }

    @Test
    public void cellsCarryTheirOwnUncertainty() {
        Estimate e = estimate(DemoDrive.sheet(), DemoDrive.sheet());
        for (int i = 0; i < e.cells().size(); i++) {
            assertThat(e.phiSd(i)).isBetween(0.001, 0.08);
            assertThat(Math.abs(e.phi(i) - e.cells().get(i).phi())).isLessThan(6 * e.cells().get(i).phiError() + 0.05);
        }
    }

    @Test
    public void unchangedPartsPredictTodaysMixture() {
        Estimate e = estimate(DemoDrive.sheet(), DemoDrive.sheet());
        double[] same = e.phiWith(DemoDrive.sheet());
        for (int i = 0; i < same.length; i++) {
            assertThat(same[i]).isEqualTo(e.phi(i), within(1e-9));
        }
    }
}
