package nariz.app.session;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import nariz.advice.Advice;
import nariz.advice.AdviceJson;
import nariz.build.BuildSheet;
import nariz.build.BuildSheetReader;
import nariz.build.PartChange;
import nariz.log.Plan;
import nariz.log.Recording;
import nariz.log.Span;
import nariz.store.Exchange;
import nariz.store.Workbook;

/**
 * The workbook behind the window: every drive that is opened goes in, every decision about it is written at once.
 * Opened
 * when first asked for, on the worker's thread. Without a file nothing is kept.
 */
public final class Library implements AutoCloseable {
    private volatile Path file;
    private volatile Loose loose = new Loose();
    private Workbook workbook;

    /**
     * A kept drive, for a list.
     *
     * @param run key
     * @param vehicle whose it is
     * @param name file it came from
     * @param imported when it came in
     * @param durationS length, s
     */
    public record Entry(long run, String vehicle, String name, Instant imported, double durationS) {
    }

    Library(Path file) {
        this.file = file;
    }

    private synchronized Optional<Workbook> open() {
        if (workbook == null && file != null) {
            workbook = Workbook.open(file);
        }
        return Optional.ofNullable(workbook);
    }

    private Workbook needed() {
        return open().orElseThrow(() -> new IllegalStateException("nothing is kept without a workbook"));
    }

    /** Whether there is a workbook to keep drives in. */
    boolean keeps() {
        return file != null;
    }

    List<Entry> entries() {
        if (!Files.exists(file)) {
            return List.of();
        }
        Workbook w = needed();
        List<Workbook.Vehicle> vehicles = w.vehicles();
        return w.runs().stream().map(r -> new Entry(r.id(), vehicles.stream().filter(v -> v.id() == r.vehicle())
                .map(Workbook.Vehicle::name).findFirst().orElse(""), r.name(), r.imported(), r.durationS())).toList();
    }

    Optional<Long> keep(String sheetJson, BuildSheet sheet, Recording r, Path logFile, Advice advice,
            BooleanSupplier cancelled) {
        Optional<Workbook> w = open().filter(x -> !x.readOnly());
        if (w.isEmpty()) {
            return Optional.empty();
        }
        Workbook.Sheet kept = w.get().addSheet(w.get().vehicle(sheet.name()).id(), sheetJson);
        Workbook.Run run = w.get().addRun(kept, r, logFile, cancelled);
        w.get().addAdvice(run.id(), advice.strategy(), AdviceJson.write(advice));
        return Optional.of(run.id());
    }

    /** Whether another window has the workbook, so that this one keeps nothing. */
    synchronized boolean elsewhere() {
        return workbook != null && workbook.readOnly();
    }

    /** The run this file was kept as before with this sheet, so that what was decided then still counts. */
    Optional<Long> known(String sheetJson, BuildSheet sheet, Path logFile) {
        if (file == null || !Files.exists(file)) {
            return Optional.empty();
        }
        Workbook w = needed();
        return w.vehicles().stream().filter(v -> v.name().equals(sheet.name())).findFirst()
                .flatMap(v -> w.sheets(v.id()).stream().filter(s -> s.json().equals(sheetJson)).reduce((a, b) -> b))
                .flatMap(s -> w.known(s, logFile));
    }

    Optional<Plan> profile(String signature) {
        return open().flatMap(w -> w.profile(signature));
    }

    void remember(Plan plan) {
        open().filter(w -> !w.readOnly()).ifPresent(w -> w.remember(plan));
    }

    private Workbook.Run run(long run) {
        return needed().runs().stream().filter(r -> r.id() == run).findFirst().orElseThrow(() ->
                new nariz.build.InputProblem(String.valueOf(file.getFileName()), 0, 0, "", say("library.no-run", run),
                        say("library.it-was-taken-off")));
    }

    BuildSheet sheet(long run) {
        return BuildSheetReader.parse(say("library.build-sheet"), needed().sheetJson(run(run).sheet()));
    }

    Recording recording(long run) {
        return needed().recording(run(run).id());
    }

    /** Writes a kept run, or a stretch of it where that is asked for, in the format the name asks for. */
    void export(long run, Span stretch, Path to) throws IOException {
        Recording r = recording(run);
        if (to.toString().endsWith(".zip")) {
            Exchange.dataPackage(r, needed().sheetJson(run(run).sheet()), to);
        } else {
            Exchange.csv(r, stretch == null ? Double.NEGATIVE_INFINITY : stretch.fromS(),
                    stretch == null ? Double.POSITIVE_INFINITY : stretch.toS(), to);
        }
    }

    List<Span> excluded(long run) {
        return needed().excluded(run).stream().map(e -> new Span(e.fromS(), e.toS())).toList();
    }

    List<String> checked(long run) {
        return needed().lookedFor(run);
    }

    /** Brings what is kept about a run to what was decided. */
    void decided(long run, List<String> checked, List<Span> excluded) {
        Workbook w = needed();
        if (w.readOnly()) {
            return;
        }
        List<String> before = w.lookedFor(run);
        before.stream().filter(c -> !checked.contains(c)).forEach(c -> w.lookedFor(run, c, false));
        checked.stream().filter(c -> !before.contains(c)).forEach(c -> w.lookedFor(run, c, true));
        List<Workbook.Excluded> out = w.excluded(run);
        out.stream().filter(e -> !excluded.contains(new Span(e.fromS(), e.toS()))).forEach(e -> w.restore(run, e));
        excluded.stream().filter(s -> out.stream().noneMatch(e -> e.fromS() == s.fromS() && e.toS() == s.toS()))
                .forEach(s -> w.exclude(run, s.fromS(), s.toS(), say("library.taken-out-in-the")));
    }

    /**
     * Goes on with another workbook. The one at hand is put away only once the other is open.
     *
     * @param other file; one that is not there begins empty
     * @param from folder that a workbook was exported to, to fill the new one from; null to take the file as it is
     */
    synchronized void turnTo(Path other, Path from) {
        if (workbook != null && workbook.file().equals(other.toAbsolutePath()) && from == null) {
            return;
        }
        boolean fresh = !Files.exists(other);
        Workbook next = Workbook.open(other);
        try {
            if (from != null) {
                Exchange.read(from, next);
            }
        } catch (RuntimeException e) {
            next.close();
            if (fresh) {
                discard(other);
            }
            throw e;
        }
        close();
        workbook = next;
        file = other;
    }

    /** A workbook begun for a folder that turned out to be none leaves nothing behind. */
    private static void discard(Path begun) {
        for (String end : List.of("", "-wal", "-shm")) {
            try {
                Files.deleteIfExists(begun.resolveSibling(begun.getFileName() + end));
            } catch (IOException e) {
                // An empty workbook left over does no harm, and the message that matters is on its way.
            }
        }
    }

    /** Writes the whole workbook into an empty folder. */
    void exportAll(Path folder) throws IOException {
        if (Files.isDirectory(folder) && folder.toFile().list().length > 0) {
            throw new nariz.build.InputProblem(String.valueOf(folder.getFileName()), 0, 0, "",
                    say("library.a-folder-with-something"), say("library.choose-an-empty-one"));
        }
        Exchange.folder(needed(), folder);
    }

    /** {@return name of the workbook's file, or empty when nothing is kept} */
    String name() {
        return file == null ? "" : String.valueOf(file.getFileName());
    }

    /** Takes a run off the list, or puts it back. */
    void removed(long run, boolean off) {
        needed().runRemoved(run, off);
    }

    /** What is kept beside a drive. */
    interface Shelf {
        /** Notes on it. */
        List<Workbook.Note> notes();

        /** Plans for its vehicle. */
        List<Workbook.PartPlan> plans();

        void addNote(double atS, String text);

        void removeNote(Workbook.Note n);

        void addPlan(String name, List<PartChange> changes);

        void removePlan(Workbook.PartPlan p);
    }

    /** Begins an empty shelf for the drive that was just opened, should it not be kept. */
    Shelf newLoose() {
        loose = new Loose();
        return loose;
    }

    /** The shelf of a kept drive; a drive that is not kept, such as the demo, has one for as long as it is open. */
    Shelf shelf(Optional<Long> run) {
        if (run.isEmpty()) {
            return loose;
        }
        return new Kept(needed(), run(run.get()));
    }

    /** In the workbook. */
    private record Kept(Workbook book, Workbook.Run run) implements Shelf {
        @Override
        public List<Workbook.Note> notes() {
            return book.notes(run.vehicle()).stream().filter(n -> n.run().equals(Optional.of(run.id()))).toList();
        }

        @Override
        public List<Workbook.PartPlan> plans() {
            return book.plans(run.vehicle());
        }

        @Override
        public void addNote(double atS, String text) {
            book.addNote(run.vehicle(), Optional.of(run.id()), Optional.of(atS), text);
        }

        @Override
        public void removeNote(Workbook.Note n) {
            notes().stream().filter(x -> x.text().equals(n.text()) && x.atS().equals(n.atS())).findFirst()
                    .ifPresent(x -> book.removeNote(run.vehicle(), x));
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

    /** In memory. */
    private static final class Loose implements Shelf {
        private final List<Workbook.Note> notes = new java.util.concurrent.CopyOnWriteArrayList<>();
        private final List<Workbook.PartPlan> plans = new java.util.concurrent.CopyOnWriteArrayList<>();

        @Override
        public List<Workbook.Note> notes() {
            return List.copyOf(notes);
        }

        @Override
        public List<Workbook.PartPlan> plans() {
            return List.copyOf(plans);
        }

        @Override
        public void addNote(double atS, String text) {
            notes.add(new Workbook.Note(0, Optional.empty(), Optional.of(atS), text, Instant.now()));
        }

        @Override
        public void removeNote(Workbook.Note n) {
            notes.remove(n);
        }

        @Override
        public void addPlan(String name, List<PartChange> changes) {
            plans.add(new Workbook.PartPlan(0, 0, name, changes, Instant.now()));
        }

        @Override
        public void removePlan(Workbook.PartPlan p) {
            plans.remove(p);
        }
    }

    @Override
    public synchronized void close() {
        if (workbook != null) {
            workbook.close();
        }
    }
}
