package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Strategy;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Once no fault is found, screws that are turned are turned to the mixture that is wanted, not part of the way. */
public class ScrewsSetTest {
    @DataProvider
    public Object[] engines() {
        return new Object[] {KnownStacks.SEED_10, KnownStacks.SEED_38, KnownStacks.SEED_39};
    }

    @Test(dataProvider = "engines")
    public void screwsThatAreTurnedAreSetForTheIdleAsItReads(KnownStacks engine) {
        PracticeCase c = engine.practice();
        Advice a = Analysis.of(c.fitted(), c.drive().log(), Strategy.BALANCED, Hypothesis.FAULTS,
                () -> false).advice();
        Change screws = a.changes().getFirst();
        assertThat(screws.part().key()).isEqualTo("mixture-screw");
        double idle = a.predicted().stream().filter(p -> p.before().regime() == Regime.IDLE).findFirst().orElseThrow()
                .after().mean();
        // An eighth of a turn changes these idles by 4 to 7 %.
        assertThat(idle).isCloseTo(0.0, within(0.03));
    }
}
