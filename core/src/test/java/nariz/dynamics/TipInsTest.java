package nariz.dynamics;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntToDoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.estimation.Observation;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Openings of the throttle in the demo drive, whose script says when the foot goes down. */
public class TipInsTest {
    private BuildSheet sheet;
    private DriveLog log;

    @BeforeClass
    void drive() {
        sheet = DemoDrive.sheet();
        log = DemoDrive.drive().log();
    }

    private List<TipIn> of(DriveLog l) {
        return Analysis.of(sheet, l, Strategy.BALANCED).tipIns();
    }

    /** From 530 s on the script stabs the throttle: 0.16 to 0.45, 0.08 to 0.3, three times and more to wide open. */
    @Test
    public void stabsOfTheScriptAreFoundAndNothingInSteadyRunning() {
        List<TipIn> found = of(log);
        assertThat(found).hasSizeBetween(6, 30);
        assertThat(found).filteredOn(t -> t.atS() > 525).hasSizeGreaterThanOrEqualTo(5);
        assertThat(found).isSortedAccordingTo((a, b) -> Double.compare(a.atS(), b.atS()));
        for (int i = 1; i < found.size(); i++) {
            assertThat(found.get(i).atS() - found.get(i - 1).atS()).isGreaterThan(1.0);
        }
        assertThat(found).allSatisfy(t -> {
            assertThat(t.opened()).isGreaterThan(0.06);
            assertThat(t.toVacuumPa()).isLessThan(t.fromVacuumPa());
        });
        assertThat(found).noneMatch(t -> t.atS() < 50);
    }

    @Test
    public void withoutAThrottleChannelVacuumTells() {
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        log.recorded().stream().filter(c -> c != Channel.THROTTLE).forEach(c -> channels.put(c, log.values(c)));
        List<TipIn> found = of(new DriveLog("no throttle", channels, List.of(), 0));
        assertThat(found).filteredOn(t -> t.atS() > 525).hasSizeGreaterThanOrEqualTo(4);
        assertThat(found).allMatch(t -> Double.isNaN(t.opened()));
    }

    /** A dip written into the readings after one stab is measured as it was written. */
    @Test
    public void leanSpikeIsMeasuredWithDepthStartAndLength() {
        Analysis plain = Analysis.of(sheet, log, Strategy.BALANCED);
        TipIn found = spiked(plain, plain.whatIf()::phi, 1.30);
        assertThat(found.lean()).isTrue();
        assertThat(found.leanest()).isCloseTo(0.30, within(0.06));
        assertThat(found.leanAfterS()).isCloseTo(0.2, within(0.11));
        assertThat(found.leanForS()).isCloseTo(0.4, within(0.16));
    }

    /** On the way to a rich full load an engine has its torque at lambda 1 as well: nobody feels that. */
    @Test
    public void whatIsOnlyLessRichThanSettledIsNotFelt() {
        Analysis plain = Analysis.of(sheet, log, Strategy.BALANCED);
        TipIn less = spiked(plain, i -> 1.15, 1.18);
        assertThat(less.leanest()).isCloseTo(0.18, within(0.01));
        assertThat(less.lean()).isFalse();
        assertThat(spiked(plain, i -> 1.15, 1.30).lean()).isTrue();
        assertThat(spiked(plain, i -> 0.98, 0.75).rich()).as("a sound shot").isFalse();
        assertThat(spiked(plain, i -> 0.98, 0.60).rich()).isTrue();
    }

    /** A stab as it is found where, from 0.2 to 0.6 s after it, readings are so much leaner than settled. */
    private TipIn spiked(Analysis plain, IntToDoubleFunction settled, double times) {
        TipIn stab = plain.tipIns().stream().filter(t -> t.atS() > 525).findFirst().orElseThrow();
        double[] lambda = log.lambda().clone();
        for (int i = 0; i < lambda.length; i++) {
            double after = log.timeS()[plain.observation().stateOf(i)] - stab.atS();
            if (after >= 0.2 && after < 0.6) {
                lambda[i] = times / settled.applyAsDouble(plain.observation().stateOf(i));
            } else if (after >= -0.5 && after < 2) {
                lambda[i] = 1.0 / settled.applyAsDouble(plain.observation().stateOf(i));
            }
        }
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> channels.put(c, c == Channel.LAMBDA ? lambda : log.values(c)));
        Observation o = Observation.of(new DriveLog("spiked", channels, List.of(), 0), sheet, () -> false);
        return TipIns.of(o, settled).stream().filter(t ->
                Math.abs(t.atS() - stab.atS()) < 0.2).findFirst().orElseThrow();
    }

    private static TipIn opening(double atS, double leanest) {
        return new TipIn((int) (10 * atS), atS, 1500, 6e4, 2e4, 0.4, true, 0.0, 1.5, leanest, leanest, 0.0, 0.0, 0.1,
                0.3);
    }

    @Test
    public void openingsAreToldByKind() {
        List<TipIn> all = List.of(opening(10, 0.08), opening(20, 0.25), opening(30, 0.15), new TipIn(400, 40, 2400, 5e4,
                4e4, 0.1, false, 0.0, 1.5, 0.02, 0.02, 0.0, 0.0, Double.NaN, 0.0), new TipIn(500, 50, 2400, 6e4, 2e4,
                Double.NaN, false, 0.0, 1.5, 0.12, 0.12, 0.0, 0.0, 0.1, 0.2), new TipIn(600, 60, 2400, 6e4, 2e4, 0.5,
                true, Double.NaN, 1.5, 0.9, 0.9, 0.0, 0.0, 0.1, 0.2));
        List<TipIns.Kind> kinds = TipIns.kinds(all);
        assertThat(kinds).containsExactly(new TipIns.Kind(true, true, 3, 2, 0.15), new TipIns.Kind(false, true, 1, 1,
                0.12), new TipIns.Kind(false, false, 1, 0, 0.02));
        assertThat(kinds.getFirst().words().toString()).isEqualTo(
                "from closed throttle, large: 2 of 3 lean enough to be felt, leanest 15 % in the middle");
        assertThat(TipIns.kinds(List.of())).isEmpty();
    }

    /** Rich is borne twice as far as lean, and only what is rich or lean in itself counts. */
    @Test
    public void openingHesitatesByWhatIsFeltLeanOrRich() {
        assertThat(opening(10, 0.25).hesitates()).isEqualTo(2.5, within(1e-12));
        TipIn heavy = new TipIn(100, 10, 1500, 6e4, 2e4, 0.4, true, 0.0, 1.5, 0.3, 0.05, 0.6, 0.5, 0.1, 0.3);
        assertThat(heavy.hesitates()).isEqualTo(2.5, within(1e-12));
        assertThat(heavy.rich()).isTrue();
        assertThat(opening(10, 0.0).hesitates()).isZero();
    }

    /** The second of two quick stabs reads much leaner where the pump does not refill. */
    @Test
    public void aPumpThatDoesNotRefillShowsInTheSecondOfTwoStabs() {
        List<TipIn> hangs = List.of(opening(10, 0.08), opening(12, 0.25), opening(40, 0.10), opening(42, 0.22),
                opening(70, 0.09), opening(72, 0.27));
        double[] d = TipIns.soonAgain(hangs).orElseThrow();
        assertThat(d[0]).isEqualTo(0.1567, within(1e-3));
        assertThat(d[1]).isGreaterThan(0.05);
        List<TipIn> sound = List.of(opening(10, 0.08), opening(12, 0.09), opening(40, 0.10), opening(42, 0.08),
                opening(70, 0.09), opening(72, 0.10));
        assertThat(TipIns.soonAgain(sound).orElseThrow()[1]).isLessThan(0.0);
        assertThat(TipIns.soonAgain(hangs.subList(0, 4))).isEmpty();
    }
}
