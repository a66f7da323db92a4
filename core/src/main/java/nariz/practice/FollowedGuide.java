package nariz.practice;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import nariz.idle.IdleGuide;
import nariz.idle.IdleReading;
import nariz.sim.RunningEngine;

/**
 * An idle guide that is followed on a practice engine: a move is made by a hand that may slip, what comes of it is
 * read, and a slip that the guide recognises, or that the engine dies of, is undone and read again, which counts as one
 * move more. A slip elsewhere turns the stop screw.
 */
public final class FollowedGuide {
    private final RunningEngine engine;
    private final IdleGuide guide;
    private final int corner;
    private final Hand hand;
    private final boolean mixed;
    private final List<Made> made = new ArrayList<>();
    private int moves;
    private int stopMoves;
    private boolean finished;

    /**
     * A move of the screws that was asked for, those that take one back left out.
     *
     * @param slipped whether it was made otherwise than asked
     * @param said whether that was said at once; where the engine dies of a slip it says so itself
     * @param reading which of the guide's readings came of it, from 0; empty where it was said or the engine died
     */
    public record Made(boolean slipped, boolean said, Optional<Integer> reading) {
    }

    /** Where everything stands that a hand can turn. */
    private record Place(double[] turns, double[] stops) {
        static Place of(RunningEngine e) {
            double[] stops = new double[e.carburetors()];
            for (int j = 0; j < stops.length; j++) {
                stops[j] = e.stop(j);
            }
            return new Place(e.allTurns(), stops);
        }

        void set(RunningEngine e) {
            for (int j = 0; j < stops.length; j++) {
                e.stop(j, stops[j]);
            }
            for (int i = 0; i < turns.length; i++) {
                e.turn(i, turns[i]);
            }
        }
    }

    /**
     * Begins.
     *
     * @param engine practice engine
     * @param guide guide, nothing of it asked yet
     * @param corner screw that it is about, from 0; negative for all together
     * @param hand whoever turns
     * @param mixed whether a mixture is read, or speed and vacuum alone
     */
    public FollowedGuide(RunningEngine engine, IdleGuide guide, int corner, Hand hand, boolean mixed) {
        this.engine = engine;
        this.guide = guide;
        this.corner = corner;
        this.hand = hand;
        this.mixed = mixed;
    }

    /**
     * Follows until the guide has come to its end.
     *
     * @param most moves of the screws after which it is given up
     * @param cancelled asked before every move
     * @return this
     * @throws CancellationException when cancelled
     */
    public FollowedGuide follow(int most, BooleanSupplier cancelled) {
        Place before = Place.of(engine);
        while (moves < most && !finished) {
            if (cancelled.getAsBoolean()) {
                throw new CancellationException("following the guide was cancelled");
            }
            IdleGuide.Move m = guide.next();
            finished = m.kind() == IdleGuide.Kind.DONE || m.kind() == IdleGuide.Kind.NO_AUTHORITY;
            if (!finished) {
                Place was = Place.of(engine);
                make(m, before, was);
                before = was;
            }
        }
        return this;
    }

    private void make(IdleGuide.Move m, Place before, Place was) {
        boolean takesBack = guide.takesBack();
        boolean screws = m.kind() == IdleGuide.Kind.SCREWS;
        boolean slipped = false;
        if (takesBack) {
            // Put back whichever way it had gone.
            moves++;
            before.set(engine);
        } else if (screws) {
            moves++;
            slipped = hand.turn(engine, corner, m.by());
        } else if (m.kind() == IdleGuide.Kind.STOP) {
            stopMoves++;
            engine.stopBy(m.by());
        }
        Optional<IdleReading> read = WatchedIdle.read(engine, mixed);
        boolean died = read.isEmpty() && screws;
        if (died) {
            guide.undone();
        } else {
            guide.read(read.orElseGet(() -> WatchedIdle.heldAlive(engine, mixed)));
        }
        // An earlier move made the other way has been put right in the count: nothing is undone.
        boolean told = guide.slip().filter(s -> s != IdleGuide.Slip.WRONG_WAY_BEFORE).isPresent();
        if (screws && !takesBack) {
            made.add(new Made(slipped, told || (slipped && died), told || died ? Optional.empty()
                    : Optional.of(guide.readings().size() - 1)));
        }
        if (died || (slipped && told)) {
            moves++;
            was.set(engine);
            if (!died) {
                guide.back();
            }
            guide.read(WatchedIdle.readHeldAlive(engine, mixed));
        }
    }

    /** {@return moves of the screws, what was undone counted again} */
    public int moves() {
        return moves;
    }

    /** {@return moves of the stop screw} */
    public int stopMoves() {
        return stopMoves;
    }

    /** {@return whether the guide came to its end} */
    public boolean finished() {
        return finished;
    }

    /** {@return every move of the screws that was asked for} */
    public List<Made> made() {
        return List.copyOf(made);
    }

    /** {@return moves that were not said to be slips at once, and look like some by what was read later} */
    public List<Made> doubtedLater() {
        return made.stream().filter(m -> m.reading().filter(guide.otherWay()::contains).isPresent()).toList();
    }
}
