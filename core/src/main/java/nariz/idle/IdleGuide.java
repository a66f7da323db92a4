package nariz.idle;

import static nariz.text.Message.message;

import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * Leads somebody with a screwdriver to the best idle: one move at a time, each with its reason.
 *
 * <p>A sequential design (Chaloner and Verdinelli 1995, section 2): the next position is the one whose reading is
 * expected to lower the variance of the finish most for the time it takes ({@link IdleCurve#teaches}); when the finish
 * is known to {@value #SURE_PHI} of phi it is gone to.
 * Where a mixture is read, it and not the screw is the axis: a person who is a sixteenth off, or slack in the thread,
 * does no harm. A move whose answer does not fit it is recognised by weighing what it would do with what else a hand
 * may have done ({@link Slip}). The first move goes rich unless it is rich already, so that slack and a wet manifold
 * are taken up from one side; and no finish is gone to for good that was not passed on both sides.
 *
 * <p>One group of screws, all moved together; for corners one by one there is a guide for each. One thread at a time.
 */
public final class IdleGuide {
    /** More than is wanted at the end: what is read on the way there and at the place says more. */
    private static final double SURE_PHI = 0.023;
    private static final double CLOSE_PHI = 0.008;
    private static final double CLOSE_AIM_PHI = 0.005;
    /** By speed and vacuum alone, in such steps of phi as the curve's width makes likely, at most so many turns. */
    private static final double MOST_SURE_TURNS = 0.09;
    private static final double MOST_CLOSE_TURNS = 0.08;
    private static final double RICH_PHI = 1.19;
    /** So near to it is rich already: a move that small teaches little. */
    private static final double RICH_ENOUGH = 0.06;
    private static final double FINEST = 1.0 / 32.0;
    private static final double COARSEST = 0.25;
    /** The largest move in turns, and the same once so many readings say what a turn does. */
    private static final double LARGEST = 0.75;
    private static final double LARGEST_KNOWN = 1.5;
    private static final int KNOWN = 3;
    private static final double[] SIZES = {0.125, 0.25, 0.375, 0.5, 0.75, 1.0, 1.5};
    /** Time of a move: hand and settling, s, and what every eighth of a turn adds. */
    private static final double MOVE_S = 12.0;
    private static final double EIGHTH_S = 0.7;
    private static final double READ_SHARE = 0.0010;
    /** The same by speed and vacuum alone, where a slip of the hand is not always seen. */
    private static final double UNREAD_SHARE = 0.0050;
    /** A move that lowers the variance of the finish by less than this share is not worth making. */
    private static final double LEAST_LEARNT = 0.2;
    /** Nobody is sent where more of the speed than this would be lost. */
    private static final double MOST_LOST = 0.04;
    private static final double LEANEST_PHI = 0.88;
    private static final double RICHEST_PHI = 1.45;
    /** Moves after which no more is learnt, and those that may still bring it to the place. */
    private static final int MOST_MOVES = 12;
    private static final int LAST_MOVES = 6;
    /** How far from where they miss it is left. */
    private static final double CLEAR_PHI = 0.02;
    private static final double CLEAR_TURNS = 0.0625;
    /** More than this of the speed lost in gear is too much, rpm (the trade's figure). */
    public static final double MOST_DROP = 200.0;
    /** With more screws than this one alone moves the whole engine too little to be set by its speed or mixture. */
    public static final int MOST_ALONE = 4;

    private final Settings settings;
    private final IdleRecord record;
    private @Nullable Move open;
    private boolean done;
    private boolean atLimit;
    /** Whether the open move takes another back. */
    private boolean takenBack;
    private @Nullable IdleReading inGear;

    /**
     * What is set, and how.
     *
     * @param school where to finish
     * @param aimPhi mixture aimed at as the sensor shows it, 1/lambda; used by {@link School#MIXTURE} alone
     * @param share share of all screws that this group is, 0 to 1: what one of two does to the mixture of all is half
     * @param turns where the screws stand
     * @param reach how far they can be turned
     * @param idleRpm speed wanted
     * @param automatic whether it is looked at in gear at the end
     */
    public record Settings(School school, double aimPhi, double share, double turns, Reach reach, double idleRpm,
            boolean automatic) {
        IdleCurve.Aim aim(School by) {
            return new IdleCurve.Aim(by, aimPhi, reach.bend());
        }
    }

    /** What there is to do. */
    public enum Kind {
        /** Nothing yet: it is read as it was found. */
        READ,
        /** Turn the screws. */
        SCREWS,
        /** Turn the stop screw to bring the speed back. */
        STOP,
        /** Read it in gear, brakes held: the screws are right. */
        GEAR,
        /** Finished. */
        DONE,
        /** The screws do nothing. */
        NO_AUTHORITY
    }

    /**
     * A move.
     *
     * @param kind what
     * @param by turns, positive richer for screws and faster for the stop
     * @param to where the screws stand then
     * @param why reason
     */
    public record Move(Kind kind, double by, double to, Message why) {
    }

    /** What a hand may have done other than it was asked. */
    public enum Slip {
        /** Turned the other way. */
        WRONG_WAY,
        /** An earlier move was turned the other way, as this reading shows; positions have been put right. */
        WRONG_WAY_BEFORE,
        /** Turned the stop screw instead. */
        STOP_SCREW,
        /** Turned nothing, or a screw that does nothing. */
        NOTHING
    }

    /**
     * Begins.
     *
     * @param settings what is set
     */
    public IdleGuide(Settings settings) {
        this.settings = settings;
        record = new IdleRecord(settings);
    }

    private IdleGuide(IdleGuide of) {
        settings = of.settings;
        record = new IdleRecord(of.record);
        open = of.open;
        done = of.done;
        atLimit = of.atLimit;
        takenBack = of.takenBack;
        inGear = of.inGear;
    }

    /** {@return a guide that goes on from here by itself, so that a reading can be weighed beside what is shown} */
    public IdleGuide copy() {
        return new IdleGuide(this);
    }

    /** {@return moves made so far} */
    public List<Move> moves() {
        return List.copyOf(record.moves());
    }

    /** {@return readings so far} */
    public List<IdleReading> readings() {
        return List.copyOf(record.readings());
    }

    /** {@return where the screws stand, turns} */
    public double turns() {
        return record.turns();
    }

    /** {@return how far the stop screw was turned in all, turns; in is positive} */
    public double stop() {
        return record.stop();
    }

    /** {@return whether the open move takes the one before it back, whichever way that went} */
    public boolean takesBack() {
        return takenBack;
    }

    /** {@return what the last answer looked like, where it did not fit the move} */
    public Optional<Slip> slip() {
        return record.slip();
    }

    /** {@return what to do next; the same until a reading was taken} */
    public Move next() {
        Move m = open == null ? choose() : open;
        open = m;
        return m;
    }

    /**
     * Takes what was read after the move that {@link #next} asked for.
     *
     * @param r averages; its position is taken from the move
     */
    public void read(IdleReading r) {
        Move m = next();
        if (m.kind() == Kind.GEAR) {
            inGear = r.at(turns(), stop());
        } else {
            record.read(m, r, takenBack);
            takenBack = false;
        }
        open = null;
    }

    /**
     * The move that {@link #next} asked for was made, and put back before anything was read: the engine would not run
     * there, or it was the wrong screw. Moves are half as large from then on, and what comes next is read where it
     * stood before.
     */
    public void undone() {
        record.undone(next());
        open = new Move(Kind.READ, 0.0, turns(), message("idle.why-undone"));
    }

    /**
     * Which moves look as if made the other way by all that was read by speed and vacuum alone: positions have been put
     * right by it.
     *
     * @return the reading after each, from 0
     */
    public List<Integer> otherWay() {
        return record.otherWay();
    }

    /** {@return whether cylinders missed at the last reading: its lean limit is passed there} */
    public boolean misses() {
        return record.misses();
    }

    /** {@return by how much the speed falls in gear, rpm; empty where that was not read} */
    public Optional<Double> gearDrop() {
        return Optional.ofNullable(inGear).map(g -> record.last().rpm() - g.rpm());
    }

    /**
     * Takes the last move back: what was read there stays, mixture screws and stop screw go back where they were, so
     * that what is read next can be set beside all that was read before.
     */
    public Move back() {
        return back(message("idle.why-back"));
    }

    private Move back(Message why) {
        double to = record.turnsBefore();
        Move m = new Move(Kind.SCREWS, to - turns(), to, why);
        open = m;
        takenBack = true;
        inGear = null;
        record.stopBack();
        done = false;
        return m;
    }

    private Move choose() {
        List<IdleReading> readings = record.readings();
        if (readings.isEmpty()) {
            return new Move(Kind.READ, 0.0, turns(), message("idle.why-read"));
        }
        if (done) {
            return new Move(Kind.DONE, 0.0, turns(), message("idle.why-done"));
        }
        IdleCurve c = record.curve() == null ? IdleCurve.of(readings) : record.curve();
        IdleReading last = record.last();
        if (!last.mixed() && record.falls()) {
            record.fell();
            return back(message("idle.why-fell"));
        }
        if (last.atLimit() && record.moves().size() < MOST_MOVES) {
            Move home = move(last.phi() > RICH_PHI ? -2 * COARSEST : 2 * COARSEST, message("idle.why-at-limit"));
            // With the screws at their own end as well, what is wrong is not theirs.
            atLimit = home.by() == 0.0;
            return atLimit ? finished() : home;
        }
        Optional<Double> slower = record.speed().farTooFast() ? record.speed().back() : Optional.empty();
        if (slower.isPresent()) {
            return stop(slower.get(), message("idle.why-too-fast"));
        }
        boolean rich = last.mixed() && last.phi() >= RICH_PHI - RICH_ENOUGH;
        if (screwsUntouched() && !rich) {
            Move first = first(last);
            if (first.by() != 0.0) {
                return first;
            }
        }
        if (record.powerless()) {
            return new Move(Kind.NO_AUTHORITY, 0.0, turns(), message("idle.why-no-authority"));
        }
        IdleCurve.Finish f = c.finish(settings.aim(settings.school()));
        double now = c.at(last);
        double wanted = Math.max(f.u(), record.missesAt() + (c.mixed() ? CLEAR_PHI : CLEAR_TURNS));
        double target = within(c, wanted, now);
        // How far beyond the screws' reach it lies is no matter.
        boolean beyond = Math.abs(f.u() - target) > f.sd();
        boolean sure = beyond || f.sd() <= sure(c) || record.moves().size() >= MOST_MOVES - 2;
        @Nullable Move teaching = sure ? null : teaching(c, last, f);
        if (teaching != null) {
            return teaching;
        }
        boolean passed = beyond || settings.school() == School.MIXTURE || record.moves().size() >= MOST_MOVES;
        double unseen = passed ? 0.0 : record.unseen(c, target, turns() + by(c, target - now), perTurn(c));
        if (unseen != 0.0) {
            return move(by(c, target - now) + unseen * COARSEST, message("idle.why-beyond"));
        }
        // Where cylinders miss it does not stay, near as it may be.
        boolean close = !record.misses() && Math.abs(now - target) <= close(c);
        if (close || record.moves().size() >= MOST_MOVES + LAST_MOVES) {
            atLimit = target != wanted && !record.dies();
            return finished();
        }
        return move(by(c, target - now), message("idle.why-finish"));
    }

    /** How well the finish is to be known: finer where a turn does much or the mixture of all shows but a share. */
    private double sure(IdleCurve c) {
        return c.mixed() ? SURE_PHI * Math.sqrt(settings.share())
                : Math.clamp(SURE_PHI / c.phiPerTurn(), FINEST, MOST_SURE_TURNS);
    }

    /**
     * How near to it is near enough: never nearer than the finest move can bring it. A mixture aimed at is read there
     * and then: its place is not in doubt.
     */
    private double close(IdleCurve c) {
        double phi = settings.school() == School.MIXTURE ? CLOSE_AIM_PHI : CLOSE_PHI;
        return c.mixed() ? Math.max(phi, 0.5 * FINEST * perTurn(c))
                : Math.clamp(phi / c.phiPerTurn(), FINEST / 2.0, MOST_CLOSE_TURNS);
    }

    /** A finish that the screws cannot reach ends at their seat, where they come out, or short of where it dies. */
    private double within(IdleCurve c, double u, double now) {
        double per = perTurn(c);
        return Math.clamp(u, now + per * (record.furthestIn() - turns()), now + per * (record.furthestOut()
                - turns()));
    }

    /** {@return whether the screws have no more to give in the direction of the finish} */
    public boolean atLimit() {
        return atLimit;
    }

    private Move finished() {
        Optional<Double> back = record.speed().back();
        if (back.isPresent()) {
            return stop(back.get(), message("idle.why-speed-back", Math.rint(settings.idleRpm())));
        }
        if (settings.automatic() && inGear == null) {
            return new Move(Kind.GEAR, 0.0, turns(), message("idle.why-gear"));
        }
        done = true;
        return new Move(Kind.DONE, 0.0, turns(), message("idle.why-done"));
    }

    private Move stop(double by, Message why) {
        return new Move(Kind.STOP, by, turns(), why);
    }

    /** {@return how far the last reading is from the idle speed, share; 0 where it is near enough to be left} */
    public double speedOff() {
        return record.speed().off();
    }

    /** {@return whether the last turn of the stop screw changed nothing: something else holds the plates} */
    public boolean stopIsDead() {
        return record.speed().dead();
    }

    private boolean screwsUntouched() {
        return record.moves().stream().noneMatch(m -> m.kind() == Kind.SCREWS);
    }

    private Move first(IdleReading last) {
        double richer = last.mixed() ? Math.clamp((RICH_PHI - last.phi()) / record.gain().perTurn(), -COARSEST, 2
                * COARSEST) : COARSEST;
        double by = Math.rint(richer / 0.125) * 0.125;
        return move(by == 0.0 ? 0.125 : by, message("idle.why-rich"));
    }

    /** Turns that take the axis so far. */
    private double by(IdleCurve c, double du) {
        return du / perTurn(c);
    }

    /** How far a turn takes the axis. */
    private double perTurn(IdleCurve c) {
        return c.mixed() ? record.gain().perTurn() : 1.0;
    }

    /** The move that teaches most for its time; null when none teaches enough. */
    private @Nullable Move teaching(IdleCurve c, IdleReading last, IdleCurve.Finish f) {
        double best = 0.0;
        double most = 0.0;
        double learnt = 0.0;
        double now = c.at(last);
        double aside = c.lost(f.u());
        // What is larger than may be turned at once is the same move.
        double[] sizes = Arrays.stream(SIZES).map(s -> Math.min(s / settings.share(), largest())).distinct().toArray();
        for (double size : sizes) {
            for (int way = -1; way <= 1; way += 2) {
                double by = way * size;
                double u = now + by * perTurn(c);
                double to = turns() + by;
                double[] lost = c.lostBand(u);
                boolean reads = !c.mixed() || (u > LEANEST_PHI && u < RICHEST_PHI);
                boolean safe = lost[0] + lost[1] - aside < MOST_LOST && reads && u > record.missesAt()
                        && to >= record.furthestIn() && to <= record.furthestOut();
                if (!safe) {
                    continue;
                }
                double gained = c.teaches(u, now, settings.aim(settings.school()), c.mixed()
                        ? READ_SHARE : UNREAD_SHARE);
                double per = gained / (MOVE_S + EIGHTH_S * Math.abs(by) / 0.125);
                if (per > most) {
                    most = per;
                    best = by;
                    learnt = gained;
                }
            }
        }
        return learnt < LEAST_LEARNT * f.sd() * f.sd() ? null : move(best, message("idle.why-teaches"));
    }

    private double largest() {
        double most = record.readings().size() >= KNOWN && record.last().mixed() ? LARGEST_KNOWN : LARGEST;
        return Math.max(SIZES[0], most * Math.pow(0.5, record.undone()));
    }

    private Move move(double by, Message why) {
        double step = Math.abs(by) < 0.09 ? FINEST : 0.0625;
        double rounded = Math.rint(Math.clamp(by, -largest(), largest()) / step) * step;
        if (rounded == 0.0) {
            rounded = Math.copySign(FINEST, by);
        }
        double to = Math.clamp(turns() + rounded, record.furthestIn(), record.furthestOut());
        return new Move(Kind.SCREWS, to - turns(), to, why);
    }

    // What a picture shows

    /**
     * Where a school would finish on the curve read so far.
     *
     * @param turns of the screws, best guess
     * @param low 5 % point
     * @param high 95 % point
     */
    public record Place(double turns, double low, double high) {
    }

    /** {@return where each school would finish; empty before the second reading} */
    public Map<School, Place> schools() {
        Map<School, Place> out = new EnumMap<>(School.class);
        IdleCurve curve = record.curve();
        if (curve == null || record.readings().size() < 2) {
            return out;
        }
        for (School s : School.values()) {
            if (s != School.MIXTURE || curve.mixed()) {
                double[] b = curve.bounds(settings.aim(s));
                out.put(s, new Place(turnsAt(curve.finish(settings.aim(s)).u()), turnsAt(b[0]), turnsAt(b[1])));
            }
        }
        return out;
    }

    private double turnsAt(double u) {
        IdleCurve curve = record.curve();
        if (curve == null || !curve.mixed()) {
            return u;
        }
        IdleReading last = record.last();
        return last.turns() + (u - last.phi()) / record.gain().perTurn();
    }

    /**
     * Speed against the best at a position.
     *
     * @param at turns
     * @return share lost, mean and standard deviation; empty before the second reading
     */
    public Optional<double[]> lostAt(double at) {
        IdleCurve curve = record.curve();
        if (curve == null || record.readings().size() < 2) {
            return Optional.empty();
        }
        IdleReading last = record.last();
        return Optional.of(curve.lostBand(curve.mixed() ? last.phi() + perTurn(curve) * (at - last.turns()) : at));
    }

    /** {@return the settings} */
    public Settings settings() {
        return settings;
    }
}
