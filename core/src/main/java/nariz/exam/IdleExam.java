package nariz.exam;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.NavigableMap;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.ToDoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.estimation.Overlap;
import nariz.idle.IdleGuide;
import nariz.idle.IdleReading;
import nariz.idle.Reach;
import nariz.idle.School;
import nariz.practice.FollowedGuide;
import nariz.practice.WatchedIdle;
import nariz.sim.RunningEngine;
import nariz.sim.Seeds;
import nariz.sim.WhenSettled;

/**
 * Puts the idle guide through engines nobody set up for it: a person follows it who is a sixteenth off every fifth time
 * and now and then turns the wrong way or the stop screw; beside it the same person goes through the range by quarter
 * turns and takes the best.
 */
public final class IdleExam {
    private static final double CLOSE_TURNS = 0.125;
    private static final double CLOSE_LAMBDA = 0.015;
    private static final double SCAN = 1.0 / 32.0;
    /** How much more than a loss is scanned, so that the place of the loss lies between two points. */
    private static final double BEYOND = 0.002;
    private static final int MOST = 24;
    private static final double AIM_PHI = 1.0 / 0.95;
    /** What draws the hand of the fixed search, beside the guide's. */
    private static final int BY_QUARTERS = 100;
    private static final String[] FAMILIES = {"block-metered-4", "stack-jet", "constant-depression", "block-metered-2",
        "single-venturi", "progressive-twin"};

    private final boolean mixed;
    private final List<Row> rows = new ArrayList<>();
    private final SlippingHand.Tally tally = new SlippingHand.Tally();
    private int dead;
    /** Engines whose screws reach no loss on one side. */
    private int endless;
    private int engines;

    /**
     * One engine by one school.
     *
     * @param seed seed
     * @param school school
     * @param engine in short
     * @param moves moves of the guide
     * @param fixed moves of the fixed search
     * @param turnsOff where it ended less the optimum, turns
     * @param lambdaOff mixture there less that of the optimum
     * @param fixedTurnsOff the same of the fixed search
     * @param fixedLambdaOff the same of the fixed search
     */
    public record Row(long seed, School school, String engine, int moves, int fixed, double turnsOff, double lambdaOff,
            double fixedTurnsOff, double fixedLambdaOff) {
        boolean there() {
            return Math.abs(turnsOff) <= CLOSE_TURNS && Math.abs(lambdaOff) <= CLOSE_LAMBDA;
        }
    }

    private IdleExam(boolean mixed) {
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
    public static IdleExam of(long first, int count, boolean mixed) {
        IdleExam e = new IdleExam(mixed);
        for (long seed = first; seed < first + count; seed++) {
            e.engine(seed);
            e.engines++;
        }
        return e;
    }

    /** {@return one row for every engine and school} */
    public List<Row> rows() {
        return List.copyOf(rows);
    }

    private record Scan(double[] turns, double[] rpm, double[] vacuum, double[] lambda) {
        /** From where it runs fastest either way, until more than a loss is lost or the screws are at their end. */
        static Scan of(RunningEngine truth, Reach reach) {
            NavigableMap<Double, WhenSettled.State> seen = new TreeMap<>();
            double enough = 1 - School.DROP - BEYOND;
            double from = Math.clamp(Math.rint(new WhenSettled(truth).fastestAt() / SCAN) * SCAN, reach.least(),
                    reach.most());
            for (int way : new int[] {-1, 1}) {
                double top = 0.0;
                double now = Double.POSITIVE_INFINITY;
                for (double t = from; t >= reach.least() && t <= reach.most() && now >= top * enough; t += way * SCAN) {
                    double[] all = new double[truth.trims()];
                    Arrays.fill(all, t);
                    WhenSettled.State s = new WhenSettled(truth).at(all);
                    seen.put(t, s);
                    now = s.rpm();
                    top = Math.max(top, now);
                }
            }
            return new Scan(seen.keySet().stream().mapToDouble(t -> t).toArray(), of(seen, WhenSettled.State::rpm),
                    of(seen, WhenSettled.State::vacuumPa), of(seen, WhenSettled.State::lambda));
        }

        private static double[] of(NavigableMap<Double, WhenSettled.State> seen,
                ToDoubleFunction<WhenSettled.State> what) {
            return seen.values().stream().mapToDouble(what).toArray();
        }

        /** Whether the screws reach a loss on either side: without both there is no middle. */
        boolean hasBothLosses() {
            double top = Arrays.stream(rpm).max().orElse(0.0) * (1 - School.DROP);
            return rpm[0] <= top && rpm[rpm.length - 1] <= top;
        }

        double lambdaAt(double t) {
            double at = Math.clamp((t - turns[0]) / SCAN, 0, turns.length - 1.001);
            int i = (int) at;
            return lambda[i] + (at - i) * (lambda[i + 1] - lambda[i]);
        }

        double best(double[] y) {
            if (y.length < 3) {
                // It runs at one or two places and nowhere else.
                return turns[y[0] > y[y.length - 1] ? 0 : y.length - 1];
            }
            int b = 1;
            for (int i = 1; i + 1 < y.length; i++) {
                b = y[i] > y[b] ? i : b;
            }
            double bend = y[b - 1] - 2 * y[b] + y[b + 1];
            return turns[b] + (bend < 0 ? SCAN * Math.clamp(0.5 * (y[b - 1] - y[b + 1]) / bend, -1, 1) : 0.0);
        }

        /** Place on one side of the best where a share of the speed is lost. */
        double lost(double share, boolean richer) {
            double top = Arrays.stream(rpm).max().orElse(0.0) * (1 - share);
            int b = (int) Math.round((best(rpm) - turns[0]) / SCAN);
            int i = b;
            while ((richer ? i + 1 < rpm.length : i > 0) && rpm[i] > top) {
                i += richer ? 1 : -1;
            }
            int before = Math.clamp(richer ? i - 1L : i + 1L, 0, rpm.length - 1);
            double part = rpm[before] == rpm[i] ? 0.0 : Math.clamp((rpm[before] - top) / (rpm[before] - rpm[i]), 0, 1);
            return turns[before] + part * (turns[i] - turns[before]);
        }

        double optimum(School s) {
            return switch (s) {
                case HIGHEST_VACUUM -> best(vacuum);
                case HIGHEST_SPEED -> best(rpm);
                case LEAN_BEST -> lost(School.LITTLE, false);
                case MIDDLE -> 0.5 * (lost(School.DROP, false) + lost(School.DROP, true));
                case MIXTURE -> {
                    int i = 0;
                    while (i + 2 < lambda.length && lambda[i + 1] * AIM_PHI > 1.0) {
                        i++;
                    }
                    double d = lambda[i] - lambda[i + 1];
                    yield turns[i] + SCAN * (d == 0.0 ? 0.0 : Math.clamp((lambda[i] - 1 / AIM_PHI) / d, 0, 1));
                }
            };
        }
    }

    private void engine(long seed) {
        Random r = Seeds.random(seed, 11);
        BuildSheet sheet = PracticeCase.anyEngine(FAMILIES[Math.floorMod(seed, FAMILIES.length)], r);
        RunningEngine truth = new RunningEngine(sheet, Seeds.spread(seed), seed);
        Reach reach = Reach.of(truth.trim().isFromDatum());
        Scan scan = Scan.of(truth, reach);
        if (Arrays.stream(scan.rpm()).max().orElse(0.0) <= 0.0) {
            dead++;
            return;
        }
        double best = scan.best(scan.rpm());
        double start = Math.clamp(Math.rint(8 * (best + (r.nextDouble() - 0.4) * 0.9)) / 8, reach.least() + 0.125,
                reach.most());
        String text = String.format(Locale.ROOT, "%.1f L, %s, %d x %s", 1e3 * sheet.engine().displacementM3(),
                sheet.engine().cam().name().toLowerCase(Locale.ROOT), truth.trims(), truth.trim().key());
        for (School s : School.values()) {
            if (s == School.MIXTURE && !mixed) {
                continue;
            }
            if (s == School.MIDDLE && !scan.hasBothLosses()) {
                endless++;
                continue;
            }
            guided(seed, s, sheet, start, reach, scan, text);
        }
    }

    private void guided(long seed, School school, BuildSheet sheet, double start, Reach reach, Scan scan,
            String text) {
        SlippingHand hand = new SlippingHand(Seeds.random(seed, school.ordinal()));
        RunningEngine e = new RunningEngine(sheet, Seeds.spread(seed), seed * 3 + school.ordinal());
        e.turnAll(start);
        double shown = Overlap.shownAtIdle(AIM_PHI, sheet.engine().cam());
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(school, shown, 1.0, start, reach,
                sheet.engine().idleRpm(), false));
        FollowedGuide f = new FollowedGuide(e, g, -1, hand, mixed).follow(MOST, () -> false);
        tally.count(f);
        double actual = e.turns(0);
        double optimum = scan.optimum(school);
        double[] fixed = fixed(seed, school, sheet, start, reach.least());
        rows.add(new Row(seed, school, text, f.moves(), (int) fixed[1], actual - optimum, scan.lambdaAt(actual)
                - scan.lambdaAt(optimum), fixed[0] - optimum, scan.lambdaAt(fixed[0]) - scan.lambdaAt(optimum)));
    }

    /** Richer by quarters until it has dropped, then leaner by quarters until it has dropped, then to the place. */
    private double[] fixed(long seed, School school, BuildSheet sheet, double start, double least) {
        SlippingHand hand = new SlippingHand(Seeds.random(seed, BY_QUARTERS + school.ordinal()));
        RunningEngine e = new RunningEngine(sheet, Seeds.spread(seed), seed * 5 + school.ordinal());
        List<double[]> seenThere = new ArrayList<>();
        double at = start;
        int moves = 0;
        for (int way : new int[] {1, -1}) {
            at = start;
            e.turnAll(start);
            e.start();
            moves += way < 0 ? 1 : 0;
            for (int k = 0; k < 6; k++) {
                IdleReading r = WatchedIdle.readHeldAlive(e, mixed);
                double y = school == School.HIGHEST_VACUUM ? r.vacuumPa() : r.rpm();
                seenThere.add(new double[] {at, y, r.phi()});
                double top = seenThere.stream().mapToDouble(s -> s[1]).max().orElse(0);
                if (y < top * (1 - School.DROP) || at + 0.25 * way < least) {
                    break;
                }
                at += 0.25 * way;
                hand.turn(e, -1, 0.25 * way);
                moves++;
            }
        }
        double[] best = seenThere.stream().max((a, b) -> Double.compare(a[1], b[1])).orElseThrow();
        double low = seenThere.stream().mapToDouble(s -> s[0]).min().orElse(best[0]);
        double high = seenThere.stream().mapToDouble(s -> s[0]).max().orElse(best[0]);
        double to = switch (school) {
            case HIGHEST_VACUUM, HIGHEST_SPEED -> best[0];
            case LEAN_BEST -> seenThere.stream().filter(s -> s[1] > best[1] * (1 - 2 * School.LITTLE)).mapToDouble(s ->
                    s[0]).min().orElse(best[0]);
            case MIDDLE -> 0.5 * (low + high);
            case MIXTURE -> seenThere.stream().min((a, b) -> Double.compare(Math.abs(a[2] - AIM_PHI), Math.abs(b[2]
                    - AIM_PHI))).orElseThrow()[0];
        };
        return new double[] {to, moves + 1};
    }

    /** {@return the figures in Markdown} */
    public String markdown() {
        StringBuilder out =
                new StringBuilder("| school | within an eighth and 0.015 lambda | median turns off | median "
                + "lambda off | moves, median and most | fixed quarter search: moves | ... within | share of its moves "
                + "|\n|---|---|---|---|---|---|---|---|\n");
        for (School s : School.values()) {
            List<Row> of = rows.stream().filter(r -> r.school() == s).toList();
            if (of.isEmpty()) {
                continue;
            }
            long there = of.stream().filter(Row::there).count();
            long fixedThere = of.stream().filter(r -> Math.abs(r.fixedTurnsOff()) <= CLOSE_TURNS && Math.abs(r
                    .fixedLambdaOff()) <= CLOSE_LAMBDA).count();
            double[] moves = of.stream().mapToDouble(Row::moves).sorted().toArray();
            double[] fixed = of.stream().mapToDouble(Row::fixed).sorted().toArray();
            out.append(String.format(Locale.ROOT, "| %s | %d of %d | %.3f | %.4f | %.0f and %.0f | %.0f | %d of %d | "
                    + "%.0f %% |%n", s.key(), there, of.size(), median(of.stream().mapToDouble(r -> Math.abs(
                            r.turnsOff()))
                            .toArray()), median(of.stream().mapToDouble(r -> Math.abs(r.lambdaOff())).toArray()),
                    median(moves), moves[moves.length - 1], median(fixed), fixedThere, of.size(), 100 * Arrays.stream(
                            moves).sum() / Arrays.stream(fixed).sum()));
        }
        out.append(String.format(Locale.ROOT,
                "%n%d of %d engines ran at no screw at all and were left out; %d have no loss on one side within the "
                + "screws' reach, and so no middle. Moves the wrong way or at the wrong "
                + "screw recognised: %d of %d at once, %d more by what was read later; right ones doubted: "
                + "%d of %d.%n%nNot there:%n%n| seed | school | engine | moves | turns off | lambda off "
                + "|%n|---|---|---|---|---|---|%n", dead, engines, endless, tally.told(), tally.slips(), tally.later(),
                tally.alarms(), tally.plain()));
        rows.stream().filter(r -> !r.there()).forEach(r -> out.append(String.format(Locale.ROOT,
                "| %d | %s | %s | %d | %.3f | %.3f |%n", r.seed(), r.school().key(), r.engine(), r.moves(),
                r.turnsOff(), r.lambdaOff())));
        return out.toString();
    }

    private static double median(double[] v) {
        double[] s = v.clone();
        Arrays.sort(s);
        return s[s.length / 2];
    }
}
