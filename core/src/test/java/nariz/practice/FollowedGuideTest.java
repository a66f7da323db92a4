package nariz.practice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.concurrent.CancellationException;
import nariz.estimation.Overlap;
import nariz.idle.IdleGuide;
import nariz.idle.Reach;
import nariz.idle.School;
import nariz.sim.Demo;
import nariz.sim.RunningEngine;
import nariz.sim.WhenSettled;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A guide followed by a hand: what slips is undone where it is seen, and counted as it was. */
public class FollowedGuideTest {
    /** So rich that the sensor stands at the end of its range, and the engine runs all the same, turns. */
    private static final double RICH = 0.75;
    private static final double AIM_PHI = 1.0 / 0.95;

    private static RunningEngine rich() {
        return rich(3, RICH);
    }

    private static RunningEngine rich(long noise, double turns) {
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), 3, noise);
        e.turnAll(e.turns(0) + turns);
        e.begin();
        return e;
    }

    private static IdleGuide guide(RunningEngine e) {
        return new IdleGuide(new IdleGuide.Settings(School.HIGHEST_VACUUM, Overlap.shownAtIdle(AIM_PHI, e.sheet()
                .engine().cam()), 1.0, e.turns(0), Reach.SCREWS, e.sheet().engine().idleRpm(), false));
    }

    private static double best(RunningEngine e) {
        double best = 0.0;
        double most = 0.0;
        for (double t = 0.25; t < 4.0; t += 1.0 / 32.0) {
            double[] all = new double[e.trims()];
            Arrays.fill(all, t);
            double v = new WhenSettled(e).at(all).vacuumPa();
            best = v > most ? t : best;
            most = Math.max(most, v);
        }
        return best;
    }

    @Test
    public void aSteadyHandEndsWhereTheVacuumIsHighest() {
        RunningEngine e = rich();
        FollowedGuide f = new FollowedGuide(e, guide(e), -1, Hand.STEADY, true).follow(24, () -> false);
        assertThat(f.finished()).isTrue();
        assertThat(e.turns(0)).isCloseTo(best(e), within(0.125));
        assertThat(f.made()).isNotEmpty().noneMatch(FollowedGuide.Made::slipped).noneMatch(FollowedGuide.Made::said);
        assertThat(f.moves()).isGreaterThanOrEqualTo(f.made().size()).isLessThan(12);
        assertThat(f.doubtedLater()).isEmpty();
    }

    @DataProvider
    public Object[][] richStarts() {
        return new Object[][] {{1L, 0.5}, {2L, 0.5}, {4L, 0.75}, {5L, 0.75}};
    }

    /** Screws that start rich are what the trade asks for: coming back from the sensor's end is no slip. */
    @Test(dataProvider = "richStarts")
    public void movesFromBeyondTheSensorsEndAreNotDoubted(long noise, double turns) {
        RunningEngine e = rich(noise, turns);
        IdleGuide g = guide(e);
        FollowedGuide f = new FollowedGuide(e, g, -1, Hand.STEADY, true).follow(24, () -> false);
        assertThat(g.readings().getFirst().atLimit()).isTrue();
        assertThat(f.made()).noneMatch(FollowedGuide.Made::said);
        assertThat(e.turns(0)).isCloseTo(best(e), within(0.125));
    }

    /** The first move goes the other way: it is said, undone and counts twice, and the finish is as good. */
    @Test
    public void aSlipIsSaidUndoneAndCountedTwice() {
        RunningEngine e = rich();
        int[] moves = {0};
        Hand once = by -> moves[0]++ == 0 ? new Hand.Turn(Hand.Deed.OTHER_WAY, -by) : new Hand.Turn(Hand.Deed.ASKED,
                by);
        FollowedGuide f = new FollowedGuide(e, guide(e), -1, once, true).follow(24, () -> false);
        assertThat(f.finished()).isTrue();
        assertThat(f.made().getFirst().slipped()).isTrue();
        assertThat(f.made().getFirst().said()).isTrue();
        assertThat(f.made().getFirst().reading()).isEmpty();
        assertThat(f.made().stream().skip(1)).noneMatch(FollowedGuide.Made::slipped);
        assertThat(f.moves()).isGreaterThan(f.made().size());
        assertThat(e.turns(0)).isCloseTo(best(e), within(0.125));
    }

    /** The stop screw turned in place of the mixture screws is put back where it stood. */
    @Test
    public void theStopScrewTurnedByMistakeIsPutBack() {
        RunningEngine e = rich();
        int[] moves = {0};
        Hand once = by -> moves[0]++ == 0 ? new Hand.Turn(Hand.Deed.ELSEWHERE, by) : new Hand.Turn(Hand.Deed.ASKED,
                by);
        double stop = e.stop(0);
        FollowedGuide f = new FollowedGuide(e, guide(e), -1, once, true).follow(1, () -> false);
        assertThat(f.made()).singleElement().satisfies(m -> assertThat(m.slipped() && m.said()).isTrue());
        assertThat(e.stop(0)).isEqualTo(stop);
        assertThat(f.moves()).isEqualTo(2);
        assertThat(f.finished()).isFalse();
    }

    @Test
    public void followingCanBeCancelled() {
        RunningEngine e = rich();
        FollowedGuide f = new FollowedGuide(e, guide(e), -1, Hand.STEADY, true);
        assertThatThrownBy(() -> f.follow(24, () -> true)).isInstanceOf(CancellationException.class);
        assertThat(f.moves()).isZero();
    }
}
