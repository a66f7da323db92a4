package nariz.app.state;

import static nariz.app.words.WindowWords.say;
import static nariz.text.Message.message;

import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import nariz.carburetor.BuildSheet;
import nariz.idle.ThrottleBalance;
import nariz.live.LiveReadings;
import nariz.practice.BalanceDebrief;
import nariz.practice.WatchedBalance;
import nariz.sim.BalanceUpset;
import nariz.sim.RunningEngine;
import org.jspecify.annotations.Nullable;

/**
 * Balancing several carburetors beside the running engine: one stage after the other, fed by figures that are typed in,
 * or on a practice engine by a meter that this program holds. All methods on the interface thread.
 */
public final class BalanceWork {
    /** After a meter is put on or taken off, before anything is read, and how long it is read, s of the engine. */
    private static final double SETTLES_S = 4.0;
    private static final double READS_S = 3.0;
    /** Share of a carburetor's air at idle that the meter on a practice engine takes. */
    private static final double TAKES = 0.06;
    private static final double FINEST_KG_H = 0.05;

    private final LiveDrive live;
    private final ReadOnlyObjectWrapper<Step> step = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyStringWrapper says = new ReadOnlyStringWrapper("");
    private final MoveCounter counter = new MoveCounter();
    private final Deque<double[]> speeds = new ArrayDeque<>();
    private @Nullable BuildSheet sheet;
    private @Nullable RunningEngine engine;
    private @Nullable Begun begun;
    private @Nullable ThrottleBalance balance;
    private @Nullable Measuring measuring;
    /** Whether this stage is in the car's book. */
    private boolean noted;

    /**
     * A practice as it was begun.
     *
     * @param hidden what was done to it
     * @param seed what drew engine and upset
     */
    record Begun(BalanceUpset hidden, long seed) {
    }

    /**
     * What the panel and the picture show.
     *
     * @param stage how it is balanced
     * @param move what to do
     * @param words the move in words
     * @param why reason
     * @param note what the last turn looked like where it did not fit, or what is being measured; or empty
     * @param shares where every carburetor stands; empty before the first reading
     * @param expected share by which each would be off after the turn that is asked for; empty where none is
     * @param measured what was measured last, kg/h; empty where figures are typed in
     * @param rpm speed without and with the meter as measured, NaN where it was not
     * @param measuring whether a reading is being made
     * @param turns turns of every stop or link since it was found
     * @param moves turns made
     */
    public record Step(ThrottleBalance.Stage stage, ThrottleBalance.Move move, String words, String why, String note,
            List<ThrottleBalance.Share> shares, List<Double> expected, List<Double> measured, List<Double> rpm,
            boolean measuring, List<Double> turns, int moves) {
    }

    /** A reading on a practice engine: bare first, then the meter on one mouth after the other. */
    private static final class Measuring {
        private final double[] flow;
        private final Random random;
        private int at = -1;
        private double since = Double.NaN;
        private double rpmSum;
        private double flowSum;
        private int n;
        private double bare;
        private double with;

        Measuring(int carburetors, Random random) {
            flow = new double[carburetors];
            this.random = random;
        }
    }

    BalanceWork(LiveDrive live) {
        this.live = live;
    }

    /** {@return what to do now, or null while nothing runs that has several carburetors} */
    public ReadOnlyObjectProperty<Step> stepProperty() {
        return step.getReadOnlyProperty();
    }

    /** {@return how a practice was done; empty before} */
    public ReadOnlyStringProperty saysProperty() {
        return says.getReadOnlyProperty();
    }

    /** {@return whether this is a practice whose balance was upset} */
    public boolean practised() {
        return begun != null;
    }

    void reset(@Nullable BuildSheet s, @Nullable RunningEngine e, @Nullable Begun practice) {
        sheet = s;
        engine = e;
        begun = practice;
        balance = null;
        measuring = null;
        counter.reset();
        speeds.clear();
        says.set("");
        step.set(null);
        if (s != null && s.carburetor().count() > 1) {
            anew(s, ThrottleBalance.Stage.LINKS_OFF);
            if (practice != null) {
                Optional.ofNullable(e).ifPresent(x -> WatchedBalance.set(x, ThrottleBalance.Stage.LINKS_OFF));
            }
        }
    }

    private void anew(BuildSheet s, ThrottleBalance.Stage stage) {
        balance = new ThrottleBalance(s.carburetor().count(), stage, s.engine().idleRpm());
        noted = false;
        show("", List.of(), Double.NaN, Double.NaN);
    }

    /**
     * Begins a stage. On a practice engine its links are undone or done up, and its speed is held where that is asked.
     *
     * @param stage how it is balanced
     */
    public void begin(ThrottleBalance.Stage stage) {
        BuildSheet s = sheet;
        if (s == null || s.carburetor().count() < 2) {
            return;
        }
        stopMeasuring();
        Optional.ofNullable(engine).ifPresent(e -> {
            e.start();
            WatchedBalance.set(e, stage);
        });
        anew(s, stage);
    }

    /** {@return the stage after this one; empty at the last} */
    public Optional<ThrottleBalance.Stage> after() {
        int next = balance == null ? Integer.MAX_VALUE : balance.stage().ordinal() + 1;
        return next < ThrottleBalance.Stage.values().length ? Optional.of(ThrottleBalance.Stage.values()[next])
                : Optional.empty();
    }

    /**
     * Takes figures that were typed in.
     *
     * @param flow of every carburetor, one unit, positive
     * @param rpm speed without the meter; NaN takes what the readings show, where any come
     * @param rpmWith speed with it; NaN where nobody looked
     */
    public void typed(double[] flow, double rpm, double rpmWith) {
        if (balance != null && measuring == null) {
            double bare = Double.isNaN(rpm) && !speeds.isEmpty() ? speeds.stream().mapToDouble(s -> s[1]).average()
                    .orElse(rpm) : rpm;
            take(new ThrottleBalance.Reading(flow, bare, rpmWith), List.of());
        }
    }

    /** Measures on a practice engine: the meter is held on one mouth after the other. */
    public void measure() {
        ThrottleBalance b = balance;
        if (b != null && engine != null && measuring == null) {
            measuring = new Measuring(b.carburetors(), new Random(b.readings().size() * 1009L + b.stage().ordinal()
                    + 31L * counter.moves() + (begun == null ? 0 : 7919L * begun.seed())));
            show(say("balance-work.bare"), List.of(), Double.NaN, Double.NaN);
        }
    }

    private void stopMeasuring() {
        measuring = null;
        Optional.ofNullable(engine).ifPresent(e -> e.meter(-1, 0.0));
    }

    void sample(LiveReadings.Now n) {
        speeds.add(new double[] {n.timeS(), n.rpm()});
        while (!speeds.isEmpty() && speeds.getFirst()[0] < n.timeS() - READS_S) {
            speeds.removeFirst();
        }
        Measuring m = measuring;
        RunningEngine e = engine;
        ThrottleBalance b = balance;
        if (m == null || e == null || b == null) {
            return;
        }
        if (e.stalled()) {
            stopMeasuring();
            show(say("balance-work.stalled"), List.of(), Double.NaN, Double.NaN);
            return;
        }
        m.since = Double.isNaN(m.since) ? n.timeS() : m.since;
        double past = n.timeS() - m.since;
        if (past >= SETTLES_S) {
            m.rpmSum += n.rpm();
            m.flowSum += e.draft(Math.max(0, m.at));
            m.n++;
        }
        if (past >= SETTLES_S + READS_S && m.n > 0) {
            next(m, e, b, n.timeS());
        }
    }

    /** One mouth is read: on to the next. */
    private void next(Measuring m, RunningEngine e, ThrottleBalance b, double now) {
        double rpm = m.rpmSum / m.n;
        if (m.at < 0) {
            m.bare = rpm;
        } else {
            m.with += rpm / m.flow.length;
            m.flow[m.at] = WatchedBalance.shown(m.flowSum / m.n, FINEST_KG_H, m.random);
        }
        m.at++;
        m.since = now;
        m.rpmSum = 0.0;
        m.flowSum = 0.0;
        m.n = 0;
        if (m.at < m.flow.length) {
            e.meter(m.at, WatchedBalance.takes(b.stage(), TAKES));
            show(say("balance-work.on", m.at + 1), List.of(), Double.NaN, Double.NaN);
        } else {
            stopMeasuring();
            boolean held = b.stage() == ThrottleBalance.Stage.FAST;
            take(new ThrottleBalance.Reading(m.flow, held ? Double.NaN : m.bare, held ? Double.NaN : m.with), Arrays
                    .stream(m.flow).boxed().toList());
        }
    }

    private void take(ThrottleBalance.Reading r, List<Double> measured) {
        ThrottleBalance b = balance;
        if (b == null) {
            return;
        }
        b.read(r);
        if (b.next().kind() == ThrottleBalance.Kind.DONE) {
            if (!noted) {
                live.note(record(b));
                noted = true;
            }
            // The throttle is let go.
            Optional.ofNullable(engine).ifPresent(e -> e.hold(0.0));
        }
        show(b.slip().map(m -> say(m)).orElse(""), measured, r.rpm(), r.rpmWith());
    }

    /** The turn that is asked for was made; on a practice engine it is made now. */
    public void turned() {
        ThrottleBalance b = balance;
        if (b == null || measuring != null) {
            return;
        }
        ThrottleBalance.Move m = b.next();
        RunningEngine e = engine;
        if (e != null && m.kind() == ThrottleBalance.Kind.TURN) {
            counter.count(e, "guide " + b.moves().size());
            WatchedBalance.turn(e, b.stage(), m.carburetor(), m.turns());
        } else if (e != null && m.kind() == ThrottleBalance.Kind.SPEED) {
            counter.count(e, "guide " + b.moves().size());
            e.stopBy(m.turns());
        }
        b.turned();
        show("", List.of(), Double.NaN, Double.NaN);
    }

    /** Asks for the latest turn the other way. */
    public void back() {
        ThrottleBalance b = balance;
        if (b != null && measuring == null) {
            b.back();
            show("", List.of(), Double.NaN, Double.NaN);
        }
    }

    /**
     * On a practice engine: the user's own hand at a stop or link, as the stage has it.
     *
     * @param carburetor from 0
     * @param by turns, positive opens
     */
    public void own(int carburetor, double by) {
        RunningEngine e = engine;
        ThrottleBalance b = balance;
        if (e != null && b != null && measuring == null) {
            counter.count(e, "own " + carburetor + Math.signum(by));
            WatchedBalance.turn(e, b.stage(), carburetor, by);
        }
    }

    /** Cranks a practice engine that died. */
    public void start() {
        ThrottleBalance b = balance;
        RunningEngine e = engine;
        if (e != null && b != null) {
            e.start();
            WatchedBalance.set(e, b.stage());
        }
    }

    /** Says how a practice was done. Worked out beside the interface thread. */
    public void howWasIt() {
        Begun g = begun;
        RunningEngine e = engine;
        if (g == null || e == null) {
            return;
        }
        says.set(say("practice.reckons"));
        int made = counter.moves();
        live.beside(c -> words(BalanceDebrief.of(e, g.hidden(), g.seed(), made, c)), says::set);
    }

    private static String words(BalanceDebrief d) {
        String fast = Double.isNaN(d.fast()) ? say("balance-work.debrief-dies") : say("balance-work.debrief-fast", 100
                * d.fast());
        return String.join(" ", say("practice.score", d.score()), say("balance-work.debrief", 100 * d.found(), 100 * d
                .idle()), fast, say("balance-work.debrief-speed", 100 * d.speedOff()), say("balance-work.debrief-work",
                        d.turns(), d.guided(), 100 * d.guideIdle()), say("balance-work.lesson-" + d.lesson().key()));
    }

    /** As found and as left, for the car's book. */
    private static String record(ThrottleBalance b) {
        StringBuilder text = new StringBuilder();
        double[] made = b.turns();
        for (int j = 0; j < made.length; j++) {
            text.append(j == 0 ? "" : "; ").append(say("balance-work.was", j + 1, String.format(Locale.ROOT, "%+.2f",
                    made[j]), 100 * b.shares().get(j).off()));
        }
        return say("balance-work.record", say(message("balance." + b.stage().key())), text);
    }

    private void show(String note, List<Double> measured, double rpm, double rpmWith) {
        ThrottleBalance b = balance;
        if (b == null) {
            return;
        }
        ThrottleBalance.Move m = b.next();
        step.set(new Step(b.stage(), m, say(b.text(m)), say(m.why()), note, b.shares(), expected(b, m), measured,
                List.of(rpm, rpmWith), measuring != null, Arrays.stream(b.turns()).boxed().toList(), b.moves().size()));
    }

    private static List<Double> expected(ThrottleBalance b, ThrottleBalance.Move m) {
        return m.kind() == ThrottleBalance.Kind.TURN ? Arrays.stream(b.after(m)).boxed().toList() : List.of();
    }
}
