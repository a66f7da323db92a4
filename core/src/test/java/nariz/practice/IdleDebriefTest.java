package nariz.practice;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CancellationException;
import nariz.carburetor.Ladder;
import nariz.idle.School;
import nariz.sim.Demo;
import nariz.sim.PracticeUpset;
import nariz.sim.RunningEngine;
import nariz.sim.WhenSettled;
import org.testng.annotations.Test;

public class IdleDebriefTest {
    private static IdleDebrief.Task task(long seed) {
        return new IdleDebrief.Task(seed, School.HIGHEST_VACUUM, 1 / 0.95);
    }

    private static IdleDebrief of(RunningEngine e, PracticeUpset u, long seed, int moves) {
        return IdleDebrief.of(e, u, task(seed), moves, () -> false);
    }

    private static void leave(RunningEngine e, List<Double> turns) {
        for (int i = 0; i < turns.size(); i++) {
            e.turn(i, turns.get(i));
        }
    }

    @Test
    public void leftAtTheBestInAsManyMovesAsTheGuideIsAllThePoints() {
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), 3, 3);
        PracticeUpset u = PracticeUpset.of(e, 3, 1);
        IdleDebrief untouched = of(e, u, 3, 0);
        leave(e, untouched.best());
        IdleDebrief d = of(e, u, 3, untouched.guided());
        assertThat(d.score()).isGreaterThan(95);
        assertThat(d.lesson()).isEqualTo(IdleDebrief.Lesson.NONE);
        assertThat(d.guideLost()).isLessThan(0.01);
        assertThat(d.score()).isGreaterThanOrEqualTo(untouched.score());
    }

    @Test
    public void tooManyMovesAndAPoorFinishAreTheLessonsTheyAre() {
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), 3, 3);
        PracticeUpset u = PracticeUpset.of(e, 3, 1);
        List<Double> best = of(e, u, 3, 5).best();
        leave(e, best);
        assertThat(of(e, u, 3, 60).lesson()).isEqualTo(IdleDebrief.Lesson.MOVES);
        leave(e, best.stream().map(t -> t + 1.25).toList());
        IdleDebrief poor = of(e, u, 3, 5);
        assertThat(poor.lesson()).isEqualTo(IdleDebrief.Lesson.FINISH);
        assertThat(poor.score()).isLessThan(60);
    }

    @Test
    public void aLeakThatStaysOpenIsTheLesson() {
        long seed = 1;
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), seed, seed);
        PracticeUpset u = PracticeUpset.of(e, seed, 3);
        while (u.leakM2() == 0.0) {
            seed++;
            e = new RunningEngine(Demo.ESTATE.sheet(), seed, seed);
            u = PracticeUpset.of(e, seed, 3);
        }
        assertThat(e.leaks()).isTrue();
        assertThat(of(e, u, seed, 6).lesson()).isEqualTo(IdleDebrief.Lesson.LEAK);
        e.leak(0.0);
        assertThat(of(e, u, seed, 6).lesson()).isNotEqualTo(IdleDebrief.Lesson.LEAK);
    }

    @Test
    public void theWrongFeedIsHiddenAndFittingTheRightOneCuresIt() {
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), 4, 4);
        double before = new WhenSettled(e).now().lambda();
        PracticeUpset u = PracticeUpset.of(e, 4, 4);
        Ladder feed = PracticeUpset.feed(e).orElseThrow();
        assertThat(u.part()).isPresent();
        assertThat(u.screw()).isEqualTo(-1);
        assertThat(u.cured(e)).isFalse();
        double[] as = Arrays.stream(e.allTurns()).map(t -> t - u.all()).toArray();
        assertThat(Math.abs(new WhenSettled(e).at(as).lambda() - before)).isGreaterThan(0.02);
        IdleDebrief wrong = of(e, u, 4, 6);
        assertThat(wrong.lesson()).isEqualTo(IdleDebrief.Lesson.PART);
        e.fit(feed.part().fit(e.fitted(), feed.stage(), u.part().get().from()));
        assertThat(u.cured(e)).isTrue();
        assertThat(new WhenSettled(e).at(as).lambda()).isEqualTo(before);
        assertThat(of(e, u, 4, 6).cured()).isTrue();
        // A family without an idle feed hides what the level below does.
        assertThat(PracticeUpset.of(new RunningEngine(Demo.SMALL_FOUR.sheet(), 4, 4), 4, 4).part()).isEmpty();
    }

    @Test
    public void theSameSeedHidesTheSame() {
        for (int level = 1; level <= 4; level++) {
            RunningEngine a = new RunningEngine(Demo.ROADSTER.sheet(), 9, 1);
            RunningEngine b = new RunningEngine(Demo.ROADSTER.sheet(), 9, 2);
            assertThat(PracticeUpset.of(a, 9, level)).isEqualTo(PracticeUpset.of(b, 9, level));
            assertThat(a.allTurns()).isEqualTo(b.allTurns());
        }
    }

    /** Nobody learns on an engine that dies at once. */
    @Test
    public void everyPracticeEngineRuns() {
        for (Demo d : Demo.values()) {
            for (int level = 1; level <= 4; level++) {
                for (long seed = 1; seed <= 12; seed++) {
                    RunningEngine e = new RunningEngine(d.sheet(), seed, seed);
                    PracticeUpset.of(e, seed, level);
                    String which = d + ", level " + level + ", " + seed;
                    e.run(60.0);
                    assertThat(e.stalled()).as(which).isFalse();
                    assertThat(e.read().rpm()).as(which).isGreaterThan(0.6 * d.sheet().engine().idleRpm());
                }
            }
        }
    }

    /** Where the sheet's own screws would let it die, the engine that was put right comes to life at the first try. */
    @Test
    public void anEngineThatDiedOfItsScrewsStartsOnceTheyAreRight() {
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), 3, 3);
        List<Double> right = Arrays.stream(e.allTurns()).boxed().toList();
        e.turnAll(0.0);
        e.run(30.0);
        assertThat(e.stalled()).isTrue();
        e.start();
        e.run(30.0);
        assertThat(e.stalled()).isTrue();
        leave(e, right);
        e.start();
        e.run(30.0);
        assertThat(e.stalled()).isFalse();
    }

    @Test
    public void anEngineBeginsAsItsOwnScrewsLetItRunAndNoTimePasses() {
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), 3, 3);
        RunningEngine same = new RunningEngine(Demo.ESTATE.sheet(), 3, 3);
        e.turnBy(-1, -1.0);
        leave(same, Arrays.stream(e.allTurns()).boxed().toList());
        e.begin();
        assertThat(e.timeS()).isZero();
        e.run(1.0);
        same.run(1.0);
        double settled = new WhenSettled(e).now().lambda();
        assertThat(e.read().lambda()).isCloseTo(settled, within(0.05));
        assertThat(same.read().lambda()).isLessThan(settled - 0.1);
    }

    @Test
    public void aDebriefCanBeGivenUp() {
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), 3, 3);
        PracticeUpset u = PracticeUpset.of(e, 3, 1);
        assertThatThrownBy(() -> IdleDebrief.of(e, u, task(3), 4, () -> true)).isInstanceOf(
                CancellationException.class);
    }
}
