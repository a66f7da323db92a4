package nariz.exam;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.function.ToDoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.estimation.Overlap;
import nariz.idle.IdleGuide;
import nariz.idle.Reach;
import nariz.idle.School;
import nariz.practice.FollowedGuide;
import nariz.practice.Hand;
import nariz.practice.WatchedIdle;
import nariz.sim.RunningEngine;
import nariz.sim.Seeds;
import nariz.sim.WhenSettled;

/**
 * Puts the idle guide to engines whose screws stand unevenly: all of them together first, then one corner after the
 * other, as the window offers it for up to {@value IdleGuide#MOST_ALONE} screws. A person follows who is a sixteenth
 * off every fifth time and in 12 of 100 moves turns the other way or the stop screw. Beside it the same person goes
 * over the corners by quarters, each to the best that was read. The optimum is that of the engine without noise, each
 * corner in turn until nothing gains.
 */
public final class CornersExam {
    private static final double CLOSE_TURNS = 0.125;
    /** Giving away less than this of what is gone by is as good as none: on a flat top turns say nothing. */
    private static final double CLOSE_LOST = 0.001;
    private static final double SCATTER_TURNS = 0.3;
    private static final double STEP = 1.0 / 16.0;
    private static final double REACH = 0.75;
    private static final int PASSES = 3;
    private static final int MOST_TOGETHER = 24;
    private static final int MOST_ALONE = 16;
    /** What it has to run for as it is found, s. */
    private static final double LIVES_S = 120.0;
    private static final double QUARTER = 0.25;
    private static final double AIM_PHI = 1.0 / 0.95;
    private static final List<School> BY = List.of(School.HIGHEST_VACUUM, School.HIGHEST_SPEED);
    /** What draws the hand of the search by quarters, beside the guide's. */
    private static final int BY_QUARTERS = 100;
    private static final String[] FAMILIES = {"block-metered-4", "constant-depression", "block-metered-2", "stack-jet"};

    private final boolean mixed;
    private final List<Row> rows = new ArrayList<>();
    private final SlippingHand.Tally tally = new SlippingHand.Tally();

    /**
     * One engine by one school.
     *
     * @param seed seed
     * @param school school
     * @param engine in short
     * @param found share of what is gone by that the screws gave away as they were found
     * @param together the same once all had been moved together
     * @param corners the same once every corner had been set
     * @param turnsOff how far each corner ended from its optimum, turns
     * @param moves moves, those of all together among them
     * @param fixed share given away after the search by quarters
     * @param fixedMoves its moves
     */
    public record Row(long seed, School school, String engine, double found, double together, double corners,
            List<Double> turnsOff, int moves, double fixed, int fixedMoves) {
        /** Copies the turns. */
        public Row {
            turnsOff = List.copyOf(turnsOff);
        }

        /** {@return corners that are within an eighth, all of them where nothing is given away} */
        public long close() {
            return corners <= CLOSE_LOST ? turnsOff.size() : turnsOff.stream().filter(t -> Math.abs(t) <= CLOSE_TURNS)
                    .count();
        }
    }

    private CornersExam(boolean mixed) {
        this.mixed = mixed;
    }

    /**
     * Runs it.
     *
     * @param first first seed
     * @param count engines
     * @param mixed whether a mixture is read, or speed and vacuum alone
     * @return what came out
     */
    public static CornersExam of(long first, int count, boolean mixed) {
        CornersExam exam = new CornersExam(mixed);
        int done = 0;
        for (long seed = first; done < count; seed++) {
            Random r = Seeds.random(seed, 17);
            BuildSheet sheet = PracticeCase.anyEngine(FAMILIES[Math.floorMod(seed, FAMILIES.length)], r);
            RunningEngine e = new RunningEngine(sheet, Seeds.spread(seed), seed);
            if (e.trims() > 1 && e.trims() <= IdleGuide.MOST_ALONE) {
                double[] found = scattered(e, r);
                if (new WhenSettled(begun(sheet, seed, seed, found)).keepsRunning(LIVES_S)) {
                    exam.engine(seed, sheet, found);
                    done++;
                }
            }
        }
        return exam;
    }

    /** {@return one row for every engine and school} */
    public List<Row> rows() {
        return List.copyOf(rows);
    }

    /** Where an engine's screws are found: about its best, each by itself. */
    private static double[] scattered(RunningEngine e, Random r) {
        double middle = new WhenSettled(e).fastestAt();
        double least = e.trim().isFromDatum() ? Reach.JETS.least() : QUARTER;
        double[] turns = new double[e.trims()];
        Arrays.setAll(turns, i -> Math.max(least, middle + SCATTER_TURNS * r.nextGaussian()));
        return turns;
    }

    private static RunningEngine begun(BuildSheet sheet, long seed, long noise, double[] turns) {
        RunningEngine e = new RunningEngine(sheet, Seeds.spread(seed), noise);
        for (int i = 0; i < turns.length; i++) {
            e.turn(i, turns[i]);
        }
        e.begin();
        return e;
    }

    private static ToDoubleFunction<WhenSettled.State> worth(School s) {
        return s == School.HIGHEST_SPEED ? WhenSettled.State::rpm : WhenSettled.State::vacuumPa;
    }

    /** Each corner to its best, until all have been gone over often enough. */
    private static double[] best(RunningEngine e, ToDoubleFunction<WhenSettled.State> worth) {
        double[] at = e.allTurns();
        double least = Reach.of(e.trim().isFromDatum()).least();
        for (int pass = 0; pass < PASSES; pass++) {
            for (int i = 0; i < at.length; i++) {
                double from = at[i];
                double best = from;
                double most = worth.applyAsDouble(new WhenSettled(e).at(at));
                for (double by = -REACH; by <= REACH; by += STEP) {
                    at[i] = Math.max(least, from + by);
                    double w = worth.applyAsDouble(new WhenSettled(e).at(at));
                    if (w > most) {
                        most = w;
                        best = at[i];
                    }
                }
                at[i] = best;
            }
        }
        return at;
    }

    /** Share given away against the best there is with the stops as they are. */
    private static double lost(RunningEngine e, ToDoubleFunction<WhenSettled.State> worth, double[] best) {
        WhenSettled settled = new WhenSettled(e);
        return 1.0 - worth.applyAsDouble(settled.now()) / worth.applyAsDouble(settled.at(best));
    }

    private void engine(long seed, BuildSheet sheet, double[] found) {
        for (School s : BY) {
            ToDoubleFunction<WhenSettled.State> worth = worth(s);
            RunningEngine e = begun(sheet, seed, seed * 3 + s.ordinal(), found);
            double foundLost = lost(e, worth, best(e, worth));
            SlippingHand hand = new SlippingHand(Seeds.random(seed, s.ordinal()));
            int moves = follow(e, s, -1, MOST_TOGETHER, hand);
            double together = lost(e, worth, best(e, worth));
            for (int i = 0; i < e.trims(); i++) {
                moves += follow(e, s, i, MOST_ALONE, hand);
            }
            double[] best = best(e, worth);
            double[] left = e.allTurns();
            List<Double> off = new ArrayList<>();
            for (int i = 0; i < left.length; i++) {
                off.add(left[i] - best[i]);
            }
            RunningEngine other = begun(sheet, seed, seed * 5 + s.ordinal(), found);
            int fixedMoves = quarters(other, s, new SlippingHand(Seeds.random(seed, BY_QUARTERS + s.ordinal())));
            String text = String.format(Locale.ROOT, "%.1f L, %s, %d x %s", 1e3 * sheet.engine().displacementM3(), sheet
                    .engine().cam().name().toLowerCase(Locale.ROOT), e.trims(), e.trim().key());
            rows.add(new Row(seed, s, text, foundLost, together, lost(e, worth, best), off, moves, lost(other, worth,
                    best(other, worth)), fixedMoves));
        }
    }

    /** One guide, for all screws or one corner; {@return moves} */
    private int follow(RunningEngine e, School school, int corner, int most, Hand hand) {
        double from = corner < 0 ? Arrays.stream(e.allTurns()).average().orElse(0.0) : e.turns(corner);
        double shown = Overlap.shownAtIdle(AIM_PHI, e.sheet().engine().cam());
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(school, shown, corner < 0 ? 1.0 : 1.0 / e.trims(), from,
                Reach.of(e.trim().isFromDatum()), e.sheet().engine().idleRpm(), false));
        FollowedGuide f = new FollowedGuide(e, g, corner, hand, mixed).follow(most, () -> false);
        tally.count(f);
        return f.moves();
    }

    /** Every corner by quarters, richer until it falls off, then leaner, then to the best read; {@return moves} */
    private int quarters(RunningEngine e, School school, Hand hand) {
        int moves = 0;
        double least = Reach.of(e.trim().isFromDatum()).least();
        for (int i = 0; i < e.trims(); i++) {
            double from = e.turns(i);
            double best = from;
            double top = read(e, school);
            for (int way : new int[] {1, -1}) {
                double at = from;
                double last = top;
                e.turn(i, from);
                moves += way < 0 ? 1 : 0;
                for (int k = 0; k < PASSES && at + QUARTER * way >= least; k++) {
                    at += QUARTER * way;
                    hand.turn(e, i, QUARTER * way);
                    moves++;
                    double y = read(e, school);
                    if (y > top) {
                        top = y;
                        best = at;
                    }
                    if (y < last) {
                        break;
                    }
                    last = y;
                }
            }
            e.turn(i, best);
            moves++;
        }
        return moves;
    }

    private double read(RunningEngine e, School school) {
        return WatchedIdle.read(e, mixed).map(r -> school == School.HIGHEST_SPEED ? r.rpm() : r.vacuumPa()).orElse(0.0);
    }

    /** {@return the figures in Markdown} */
    public String markdown() {
        StringBuilder out = new StringBuilder("| school | given away as found, mean | all together | every corner | "
                + "corners within an eighth, or nothing given away | moves, median and most | by quarters: given "
                + "away | ... moves, median | share of its moves |\n|---|---|---|---|---|---|---|---|---|\n");
        for (School s : BY) {
            List<Row> of = rows.stream().filter(r -> r.school() == s).toList();
            int[] moves = of.stream().mapToInt(Row::moves).sorted().toArray();
            int[] fixed = of.stream().mapToInt(Row::fixedMoves).sorted().toArray();
            long close = of.stream().mapToLong(Row::close).sum();
            int all = of.stream().mapToInt(r -> r.turnsOff().size()).sum();
            double share = 100.0 * Arrays.stream(moves).sum() / Arrays.stream(fixed).sum();
            out.append(String.format(Locale.ROOT, "| %s | %.2f %% | %.2f %% | %.2f %% | %d of %d | %d and %d | %.2f %% "
                    + "| %d | %.0f %% |%n", s.key(), mean(of, Row::found), mean(of, Row::together), mean(of,
                            Row::corners), close, all, moves[moves.length / 2], moves[moves.length - 1], mean(of,
                                    Row::fixed), fixed[fixed.length / 2], share));
        }
        out.append(String.format(Locale.ROOT, "%nCorners alone and together: slips recognised at once %d of %d; right "
                + "moves doubted %d of %d.%n%nMore than 0.3 %% given away at the end:%n%n| seed | school | engine | "
                + "found | together | corners | moves |%n|---|---|---|---|---|---|---|%n", tally.told(), tally.slips(),
                tally.alarms(), tally.plain()));
        rows.stream().filter(r -> r.corners() > 3 * CLOSE_LOST).forEach(r -> out.append(String.format(Locale.ROOT,
                "| %d | %s | %s | %.2f %% | %.2f %% | %.2f %% | %d |%n", r.seed(), r.school().key(), r.engine(), 100
                        * r.found(), 100 * r.together(), 100 * r.corners(), r.moves())));
        return out.toString();
    }

    private static double mean(List<Row> of, ToDoubleFunction<Row> value) {
        return 100.0 * of.stream().mapToDouble(value).average().orElse(0.0);
    }
}
