package nariz.sim;

import java.util.Arrays;

/**
 * What a running engine would settle at, without noise or lope: the truth behind an idle, a balance and a practice.
 * The engine itself goes on meanwhile; every question is asked of a twin of it as it is set at that moment.
 */
public final class WhenSettled {
    /** More than the slow part of the walls takes to settle. */
    static final double SETTLES_S = 8.0;
    private static final int AVERAGED = 100;
    /** How far from the sheet's screws it is looked for what an engine runs on, turns. */
    private static final double LEANER = 2.5;
    private static final double RICHER = 4.0;
    private static final double STEP = 0.25;

    private final RunningEngine engine;

    /**
     * Of an engine.
     *
     * @param engine is not changed
     */
    public WhenSettled(RunningEngine engine) {
        this.engine = engine;
    }

    /**
     * A state.
     *
     * @param rpm speed
     * @param vacuumPa vacuum, Pa
     * @param lambda mean over the barrels
     */
    public record State(double rpm, double vacuumPa, double lambda) {
    }

    /** {@return speed, vacuum and mixture with screws and stops as they are; nought where it dies} */
    public State now() {
        return at(engine.allTurns());
    }

    /**
     * The same with other screws.
     *
     * @param turns of every screw
     * @return speed, vacuum and mixture; nought where it dies
     */
    public State at(double[] turns) {
        return state(engine.twin(turns, true), SETTLES_S);
    }

    /**
     * The same where somebody holds a speed, screws and stops as they are.
     *
     * @param rpm speed held
     * @return speed, vacuum and mixture; nought where it dies
     */
    public State held(double rpm) {
        RunningEngine twin = engine.twin(engine.allTurns(), true);
        twin.hold(rpm);
        return state(twin, 2.0 * SETTLES_S);
    }

    /**
     * What every carburetor passes with screws, stops and links as they are, without a meter.
     *
     * @param rpm speed somebody holds; 0 for the idle
     * @return kg/h of each; nought where it dies
     */
    public double[] flows(double rpm) {
        RunningEngine twin = engine.twin(engine.allTurns(), true);
        twin.hold(rpm);
        twin.run(rpm > 0.0 ? 2.0 * SETTLES_S : SETTLES_S);
        double[] out = new double[twin.carburetors()];
        Arrays.setAll(out, j -> twin.stalled() ? 0.0 : twin.draft(j));
        return out;
    }

    /**
     * Whether it keeps running as it is set now, chance included, which takes some engines that would settle.
     *
     * @param seconds for how long
     * @return whether it did not die
     */
    public boolean keepsRunning(double seconds) {
        RunningEngine twin = engine.copy();
        twin.run(seconds);
        return !twin.stalled();
    }

    /**
     * Where it runs fastest, all screws alike, to a quarter of a turn: a made-up engine need not run at all on the
     * screws of its sheet.
     *
     * @return turns
     */
    public double fastestAt() {
        double sheetTurns = engine.turns(0);
        double best = sheetTurns;
        double most = 0.0;
        for (double t = sheetTurns - LEANER; t <= sheetTurns + RICHER; t += STEP) {
            if (t >= 0.0 || engine.trim().isFromDatum()) {
                double[] all = new double[engine.trims()];
                Arrays.fill(all, t);
                double rpm = at(all).rpm();
                if (rpm > most) {
                    most = rpm;
                    best = t;
                }
            }
        }
        return best;
    }

    private static State state(RunningEngine twin, double seconds) {
        twin.run(seconds);
        double rpm = 0.0;
        double pa = 0.0;
        double phi = 0.0;
        for (int i = 0; i < AVERAGED; i++) {
            twin.run(RunningEngine.STEP_S);
            rpm += twin.speed();
            pa += twin.vacuumPa();
            phi += twin.meanPhi();
        }
        return twin.stalled() ? new State(0, 0, 2.0) : new State(rpm / AVERAGED, pa / AVERAGED, AVERAGED / phi);
    }
}
