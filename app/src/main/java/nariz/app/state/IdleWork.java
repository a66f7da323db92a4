package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.diagnosis.Strategy;
import nariz.estimation.Overlap;
import nariz.idle.IdleGuide;
import nariz.idle.IdleReading;
import nariz.idle.Reach;
import nariz.idle.School;
import nariz.idle.SettledAverage;
import nariz.live.LiveReadings;
import nariz.sim.RunningEngine;
import nariz.text.Measure;
import org.jspecify.annotations.Nullable;

/**
 * Setting the idle beside the running engine: one guide for a group of screws, fed by readings that come by themselves
 * or are typed in. All methods on the interface thread.
 */
public final class IdleWork {
    private static final double AUTHORITY_TURNS = 1.0;

    private final LiveDrive live;
    private final ObjectProperty<School> school = new SimpleObjectProperty<>(School.HIGHEST_VACUUM);
    /** Screw that is moved alone, from 0; -1 for all of them together. */
    private final IntegerProperty only = new SimpleIntegerProperty(-1);
    private final ReadOnlyObjectWrapper<Step> step = new ReadOnlyObjectWrapper<>();
    private final PracticeHand hand;
    private final SettledAverage average = new SettledAverage();
    private @Nullable BuildSheet sheet;
    private @Nullable RunningEngine engine;
    private @Nullable IdleGuide guide;
    /** Screw the guide is for, from 0; -1 for all: what is chosen meanwhile is for the next beginning. */
    private int group = -1;
    private double[] found = new double[0];
    private double[] turns = new double[0];
    private boolean waiting;
    private boolean byHand;
    /** Whether a reading was taken and is being weighed. */
    private boolean weighing;
    /** Whether the move that is asked for was made and not read yet. */
    private boolean made;

    /**
     * What the panel shows.
     *
     * @param move what to do
     * @param words the move in words
     * @param why reason
     * @param note what the last answer looked like where it did not fit, or how long to wait; or empty
     * @param waiting whether it waits for the engine to settle, or for a reading to be weighed
     * @param typed whether readings are typed in
     * @param made whether the move was made and not read yet
     * @param guide the guide, for the picture
     * @param turns where every screw stands
     * @param found where they were found
     */
    public record Step(IdleGuide.Move move, String words, String why, String note, boolean waiting, boolean typed,
            boolean made, IdleGuide guide, List<Double> turns, List<Double> found) {
        /** The same while a reading is weighed. */
        private Step atWork() {
            return new Step(move, words, why, note, true, typed, made, guide, turns, found);
        }
    }

    IdleWork(LiveDrive live) {
        this.live = live;
        hand = new PracticeHand(live);
    }

    /** {@return the hand at a practice engine} */
    public PracticeHand hand() {
        return hand;
    }

    /** {@return where to finish} */
    public ObjectProperty<School> schoolProperty() {
        return school;
    }

    /** {@return the screw that is moved alone, from 0; -1 for all together} */
    public IntegerProperty onlyProperty() {
        return only;
    }

    /** {@return what to do now, or null before it was begun} */
    public ReadOnlyObjectProperty<Step> stepProperty() {
        return step.getReadOnlyProperty();
    }

    void reset(@Nullable BuildSheet s, PracticeHand.@Nullable Begun practice) {
        RunningEngine e = practice == null ? null : practice.engine();
        weighNothing();
        sheet = s;
        engine = e;
        guide = null;
        hand.reset(practice);
        step.set(null);
        only.set(-1);
        if (s != null) {
            Carburetor c = s.carburetor();
            int n = c.family().idleTrims(c);
            Part p = part(s);
            List<Double> each = p.each(c, Stage.PRIMARY);
            found = new double[n];
            Arrays.setAll(found, i -> e != null ? e.turns(i) : each.size() == n ? each.get(i) : p.of(c, Stage.PRIMARY));
            turns = found.clone();
        }
    }

    private static Part part(BuildSheet s) {
        return s.carburetor().family().part(s.carburetor(), Stage.PRIMARY, Part.Role.IDLE_MIXTURE).orElseThrow();
    }

    /** {@return how many screws or jet nuts there are; 0 while nothing runs} */
    public int screws() {
        return sheet == null ? 0 : turns.length;
    }

    /**
     * Begins, with every screw where somebody counted it.
     *
     * @param typed whether speed and vacuum are typed in
     */
    public void begin(boolean typed) {
        BuildSheet s = sheet;
        if (s == null) {
            return;
        }
        weighNothing();
        byHand = typed;
        group = only.get();
        double at = group >= 0 ? turns[group] : Arrays.stream(turns).average().orElse(0.0);
        double aim = Overlap.shownAtIdle(1.0 / Strategy.of(s).idle(), s.engine().cam());
        guide = new IdleGuide(new IdleGuide.Settings(school.get(), aim, group >= 0
                ? 1.0 / turns.length : 1.0,
                at, Reach.of(part(s).isFromDatum()), s.engine().idleRpm(), s.engine().automatic()));
        average.restart();
        made = false;
        waiting = !typed;
        show(List.of());
    }

    /** The move was made: what comes now is read. */
    public void moved() {
        if (guide == null || waiting || weighing || guide.next().kind() == IdleGuide.Kind.DONE) {
            return;
        }
        RunningEngine e = engine;
        if (e != null && !made) {
            hand.count(e, "guide " + guide.moves().size());
            apply(e, guide.next(), 1.0);
        }
        made = true;
        average.restart();
        waiting = !byHand;
        show(List.of());
    }

    /** On a practice engine the hand that turns is this program's. */
    private void apply(RunningEngine e, IdleGuide.Move m, double way) {
        if (m.kind() == IdleGuide.Kind.SCREWS) {
            e.turnBy(group, way * m.by());
        } else if (m.kind() == IdleGuide.Kind.STOP) {
            e.stopBy(way * m.by());
        } else if (m.kind() == IdleGuide.Kind.GEAR) {
            e.gear(way > 0);
        }
    }

    /** Takes the last move back. One that was made and not read yet, the engine died of it, is read where it was. */
    public void back() {
        if (guide == null) {
            return;
        }
        weighNothing();
        if (made && guide.next().kind() != IdleGuide.Kind.GEAR) {
            IdleGuide.Move m = guide.next();
            Optional.ofNullable(engine).ifPresent(e -> {
                hand.count(e, "back " + guide.moves().size());
                apply(e, m, -1.0);
            });
            guide.undone();
            made = false;
            average.restart();
            waiting = !byHand;
            show(List.of());
        } else if (!guide.moves().isEmpty()) {
            guide.back();
            Optional.ofNullable(engine).ifPresent(e -> e.gear(false));
            waiting = false;
            made = false;
            show(List.of());
        }
    }

    /**
     * Takes a reading somebody typed in.
     *
     * @param rpm speed
     * @param vacuumPa vacuum, Pa; NaN for none
     */
    public void typed(double rpm, double vacuumPa) {
        if (guide != null && !weighing && rpm > 0) {
            take(IdleReading.byHand(rpm, vacuumPa));
        }
    }

    void sample(LiveReadings.Now n) {
        if (guide == null || byHand || !waiting || weighing) {
            return;
        }
        average.add(n.timeS(), n.rpm(), n.vacuumPa(), n.lambda(), n.lambda2());
        Optional<IdleReading> r = average.reading();
        if (r.isPresent()) {
            take(r.get());
        } else {
            List<String> note = new ArrayList<>();
            if (average.stalled()) {
                note.add(say(guide.moves().isEmpty() ? "idle-work.stalled-as-found" : "idle-work.stalled"));
            } else if (!n.warm()) {
                note.add(say("idle-work.cold"));
            } else if (average.hangs()) {
                note.add(say("idle-work.blip"));
            } else {
                double still = average.stillS();
                note.add(say("idle-work.still", Double.isNaN(still) ? 10.0 : Math.ceil(still)));
            }
            show(note);
        }
    }

    private void weighNothing() {
        weighing = false;
        live.weighNothing();
    }

    /** A reading could not be weighed: the same move is still to be read. */
    void notWeighed() {
        weighing = false;
        show(List.of());
    }

    private void take(IdleReading r) {
        IdleGuide before = guide;
        if (before == null) {
            return;
        }
        weighing = true;
        step.set(step.get().atWork());
        live.weigh(before, r, g -> taken(before, r, g));
    }

    private void taken(IdleGuide before, IdleReading r, IdleGuide g) {
        IdleGuide.Move was = before.next();
        weighing = false;
        guide = g;
        // Of an earlier move too, where this reading shows that it was made the other way.
        double moved = g.turns() - before.turns();
        for (int i = 0; i < turns.length; i++) {
            if (group < 0 || group == i) {
                turns[i] += moved;
            }
        }
        waiting = false;
        made = false;
        List<String> note = new ArrayList<>();
        if (g.next().kind() == IdleGuide.Kind.DONE && was.kind() != IdleGuide.Kind.READ) {
            live.note(record(g));
            hand.howWasIt(g.settings().school());
        }
        if (was.kind() == IdleGuide.Kind.GEAR) {
            Optional.ofNullable(engine).ifPresent(e -> e.gear(false));
            g.gearDrop().ifPresent(d -> note.add(say(d > IdleGuide.MOST_DROP ? "idle-work.gear-much"
                    : "idle-work.gear-drop", d)));
        }
        if (was.kind() == IdleGuide.Kind.SCREWS && g.misses()) {
            note.add(r.mixed() ? say("idle-work.misses", 1.0 / r.phi()) : say("idle-work.misses-unread"));
        }
        g.slip().ifPresent(s -> note.add(say("idle-work.slip-" + s.name().toLowerCase(Locale.ROOT))));
        if (g.stop() > AUTHORITY_TURNS) {
            note.add(say("idle-work.stop-limit"));
        }
        if (g.atLimit()) {
            note.add(say("idle-work.at-seat"));
        }
        if (g.next().kind() == IdleGuide.Kind.DONE && g.speedOff() != 0.0) {
            note.add(say(g.stopIsDead() ? "idle-work.stop-dead" : "idle-work.speed-off", r.rpm(), g.settings()
                    .idleRpm()));
        }
        double bank = r.bankPhi();
        if (Math.abs(bank) > 0.03 && turns.length > 1) {
            note.add(say("idle-work.banks", 100 * Math.abs(bank), say(bank > 0 ? "idle-work.second"
                    : "idle-work.first")));
        }
        show(note);
    }

    /** As found and as left, for the car's book. */
    private String record(IdleGuide g) {
        IdleReading r = g.readings().getLast();
        StringBuilder b = new StringBuilder();
        for (int i = 0; i < turns.length; i++) {
            b.append(i == 0 ? "" : "; ").append(say("idle-panel.screw-was", i + 1, String.format(Locale.ROOT, "%.2f",
                    found[i]), String.format(Locale.ROOT, "%.2f", turns[i])));
        }
        return say("idle-work.record", say("school." + g.settings().school().key()), b, r.rpm(),
                Double.isNaN(r.vacuumPa()) ? "" : Measure.vacuum(r.vacuumPa()));
    }

    private void show(List<String> note) {
        IdleGuide g = guide;
        BuildSheet s = sheet;
        if (g == null || s == null) {
            return;
        }
        IdleGuide.Move m = g.next();
        List<String> notes = new ArrayList<>(note);
        if (group >= 0 && turns.length > IdleGuide.MOST_ALONE) {
            notes.add(say("idle-work.one-of-many", turns.length));
        }
        step.set(new Step(m, words(m, s, g.moves().isEmpty()), say(m.why()), String.join(" ", notes), waiting
                || weighing, byHand, made, g, boxed(turns), boxed(found)));
    }

    private static List<Double> boxed(double[] v) {
        return Arrays.stream(v).boxed().toList();
    }

    /** "All screws leaner: in, an eighth of a turn". */
    private String words(IdleGuide.Move m, BuildSheet s, boolean asFound) {
        boolean height = part(s).isFromDatum();
        return switch (m.kind()) {
            case READ -> say(asFound ? "idle-work.read" : "idle-work.read-again");
            case DONE -> say("idle-work.done");
            case NO_AUTHORITY -> say("idle-work.no-authority");
            case GEAR -> say("idle-work.gear");
            case STOP -> say(m.by() > 0 ? "idle-work.stop-in" : "idle-work.stop-out", fraction(m.by()));
            case SCREWS -> {
                if (guide != null && guide.takesBack()) {
                    yield say("idle-work.take-back", fraction(m.by()));
                }
                String which = group < 0 ? say(height ? "idle-work.all-jets" : "idle-work.all") : say(height
                        ? "idle-work.jet" : "idle-work.screw", group + 1);
                String way = say(m.by() > 0 ? height ? "idle-work.richer-down" : "idle-work.richer-out" : height
                        ? "idle-work.leaner-up" : "idle-work.leaner-in");
                yield say("idle-work.turn", which, way, fraction(m.by()));
            }
        };
    }

    /** Turns as people say them. */
    static String fraction(double turns) {
        long parts = Math.round(Math.abs(turns) * 32);
        long whole = parts / 32;
        long rest = parts % 32;
        if (rest == 0) {
            return whole == 1 ? say("idle-work.one-turn") : say("idle-work.whole", whole);
        }
        long of = 32 / Math.min(Long.lowestOneBit(rest), 16);
        long n = rest * of / 32;
        return whole > 0 ? say("idle-work.more", whole, n, of)
                : n == 1 ? say("idle-work.one-" + of) : say("idle-work.some", n, of);
    }
}
