package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Kit;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.estimation.EarlierEstimate;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.Observation;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import org.hipparchus.linear.CholeskyDecomposition;
import org.hipparchus.linear.RealMatrix;
import org.testng.annotations.Test;

/** What the posterior over causes makes of one engine in several states. */
public class CausePosteriorTest {
    private static final BuildSheet SOUND = MeteredParts.POWER_VALVE_RATING.fit(MeteredParts.IDLE_FEED_RESTRICTION
            .fit(DemoDrive.sheet(), Stage.PRIMARY, 34), Stage.PRIMARY, 6.5);

    /** One engine driven with some parts. */
    private record Weighed(BuildSheet sheet, Scorer scorer, CausePosterior posterior, Decision decision) {
        static Weighed of(BuildSheet sheet, Map<Fault, Double> faults, long noise) {
            return of(sheet, faults, noise, List.of());
        }

        static Weighed of(BuildSheet sheet, Map<Fault, Double> faults, long noise, List<PartChange> since) {
            Observation o = Observation.of(new EngineSimulator(sheet, DemoDrive.SEED, faults, noise)
                    .drive(DriveScript.twelveMinutes(), 20, "drive").log(), sheet, () -> false);
            Estimate e = Estimator.of(o);
            Scorer s = new Scorer(sheet, Strategy.BALANCED, e);
            CausePosterior p = new CausePosterior(s, e, o, List.of(), since, () -> false);
            return new Weighed(sheet, s, p, new Decision(sheet, s, Kit.NONE, p, Optional.empty()));
        }

        double probability(String cause) {
            return posterior.causes().stream().filter(c -> c.cause().equals(cause)).findFirst().orElseThrow()
                    .probability();
        }

        /** Probability that a part is wrong in one direction. */
        double wrong(Part part, boolean larger) {
            return posterior.explanations().stream().filter(e -> e.moves().stream().anyMatch(m -> m.ladder().part()
                    .equals(part) && m.ladder().stage() == Stage.PRIMARY
                    && m.to() > m.ladder().fitted(sheet) == larger))
                    .mapToDouble(CausePosterior.Explanation::probability).sum();
        }
    }

    @Test
    public void soundEngineIsLeftAlone() {
        for (long noise = 5; noise < 8; noise++) {
            Weighed w = Weighed.of(SOUND, Map.of(), noise);
            assertThat(w.decision().decide(() -> false)).isEmpty();
            assertThat(w.decision().checks(List.of())).isEmpty();
            assertThat(w.posterior().nothing()).isGreaterThan(0.03);
        }
    }

    /** An idle some 8 % lean by its screws: nobody touches a car for it, but who has just changed a part trims them. */
    @Test
    public void afterAChangeAScrewIsTrimmedThatIsLeftOnACarNobodyTouched() {
        double fitted = MeteredParts.MIXTURE_SCREW.of(SOUND.carburetor(), Stage.PRIMARY);
        BuildSheet lean = MeteredParts.MIXTURE_SCREW.fit(SOUND, Stage.PRIMARY, fitted - 7.0 / 32.0);
        Weighed w = Weighed.of(lean, Map.of(), 5);
        assertThat(w.decision().decide(() -> false)).isEmpty();
        double jets = MeteredParts.MAIN_JET.of(SOUND.carburetor(), Stage.PRIMARY);
        Previous jetted = new Previous(List.of(new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, jets - 4, jets)),
                List.of(), List.of(), new EarlierEstimate(List.of(), new double[0], new double[0][], 0.0, 1.0), false);
        List<Decision.Step> after = new Decision(lean, w.scorer(), Kit.NONE, w.posterior(), Optional.of(jetted))
                .decide(() -> false);
        assertThat(after).extracting(x -> x.ladder().part()).containsExactly(MeteredParts.MIXTURE_SCREW);
        assertThat(after.getFirst().to()).isBetween(fitted - 0.2, fitted + 0.1);
    }

    /** A leak besides jets that were wrong is a second thing wrong: less likely than on a car nobody touched. */
    @Test
    public void leanIdleAfterJetsWereChangedIsLessLikelyALeak() {
        double screws = MeteredParts.MIXTURE_SCREW.of(SOUND.carburetor(), Stage.PRIMARY);
        double jets = MeteredParts.MAIN_JET.of(SOUND.carburetor(), Stage.PRIMARY);
        BuildSheet lean = MeteredParts.MIXTURE_SCREW.fit(SOUND, Stage.PRIMARY, screws - 0.25);
        Weighed found = Weighed.of(lean, Map.of(), 5);
        Weighed changed = Weighed.of(lean, Map.of(), 5, List.of(new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY,
                jets - 4, jets)));
        double leaks = Hypothesis.LEAKS.stream().mapToDouble(found::probability).sum();
        assertThat(leaks).isGreaterThan(0.1);
        assertThat(Hypothesis.LEAKS.stream().mapToDouble(changed::probability).sum()).isLessThan(0.6 * leaks);
        assertThat(changed.posterior().nothing()).isGreaterThan(found.posterior().nothing());
    }

    /** A leak that parts were fitted over is still there: then they go back. */
    @Test
    public void afterPartsWereFittedOverALeakTheyMayGoBack() {
        double fitted = MeteredParts.MIXTURE_SCREW.of(SOUND.carburetor(), Stage.PRIMARY);
        BuildSheet turned = MeteredParts.MIXTURE_SCREW.fit(SOUND, Stage.PRIMARY, fitted + 0.5);
        Weighed w = Weighed.of(turned, Map.of(Fault.VACUUM_LEAK, 2.0), 5, List.of(new PartChange(
                MeteredParts.MIXTURE_SCREW, Stage.PRIMARY, fitted, fitted + 0.5)));
        List<WrongParts.Move> back = w.posterior().moves().stream().filter(WrongParts.Move::back).toList();
        assertThat(back).singleElement().satisfies(x -> {
            assertThat(x.to()).isEqualTo(fitted, within(1e-9));
            assertThat(x.logPrior()).isZero();
        });
        double both = w.posterior().explanations().stream().filter(e -> e.fault().isPresent() && e.moves().equals(back))
                .mapToDouble(CausePosterior.Explanation::probability).sum();
        double alone = w.posterior().explanations().stream().filter(e -> e.fault().isPresent() && e.moves().isEmpty())
                .mapToDouble(CausePosterior.Explanation::probability).sum();
        assertThat(both).isGreaterThan(alone);
    }

    /** Three ways in which it may fade with the airflow are weighed, and one cause is named. */
    @Test
    public void leakIntoTheExhaustIsOneCauseHoweverItFades() {
        Weighed w = Weighed.of(SOUND, Map.of(Fault.EXHAUST_LEAK, 2.0), 5);
        assertThat(w.posterior().causes()).extracting(Hypothesis::cause).doesNotHaveDuplicates();
        double each = w.posterior().explanations().stream().filter(e -> e.fault().filter(f -> f.cause().equals(
                Hypothesis.EXHAUST_LEAK)).isPresent()).mapToDouble(CausePosterior.Explanation::probability).sum();
        assertThat(w.probability(Hypothesis.EXHAUST_LEAK)).isEqualTo(each, within(1e-9)).isGreaterThan(0.15);
    }

    @Test
    public void explanationsAndTheSheetShareOutAllOfTheProbability() {
        Weighed w = Weighed.of(DemoDrive.sheet(), Map.of(), 5);
        assertThat(w.posterior().explanations().stream().mapToDouble(CausePosterior.Explanation::probability).sum()
                + w.posterior().wrongSheet()).isEqualTo(1.0, within(0.01));
    }

    @Test
    public void jetsThatAreTooSmallAreFoundAndNotCalledTheSensor() {
        double fitted = MeteredParts.MAIN_JET.of(SOUND.carburetor(), Stage.PRIMARY);
        Weighed w = Weighed.of(MeteredParts.MAIN_JET.fit(SOUND, Stage.PRIMARY, fitted - 4), Map.of(), 5);
        assertThat(w.wrong(MeteredParts.MAIN_JET, true) + w.wrong(MeteredParts.HIGH_SPEED_AIR_BLEED, false))
                .isGreaterThan(0.6);
        assertThat(w.probability("sensor-offset")).isLessThan(0.1);
        List<Decision.Step> acts = w.decision().decide(() -> false);
        assertThat(acts).isNotEmpty();
        assertThat(w.decision().checks(acts)).doesNotContain("sensor-offset");
    }

    @Test
    public void airCleanerShowsInTheVacuumAtWideOpenThrottleAndComesBeforeParts() {
        Weighed w = Weighed.of(SOUND, Map.of(Fault.AIR_CLEANER, 1.3), 5);
        assertThat(w.probability("air-cleaner")).isGreaterThan(0.4);
        assertThat(w.decision().checks(w.decision().decide(() -> false))).contains("air-cleaner");
        Weighed without = Weighed.of(SOUND, Map.of(), 5);
        assertThat(without.probability("air-cleaner")).isLessThan(0.1);
    }

    @Test
    public void supplyThatRunsShortIsCheckedEvenWhereNothingWouldBeChanged() {
        Weighed w = Weighed.of(SOUND, Map.of(Fault.FALLING_FUEL_LEVEL, 1.4), 5);
        assertThat(w.decision().checks(w.decision().decide(() -> false))).contains("fuel-starvation");
    }

    @Test
    public void amongSizesThatDoNearlyTheSameTheNearestIsTaken() {
        Weighed w = Weighed.of(DemoDrive.sheet(), Map.of(), 5);
        for (Decision.Step s : w.decision().decide(() -> false)) {
            double loss = w.decision().loss(List.of(s));
            double oneLess = s.to() - Math.signum(s.to() - s.from()) * s.ladder().step();
            if (Math.abs(oneLess - s.from()) > 1e-9) {
                assertThat(w.decision().loss(List.of(new Decision.Step(s.ladder(), s.from(), oneLess))))
                        .isGreaterThan(loss);
            }
        }
    }

    @Test
    public void scatterOfSoundHardwareIsACovariance() {
        Weighed w = Weighed.of(SOUND, Map.of(), 5);
        Observation o = Observation.of(new EngineSimulator(SOUND, DemoDrive.SEED, Map.of(), 5)
                .drive(DriveScript.twelveMinutes(), 20, "drive").log(), SOUND, () -> false);
        RealMatrix c = SoundScatter.of(SOUND, w.scorer(), o.cells(), new double[o.cells().size()],
                new double[o.cells().size()]);
        assertThat(c.subtract(c.transpose()).getNorm1()).isLessThan(1e-12);
        // Fails where a pivot is not positive.
        assertThat(new CholeskyDecomposition(c, 1e-8, 1e-14).getL().getEntry(0, 0)).isPositive();
        for (int i = 0; i < o.cells().size(); i++) {
            // Between 2 and 8 % in any place: what hardware leaves, and short stays at full load.
            assertThat(Math.sqrt(c.getEntry(i, i))).isBetween(0.02, 0.08);
        }
    }
}
