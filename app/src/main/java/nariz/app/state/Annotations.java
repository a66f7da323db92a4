package nariz.app.state;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import nariz.carburetor.PartChange;
import nariz.workbook.PartPlans;
import nariz.workbook.VehicleNotes;
import nariz.workbook.Workbook;

/** What is kept beside a drive: notes on it, plans for its vehicle. */
interface Annotations {
    /** Notes on it. */
    List<VehicleNotes.Note> notes();

    /** Plans for its vehicle. */
    List<PartPlans.PartPlan> plans();

    /** Writes a note on a moment, s, or on the whole. */
    VehicleNotes.Note addNote(Optional<Double> atS, String text);

    /** Puts a note in other words; it stays on its moment. */
    void rewordNote(VehicleNotes.Note n, String text);

    void removeNote(VehicleNotes.Note n);

    void addPlan(String name, List<PartChange> changes);

    void removePlan(PartPlans.PartPlan p);

    /** In the workbook. */
    record Kept(Workbook book, Workbook.Run run) implements Annotations {
        @Override
        public List<VehicleNotes.Note> notes() {
            return book.notes().of(run.vehicle()).stream().filter(n -> n.run().equals(Optional.of(run.id()))).toList();
        }

        @Override
        public List<PartPlans.PartPlan> plans() {
            return book.plans().of(run.vehicle());
        }

        @Override
        public VehicleNotes.Note addNote(Optional<Double> atS, String text) {
            return book.notes().add(run.vehicle(), Optional.of(run.id()), atS, text);
        }

        @Override
        public void rewordNote(VehicleNotes.Note n, String text) {
            book.notes().reword(n, text);
        }

        @Override
        public void removeNote(VehicleNotes.Note n) {
            book.notes().remove(run.vehicle(), n);
        }

        @Override
        public void addPlan(String name, List<PartChange> changes) {
            book.plans().add(book.sheets(run.vehicle()).stream().filter(s -> s.id() == run.sheet()).findFirst()
                    .orElseThrow(), name, changes);
        }

        @Override
        public void removePlan(PartPlans.PartPlan p) {
            plans().stream().filter(x -> x.name().equals(p.name()) && x.changes().equals(p.changes())).findFirst()
                    .ifPresent(x -> book.plans().remove(run.vehicle(), x));
        }
    }

    /** In memory, for a drive that is not kept, such as the demo. */
    final class InMemory implements Annotations {
        private final List<VehicleNotes.Note> notes = new CopyOnWriteArrayList<>();
        private final List<PartPlans.PartPlan> plans = new CopyOnWriteArrayList<>();
        private long next = 1;

        @Override
        public List<VehicleNotes.Note> notes() {
            return List.copyOf(notes);
        }

        @Override
        public List<PartPlans.PartPlan> plans() {
            return List.copyOf(plans);
        }

        @Override
        public VehicleNotes.Note addNote(Optional<Double> atS, String text) {
            VehicleNotes.Note n = new VehicleNotes.Note(next++, Optional.empty(), atS, text, Instant.now());
            notes.add(n);
            return n;
        }

        @Override
        public void rewordNote(VehicleNotes.Note n, String text) {
            notes.replaceAll(x -> x.id() == n.id() ? new VehicleNotes.Note(x.id(), x.run(), x.atS(), text, x.created())
                    : x);
        }

        @Override
        public void removeNote(VehicleNotes.Note n) {
            notes.removeIf(x -> x.id() == n.id());
        }

        @Override
        public void addPlan(String name, List<PartChange> changes) {
            plans.add(new PartPlans.PartPlan(next++, 0, name, changes, Instant.now()));
        }

        @Override
        public void removePlan(PartPlans.PartPlan p) {
            plans.removeIf(x -> x.name().equals(p.name()) && x.changes().equals(p.changes()));
        }
    }
}
