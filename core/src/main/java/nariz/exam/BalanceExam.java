package nariz.exam;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.ToDoubleFunction;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.idle.ThrottleBalance;
import nariz.practice.Hand;
import nariz.practice.WatchedBalance;
import nariz.sim.BalanceUpset;
import nariz.sim.RunningEngine;
import nariz.sim.Seeds;
import nariz.sim.WhenSettled;

/**
 * Puts the balance of several carburetors through engines nobody set up for it: stops and links that are off, a meter
 * that throttles, a hand that holds it 2 % otherwise each time and is now and then a sixteenth off, turns the other way
 * or another carburetor's screw. Beside it the same person goes by eighths: whatever is furthest off in the latest
 * reading is turned an eighth, until all read within the tolerance.
 */
public final class BalanceExam {
    /** Truly within this of what it should pass, it is balanced. */
    private static final double BALANCED = 0.05;
    private static final double SPEED_OFF = 0.06;
    /** Nearer than this a count of turns is right: a hand is a sixteenth off now and then. */
    private static final double COUNTED = 0.19;
    /** Leaner than this at speed, lambda, cylinders begin to miss. */
    private static final double LEANEST = 1.12;
    private static final double FINEST = 0.02;
    private static final double FIXED = 0.125;
    private static final int MOST = 30;
    /** What draws the hand of the search by eighths, beside the guide's. */
    private static final int BY_EIGHTHS = 100;
    private static final String[] FAMILIES = {"stack-jet", "constant-depression", "block-metered-2"};

    private final List<Row> rows = new ArrayList<>();
    private final SlippingHand.Tally tally = new SlippingHand.Tally();
    private int left;
    private int dies;
    /** Stages with a slip, and those whose count of turns is right in the end. */
    private int misled;
    private int counted;

    /**
     * One engine at one stage.
     *
     * @param seed seed
     * @param stage how it was balanced
     * @param engine in short
     * @param found how far the worst was off when it was begun, share
     * @param off how far the worst is off at the end, share
     * @param turns turns made
     * @param readings readings of all carburetors
     * @param speed speed at the end over the one wanted, less 1
     * @param fixedOff how far the worst is off after the search by eighths
     * @param fixedTurns its turns, and as many readings
     */
    public record Row(long seed, ThrottleBalance.Stage stage, String engine, double found, double off, int turns,
            int readings, double speed, double fixedOff, int fixedTurns) {
        boolean balanced() {
            return off <= BALANCED;
        }
    }

    private BalanceExam() {
    }

    /**
     * Runs it.
     *
     * @param first first seed
     * @param count engines
     * @return what came out
     */
    public static BalanceExam of(long first, int count) {
        BalanceExam e = new BalanceExam();
        long seed = first;
        for (int n = 0; n < count; seed++) {
            Random r = Seeds.random(seed, 23);
            BuildSheet sheet = PracticeCase.anyEngine(FAMILIES[Math.floorMod(seed, FAMILIES.length)], r);
            if (sheet.carburetor().count() > 1 && e.engine(seed, sheet, r)) {
                n++;
            }
        }
        return e;
    }

    /** {@return one row for every engine and stage} */
    public List<Row> rows() {
        return List.copyOf(rows);
    }

    /** A person with a screwdriver and a meter. */
    private static final class Person {
        private final RunningEngine engine;
        private final ThrottleBalance.Stage stage;
        private final SlippingHand hand;
        private final WatchedBalance meter;
        private boolean slipped;
        /** Turns really made at this stage. */
        private final double[] made;

        Person(RunningEngine engine, ThrottleBalance.Stage stage, Random random, double takes, double step) {
            this.engine = engine;
            this.stage = stage;
            hand = new SlippingHand(random);
            meter = new WatchedBalance(engine, stage, takes, step, random);
            made = new double[engine.carburetors()];
        }

        Optional<ThrottleBalance.Reading> read() {
            return meter.read();
        }

        void turn(int carburetor, double by) {
            Hand.Turn turn = hand.turn(by);
            slipped = turn.slipped();
            set(turn.deed() == Hand.Deed.ELSEWHERE ? hand.another(carburetor, engine.carburetors())
                    : carburetor, turn.by());
        }

        private void set(int j, double by) {
            made[j] += by;
            WatchedBalance.turn(engine, stage, j, by);
        }
    }

    /** {@return whether it runs at all, its screws set as well as they go, with stops and links that are off} */
    private boolean engine(long seed, BuildSheet sheet, Random r) {
        int n = sheet.carburetor().count();
        RunningEngine bare = new RunningEngine(sheet, Seeds.spread(seed), 0);
        double screws = new WhenSettled(bare).fastestAt();
        bare.turnAll(screws);
        BalanceUpset upset = BalanceUpset.of(bare, r);
        if (!upset.any()) {
            return false;
        }
        double takes = 0.03 + 0.12 * r.nextDouble();
        // A scale that shows 1 or 4 % of what passes at idle.
        double passes = Arrays.stream(new WhenSettled(bare).flows(0.0)).average().orElse(1.0);
        double step = Math.max(FINEST, Math.rint((r.nextBoolean() ? 0.01 : 0.04) * passes / FINEST) * FINEST);
        String text = String.format(Locale.ROOT, "%.1f L, %d x %s", 1e3 * sheet.engine().displacementM3(), n, sheet
                .carburetor().family().key());
        RunningEngine guided = upset(sheet, seed, seed * 3 + 1, screws, upset);
        RunningEngine fixed = upset(sheet, seed, seed * 3 + 2, screws, upset);
        for (ThrottleBalance.Stage s : ThrottleBalance.Stage.values()) {
            for (RunningEngine e : List.of(guided, fixed)) {
                e.linked(s != ThrottleBalance.Stage.LINKS_OFF);
            }
            double found = WatchedBalance.worst(guided, s);
            if (found >= 1.0 || (s == ThrottleBalance.Stage.FAST && new WhenSettled(guided).held(
                    WatchedBalance.FAST_RPM).lambda() > LEANEST)) {
                // It dies at that speed, or misses: nobody would balance it before its mixture is right.
                dies++;
                continue;
            }
            ThrottleBalance b = new ThrottleBalance(n, s, sheet.engine().idleRpm());
            Person hand = new Person(guided, s, Seeds.random(seed, s.ordinal()), takes, step);
            int before = tally.slips();
            follow(b, hand);
            if (tally.slips() > before) {
                double[] told = b.turns();
                misled++;
                counted += IntStream.range(0, n).allMatch(j -> Math.abs(told[j] - hand.made[j]) < COUNTED) ? 1 : 0;
            }
            int turns = (int) b.moves().stream().filter(m -> m.kind() == ThrottleBalance.Kind.TURN).count();
            int eighths = fixed(new Person(fixed, s, Seeds.random(seed, BY_EIGHTHS + s.ordinal()), takes, step));
            double rpm = new WhenSettled(guided).now().rpm();
            rows.add(new Row(seed, s, text, found, WatchedBalance.worst(guided, s), turns, b.readings().size(), rpm
                    / sheet.engine().idleRpm() - 1.0, WatchedBalance.worst(fixed, s), eighths));
        }
        return true;
    }

    private static RunningEngine upset(BuildSheet sheet, long seed, long noise, double screws, BalanceUpset upset) {
        RunningEngine e = new RunningEngine(sheet, Seeds.spread(seed), noise);
        e.turnAll(screws);
        upset.done(e);
        return e;
    }

    private void follow(ThrottleBalance b, Person hand) {
        boolean asked = false;
        while (b.moves().size() + b.readings().size() < 2 * MOST) {
            ThrottleBalance.Move m = b.next();
            switch (m.kind()) {
                case READ -> {
                    Optional<ThrottleBalance.Reading> r = hand.read();
                    if (r.isEmpty()) {
                        left++;
                        return;
                    }
                    b.read(r.get());
                    if (asked) {
                        tally.count(hand.slipped, b.slip().isPresent());
                    }
                    asked = false;
                }
                case TURN -> {
                    hand.turn(m.carburetor(), m.turns());
                    asked = true;
                    b.turned();
                }
                case SPEED -> {
                    hand.engine.stopBy(m.turns());
                    Arrays.setAll(hand.made, j -> hand.made[j] + m.turns());
                    b.turned();
                }
                case LEFT -> {
                    left++;
                    return;
                }
                case DONE -> {
                    return;
                }
            }
        }
    }

    /** By eighths; {@return turns} */
    private static int fixed(Person hand) {
        for (int turns = 0; turns < MOST; turns++) {
            Optional<ThrottleBalance.Reading> r = hand.read();
            if (r.isEmpty()) {
                return turns;
            }
            double[] flow = r.get().flow();
            double reference = hand.stage == ThrottleBalance.Stage.LINKS_OFF ? Arrays.stream(flow).average().orElse(1)
                    : flow[0];
            int worst = 0;
            for (int j = 1; j < flow.length; j++) {
                worst = Math.abs(flow[j] - reference) > Math.abs(flow[worst] - reference) ? j : worst;
            }
            if (Math.abs(flow[worst] / reference - 1.0) <= ThrottleBalance.TOLERANCE) {
                return turns;
            }
            hand.turn(worst, flow[worst] < reference ? FIXED : -FIXED);
        }
        return MOST;
    }

    /** {@return the figures in Markdown} */
    public String markdown() {
        StringBuilder out = new StringBuilder("| stage | found off, median | within 5 % at the end | median off | "
                + "turns, median and most | readings, median and most | by eighths: within 5 % | ... turns, median "
                + "and most | share of its turns |\n|---|---|---|---|---|---|---|---|---|\n");
        Map<ThrottleBalance.Stage, List<Row>> by = new EnumMap<>(ThrottleBalance.Stage.class);
        rows.forEach(r -> by.computeIfAbsent(r.stage(), k -> new ArrayList<>()).add(r));
        by.forEach((s, of) -> out.append(line(s, of)));
        List<Row> off = by.getOrDefault(ThrottleBalance.Stage.LINKS_OFF, List.of());
        long speed = off.stream().filter(r -> Math.abs(r.speed()) <= SPEED_OFF).count();
        out.append(String.format(Locale.ROOT, "%nSpeed within %.0f %% with links off: %d of %d. Slips recognised: %d "
                + "of %d; right turns doubted: %d of %d; turns counted right in %d of %d stages with a slip; left as "
                + "it was %d times; %d stages of engines that die or miss at that speed left out.%n%n", 100
                        * SPEED_OFF, speed, off.size(), tally.told(), tally.slips(),
                tally.alarms(), tally.plain(), counted, misled, left, dies));
        out.append("""
                Not balanced:

                | seed | stage | engine | found | left | turns | readings |
                |---|---|---|---|---|---|---|
                """);
        rows.stream().filter(r -> !r.balanced()).forEach(r -> out.append(String.format(Locale.ROOT,
                "| %d | %s | %s | %.0f %% | %.1f %% | %d | %d |%n", r.seed(), r.stage().key(), r.engine(), 100 * r
                        .found(), 100 * r.off(), r.turns(), r.readings())));
        return out.toString();
    }

    private static String line(ThrottleBalance.Stage s, List<Row> of) {
        long balanced = of.stream().filter(Row::balanced).count();
        long fixed = of.stream().filter(r -> r.fixedOff() <= BALANCED).count();
        double share = 100.0 * of.stream().mapToInt(Row::turns).sum() / Math.max(1, of.stream().mapToInt(
                Row::fixedTurns).sum());
        return String.format(Locale.ROOT, "| %s | %.0f %% | %d of %d | %.1f %% | %.0f and %.0f | %.0f and %.0f | %d of "
                + "%d | %.0f and %.0f | %.0f %% |%n", s.key(), 100 * at(of, 0.5, Row::found), balanced, of.size(), 100
                        * at(of, 0.5, Row::off), at(of, 0.5, Row::turns), at(of, 1, Row::turns), at(of, 0.5,
                                Row::readings), at(of, 1, Row::readings), fixed, of.size(), at(of, 0.5,
                                        Row::fixedTurns), at(of, 1, Row::fixedTurns), share);
    }

    private static double at(List<Row> of, double share, ToDoubleFunction<Row> value) {
        double[] v = of.stream().mapToDouble(value).sorted().toArray();
        return v[(int) Math.min(v.length - 1.0, share * v.length)];
    }
}
