package nariz.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Strategy;
import nariz.family.metered.MeteredParts;
import nariz.log.Span;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.sim.SimulatedDrive;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Like with like, on simulated engines whose truth is known. */
public class RunComparisonTest {
    private Analysis first;

    private static SimulatedDrive drive(BuildSheet sheet, long engine, Map<Fault, Double> faults, long day) {
        return new EngineSimulator(sheet, engine, faults, day).drive(DriveScript.twelveMinutes()
                .varied(new Random(day)), 20, "day " + day);
    }

    private static Analysis analysis(BuildSheet sheet, SimulatedDrive d) {
        return Analysis.of(sheet, d.log(), Strategy.BALANCED);
    }

    @BeforeClass
    void drive() {
        first = analysis(DemoDrive.sheet(), drive(DemoDrive.sheet(), DemoDrive.SEED, Map.of(), 1));
    }

    @Test
    public void sameCarOnAnotherDayShowsNothingThatMatters() {
        int outside = 0;
        int all = 0;
        for (int day = 2; day < 8; day++) {
            RunComparison c = RunComparison.of(first, analysis(DemoDrive.sheet(), drive(DemoDrive.sheet(),
                    DemoDrive.SEED, Map.of(), day)));
            assertThat(c.changed()).isEmpty();
            assertThat(c.share()).isGreaterThan(0.6);
            for (Difference d : c.differences()) {
                assertThat(d.matters()).as("day " + day + " " + d).isFalse();
                outside += d.certain() ? 1 : 0;
                all++;
            }
        }
        // 90 % intervals leave a tenth out.
        assertThat(outside).isLessThan(all / 4);
    }

    @Test
    public void airCleanerThatChokesTheTopIsFoundAtTheTopAndGrowsWithAirflow() {
        RunComparison c = RunComparison.of(first, analysis(DemoDrive.sheet(), drive(DemoDrive.sheet(),
                DemoDrive.SEED, Map.of(Fault.AIR_CLEANER, 1.0), 9)));
        assertThat(c.trend()).hasValueSatisfying(t -> {
            assertThat(t.certain()).isTrue();
            assertThat(t.low()).isLessThan(-0.07);
            assertThat(t.high()).isGreaterThan(-0.11);
        });
        assertThat(c.differences()).filteredOn(d -> d.regime() == Regime.FULL).singleElement()
                .matches(d -> d.matters() && d.mean() < 0);
        assertThat(c.differences()).filteredOn(d -> d.regime() == Regime.IDLE || d.regime() == Regime.TRANSFER)
                .noneMatch(Difference::matters);
    }

    @Test
    public void changedJetIsPredictedAndComesOutAsPredicted() {
        BuildSheet larger = PartChange.fit(DemoDrive.sheet(), List.of(new PartChange(MeteredParts.MAIN_JET,
                Stage.PRIMARY, MeteredParts.MAIN_JET.of(DemoDrive.sheet().carburetor(), Stage.PRIMARY), 68)));
        RunComparison c = RunComparison.of(first, analysis(larger, drive(larger, DemoDrive.SEED, Map.of(), 11)));
        assertThat(c.changed()).singleElement().extracting(PartChange::part).isEqualTo(MeteredParts.MAIN_JET);
        Difference cruise = c.differences().stream().filter(d -> d.regime() == Regime.CRUISE).findFirst()
                .orElseThrow();
        assertThat(cruise.mean()).isLessThan(-0.03);
        assertThat(cruise.predicted()).isCloseTo(cruise.mean(), within(0.03));
        assertThat(c.differences()).filteredOn(Difference::asPredicted).hasSizeGreaterThanOrEqualTo(
                c.differences().size() - 1);
    }

    @Test
    public void comparingTheOtherWayRoundTurnsTheSign() {
        Analysis second = analysis(DemoDrive.sheet(), drive(DemoDrive.sheet(), DemoDrive.SEED,
                Map.of(Fault.AIR_CLEANER, 1.0), 9));
        Difference there = top(RunComparison.of(first, second));
        Difference back = top(RunComparison.of(second, first));
        assertThat(back.mean()).isCloseTo(-there.mean(), within(0.015));
    }

    private static Difference top(RunComparison c) {
        return c.differences().getLast();
    }

    @Test
    public void driveTooShortToJudgeIsRefusedWithWhatToDo() {
        var log = drive(DemoDrive.sheet(), DemoDrive.SEED, Map.of(), 12).log();
        Analysis little = Analysis.of(DemoDrive.sheet(), log.without(List.of(new Span(10, 1e6))), Strategy.BALANCED);
        assertThatThrownBy(() -> RunComparison.of(first, little)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("too little steady running to compare")
                .hasMessageContaining("Record steady stretches");
    }
}
