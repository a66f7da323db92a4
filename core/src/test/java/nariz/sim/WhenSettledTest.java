package nariz.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import org.testng.annotations.Test;

public class WhenSettledTest {
    private final RunningEngine engine = new RunningEngine(Demo.ESTATE.sheet(), 3, 9);
    private final WhenSettled settled = new WhenSettled(engine);

    @Test
    public void askingLeavesTheEngineAsItIs() {
        RunningEngine same = new RunningEngine(Demo.ESTATE.sheet(), 3, 9);
        double clock = engine.timeS();
        settled.now();
        settled.held(2500);
        settled.flows(0.0);
        assertThat(engine.timeS()).isEqualTo(clock);
        same.run(1.0);
        engine.run(1.0);
        assertThat(engine.read()).isEqualTo(same.read());
    }

    @Test
    public void sameQuestionHasTheSameAnswerAndOtherScrewsAnother() {
        double[] leaner = new double[engine.trims()];
        Arrays.fill(leaner, engine.turns(0) - 0.5);
        assertThat(settled.now()).isEqualTo(settled.now());
        assertThat(settled.at(leaner).lambda()).isGreaterThan(settled.now().lambda() + 0.01);
    }

    @Test
    public void speedThatSomebodyHoldsIsHeldAndPassesMoreAir() {
        assertThat(settled.held(2500).rpm()).isCloseTo(2500, within(60.0));
        assertThat(Arrays.stream(settled.flows(2500)).sum()).isGreaterThan(1.5 * Arrays.stream(settled.flows(0.0))
                .sum());
    }

    @Test
    public void fastestIsNoSlowerThanAQuarterToEitherSide() {
        double best = settled.fastestAt();
        double[] turns = new double[engine.trims()];
        Arrays.fill(turns, best);
        double top = settled.at(turns).rpm();
        for (double by : new double[] {-0.25, 0.25}) {
            Arrays.fill(turns, best + by);
            assertThat(settled.at(turns).rpm()).isLessThanOrEqualTo(top);
        }
        assertThat(top).isGreaterThan(0.9 * engine.sheet().engine().idleRpm());
    }

    @Test
    public void engineThatGetsNoFuelSettlesAtNothing() {
        RunningEngine leaks = engine.copy();
        leaks.leak(4e-5);
        WhenSettled dies = new WhenSettled(leaks);
        assertThat(dies.at(new double[leaks.trims()])).isEqualTo(new WhenSettled.State(0, 0, 2.0));
        assertThat(dies.keepsRunning(20.0)).isFalse();
    }

    @Test
    public void torqueIsMostRichOfStoichiometricAndGoneWhereCylindersMiss() {
        TorqueOfMixture t = TorqueOfMixture.of(Demo.ESTATE.sheet().engine().cam());
        assertThat(t.share(0.9)).isGreaterThan(t.share(1.0)).isGreaterThan(t.share(0.75));
        assertThat(t.misses(t.lambdaLimit())).isEqualTo(0.5);
        assertThat(t.share(t.lambdaLimit() + 0.15)).isLessThan(0.02);
        assertThat(t.share(0.60)).isLessThan(t.share(0.68) - 0.1);
    }

    @Test
    public void sensorSeesTheGasACycleAndTheExhaustLater() {
        ExhaustColumn x = new ExhaustColumn(Quirks.of(3, Demo.ESTATE.sheet()), 0.004, 101_325.0);
        double steady = 0.0;
        for (int i = 0; i < 1000; i++) {
            x.pass(1.0, 1.0, 0.02, 2000);
            steady = x.sensed(0);
        }
        int seen = 0;
        while (x.sensed(0) < 1.05 * steady) {
            x.pass(1.1, 1.0, 0.02, 2000);
            seen++;
        }
        // Half of the step: later than the cycle of 0.06 s, and the other bank shows nothing of it.
        assertThat(seen * RunningEngine.STEP_S).isBetween(0.07, 0.5);
        assertThat(x.sensed(1)).isCloseTo(steady, within(1e-6));
    }
}
