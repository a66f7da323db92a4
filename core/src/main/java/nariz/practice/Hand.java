package nariz.practice;

import nariz.sim.RunningEngine;

/** Whoever turns the screws, as asked or not. */
@FunctionalInterface
public interface Hand {
    /** One that does as it is told. */
    Hand STEADY = by -> new Turn(Deed.ASKED, by);

    /** What became of a move. */
    enum Deed {
        /** Made as asked, about. */
        ASKED,
        /** Made the other way. */
        OTHER_WAY,
        /** Made at something else. */
        ELSEWHERE
    }

    /**
     * A move as it was made.
     *
     * @param deed what became of it
     * @param by turns, signed
     */
    record Turn(Deed deed, double by) {
        /** {@return whether it was made otherwise than asked} */
        public boolean slipped() {
            return deed != Deed.ASKED;
        }
    }

    /**
     * Makes a move.
     *
     * @param by turns asked for, signed
     * @return what is done
     */
    Turn turn(double by);

    /**
     * Makes a move at an engine; one made elsewhere turns its stop screw.
     *
     * @param e engine
     * @param screw mixture screw, from 0; negative for all
     * @param by turns asked for, richer positive
     * @return whether it was made otherwise than asked
     */
    default boolean turn(RunningEngine e, int screw, double by) {
        Turn made = turn(by);
        if (made.deed() == Deed.ELSEWHERE) {
            e.stop(0, e.stop(0) + made.by());
        } else {
            e.turnBy(screw, made.by());
        }
        return made.slipped();
    }
}
