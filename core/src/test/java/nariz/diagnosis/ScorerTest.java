package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Families;
import nariz.carburetor.Family;
import nariz.carburetor.Kit;
import nariz.carburetor.Ladder;
import nariz.carburetor.Stage;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.FaultShapes;
import nariz.estimation.Observation;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import org.testng.annotations.Test;

/** Errors, loss and ladders on the demo's drive. */
public class ScorerTest {
    private static final BuildSheet SHEET = DemoDrive.sheet();
    private static final Observation OBSERVATION = Observation.of(DemoDrive.drive().log(), SHEET, () -> false);
    private static final Estimate ESTIMATE = Estimator.of(OBSERVATION);
    private static final Scorer SCORER = new Scorer(SHEET, Strategy.BALANCED, ESTIMATE);

    private static double[] onTarget() {
        double[] phi = new double[ESTIMATE.cells().size()];
        for (int i = 0; i < phi.length; i++) {
            phi[i] = SCORER.targetPhi(i);
        }
        return phi;
    }

    @Test
    public void nothingIsLostOnTarget() {
        assertThat(SCORER.loss(onTarget())).isEqualTo(0.0, within(1e-12));
        assertThat(SCORER.errors(onTarget())).allSatisfy(e -> assertThat(e.rms()).isLessThan(1e-9));
    }

    @Test
    public void oneRegimeAtItsToleranceCostsOne() {
        double[] phi = onTarget();
        for (int i = 0; i < phi.length; i++) {
            if (SCORER.regime(i) == Regime.IDLE) {
                phi[i] = SCORER.targetPhi(i) / 1.04;
            }
        }
        assertThat(SCORER.loss(phi)).isEqualTo(1.0, within(1e-9));
        assertThat(SCORER.errors(phi).getFirst().mean()).isEqualTo(0.04, within(1e-9));
        assertThat(SCORER.errors(phi).getFirst().words()).hasToString("4 % lean");
    }

    @Test
    public void leanUnderLoadCountsDouble() {
        double[] lean = onTarget();
        double[] rich = onTarget();
        for (int i = 0; i < lean.length; i++) {
            if (SCORER.regime(i) == Regime.FULL) {
                lean[i] = SCORER.targetPhi(i) / 1.03;
                rich[i] = SCORER.targetPhi(i) / 0.97;
            }
        }
        assertThat(SCORER.loss(lean) / SCORER.loss(rich)).isEqualTo(2.0, within(1e-6));
    }

    @Test
    public void everyCellHasARegimeOfItsLoad() {
        for (int i = 0; i < ESTIMATE.cells().size(); i++) {
            Cell c = ESTIMATE.cells().get(i);
            double load = Strategy.load(c, SHEET);
            switch (SCORER.regime(i)) {
                case IDLE -> assertThat(c.idle()).isTrue();
                case FULL -> assertThat(load).isGreaterThanOrEqualTo(0.9);
                case POWER -> assertThat(load).isBetween(0.8, 0.9);
                case MODERATE -> assertThat(load).isBetween(0.6, 0.8);
                case CRUISE -> assertThat(load).isLessThan(0.6);
                case TRANSFER -> assertThat(ESTIMATE.share(i, List.of(MeteredCircuits.IDLE, MeteredCircuits.TRANSFER,
                        MeteredCircuits.SECONDARY_IDLE))).isGreaterThan(0.599);
                default -> throw new AssertionError(SCORER.regime(i));
            }
        }
    }

    @Test
    public void sharesOfAllCircuitsAddUpToOne() {
        for (int i = 0; i < ESTIMATE.cells().size(); i++) {
            assertThat(ESTIMATE.share(i, SHEET.carburetor().family().circuits())).isEqualTo(1.0, within(1e-12));
        }
    }

    @Test
    public void sizesOfALadderStayWithinReachAndComeNearestFirst() {
        for (Ladder l : Ladder.of(SHEET)) {
            double now = l.fitted(SHEET);
            double last = 0;
            for (double v : l.sizes(SHEET)) {
                assertThat(v).isBetween(l.low(), l.high());
                assertThat(Math.abs(v - now)).isGreaterThanOrEqualTo(last - 1e-9);
                assertThat(Math.abs(v - now) / l.step()).isLessThanOrEqualTo(l.reach() + 1e-9);
                last = Math.abs(v - now);
            }
            assertThat(l.cost(now, now + 3 * l.step())).isGreaterThan(l.cost(now, now + l.step()));
        }
    }

    @Test
    public void sizeInTheBoxCostsLessThanOneToBuyAndDrillingGoesOnlyUp() {
        Kit kit = new Kit(java.util.Map.of(MeteredParts.MAIN_JET, List.of(63.0)), java.util.Map.of(),
                java.util.Set.of(MeteredParts.IDLE_FEED_RESTRICTION));
        Ladder jets = Ladder.of(SHEET, kit).stream().filter(l -> l.part().equals(MeteredParts.MAIN_JET)).findFirst()
                .orElseThrow();
        assertThat(jets.cost(61, 63)).isLessThan(jets.cost(61, 62));
        Ladder feed = Ladder.of(SHEET, kit).stream().filter(l -> l.part().equals(MeteredParts.IDLE_FEED_RESTRICTION))
                .findFirst()
                .orElseThrow();
        assertThat(feed.cost(37, 38)).isLessThan(feed.cost(37, 36));
        assertThat(jets.cost(61, 62)).isGreaterThan(Ladder.of(SHEET).stream()
                .filter(l -> l.part().equals(MeteredParts.MAIN_JET)).findFirst().orElseThrow().cost(61, 62));
    }

    @Test
    public void partsOfTheOtherFamilyAreNotOffered() {
        assertThat(Ladder.of(SHEET)).extracting(Ladder::part)
                .contains(MeteredParts.POWER_VALVE_RATING).doesNotContain(MeteredParts.STEP_UP_SPRING,
                MeteredParts.METERING_ROD);
    }

    private static CausePosterior posterior(List<String> ruledOut) {
        return new CausePosterior(SCORER, ESTIMATE, OBSERVATION, ruledOut, List.of(), () -> false);
    }

    @Test
    public void everyChosenPartLowersTheExpectedLossAndNeighboursAreHardlyBetter() {
        Decision d = new Decision(SHEET, SCORER, Kit.NONE, posterior(List.of()), Optional.empty());
        List<Decision.Step> chosen = d.decide(() -> false);
        assertThat(chosen).isNotEmpty();
        double best = d.loss(chosen);
        for (Decision.Step s : chosen) {
            assertThat(d.gain(s)).isGreaterThan(0.3);
            for (double by : new double[] {-s.ladder().step(), s.ladder().step()}) {
                List<Decision.Step> moved = new java.util.ArrayList<>(chosen);
                moved.set(chosen.indexOf(s), new Decision.Step(s.ladder(), s.from(), s.to() + by));
                assertThat(d.loss(moved)).isGreaterThan(best - 0.2);
            }
        }
    }

    @Test
    public void causesSumToOneAndRuledOutOnesAreGone() {
        List<Hypothesis> all = posterior(List.of()).causes();
        assertThat(all.stream().mapToDouble(Hypothesis::probability).sum()).isEqualTo(1.0, within(1e-9));
        assertThat(all.getFirst().cause()).isEqualTo(Hypothesis.CALIBRATION);
        List<Hypothesis> fewer = posterior(List.of(Hypothesis.VACUUM_LEAK, "sensor-offset")).causes();
        assertThat(fewer).extracting(Hypothesis::cause).doesNotContain(Hypothesis.VACUUM_LEAK, "sensor-offset");
        assertThat(fewer.stream().mapToDouble(Hypothesis::probability).sum()).isEqualTo(1.0, within(1e-9));
    }

    @Test
    public void everyFaultThatIsWeighedCanBeRuledOutByItsKey() {
        List<Hypothesis> all = posterior(List.of()).causes();
        assertThat(all.stream().filter(Hypothesis::fault).map(Hypothesis::cause)).containsExactlyInAnyOrderElementsOf(
                Hypothesis.FAULTS);
        assertThat(posterior(Hypothesis.FAULTS).causes()).noneMatch(Hypothesis::fault);
        assertThat(all).allSatisfy(x -> {
            assertThat(x.check().toString()).isNotEmpty();
            assertThat(x.percent()).isBetween(1L, 99L);
        });
    }

    @Test
    public void faultsLeaveTheirMark() {
        assertThat(first(Fault.FALLING_FUEL_LEVEL)).isEqualTo("fuel-starvation");
        assertThat(first(Fault.MISFIRE)).isEqualTo("misfire");
        assertThat(first(Fault.VACUUM_LEAK)).isEqualTo(Hypothesis.VACUUM_LEAK);
    }

    /** Cause that comes first on the sound demo car with a fault. */
    private static String first(Fault f) {
        BuildSheet sound = MeteredParts.POWER_VALVE_RATING.fit(MeteredParts.IDLE_FEED_RESTRICTION.fit(SHEET,
                Stage.PRIMARY, 34),
                Stage.PRIMARY, 6.5);
        Advice a = Analysis.of(sound, new EngineSimulator(sound, DemoDrive.SEED, Map.of(f, 1.3), 5)
                .drive(DriveScript.twelveMinutes(), 20, "fault").log(), Strategy.BALANCED).advice();
        assertThat(a.changes()).as(f + ": " + a.sentence().toString()).isEmpty();
        return a.hypotheses().stream().filter(Hypothesis::fault).findFirst().orElseThrow().cause();
    }

    @Test
    public void platesThatStandOpenRichenIdleAlone() {
        double[] shape = FaultShapes.platesOpen(ESTIMATE.carburetor(), SHEET, ESTIMATE.cells(), 0.03);
        for (int i = 0; i < shape.length; i++) {
            if (ESTIMATE.cells().get(i).idle()) {
                assertThat(shape[i]).isGreaterThan(0.05);
            } else {
                assertThat(shape[i]).isZero();
            }
        }
    }

    private static final Family FOUR_BARREL = Families.ofKey("rod-metered-4").orElseThrow();

    @Test
    public void enrichingIdleIsBlamedOnTheCircuitItsPartTrims() {
        assertThat(FOUR_BARREL.trims(MeteredParts.MIXTURE_SCREW, Stage.PRIMARY)).isEqualTo(MeteredCircuits.IDLE);
        assertThat(FOUR_BARREL.trims(MeteredParts.IDLE_FEED_RESTRICTION,
                Stage.PRIMARY)).isEqualTo(MeteredCircuits.TRANSFER);
        assertThat(FOUR_BARREL.trims(MeteredParts.METERING_ROD, Stage.PRIMARY)).isEqualTo(MeteredCircuits.POWER);
        assertThat(FOUR_BARREL.trims(MeteredParts.MAIN_JET, Stage.SECONDARY)).isEqualTo(MeteredCircuits.SECONDARY_MAIN);
        assertThat(FOUR_BARREL.trims(MeteredParts.IDLE_AIR_BLEED, Stage.SECONDARY)).isEqualTo(
                MeteredCircuits.SECONDARY_IDLE);
    }
}
