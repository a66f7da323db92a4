package nariz.practice;

import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import nariz.idle.ThrottleBalance;
import nariz.sim.BalanceUpset;
import nariz.sim.RunningEngine;
import nariz.sim.WhenSettled;

/**
 * How several carburetors were balanced on a practice engine, against what the guide makes of the same engine.
 *
 * <p>Points: {@value #BALANCE} for the balance, half at idle and half at speed, all up to {@value #FREE} off and none
 * from {@value #ALL_LOST} on; {@value #WORK} for the work, in proportion where more turns were made than the guide
 * needs; {@value #SPEED} for the idle speed, falling to none where it is {@value #SPEED_LOST} off. The lesson is where
 * most points were left. The scale is judgement, for practice alone.
 *
 * @param found how far the worst was off as it was found, idle with the links done up
 * @param idle the same as it was left
 * @param fast the same at speed; NaN where the engine does not live there
 * @param speedOff idle speed over the one wanted, less 1
 * @param turns turns made
 * @param guided turns the guide makes
 * @param guideIdle how far the worst is off where the guide leaves it, idle
 * @param score 0 to 100
 * @param lesson what to learn first
 */
public record BalanceDebrief(double found, double idle, double fast, double speedOff, int turns, int guided,
        double guideIdle, int score, Lesson lesson) {
    private static final double BALANCE = 60;
    private static final double WORK = 25;
    private static final double SPEED = 15;
    private static final double FREE = 0.03;
    private static final double ALL_LOST = 0.15;
    private static final double SPEED_FREE = 0.04;
    private static final double SPEED_LOST = 0.12;
    private static final double ENOUGH = 8.0;
    private static final int MOST = 40;
    private static final double TAKES = 0.06;
    private static final double STEP = 0.1;

    /** What to learn first. */
    public enum Lesson {
        /** Nothing worth a word. */
        NONE,
        /** The balance at idle. */
        IDLE,
        /** The balance at speed. */
        FAST,
        /** How many turns it took. */
        TURNS,
        /** The idle speed. */
        SPEED;

        /** {@return its key} */
        public String key() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * Looks at how it was left. Takes a second or two.
     *
     * @param e engine as it was left; its links are taken as done up
     * @param hidden what had been done to it
     * @param seed drew the engine
     * @param turns turns made
     * @param cancelled asked now and then
     * @return the debrief
     * @throws CancellationException when cancelled
     */
    public static BalanceDebrief of(RunningEngine e, BalanceUpset hidden, long seed, int turns,
            BooleanSupplier cancelled) {
        RunningEngine found = begun(e, hidden, seed);
        double foundOff = WatchedBalance.worst(found, ThrottleBalance.Stage.LINKS_ON);
        RunningEngine left = e.copy();
        left.linked(true);
        double idle = WatchedBalance.worst(left, ThrottleBalance.Stage.LINKS_ON);
        double fast = WatchedBalance.worst(left, ThrottleBalance.Stage.FAST);
        double rpm = new WhenSettled(left).now().rpm();
        double speedOff = rpm / e.sheet().engine().idleRpm() - 1.0;
        RunningEngine own = begun(e, hidden, seed);
        int guided = 0;
        for (ThrottleBalance.Stage s : ThrottleBalance.Stage.values()) {
            guided += follow(own, s, seed, cancelled);
        }
        own.linked(true);
        boolean lives = fast < 1.0;
        double atIdle = BALANCE * (lives ? 0.5 : 1.0) * kept(idle, FREE, ALL_LOST);
        double atSpeed = lives ? 0.5 * BALANCE * kept(fast, FREE, ALL_LOST) : 0.0;
        double work = WORK * Math.min(1.0, (double) guided / Math.max(1, turns));
        double speed = SPEED * kept(Math.abs(speedOff), SPEED_FREE, SPEED_LOST);
        Lesson lesson = lesson(BALANCE * (lives ? 0.5 : 1.0) - atIdle, lives ? 0.5 * BALANCE - atSpeed : 0.0, WORK
                - work, SPEED - speed);
        return new BalanceDebrief(foundOff, idle, lives ? fast : Double.NaN, speedOff, turns, guided, WatchedBalance
                .worst(own, ThrottleBalance.Stage.LINKS_ON), (int) Math.round(atIdle + atSpeed + work + speed),
                lesson);
    }

    private static RunningEngine begun(RunningEngine e, BalanceUpset hidden, long seed) {
        RunningEngine found = new RunningEngine(e.sheet(), seed, seed);
        for (int i = 0; i < found.trims(); i++) {
            found.turn(i, e.turns(i));
        }
        hidden.done(found);
        return found;
    }

    /** Share of the points that is kept. */
    private static double kept(double off, double free, double lost) {
        return Math.clamp((lost - off) / (lost - free), 0.0, 1.0);
    }

    private static Lesson lesson(double idle, double fast, double work, double speed) {
        double most = Math.max(Math.max(idle, fast), Math.max(work, speed));
        return most < ENOUGH ? Lesson.NONE : most == idle ? Lesson.IDLE : most == fast ? Lesson.FAST : most == speed
                ? Lesson.SPEED : Lesson.TURNS;
    }

    /** What the guide makes of one stage, with a hand that does as it is told; {@return its turns} */
    private static int follow(RunningEngine e, ThrottleBalance.Stage s, long seed, BooleanSupplier cancelled) {
        ThrottleBalance b = new ThrottleBalance(e.carburetors(), s, e.sheet().engine().idleRpm());
        WatchedBalance meter = new WatchedBalance(e, s, TAKES, STEP, new Random(seed * 41 + s.ordinal()));
        while (b.moves().size() + b.readings().size() < MOST) {
            if (cancelled.getAsBoolean()) {
                throw new CancellationException("debrief was cancelled");
            }
            ThrottleBalance.Move m = b.next();
            if (m.kind() == ThrottleBalance.Kind.READ) {
                Optional<ThrottleBalance.Reading> r = meter.read();
                if (r.isEmpty()) {
                    break;
                }
                b.read(r.get());
            } else if (m.kind() == ThrottleBalance.Kind.TURN) {
                WatchedBalance.turn(e, s, m.carburetor(), m.turns());
                b.turned();
            } else if (m.kind() == ThrottleBalance.Kind.SPEED) {
                e.stopBy(m.turns());
                b.turned();
            } else {
                break;
            }
        }
        return b.moves().size();
    }
}
