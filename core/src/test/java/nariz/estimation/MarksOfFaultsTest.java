package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.Demo;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.units.Units;
import org.testng.annotations.Test;

/** What faults do beside moving the mixture over speed and load, and what overlap does to the sensor. */
public class MarksOfFaultsTest {
    private static final BuildSheet SHEET = DemoDrive.sheet();

    private static Observation drive(Map<Fault, Double> faults) {
        return Observation.of(new EngineSimulator(SHEET, DemoDrive.SEED, faults, 5)
                .drive(DriveScript.twelveMinutes(), 20, "drive").log(), SHEET, () -> false);
    }

    @Test
    public void airCleanersDropIsReadFromTheVacuumAtWideOpenThrottle() {
        WideOpen clean = WideOpen.of(drive(Map.of()));
        WideOpen foul = WideOpen.of(drive(Map.of(Fault.AIR_CLEANER, 1.0)));
        assertThat(foul.sdPa()).isLessThan(1000.0);
        // Strength 1 takes 2.5 kPa at the airflow of 85 % of the redline, a little beyond what the drive reaches.
        assertThat(foul.dropPa() - clean.dropPa()).isBetween(1500.0, 2900.0);
        assertThat(Math.abs(clean.dropPa())).isLessThan(2.0 * clean.sdPa() + 700.0);
    }

    @Test
    public void kilopascalBeforeAPistonRichensItsTopByAQuarterAndAVenturisByAFewPerCent() {
        double[] four = FaultShapes.airCleaner(SHEET, drive(Map.of()).cells());
        assertThat(Arrays.stream(four).max().orElseThrow()).isBetween(0.005, 0.06);
        BuildSheet needles = Demo.SMALL_FOUR.sheet();
        List<Cell> cells = Observation.of(Demo.SMALL_FOUR.drive().log(), needles, () -> false).cells();
        double[] two = FaultShapes.airCleaner(needles, cells);
        // sqrt(1 + 1 kPa/2 kPa) at the largest airflow, hardly anything at idle.
        assertThat(Arrays.stream(two).max().orElseThrow()).isBetween(0.1, 0.35);
        assertThat(two[IntStream.range(0, two.length).filter(i -> cells.get(i).idle()).findFirst().orElseThrow()])
                .isLessThan(0.03);
    }

    /** Where the jets just begin to feed a drop lifts many times the fuel: that is no measure of the top. */
    @Test
    public void airCleanersShapeRisesWithTheAirAndIsNowhereMoreThanAtTheTop() {
        for (Demo demo : List.of(Demo.ESTATE, Demo.ROADSTER)) {
            List<Cell> cells = Observation.of(demo.drive().log(), demo.sheet(), () -> false).cells();
            double[] shape = FaultShapes.airCleaner(demo.sheet(), cells);
            int top = IntStream.range(0, shape.length).boxed().max(Comparator.comparingDouble(i -> cells.get(i)
                    .airKgPerS())).orElseThrow();
            double most = cells.get(top).airKgPerS();
            assertThat(shape[top]).isBetween(0.03, 0.08);
            for (int i = 0; i < shape.length; i++) {
                double air = cells.get(i).airKgPerS() / most;
                assertThat(shape[i]).isBetween(0.7 * air * shape[top], (0.3 + 0.8 * air) * shape[top]);
            }
        }
    }

    /** On a sheet with small venturis the model takes more pressure than the engine shows to be lost. */
    @Test
    public void vacuumBelowTheCarburetorsOwnLossSaysNoMoreThanItIsOff() {
        DriveLog log = new EngineSimulator(SHEET, DemoDrive.SEED, Map.of(), 5).drive(DriveScript.twelveMinutes(), 20,
                "drive").log();
        BuildSheet small = BuildSheetReader.parse("small.json", DemoDrive.sheetJson().replaceAll(
                "\"venturi\": \"[0-9.]+ mm\"", "\"venturi\": \"24 mm\""));
        WideOpen w = WideOpen.of(Observation.of(log, small, () -> false));
        assertThat(w.dropPa()).isLessThan(-1000.0);
        assertThat(w.sdPa()).isGreaterThanOrEqualTo(-w.dropPa());
    }

    @Test
    public void driveWithoutWideOpenThrottleSaysNothingOfTheCleaner() {
        DriveLog log = DemoDrive.drive().log();
        Map<Channel, double[]> gentle = new EnumMap<>(Channel.class);
        int[] rows = IntStream.range(0, log.size()).filter(i -> log.values(Channel.THROTTLE)[i] < 0.6).toArray();
        for (Channel c : List.of(Channel.TIME, Channel.RPM, Channel.VACUUM, Channel.LAMBDA, Channel.THROTTLE)) {
            gentle.put(c, IntStream.of(rows).mapToDouble(i -> log.values(c)[i]).toArray());
        }
        Observation o = Observation.of(new DriveLog("gentle", gentle, List.of(), 0), SHEET, () -> false);
        assertThat(WideOpen.of(o).sdPa()).isInfinite();
    }

    @Test
    public void bowlThatRunsDryRunsAwayToLeanAndSoundPullsDoNot() {
        assertThat(PullTrend.of(drive(Map.of())).runaway()).isLessThan(0.07);
        assertThat(PullTrend.of(drive(Map.of(Fault.FALLING_FUEL_LEVEL, 1.4))).runaway()).isGreaterThan(0.10);
    }

    @Test
    public void overlapFallsWithTheSquareOfSpeedAndWithVacuum() {
        Overlap o = Overlap.of(SHEET, 60e3);
        double idle = SHEET.engine().idleRpm();
        assertThat(o.bias(idle, 60e3)).isBetween(0.005, 0.05);
        assertThat(o.bias(2 * idle, 60e3)).isEqualTo(o.bias(idle, 60e3) / 4, within(1e-12));
        assertThat(o.bias(idle, 30e3)).isEqualTo(o.bias(idle, 60e3) / 2, within(1e-12));
        assertThat(o.bias(idle, 0.0)).isZero();
    }

    @Test
    public void cellsKeepWhatIsMeteredAndWhatTheWallsDoOnceTheyAreSteady() {
        Observation o = drive(Map.of());
        double[] sum = new double[o.cells().size()];
        int[] n = new int[sum.length];
        for (int i = 0; i < o.log().size(); i++) {
            if (o.cellOf(i) >= 0) {
                sum[o.cellOf(i)] += o.measuredPhi(i) * o.sensorBias(i) * o.film().settles(o.stateOf(i));
                n[o.cellOf(i)]++;
            }
        }
        for (int c = 0; c < sum.length; c++) {
            Cell cell = o.cells().get(c);
            assertThat(cell.phi() / cell.film()).isEqualTo(sum[c] / n[c], within(1e-6));
            assertThat(cell.film()).isBetween(0.7, 1.3);
        }
        // A pull is leaner than it is metered: at full load the walls still fill, less in its later seconds.
        double late = o.cells().stream().filter(x -> x.vacuumPa() < 2 * Units.INHG).mapToDouble(Cell::film).average()
                .orElseThrow();
        double all = IntStream.range(0, o.log().size()).filter(i -> o.cellOf(i) >= 0
                && o.cells().get(o.cellOf(i)).vacuumPa() < 2 * Units.INHG)
                .mapToDouble(i -> 1.0 / o.film().settles(o.stateOf(i))).average().orElseThrow();
        assertThat(all).isLessThan(1.0);
        assertThat(late).isBetween(all, 1.005);
        assertThat(o.log().has(Channel.THROTTLE)).isTrue();
    }
}
