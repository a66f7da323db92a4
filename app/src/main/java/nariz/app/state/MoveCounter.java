package nariz.app.state;

import nariz.sim.RunningEngine;

/** Counts what a hand does at a practice engine: several turns of one screw the same way at once are one move. */
final class MoveCounter {
    /** Turns of one screw the same way within this are one move, s of the engine's time. */
    private static final double ONE_MOVE_S = 3.0;

    private int moves;
    private String last = "";
    private double lastS = Double.NEGATIVE_INFINITY;

    void reset() {
        moves = 0;
        last = "";
        lastS = Double.NEGATIVE_INFINITY;
    }

    /**
     * Something was done.
     *
     * @param e engine, for its clock
     * @param what the screw and the way
     */
    void count(RunningEngine e, String what) {
        double now = e.timeS();
        moves += what.equals(last) && now - lastS < ONE_MOVE_S ? 0 : 1;
        last = what;
        lastS = now;
    }

    int moves() {
        return moves;
    }
}
