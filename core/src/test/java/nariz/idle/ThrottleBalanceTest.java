package nariz.idle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import nariz.exam.BalanceExam;
import nariz.sim.Demo;
import nariz.sim.RunningEngine;
import nariz.sim.WhenSettled;
import nariz.text.Wording;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class ThrottleBalanceTest {
    private static final double PER_TURN = 0.4;
    /** Of the next bench; every test begins with the same. */
    private long seed;

    @BeforeMethod
    void anew() {
        seed = 100;
    }

    /** Carburetors whose flow is exp(z), read with 1 % of noise. */
    private final class Bench {
        private final double[] z;
        private final Random random = new Random(seed++);

        Bench(double... z) {
            this.z = z;
        }

        ThrottleBalance.Reading read() {
            return read(Double.NaN, 0.01);
        }

        ThrottleBalance.Reading read(double rpm, double sd) {
            return new ThrottleBalance.Reading(Arrays.stream(z).map(x -> 8.0 * Math.exp(x + sd * random.nextGaussian()))
                    .toArray(), rpm, Double.NaN);
        }

        void turn(ThrottleBalance.Move m) {
            z[m.carburetor()] += PER_TURN * m.turns();
        }
    }

    @Test
    public void theOneThatIsOffIsTurnedAndNothingElse() {
        Bench bench = new Bench(0.0, 0.18, 0.0);
        ThrottleBalance b = new ThrottleBalance(3, ThrottleBalance.Stage.LINKS_ON, 850);
        assertThat(b.next().kind()).isEqualTo(ThrottleBalance.Kind.READ);
        b.read(bench.read());
        int turns = 0;
        while (b.next().kind() != ThrottleBalance.Kind.DONE && turns + b.readings().size() < 20) {
            ThrottleBalance.Move m = b.next();
            if (m.kind() == ThrottleBalance.Kind.TURN) {
                assertThat(m.carburetor()).isEqualTo(1);
                bench.turn(m);
                b.turned();
                turns++;
            } else {
                b.read(bench.read());
            }
        }
        assertThat(turns).isBetween(1, 3);
        assertThat(bench.z[1]).isCloseTo(0.0, within(0.05));
        assertThat(b.turns()[1]).isCloseTo((bench.z[1] - 0.18) / PER_TURN, within(1e-9));
        assertThat(b.slip()).isEmpty();
    }

    /** Four carburetors that pass the same: whatever a meter of 2 % shows, it ends soon and leaves them so. */
    @Test
    public void noiseOfTheMeterIsNotChased() {
        int turns = 0;
        int readings = 0;
        int left = 0;
        for (int k = 0; k < 50; k++) {
            Bench bench = new Bench(0.0, 0.0, 0.0, 0.0);
            ThrottleBalance b = new ThrottleBalance(4, ThrottleBalance.Stage.LINKS_ON, 850);
            while (b.next().kind() == ThrottleBalance.Kind.READ || b.next().kind() == ThrottleBalance.Kind.TURN) {
                if (b.next().kind() == ThrottleBalance.Kind.TURN) {
                    bench.turn(b.next());
                    b.turned();
                } else {
                    b.read(bench.read(Double.NaN, 0.02));
                }
                assertThat(b.readings()).hasSizeLessThan(20);
            }
            turns += b.moves().size();
            readings += b.readings().size();
            left += Arrays.stream(bench.z).map(z -> Math.abs(z - bench.z[0])).max().orElse(0) < 0.05 ? 1 : 0;
        }
        assertThat(turns / 50.0).isLessThan(0.6);
        assertThat(readings / 50.0).isLessThan(4.5);
        assertThat(left).isGreaterThanOrEqualTo(48);
    }

    @Test
    public void turnTheOtherWayIsSaidAndTheCountOfTurnsFollows() {
        Bench bench = new Bench(0.25, 0.0, 0.0);
        ThrottleBalance b = new ThrottleBalance(3, ThrottleBalance.Stage.LINKS_OFF, 850);
        b.read(bench.read());
        ThrottleBalance.Move m = b.next();
        bench.z[m.carburetor()] -= PER_TURN * m.turns();
        b.turned();
        assertThat(b.next().kind()).isEqualTo(ThrottleBalance.Kind.READ);
        b.read(bench.read());
        assertThat(said(b)).contains("carburetor " + (m.carburetor() + 1), "the other way");
        assertThat(b.turns()[m.carburetor()]).isEqualTo(-m.turns());
    }

    @Test
    public void ofTwoCarburetorsEitherMayHaveBeenTurned() {
        // One turned in looks like the other turned out: the words do not choose.
        Bench bench = new Bench(0.25, 0.0);
        ThrottleBalance b = new ThrottleBalance(2, ThrottleBalance.Stage.LINKS_OFF, 850);
        b.read(bench.read());
        ThrottleBalance.Move m = b.next();
        bench.z[m.carburetor()] -= PER_TURN * m.turns();
        b.turned();
        b.read(bench.read());
        assertThat(said(b)).contains("the other way, or was made at another carburetor");
    }

    @Test
    public void turnOfAnotherCarburetorIsSaid() {
        Bench bench = new Bench(0.3, 0.0, 0.0);
        ThrottleBalance b = new ThrottleBalance(3, ThrottleBalance.Stage.LINKS_OFF, 850);
        b.read(bench.read());
        ThrottleBalance.Move m = b.next();
        assertThat(m.carburetor()).isZero();
        bench.z[2] += PER_TURN * m.turns();
        b.turned();
        b.read(bench.read());
        assertThat(said(b)).contains("carburetor 3 was turned.");
        assertThat(b.turns()).containsExactly(0.0, 0.0, m.turns());
    }

    @Test
    public void turnThatMovedNothingIsSaid() {
        Bench bench = new Bench(0.0, 0.9, 0.0);
        ThrottleBalance b = new ThrottleBalance(3, ThrottleBalance.Stage.LINKS_ON, 850);
        b.read(bench.read());
        // Two turns say what a turn does here; the third was never made.
        for (int k = 0; k < 3; k++) {
            assertThat(b.next().kind()).isEqualTo(ThrottleBalance.Kind.TURN);
            if (k < 2) {
                bench.turn(b.next());
            }
            assertThat(b.slip()).isEmpty();
            b.turned();
            b.read(bench.read());
        }
        assertThat(said(b)).contains("No carburetor answered");
    }

    @Test
    public void turnTakenBackIsAskedForTheOtherWay() {
        Bench bench = new Bench(0.0, 0.2);
        ThrottleBalance b = new ThrottleBalance(2, ThrottleBalance.Stage.LINKS_ON, 850);
        assertThat(b.back().kind()).isEqualTo(ThrottleBalance.Kind.READ);
        b.read(bench.read());
        ThrottleBalance.Move m = b.next();
        b.turned();
        ThrottleBalance.Move back = b.back();
        assertThat(back.turns()).isEqualTo(-m.turns());
        b.turned();
        assertThat(b.turns()[1]).isZero();
    }

    /** Turned and taken back without a reading, again and again: what may have been done stays a short list. */
    @Test
    public void turnsWithoutAReadingDoNotPileUp() {
        Bench bench = new Bench(0.0, 0.2, 0.0, 0.1);
        ThrottleBalance b = new ThrottleBalance(4, ThrottleBalance.Stage.LINKS_ON, 850);
        b.read(bench.read());
        for (int k = 0; k < 40; k++) {
            if (b.next().kind() == ThrottleBalance.Kind.TURN) {
                b.turned();
            }
            b.back();
        }
        assertThat(b.moves()).hasSize(40);
        b.turned();
        b.read(bench.read());
        assertThat(b.shares()).hasSize(4).allSatisfy(s -> assertThat(s.off()).isFinite());
    }

    @Test
    public void speedIsBroughtBackByAllStopsOnceTheSharesAreRight() {
        Bench bench = new Bench(0.0, 0.0);
        ThrottleBalance b = new ThrottleBalance(2, ThrottleBalance.Stage.LINKS_OFF, 850);
        for (int i = 0; i < 4 && b.next().kind() == ThrottleBalance.Kind.READ; i++) {
            b.read(bench.read(1000, 0.005));
        }
        ThrottleBalance.Move m = b.next();
        assertThat(m.kind()).isEqualTo(ThrottleBalance.Kind.SPEED);
        assertThat(m.turns()).isNegative();
        b.turned();
        b.read(bench.read(855, 0.005));
        assertThat(b.next().kind()).isEqualTo(ThrottleBalance.Kind.DONE);
    }

    @Test
    public void meterThatThrottlesShowsDifferencesTooSmall() {
        // One passes 20 % more; the meter takes 10 % of a flow of 10 and grows with the square of what it passes.
        double[] true2 = {10.0, 12.0};
        double[] shown = new double[2];
        double[] rpm = new double[2];
        for (int i = 0; i < 2; i++) {
            double x = true2[i];
            for (int k = 0; k < 50; k++) {
                x = true2[i] * (1.0 - 0.10 * x * x / 100.0);
            }
            shown[i] = x;
            rpm[i] = 850.0 * Math.pow(1.0 - (true2[i] - x) / 22.0, 1.0 / 1.15);
        }
        assertThat(shown[1] / shown[0]).isLessThan(1.17);
        double[] out = ThrottleBalance.withoutMeter(shown, 850, (rpm[0] + rpm[1]) / 2);
        assertThat(out[1] / out[0]).isCloseTo(1.2, within(0.01));
        assertThat(out[0]).isCloseTo(10.0, within(0.15));
        // Where nobody looked at the speed it counts as shown.
        assertThat(ThrottleBalance.withoutMeter(shown, 850, Double.NaN)).containsExactly(shown);
    }

    @Test
    public void coarseScaleCountsForLess() {
        ThrottleBalance coarse = new ThrottleBalance(2, ThrottleBalance.Stage.LINKS_ON, 850);
        coarse.read(new ThrottleBalance.Reading(new double[] {6, 7}, Double.NaN, Double.NaN));
        ThrottleBalance fine = new ThrottleBalance(2, ThrottleBalance.Stage.LINKS_ON, 850);
        fine.read(new ThrottleBalance.Reading(new double[] {6.013, 7.012}, Double.NaN, Double.NaN));
        assertThat(coarse.shares().get(1).sd()).isGreaterThan(1.4 * fine.shares().get(1).sd());
    }

    @Test
    public void figuresThatCannotBeAreRefusedWithTheirPlace() {
        ThrottleBalance b = new ThrottleBalance(2, ThrottleBalance.Stage.FAST, 850);
        assertThatThrownBy(() -> b.read(new ThrottleBalance.Reading(new double[] {5, 0}, Double.NaN, Double.NaN)))
                .isInstanceOf(IllegalArgumentException.class).hasMessage("flow {1} is 0.0");
        assertThatThrownBy(() -> b.read(new ThrottleBalance.Reading(new double[] {1e200, 5}, 850, 840))).hasMessage(
                "flow {0} is 1.0E200");
        assertThatThrownBy(() -> b.read(new ThrottleBalance.Reading(new double[] {5}, Double.NaN, Double.NaN)))
                .hasMessage("1 readings for 2 carburetors");
        assertThatThrownBy(() -> new ThrottleBalance(1, ThrottleBalance.Stage.FAST, 850)).hasMessage(
                "nothing to balance with 1");
    }

    @Test
    public void meterOnAMouthSlowsThePracticeEngineAndShowsLess() {
        RunningEngine e = new RunningEngine(Demo.ROADSTER.sheet(), 4, 4);
        e.run(20);
        double before = mean(e);
        e.meter(1, 0.15);
        e.run(10);
        assertThat(mean(e)).isLessThan(before - 5);
        double[] free = new WhenSettled(e).flows(0.0);
        assertThat(e.draft(1)).isLessThan(0.97 * free[1]);
        // The links undone, a pull at the pedal opens the first alone.
        e.meter(-1, 0.0);
        e.link(2, 0.5);
        double linked = new WhenSettled(e).flows(0.0)[2];
        e.linked(false);
        assertThat(new WhenSettled(e).flows(0.0)[2]).isLessThan(linked);
    }

    private static double mean(RunningEngine e) {
        double sum = 0.0;
        for (int i = 0; i < 50; i++) {
            e.run(0.1);
            sum += e.read().rpm() / 50;
        }
        return sum;
    }

    @Test
    public void enginesAreBalancedInFewerTurnsThanByEighths() {
        BalanceExam exam = BalanceExam.of(11, 3);
        assertThat(exam.rows()).hasSize(9);
        assertThat(exam.rows()).filteredOn(r -> r.off() <= 0.06).hasSizeGreaterThanOrEqualTo(8);
        int turns = exam.rows().stream().mapToInt(BalanceExam.Row::turns).sum();
        assertThat(turns).isLessThan(exam.rows().stream().mapToInt(BalanceExam.Row::fixedTurns).sum());
        assertThat(exam.markdown()).contains("links-off", "Slips recognised");
    }

    private static String said(ThrottleBalance b) {
        return b.slip().map(Wording.ENGLISH::text).orElse("");
    }

    /** Far up the slot a turn of all stops makes nearly twice what one alone has shown: the second is by the first. */
    @Test
    public void theSpeedIsBroughtBackByWhatAllStopsHaveDone() {
        Bench bench = new Bench(0.0, 0.0);
        ThrottleBalance b = new ThrottleBalance(2, ThrottleBalance.Stage.LINKS_OFF, 800);
        double rpm = 1150;
        int stops = 0;
        b.read(bench.read(rpm, 0.005));
        while (b.next().kind() != ThrottleBalance.Kind.DONE && b.readings().size() < 20) {
            ThrottleBalance.Move m = b.next();
            assertThat(m.kind()).isNotEqualTo(ThrottleBalance.Kind.TURN);
            if (m.kind() == ThrottleBalance.Kind.SPEED) {
                stops++;
                rpm *= Math.exp(0.75 * m.turns());
                bench.z[0] += 0.86 * m.turns();
                bench.z[1] += 0.86 * m.turns();
                b.turned();
            }
            b.read(bench.read(rpm, 0.005));
        }
        assertThat(b.next().kind()).isEqualTo(ThrottleBalance.Kind.DONE);
        assertThat(stops).isBetween(1, 3);
        assertThat(rpm).isCloseTo(800, within(35.0));
    }
}
