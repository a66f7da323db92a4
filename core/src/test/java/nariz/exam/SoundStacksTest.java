package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import nariz.carburetor.Circuit;
import nariz.carburetor.Ladder;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.CircuitFinding;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Status;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.Verdict;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Sound jet stacks whose progression holes leave a shape that no part cures. */
public class SoundStacksTest {
    @DataProvider
    public Object[] engines() {
        return new Object[] {KnownStacks.SEED_14, KnownStacks.SEED_17, KnownStacks.SEED_24};
    }

    /** The sizes that are written down are those that driving finds, on the engine that is found soonest. */
    @Test
    public void knownEngineIsTheOneThatIsFound() {
        PracticeCase found = PracticeCase.ofFamily("stack-jet", 17);
        PracticeCase known = KnownStacks.SEED_17.practice();
        assertThat(found.errors()).isEmpty();
        assertThat(found.faults()).isEmpty();
        assertThat(known.fitted().engine()).isEqualTo(found.fitted().engine());
        assertThat(known.twoSensors()).isEqualTo(found.twoSensors());
        assertThat(Ladder.of(known.fitted())).zipSatisfy(Ladder.of(found.fitted()), (k, f) -> assertThat(k.same(
                k.fitted(known.fitted()), f.fitted(found.fitted()))).isTrue());
    }

    /** Who is told to leave a car as it is learns everything that is off, not the worst alone. */
    @Test
    public void sentenceThatLeavesACarNamesEveryWayOfRunningThatIsOff() {
        PracticeCase c = KnownStacks.SEED_17.practice();
        Advice a = Analysis.of(c.fitted(), c.drive().log(), Strategy.BALANCED, List.of(), () -> false).advice();
        assertThat(a.sentence().toString()).startsWith("Leave it for now: it is lean (4 % at full load), rich "
                + "(6 % at cruise), but");
        assertThat(a.predicted()).filteredOn(p -> p.before().regime() == Regime.FULL).singleElement().satisfies(p -> {
            assertThat(p.before().mean()).isBetween(0.035, 0.045);
            assertThat(p.before().rms()).as("more is off there than the mean").isGreaterThan(0.07);
        });
        assertThat(a.finding(a.circuits().stream().map(CircuitFinding::circuit).filter(x -> x.role()
                == Circuit.Role.METERING).findFirst().orElseThrow())).satisfies(f -> {
                    assertThat(f.status()).as("no circuit is settled that feeds what is called off").isEqualTo(
                            Status.IN_DOUBT);
                    assertThat(f.why().code()).isEqualTo("doubt.hardware");
                });
    }

    @Test(dataProvider = "engines")
    public void shapeThatNoPartCuresIsNoLeak(KnownStacks engine) {
        PracticeCase c = engine.practice();
        Analysis a = Analysis.of(c.fitted(), c.drive().log(), Strategy.BALANCED, List.of(), () -> false);
        assertThat(a.advice().verdict() == Verdict.LEAVE || a.advice().looksAtPump()).as(a.advice().sentence()
                .toString()).isTrue();
        assertThat(a.advice().changes()).isEmpty();
        assertThat(a.advice().hypotheses()).filteredOn(h -> List.of(Hypothesis.VACUUM_LEAK,
                Hypothesis.EXHAUST_LEAK).contains(h.cause()))
                .allSatisfy(h -> assertThat(h.probability()).isLessThan(0.25));
    }
}
