package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import nariz.carburetor.PartChange;
import nariz.workbook.PartPlans;
import nariz.workbook.VehicleNotes;

/** Notes on the open drive and plans of parts for its vehicle. Called on the interface thread. */
public final class Notes {
    private final SessionContext context;
    private final Trials trials;
    private final ReadOnlyObjectWrapper<List<VehicleNotes.Note>> notes = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<List<PartPlans.PartPlan>> plans = new ReadOnlyObjectWrapper<>(List.of());

    Notes(SessionContext context, Trials trials) {
        this.context = context;
        this.trials = trials;
    }

    /** Empties the lists; another drive is open, or none. */
    void clear() {
        notes.set(List.of());
        plans.set(List.of());
    }

    /** Loads what is kept beside the drive that has just been opened. */
    void load() {
        clear();
        apply(a -> { });
    }

    /**
     * Writes a note on a moment.
     *
     * @param atS moment, s in the log
     * @param text what to keep
     */
    public void add(double atS, String text) {
        if (context.drive.get() == null || text.isBlank()) {
            return;
        }
        AtomicReference<VehicleNotes.Note> kept = new AtomicReference<>();
        step(say("session.note"), a -> kept.set(a.addNote(Optional.of(atS), text.strip())),
                a -> a.removeNote(kept.get()));
    }

    /**
     * Puts a note in other words; it stays where it is, on its moment or on the whole run.
     *
     * @param n note
     * @param text what to keep instead
     */
    public void reword(VehicleNotes.Note n, String text) {
        String words = text.strip();
        if (words.isEmpty() || words.equals(n.text())) {
            return;
        }
        step(say("session.note-reworded"), a -> a.rewordNote(n, words), a -> a.rewordNote(n, n.text()));
    }

    /**
     * Takes a note away.
     *
     * @param n note
     */
    public void remove(VehicleNotes.Note n) {
        AtomicReference<VehicleNotes.Note> kept = new AtomicReference<>(n);
        step(say("session.note-taken-away"), a -> a.removeNote(kept.get()), a -> kept.set(a.addNote(n.atS(),
                n.text())));
    }

    /**
     * Keeps the parts being tried as a plan.
     *
     * @param name as the user calls it
     */
    public void keepPlan(String name) {
        List<PartChange> parts = trials.triedProperty().get();
        if (parts.isEmpty()) {
            context.complain(say("session.nothing-is-being-tried"));
            return;
        }
        step(say("session.plan", name), a -> a.addPlan(name, parts), a -> a.plans().stream().filter(p -> p.name()
                .equals(name)).reduce((x, y) -> y).ifPresent(a::removePlan));
    }

    /**
     * Takes a plan off the list.
     *
     * @param p plan
     */
    public void removePlan(PartPlans.PartPlan p) {
        step(say("session.plan-taken-off", p.name()), a -> a.removePlan(p), a -> a.addPlan(p.name(), p.changes()));
    }

    private void step(String title, Consumer<Annotations> again, Consumer<Annotations> back) {
        context.history.record(title, true, () -> apply(back), () -> apply(again));
        apply(again);
    }

    /** Does something to what is kept beside a drive and shows it. */
    private void apply(Consumer<Annotations> change) {
        Drive d = context.drive.get();
        context.storage.queue(c -> {
            Annotations a = context.repository.annotations(d.run(), d.opening());
            change.accept(a);
            return new Shown(a.notes(), a.plans());
        }, s -> {
            Drive now = context.drive.get();
            if (now != null && now.opening() == d.opening()) {
                notes.set(s.notes());
                plans.set(s.plans());
            }
        }, e -> context.complain(context.words(e)));
    }

    private record Shown(List<VehicleNotes.Note> notes, List<PartPlans.PartPlan> plans) {
    }

    /** {@return notes on the open drive} */
    public ReadOnlyObjectProperty<List<VehicleNotes.Note>> notesProperty() {
        return notes.getReadOnlyProperty();
    }

    /** {@return plans kept for the open drive's vehicle} */
    public ReadOnlyObjectProperty<List<PartPlans.PartPlan>> plansProperty() {
        return plans.getReadOnlyProperty();
    }
}
