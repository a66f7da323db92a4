package nariz.app.state;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import nariz.carburetor.PartChange;
import nariz.workbook.Workbook;

/** What is kept beside a drive: notes on it, plans for its vehicle. */
interface Annotations {
    /** Notes on it. */
    List<Workbook.Note> notes();

    /** Plans for its vehicle. */
    List<Workbook.PartPlan> plans();

    /** Writes a note on a moment, s, or on the whole. */
    Workbook.Note addNote(Optional<Double> atS, String text);

    /** Puts a note in other words; it stays on its moment. */
    void rewordNote(Workbook.Note n, String text);

    void removeNote(Workbook.Note n);

    void addPlan(String name, List<PartChange> changes);

    void removePlan(Workbook.PartPlan p);

    /** In the workbook. */
    record Kept(Workbook book, Workbook.Run run) implements Annotations {
        @Override
        public List<Workbook.Note> notes() {
            return book.notes(run.vehicle()).stream().filter(n -> n.run().equals(Optional.of(run.id()))).toList();
        }

        @Override
        public List<Workbook.PartPlan> plans() {
            return book.plans(run.vehicle());
        }

        @Override
        public Workbook.Note addNote(Optional<Double> atS, String text) {
            return book.addNote(run.vehicle(), Optional.of(run.id()), atS, text);
        }

        @Override
        public void rewordNote(Workbook.Note n, String text) {
            book.rewordNote(n, text);
        }

        @Override
        public void removeNote(Workbook.Note n) {
            book.removeNote(run.vehicle(), n);
        }

        @Override
        public void addPlan(String name, List<PartChange> changes) {
            book.addPlan(book.sheets(run.vehicle()).stream().filter(s -> s.id() == run.sheet()).findFirst()
                    .orElseThrow(), name, changes);
        }

        @Override
        public void removePlan(Workbook.PartPlan p) {
            plans().stream().filter(x -> x.name().equals(p.name()) && x.changes().equals(p.changes())).findFirst()
                    .ifPresent(x -> book.removePlan(run.vehicle(), x));
        }
    }

    /** In memory, for a drive that is not kept, such as the demo. */
    final class InMemory implements Annotations {
        private final List<Workbook.Note> notes = new CopyOnWriteArrayList<>();
        private final List<Workbook.PartPlan> plans = new CopyOnWriteArrayList<>();
        private long next = 1;

        @Override
        public List<Workbook.Note> notes() {
            return List.copyOf(notes);
        }

        @Override
        public List<Workbook.PartPlan> plans() {
            return List.copyOf(plans);
        }

        @Override
        public Workbook.Note addNote(Optional<Double> atS, String text) {
            Workbook.Note n = new Workbook.Note(next++, Optional.empty(), atS, text, Instant.now());
            notes.add(n);
            return n;
        }

        @Override
        public void rewordNote(Workbook.Note n, String text) {
            notes.replaceAll(x -> x.id() == n.id() ? new Workbook.Note(x.id(), x.run(), x.atS(), text, x.created())
                    : x);
        }

        @Override
        public void removeNote(Workbook.Note n) {
            notes.removeIf(x -> x.id() == n.id());
        }

        @Override
        public void addPlan(String name, List<PartChange> changes) {
            plans.add(new Workbook.PartPlan(next++, 0, name, changes, Instant.now()));
        }

        @Override
        public void removePlan(Workbook.PartPlan p) {
            plans.removeIf(x -> x.name().equals(p.name()) && x.changes().equals(p.changes()));
        }
    }
}
