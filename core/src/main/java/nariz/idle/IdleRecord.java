package nariz.idle;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.DoubleSummaryStatistics;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import nariz.idle.IdleGuide.Kind;
import nariz.idle.IdleGuide.Move;
import nariz.idle.IdleGuide.Slip;
import org.jspecify.annotations.Nullable;

/**
 * What was done and read at an idle, and where the screws stand by that.
 *
 * <p>Where a mixture is read, a move that was made otherwise than asked shows in the very next reading
 * ({@link HandSlip}). By speed and vacuum alone a turn of the stop screw does; a turn the other way shows when other
 * readings follow ({@link HandPaths}), and then every position since is put right.
 */
final class IdleRecord {
    /** A move is said to have been made the other way from this probability on, and no longer under half of it. */
    private static final double SAID = 0.85;
    /** Speed that scatters so many times what it does richer is of cylinders that miss; and the least that counts. */
    private static final double MISSES = 1.8;
    private static final double ROUGH = 0.010;
    private static final double SAME_TURNS = 0.03;
    /** So far beyond the place something has to have been read, turns. */
    private static final double PASSED = 0.12;
    /** So far below the best that was read, and that with one move, it is about to die, share of the speed. */
    private static final double FALLEN = 0.05;
    private static final double FALLS = 0.02;
    /** Speed that screws with authority change, share, and moves one after the other that may change nothing. */
    private static final double NO_AUTHORITY = 0.012;
    private static final int UNANSWERED = 2;
    /** So often it has to die, and so near to where it runs, turns, until nobody is sent there: once may be a slip. */
    private static final int DEATHS = 2;
    private static final double DIES_NEAR = 0.25;

    private final IdleGuide.Settings settings;
    private final HandPaths paths;
    private final List<Move> moves = new ArrayList<>();
    /** Readings after which the move before them was said to have been made the other way. */
    private final List<Integer> said = new ArrayList<>();
    private List<IdleReading> readings = new ArrayList<>();
    private double turns;
    private double stop;
    private Optional<Slip> slip = Optional.empty();
    private @Nullable IdleCurve curve;
    /** Moves one after the other that changed nothing, and that looked like slips. */
    private int unanswered;
    private int doubted;
    private int undone;
    /** Where the engine died, turns. */
    private final List<Double> died = new ArrayList<>();
    /** Readings of cylinders that missed, from 0: no curve of turns holds there. */
    private final Set<Integer> missed = new HashSet<>();

    IdleRecord(IdleGuide.Settings settings) {
        this.settings = settings;
        turns = settings.turns();
        paths = new HandPaths(settings.reach().least());
    }

    IdleRecord(IdleRecord of) {
        settings = of.settings;
        paths = new HandPaths(of.paths);
        moves.addAll(of.moves);
        said.addAll(of.said);
        missed.addAll(of.missed);
        readings = new ArrayList<>(of.readings);
        turns = of.turns;
        stop = of.stop;
        slip = of.slip;
        curve = of.curve;
        unanswered = of.unanswered;
        doubted = of.doubted;
        undone = of.undone;
        died.addAll(of.died);
    }

    List<Move> moves() {
        return moves;
    }

    List<IdleReading> readings() {
        return readings;
    }

    IdleReading last() {
        return readings.getLast();
    }

    double turns() {
        return turns;
    }

    double stop() {
        return stop;
    }

    Optional<Slip> slip() {
        return slip;
    }

    @Nullable IdleCurve curve() {
        return curve;
    }

    /** {@return place on the curve's axis up to which cylinders miss; negative infinite where none did} */
    double missesAt() {
        IdleCurve c = curve;
        return c == null ? Double.NEGATIVE_INFINITY : missed.stream().mapToDouble(i -> c.at(readings.get(i))).max()
                .orElse(Double.NEGATIVE_INFINITY);
    }

    IdleSpeed speed() {
        return new IdleSpeed(readings, moves, settings.idleRpm());
    }

    /**
     * Where the screws were found further out than anybody would turn them, they may go back there; where the engine
     * died twice further out, no further than it ran.
     */
    double furthestOut() {
        double most = Math.max(settings.reach().most(), Math.max(settings.turns(), turns));
        double ran = readings.stream().mapToDouble(IdleReading::turns).max().orElse(turns);
        return diesBeyond(ran, 1) ? ran : most;
    }

    /** {@return how far in the screws may go: to their seat, or where the engine died twice, no further than it ran} */
    double furthestIn() {
        double ran = readings.stream().mapToDouble(IdleReading::turns).min().orElse(turns);
        return diesBeyond(ran, -1) ? ran : settings.reach().least();
    }

    /** Whether the engine died often enough further out (1) or in (-1) than it ran, and near enough once. */
    private boolean diesBeyond(double ran, int way) {
        double[] beyond = died.stream().mapToDouble(t -> way * (t - ran)).filter(d -> d > 0.0).toArray();
        return beyond.length >= DEATHS && Arrays.stream(beyond).anyMatch(d -> d <= DIES_NEAR);
    }

    /** {@return whether the engine, and not the screws, sets one of the two ends} */
    boolean dies() {
        return furthestIn() > settings.reach().least() || furthestOut() < settings.reach().most();
    }

    /**
     * A best that was not passed is none: the far side of a curve is not known from the near, unless the engine dies
     * there.
     *
     * @param c curve
     * @param target place of the finish on its axis
     * @param at turns of the screws there
     * @param perTurn how far a turn takes the axis
     * @return 1 where nothing richer was read, -1 where nothing leaner, 0 where both were or cannot be
     */
    double unseen(IdleCurve c, double target, double at, double perTurn) {
        double passed = PASSED * perTurn;
        boolean leaner = at - PASSED < furthestIn() || readings.stream().anyMatch(r -> c.at(r) <= target
                - passed)
                || missesAt() > Double.NEGATIVE_INFINITY;
        boolean richer = at + PASSED > furthestOut() || readings.stream().anyMatch(r -> c.at(r) >= target + passed);
        return !leaner ? -1.0 : !richer ? 1.0 : 0.0;
    }

    ScrewGain gain() {
        return ScrewGain.of(readings, settings.share());
    }

    /**
     * Takes a reading.
     *
     * @param m move that was asked for before it
     * @param r averages; the position is taken from the move
     * @param takesBack whether the move takes another back: it goes from where a slip left the screws, and is no slip
     */
    void read(Move m, IdleReading r, boolean takesBack) {
        if (m.kind() == Kind.SCREWS) {
            turns = m.to();
        } else if (m.kind() == Kind.STOP) {
            stop += m.by();
        }
        if (m.kind() == Kind.SCREWS || m.kind() == Kind.STOP) {
            moves.add(m);
        }
        IdleReading here = r.at(turns, stop);
        slip = Optional.empty();
        IdleCurve known = m.kind() == Kind.SCREWS && !takesBack ? curve : null;
        boolean misses = misses(here);
        if (known != null && (here.mixed() || !misses)) {
            here = doubted(m, here, known);
        }
        boolean mixed = here.mixed() && readings.stream().allMatch(IdleReading::mixed);
        double moved = m.kind() != Kind.SCREWS || is(Slip.STOP_SCREW) ? 0.0 : m.by();
        readings.add(here);
        if (mixed || readings.size() < 2) {
            List<IdleReading> free = readings.stream().filter(x -> !x.atLimit()).toList();
            paths.known(readings);
            curve = IdleCurve.of(free.isEmpty() ? readings : free);
        } else {
            if (takesBack) {
                paths.back();
            } else {
                paths.moved(moved, known != null && moved != 0.0 && !misses);
            }
            if (misses) {
                missed.add(readings.size() - 1);
            }
            curve = paths.weigh(readings, missed);
            readings = new ArrayList<>(paths.placed(readings));
            turns = last().turns();
            sayOtherWays();
        }
        if (misses(last())) {
            missed.add(readings.size() - 1);
        }
    }

    /**
     * A move was made and put back before anything was read.
     *
     * @param m the move
     */
    void undone(Move m) {
        moves.add(m);
        undone++;
        if (m.kind() == Kind.SCREWS) {
            died.add(m.to());
        }
        slip = Optional.empty();
    }

    /** A move was put back since the engine was about to die of it. */
    void fell() {
        undone++;
    }

    /** {@return whether the last move cost more of the speed than any reading is worth} */
    boolean falls() {
        if (moves.isEmpty() || moves.getLast().kind() != Kind.SCREWS || readings.size() < 2) {
            return false;
        }
        double before = readings.get(readings.size() - 2).rpm();
        double most = readings.stream().filter(r -> r.stop() == last().stop()).mapToDouble(IdleReading::rpm).max()
                .orElse(before);
        return last().rpm() < (1.0 - FALLEN) * most && last().rpm() < (1.0 - FALLS) * before;
    }

    /** {@return how many moves were put back unread} */
    int undone() {
        return undone;
    }

    private boolean is(Slip s) {
        return slip.equals(Optional.of(s));
    }

    /** The reading where the screws really stand by it, if the move before it was not made as asked. */
    private IdleReading doubted(Move m, IdleReading here, IdleCurve known) {
        IdleReading before = last();
        slip = HandSlip.of(before, here, m.by(), gain(), known, doubted);
        boolean other = slip.isPresent() && !is(Slip.NOTHING);
        doubted = other ? doubted + 1 : 0;
        unanswered = is(Slip.NOTHING) ? unanswered + 1 : 0;
        if (slip.isEmpty()) {
            return here;
        }
        turns = is(Slip.WRONG_WAY) ? Math.max(before.turns() - m.by(), settings.reach().least()) : before.turns();
        stop = is(Slip.STOP_SCREW) ? before.stop() + 1e-3 * readings.size() + m.by() : before.stop();
        return here.at(turns, stop);
    }

    private void sayOtherWays() {
        int now = readings.size() - 1;
        for (int i = 1; i <= now; i++) {
            double p = paths.otherWay(i);
            if (p > SAID && !said.contains(i)) {
                said.add(i);
                slip = Optional.of(i == now ? Slip.WRONG_WAY : Slip.WRONG_WAY_BEFORE);
            } else if (p < 0.5 * SAID) {
                said.remove(Integer.valueOf(i));
            }
        }
    }

    /** {@return which moves look as if made the other way by all that was read, by the reading after each, from 0} */
    List<Integer> otherWay() {
        return List.copyOf(said);
    }

    /** Cylinders that miss now and then pop and shake: speed scatters more than it did richer. */
    private boolean misses(IdleReading r) {
        double least = readings.stream().filter(x -> x.turns() >= r.turns()).mapToDouble(
                IdleReading::rough).min().orElse(Double.NaN);
        boolean rough = r.rough() > MISSES * least && r.rough() > ROUGH;
        // Where it ran smoothly leaner than here it is something else.
        return rough && readings.stream().noneMatch(x -> x.turns() <= r.turns() + SAME_TURNS && x.rough() < r.rough()
                / MISSES);
    }

    boolean misses() {
        return !readings.isEmpty() && misses(last());
    }

    /** Two moves that looked like none, or half a turn in all of which neither mixture nor speed knows. */
    boolean powerless() {
        if (unanswered >= UNANSWERED) {
            return true;
        }
        double moved = readings.stream().mapToDouble(r -> Math.abs(r.turns() - readings.getFirst().turns())).max()
                .orElse(0.0);
        boolean mixed = readings.getFirst().mixed();
        if (moved < (mixed ? 0.5 : 1.0)) {
            return false;
        }
        double speeds = spread(readings.stream().mapToDouble(r -> Math.log(r.rpm())).toArray());
        // Round its best an engine hardly answers either: without a mixture that takes a longer way to tell.
        return speeds < NO_AUTHORITY * (mixed ? 1.0 : 0.5) && (!mixed || spread(readings.stream().mapToDouble(
                IdleReading::phi).toArray()) < 2 * NO_AUTHORITY * settings.share());
    }

    private static double spread(double[] v) {
        DoubleSummaryStatistics s = Arrays.stream(v).summaryStatistics();
        return s.getMax() - s.getMin();
    }

    /** {@return where the screws stood before the last move, and as they were found where there was none} */
    double turnsBefore() {
        return readings.size() < 2 ? settings.turns() : readings.get(readings.size() - 2).turns();
    }

    /** The stop screw goes back where it was before the last move. */
    void stopBack() {
        stop = readings.size() < 2 ? 0.0 : readings.get(readings.size() - 2).stop();
    }
}
