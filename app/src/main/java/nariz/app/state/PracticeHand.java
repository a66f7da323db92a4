package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.diagnosis.Strategy;
import nariz.idle.School;
import nariz.practice.IdleDebrief;
import nariz.sim.PracticeUpset;
import nariz.sim.RunningEngine;
import nariz.sim.WhenSettled;
import org.jspecify.annotations.Nullable;

/**
 * A practice engine under somebody's hand: screws, stop, leaks and idle jets, how many moves were made, and how it was
 * in the end. Does nothing where the engine is a real one. All methods on the interface thread.
 */
public final class PracticeHand {
    private final LiveDrive live;
    private final ReadOnlyStringWrapper says = new ReadOnlyStringWrapper("");
    private @Nullable Begun begun;
    private final MoveCounter counter = new MoveCounter();

    /**
     * A practice as it was begun.
     *
     * @param engine engine
     * @param hidden what was done to it
     * @param seed what drew both
     */
    record Begun(RunningEngine engine, PracticeUpset hidden, long seed) {
    }

    PracticeHand(LiveDrive live) {
        this.live = live;
    }

    void reset(@Nullable Begun b) {
        begun = b;
        counter.reset();
        says.set("");
    }

    /** {@return what the last look found, or how it was; empty before} */
    public ReadOnlyStringProperty saysProperty() {
        return says.getReadOnlyProperty();
    }

    /** {@return moves made since it was begun, by hand and as the guide asked} */
    public int moves() {
        return counter.moves();
    }

    /** {@return whether this carburetor has idle jets or feeds that can be swapped} */
    public boolean feeds() {
        return begun != null && PracticeUpset.feed(begun.engine()).isPresent();
    }

    /** A move, of which several turns the same way at once are one. */
    void count(RunningEngine e, String what) {
        counter.count(e, what);
    }

    /**
     * Turns mixture screws.
     *
     * @param only the one that is turned, from 0; -1 for all
     * @param by turns as on a sheet
     */
    public void screws(int only, double by) {
        engine().ifPresent(e -> {
            count(e, "screw " + only + Math.signum(by));
            e.turnBy(only, by);
        });
    }

    /**
     * Turns every stop screw.
     *
     * @param by turns in
     */
    public void stop(double by) {
        engine().ifPresent(e -> {
            count(e, "stop " + Math.signum(by));
            e.stopBy(by);
        });
    }

    /** Cranks it. */
    public void start() {
        engine().ifPresent(RunningEngine::start);
    }

    /** Puts it in gear, or out again. */
    public void gear() {
        engine().ifPresent(e -> e.gear(!e.inGear()));
    }

    /** Listens along gaskets and pinches hoses; a leak that is found is closed. */
    public void look() {
        engine().ifPresent(e -> {
            count(e, "look");
            says.set(say(e.leaks() ? "practice.leak-found" : "practice.leak-none"));
            e.leak(0.0);
        });
    }

    /**
     * Swaps the idle jets or feeds for the next size.
     *
     * @param steps positive is larger
     */
    public void feed(int steps) {
        engine().ifPresent(e -> PracticeUpset.feed(e).ifPresent(l -> {
            double to = Math.clamp(l.fitted(e.fitted()) + steps * l.step(), l.low(), l.high());
            count(e, "feed");
            e.fit(l.part().fit(e.fitted(), l.stage(), to));
            says.set(say("practice.fitted", steps > 0 ? say("practice.larger") : say("practice.smaller")));
        }));
    }

    private Optional<RunningEngine> engine() {
        return Optional.ofNullable(begun).map(Begun::engine);
    }

    /**
     * Says how it was. Worked out beside the interface thread: it takes some hundred settled engines.
     *
     * @param school what was gone by
     */
    public void howWasIt(School school) {
        Begun b = begun;
        if (b == null) {
            return;
        }
        says.set(say("practice.reckons"));
        IdleDebrief.Task task = new IdleDebrief.Task(b.seed(), school, 1.0 / Strategy.of(b.engine().sheet()).idle());
        int made = counter.moves();
        live.beside(c -> words(IdleDebrief.of(b.engine(), b.hidden(), task, made, c), school, b.engine()), says::set);
    }

    private static String words(IdleDebrief d, School school, RunningEngine e) {
        PracticeUpset u = d.hidden();
        String hid = u.part().map(p -> say("practice.hid-part", size(p, p.to()), size(p, p.from()), u.all())).orElseGet(
                () -> say(u.leakM2() > 0 ? "idle-work.hid-leak" : u.screw() >= 0 ? "idle-work.hid-one"
                : "idle-work.hid-all", u.all(), u.screw() + 1, u.by()));
        boolean mixture = school == School.MIXTURE;
        double scale = mixture ? 1.0 : 100.0;
        WhenSettled.State left = new WhenSettled(e).at(d.left().stream().mapToDouble(t -> t).toArray());
        String lesson = switch (d.lesson()) {
            case SCREW -> say("practice.lesson-screw", u.screw() + 1, d.oddTurns());
            case PART -> u.part().map(p -> say("practice.lesson-part", p.part().named(Stage.PRIMARY), size(p, p.to()),
                    size(p, p.from()))).orElse("");
            default -> say("practice.lesson-" + d.lesson().key());
        };
        String finish = say(mixture ? "practice.debrief-mixture" : "practice.debrief", mean(d.left()), mean(d.best()),
                scale * d.lost(), left.rpm(), left.lambda());
        String work = say(mixture ? "practice.work-mixture" : "practice.work", d.moves(), d.guided(), scale
                * d.guideLost());
        return String.join(" ", say("practice.score", d.score()), hid, finish, work, lesson);
    }

    private static String size(PartChange p, double value) {
        return say(p.part().text(value));
    }

    private static double mean(List<Double> turns) {
        return turns.stream().mapToDouble(t -> t).average().orElse(0.0);
    }
}
