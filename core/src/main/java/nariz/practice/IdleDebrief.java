package nariz.practice;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import java.util.function.ToDoubleFunction;
import nariz.estimation.Overlap;
import nariz.idle.IdleGuide;
import nariz.idle.Reach;
import nariz.idle.School;
import nariz.sim.PracticeUpset;
import nariz.sim.RunningEngine;
import nariz.sim.WhenSettled;

/**
 * How an idle was set on a practice engine, against the best there was and against what the guide makes of the same
 * engine.
 *
 * <p>Points: {@value #FINISH} for the finish, falling to none where {@value #ALL_LOST} of the vacuum (or of the speed,
 * or 0.05 lambda) is given away, and half of them where a leak or a wrong part was left; {@value #WORK} for the work,
 * in proportion where more moves were made than the guide needs; {@value #BLAME} for what was wrong besides: the odd
 * screw set right, the leak closed, the right part fitted. The lesson is where most points were left. The scale is
 * judgement, for practice alone.
 *
 * @param hidden what had been done to the engine
 * @param lost share of what the school goes by that was given away; mixture: difference of lambda
 * @param best turns of every screw at the best there was
 * @param left turns they were left at
 * @param moves moves made
 * @param guided moves the guide makes
 * @param guideLost what the guide gives away
 * @param oddTurns how far the odd screw was left from its best, turns; 0 where none was odd
 * @param cured whether leak and part were put right
 * @param score 0 to 100
 * @param lesson what to learn first
 */
public record IdleDebrief(PracticeUpset hidden, double lost, List<Double> best, List<Double> left, int moves,
        int guided, double guideLost, double oddTurns, boolean cured, int score, Lesson lesson) {
    private static final double FINISH = 60;
    private static final double WORK = 25;
    private static final double BLAME = 15;
    private static final double UNCURED = 0.5;
    private static final double ALL_LOST = 0.02;
    private static final double LAMBDA_LOST = 0.05;
    private static final double REACH = 0.75;
    private static final double STEP = 1.0 / 16.0;
    private static final double ODD = 0.2;
    private static final int MOST = 20;
    private static final int MOST_ALONE = 9;
    private static final double ENOUGH = 8.0;
    /** What looking for a leak, or swapping a jet once, counts as. */
    private static final int CHECK_MOVES = 1;

    /** Copies the lists. */
    public IdleDebrief {
        best = List.copyOf(best);
        left = List.copyOf(left);
    }

    /** What to learn first. */
    public enum Lesson {
        /** Nothing worth a word. */
        NONE,
        /** Where it was left. */
        FINISH,
        /** How many moves it took. */
        MOVES,
        /** One screw that was off by itself. */
        SCREW,
        /** Unmetered air. */
        LEAK,
        /** A part that was not what the sheet says. */
        PART;

        /** {@return its key} */
        public String key() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * A practice as it was begun.
     *
     * @param seed draws engine and upset
     * @param school where to finish
     * @param aimPhi mixture aimed at, 1/lambda
     */
    public record Task(long seed, School school, double aimPhi) {
    }

    /**
     * Looks at how it was left. Takes some seconds.
     *
     * @param e engine as it was left
     * @param hidden what had been done to it
     * @param task what was to be done
     * @param moves moves made
     * @param cancelled asked now and then
     * @return the debrief
     * @throws CancellationException when cancelled
     */
    public static IdleDebrief of(RunningEngine e, PracticeUpset hidden, Task task, int moves,
            BooleanSupplier cancelled) {
        ToDoubleFunction<WhenSettled.State> worth = worth(task);
        RunningEngine sound = new RunningEngine(e.sheet(), task.seed(), 0);
        stopped(sound, e);
        double[] left = e.allTurns();
        double[] best = best(sound, left, worth, cancelled);
        double top = worth.applyAsDouble(new WhenSettled(sound).at(best));
        double lost = lost(task, top, worth.applyAsDouble(new WhenSettled(e).now()));
        RunningEngine own = new RunningEngine(e.sheet(), task.seed(), task.seed());
        int guided = guided(own, task, hidden, cancelled);
        // Plates that stand further open leave less vacuum, whatever the screws: like is set beside like.
        stopped(sound, own);
        double guideTop = worth.applyAsDouble(new WhenSettled(sound).at(best));
        double guideLost = lost(task, guideTop, worth.applyAsDouble(new WhenSettled(own).now()));
        double odd = hidden.screw() < 0 ? 0.0 : odd(left, hidden.screw()) - odd(best, hidden.screw());
        boolean cured = hidden.cured(e);
        // On top of a leak or a wrong part no finish holds.
        double all = task.school() == School.MIXTURE ? LAMBDA_LOST : ALL_LOST;
        double finish = (cured ? 1.0 : UNCURED) * FINISH * Math.clamp(1.0 - lost / all, 0.0, 1.0);
        double work = WORK * Math.min(1.0, (double) guided / Math.max(1, moves));
        double blame = !cured ? 0.0 : BLAME * (Math.abs(odd) <= ODD ? 1.0 : 0.0);
        return new IdleDebrief(hidden, lost, boxed(best), boxed(left), moves, guided, guideLost, odd, cured, (int) Math
                .round(finish + work + blame), lesson(hidden, cured, FINISH - finish, WORK - work, BLAME - blame));
    }

    private static void stopped(RunningEngine e, RunningEngine as) {
        for (int j = 0; j < e.carburetors(); j++) {
            e.stop(j, as.stop(j));
        }
    }

    private static Lesson lesson(PracticeUpset hidden, boolean cured, double finish, double work, double blame) {
        if (!cured) {
            // Whatever else was lost follows from it.
            return hidden.part().isPresent() ? Lesson.PART : Lesson.LEAK;
        }
        double most = Math.max(finish, Math.max(work, blame));
        return most < ENOUGH ? Lesson.NONE : most == blame ? Lesson.SCREW : most == finish ? Lesson.FINISH
                : Lesson.MOVES;
    }

    private static List<Double> boxed(double[] v) {
        return Arrays.stream(v).boxed().toList();
    }

    /** What a school goes by, the more the better; the middle between two losses lies close to the most vacuum. */
    private static ToDoubleFunction<WhenSettled.State> worth(Task t) {
        return switch (t.school()) {
            case HIGHEST_SPEED -> WhenSettled.State::rpm;
            case MIXTURE -> s -> -Math.abs(s.lambda() - 1.0 / t.aimPhi());
            default -> WhenSettled.State::vacuumPa;
        };
    }

    private static double lost(Task t, double best, double here) {
        double lost = t.school() == School.MIXTURE ? best - here : best > 0.0 ? 1.0 - here / best : 1.0;
        return t.school() == School.LEAN_BEST ? Math.abs(lost - School.LITTLE) : Math.max(0.0, lost);
    }

    /** How far a screw stands from the mean of the others. */
    private static double odd(double[] turns, int screw) {
        double others = (Arrays.stream(turns).sum() - turns[screw]) / Math.max(1, turns.length - 1);
        return turns[screw] - others;
    }

    /** All together, then each by itself, twice. */
    private static double[] best(RunningEngine e, double[] from, ToDoubleFunction<WhenSettled.State> worth,
            BooleanSupplier cancelled) {
        double[] at = from.clone();
        Arrays.fill(at, Arrays.stream(from).average().orElse(0.0));
        all(e, at, worth, cancelled);
        for (int i = 0; i < at.length && at.length > 1; i++) {
            one(e, at, i, worth, cancelled);
        }
        return at;
    }

    private static void all(RunningEngine e, double[] at, ToDoubleFunction<WhenSettled.State> worth,
            BooleanSupplier cancelled) {
        double most = Double.NEGATIVE_INFINITY;
        double shift = 0.0;
        for (double by = -2 * REACH; by <= 2 * REACH; by += STEP) {
            check(cancelled);
            double d = by;
            double w = worth.applyAsDouble(new WhenSettled(e).at(Arrays.stream(at).map(t -> t + d).toArray()));
            if (w > most) {
                most = w;
                shift = by;
            }
        }
        for (int i = 0; i < at.length; i++) {
            at[i] += shift;
        }
    }

    private static void one(RunningEngine e, double[] at, int screw, ToDoubleFunction<WhenSettled.State> worth,
            BooleanSupplier cancelled) {
        double most = worth.applyAsDouble(new WhenSettled(e).at(at));
        double from = at[screw];
        double best = from;
        for (double by = -0.25; by <= 0.25; by += STEP) {
            check(cancelled);
            at[screw] = from + by;
            double w = worth.applyAsDouble(new WhenSettled(e).at(at));
            if (w > most) {
                most = w;
                best = from + by;
            }
        }
        at[screw] = best;
    }

    /** What the guide makes of it, with a hand that does as it is told; {@return its moves} */
    private static int guided(RunningEngine e, Task task, PracticeUpset hidden, BooleanSupplier cancelled) {
        PracticeUpset.of(e, task.seed(), hidden.level());
        int moves = 0;
        if (hidden.level() > 2) {
            e.leak(0.0);
            e.fit(e.sheet());
            moves += CHECK_MOVES;
        }
        moves += follow(e, task, -1, MOST, cancelled);
        for (int i = 0; i < e.trims() && hidden.screw() >= 0 && e.trims() <= IdleGuide.MOST_ALONE; i++) {
            moves += follow(e, task, i, MOST_ALONE, cancelled);
        }
        return moves;
    }

    private static int follow(RunningEngine e, Task task, int screw, int most, BooleanSupplier cancelled) {
        double from = turns(e, screw);
        double shown = Overlap.shownAtIdle(task.aimPhi(), e.sheet().engine().cam());
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(task.school(), shown, screw < 0 ? 1.0 : 1.0 / e.trims(),
                from, Reach.of(e.trim().isFromDatum()), e.sheet().engine().idleRpm(), false));
        FollowedGuide f = new FollowedGuide(e, g, screw, Hand.STEADY, true).follow(most, cancelled);
        int moves = f.moves() + f.stopMoves();
        if (f.finished()) {
            return moves;
        }
        // What does not come to an end is put back where it was, and not left where something was to be learnt.
        e.turnBy(screw, from - turns(e, screw));
        return moves + 1;
    }

    /** Of one screw, or the mean of all. */
    private static double turns(RunningEngine e, int screw) {
        return screw < 0 ? Arrays.stream(e.allTurns()).average().orElse(0.0) : e.turns(screw);
    }

    private static void check(BooleanSupplier cancelled) {
        if (cancelled.getAsBoolean()) {
            throw new CancellationException("debrief was cancelled");
        }
    }
}
