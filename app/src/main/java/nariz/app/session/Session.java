package nariz.app.session;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleObjectProperty;
import nariz.advice.Analysis;
import nariz.advice.Strategy;
import nariz.build.BuildSheet;
import nariz.build.BuildSheetReader;
import nariz.build.InputProblem;
import nariz.build.PartChange;
import nariz.log.DriveLog;
import nariz.log.LogReader;
import nariz.log.Plan;
import nariz.log.PointReader;
import nariz.log.Proposal;
import nariz.log.Quality;
import nariz.log.Recording;
import nariz.log.Span;
import nariz.log.TrackReader;
import nariz.sim.DemoDrive;
import nariz.store.Exchange;
import nariz.store.Workbook;

/**
 * The window's state: which drive is open, where the cursor is, which stop is shown, what is being worked on and what
 * went wrong. Holds no nodes. All methods are called on the interface thread.
 */
public final class Session implements AutoCloseable {
    private static final long TELL_NS = 300_000_000L;
    private final Executor toInterface;
    private final BackgroundWork work;
    private final ReadOnlyObjectWrapper<Drive> drive = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<Integer> cursor = new ReadOnlyObjectWrapper<>(0);
    private final ReadOnlyObjectWrapper<Stop> stop = new ReadOnlyObjectWrapper<>(Stop.IDLE);
    private final ObjectProperty<MixtureUnit> unit = new SimpleObjectProperty<>(MixtureUnit.LAMBDA);
    private final ReadOnlyStringWrapper busy = new ReadOnlyStringWrapper("");
    private final ReadOnlyStringWrapper problem = new ReadOnlyStringWrapper("");
    private final ReadOnlyObjectWrapper<Question> question = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<Span> selection = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<List<Library.Entry>> kept = new ReadOnlyObjectWrapper<>(List.of());
    private final Library library;
    private final BackgroundWork librarian;
    private final BackgroundWork trier;
    private final ReadOnlyObjectWrapper<Effect> effect = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<List<PartChange>> tried = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<List<Workbook.Note>> notes = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<List<Workbook.PartPlan>> plans = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<List<String>> history = new ReadOnlyObjectWrapper<>(List.of());
    private final Deque<Step> undo = new ArrayDeque<>();
    private final Deque<Step> redo = new ArrayDeque<>();

    /**
     * A drive with its analysis.
     *
     * @param sheet build sheet
     * @param log what was recorded
     * @param analysis answer and what it rests on
     * @param trace display series
     * @param today boundaries between circuits with today's parts
     * @param checked causes the tuner has looked for and not found
     * @param odd what is odd in the log
     * @param run where it is kept in the workbook, if it is
     * @param advised what the changes to make now would do
     * @param strips what the trace shows
     */
    public record Drive(BuildSheet sheet, DriveLog log, Analysis analysis, Trace trace, Boundaries today,
            List<String> checked, List<Quality.Finding> odd, Optional<Long> run, Effect advised, Strips strips) {
        /** Copies the lists. */
        public Drive {
            checked = List.copyOf(checked);
            odd = List.copyOf(odd);
        }

        Drive keptAs(Optional<Long> place) {
            return new Drive(sheet, log, analysis, trace, today, checked, odd, place, advised, strips);
        }
    }

    /**
     * A log whose columns are not all clear.
     *
     * @param sheetFile build sheet
     * @param logFile log
     * @param proposal what the columns seem to be
     * @param why what is not clear, for people
     */
    public record Question(Path sheetFile, Path logFile, Proposal proposal, String why) {
    }

    /** What came of opening files: a drive, or a question about its columns. */
    private sealed interface Outcome {
        record Shown(Drive drive) implements Outcome {
        }

        record Asked(Question question) implements Outcome {
        }
    }

    /** What the user decided about a drive. */
    private record Decided(List<String> checked, List<Span> excluded) {
    }

    /** Something done that can be taken back; what concerns one drive alone ends with it. */
    private record Step(String title, boolean ofDrive, Runnable back, Runnable again) {
    }

    /**
     * An empty session.
     *
     * @param toInterface runs what it is given on the interface thread
     */
    public Session(Executor toInterface) {
        this(toInterface, null);
    }

    /**
     * An empty session that keeps its drives.
     *
     * @param toInterface runs what it is given on the interface thread
     * @param workbook where drives are kept, or null to keep none
     */
    public Session(Executor toInterface, Path workbook) {
        this.toInterface = toInterface;
        work = new BackgroundWork(toInterface);
        librarian = new BackgroundWork(toInterface);
        trier = new BackgroundWork(toInterface);
        library = new Library(workbook);
        list();
    }

    private void list() {
        if (!library.keeps()) {
            return;
        }
        librarian.queue(c -> library.entries(), kept::set, e -> complain("Drives cannot be kept: " + e.getMessage()));
    }

    /** Opens the demo; it is not kept in the workbook. */
    public void openDemo() {
        open("Simulating the demo drive", cancelled -> new Outcome.Shown(analyse(DemoDrive.sheet(),
                DemoDrive.drive().log(), List.of(), List.of(), Optional.empty(), cancelled)));
    }

    /**
     * Opens a build sheet and a log, and keeps them in the workbook. Where the log does not say what its columns are,
     * the
     * {@link #questionProperty} is set.
     *
     * @param sheetFile build sheet (JSON)
     * @param logFile log
     */
    public void open(Path sheetFile, Path logFile) {
        open("Reading " + logFile.getFileName(), cancelled -> {
            BuildSheet sheet = BuildSheetReader.read(sheetFile);
            try {
                return keep(sheetFile, sheet, read(logFile, null, cancelled), logFile, cancelled);
            } catch (InputProblem e) {
                return ask(sheetFile, sheet, logFile, e, cancelled);
            }
        });
    }

    /** A short list of noted points counts as a log. */
    private Recording read(Path file, Plan plan, BooleanSupplier cancelled) {
        Optional<Recording> points = plan == null ? PointReader.read(file) : Optional.empty();
        if (points.isPresent()) {
            return points.get();
        }
        long started = System.nanoTime();
        long[] told = {started};
        Recording r = LogReader.record(file, plan, cancelled, rows -> {
            long now = System.nanoTime();
            if (now - told[0] > TELL_NS) {
                told[0] = now;
                String words = String.format(Locale.ROOT, "Reading %s: %.1f million rows, %.0f thousand a second",
                        file.getFileName(), rows / 1e6, rows * 1e6 / (now - started));
                toInterface.execute(() -> busy.set(busy.get().isEmpty() ? "" : words));
            }
        });
        Path track = file.resolveSibling(String.valueOf(file.getFileName()).replaceFirst("\\.[^.]*$", "") + ".gpx");
        // A track of the same name beside the log belongs to it.
        if (!Files.isRegularFile(track)) {
            return r;
        }
        try {
            return r.beside(TrackReader.read(track));
        } catch (InputProblem e) {
            toInterface.execute(() -> complain("The track was left out. " + e.getMessage()));
            return r;
        }
    }

    private Outcome ask(Path sheetFile, BuildSheet sheet, Path logFile, InputProblem why, BooleanSupplier cancelled) {
        Proposal p;
        try {
            p = LogReader.propose(logFile);
        } catch (InputProblem e) {
            throw why;
        }
        Optional<Plan> before = library.profile(p.plan().signature());
        if (before.isPresent()) {
            return keep(sheetFile, sheet, read(logFile, before.get(), cancelled), logFile, cancelled);
        }
        if (p.plan().certain() || !p.plan().missing().isEmpty()) {
            throw why;
        }
        return new Outcome.Asked(new Question(sheetFile, logFile, p, why.getMessage()));
    }

    /**
     * Reads the log in question by a plan, and remembers the plan for the next file of that source.
     *
     * @param plan what the columns mean, as the user agreed
     */
    public void answer(Plan plan) {
        Question q = question.get();
        if (q == null) {
            return;
        }
        open("Reading " + q.logFile().getFileName(), cancelled -> {
            BuildSheet sheet = BuildSheetReader.read(q.sheetFile());
            Recording r = read(q.logFile(), plan.confirmed(), cancelled);
            Outcome o = keep(q.sheetFile(), sheet, r, q.logFile(), cancelled);
            library.remember(plan.confirmed());
            return o;
        });
    }

    private Outcome keep(Path sheetFile, BuildSheet sheet, Recording r, Path logFile, BooleanSupplier cancelled) {
        DriveLog log = LogReader.drive(r, sheet);
        Optional<Long> known = library.known(sheetFile, sheet, logFile);
        if (known.isPresent()) {
            long run = known.get();
            return new Outcome.Shown(analyse(sheet, log.without(library.excluded(run)), library.checked(run),
                    Quality.of(r), known, cancelled));
        }
        Drive d = analyse(sheet, log, List.of(), Quality.of(r), Optional.empty(), cancelled);
        return new Outcome.Shown(d.keptAs(library.keep(sheetFile, sheet, r, logFile, d.analysis().advice(),
                cancelled)));
    }

    /**
     * Opens a drive that is kept in the workbook.
     *
     * @param run its key
     */
    public void openKept(long run) {
        open("Opening a kept drive", cancelled -> {
            BuildSheet sheet = library.sheet(run);
            Recording r = library.recording(run);
            DriveLog log = LogReader.drive(r, sheet).without(library.excluded(run));
            return new Outcome.Shown(analyse(sheet, log, library.checked(run), Quality.of(r), Optional.of(run),
                    cancelled));
        });
    }

    private void open(String what, BackgroundWork.Job<Outcome> job) {
        busy.set(what);
        problem.set("");
        question.set(null);
        work.start(job, this::came, this::fail);
    }

    private void came(Outcome o) {
        switch (o) {
            case Outcome.Shown s -> {
                undo.removeIf(Step::ofDrive);
                redo.removeIf(Step::ofDrive);
                told();
                show(s.drive());
                list();
                if (library.elsewhere()) {
                    complain("Another window has the workbook open, so this one only reads: the drive is shown, "
                            + "and neither it nor what you decide is kept. Close the other window and open the drive "
                            + "again.");
                }
            }
            case Outcome.Asked a -> {
                busy.set("");
                problem.set(a.question().why());
                question.set(a.question());
            }
        }
    }

    /** Puts the question about columns away; nothing is opened. */
    public void dismissQuestion() {
        question.set(null);
    }

    /**
     * Takes note that the tuner has looked for a cause and not found it, or takes that back, and weighs again.
     *
     * @param cause key as in an advice's hypotheses
     * @param soundNow whether it was looked for and not found
     */
    public void checked(String cause, boolean soundNow) {
        Drive d = drive.get();
        if (d == null || d.checked().contains(cause) == soundNow) {
            return;
        }
        List<String> all = new ArrayList<>(d.checked());
        all.remove(cause);
        if (soundNow) {
            all.add(cause);
        }
        decide(cause.replace('-', ' ') + (soundNow ? " looked for" : " weighed again"),
                new Decided(all, d.log().excluded()));
    }

    /** Takes the selected stretch out of the computation; nothing without a selection. */
    public void exclude() {
        Drive d = drive.get();
        if (d != null && selection.get() != null) {
            List<Span> all = new ArrayList<>(d.log().excluded());
            all.add(selection.get());
            selection.set(null);
            decide("stretch taken out", new Decided(d.checked(), all));
        }
    }

    /** Lets the stretch under the cursor count again; nothing where none was taken out. */
    public void restore() {
        Drive d = drive.get();
        if (d != null) {
            double t = d.log().timeS()[cursor.get()];
            List<Span> left = d.log().excluded().stream().filter(s -> !s.holds(t)).toList();
            if (left.size() < d.log().excluded().size()) {
                decide("stretch counts again", new Decided(d.checked(), left));
            }
        }
    }

    private void decide(String title, Decided next) {
        Drive d = drive.get();
        Decided was = new Decided(d.checked(), d.log().excluded());
        did(new Step(title, true, () -> weigh(was), () -> weigh(next)));
        weigh(next);
    }

    private void did(Step s) {
        undo.push(s);
        redo.clear();
        told();
    }

    private void told() {
        history.set(undo.stream().map(Step::title).toList());
    }

    /** Takes back what was done last. */
    public void undo() {
        if (!undo.isEmpty() && busy.get().isEmpty()) {
            Step s = undo.pop();
            redo.push(s);
            told();
            s.back().run();
        }
    }

    /** Brings back what was taken back last. */
    public void redo() {
        if (!redo.isEmpty() && busy.get().isEmpty()) {
            Step s = redo.pop();
            undo.push(s);
            told();
            s.again().run();
        }
    }

    /** {@return what undo would take back, the latest first} */
    public ReadOnlyObjectProperty<List<String>> historyProperty() {
        return history.getReadOnlyProperty();
    }

    private void weigh(Decided now) {
        Drive d = drive.get();
        busy.set("Weighing again");
        problem.set("");
        work.start(cancelled -> {
            Drive next = analyse(d.sheet(), d.log().without(now.excluded()), now.checked(), d.odd(), d.run(),
                    cancelled);
            d.run().ifPresent(r -> library.decided(r, now.checked(), now.excluded()));
            return next;
        }, this::show, this::fail);
    }

    private static Drive analyse(BuildSheet sheet, DriveLog log, List<String> checked, List<Quality.Finding> odd,
            Optional<Long> run, BooleanSupplier cancelled) {
        Analysis a = Analysis.of(sheet, log, Strategy.BALANCED, checked, cancelled);
        Trace trace = Trace.of(a);
        return new Drive(sheet, log, a, trace, Boundaries.of(sheet, a), checked, odd, run, Effect.advised(a),
                Strips.of(sheet, log, a, trace));
    }

    private void show(Drive d) {
        // The same drive weighed again keeps its cursor.
        boolean again = drive.get() != null && java.util.Arrays.equals(drive.get().log().timeS(), d.log().timeS());
        int at = again ? cursor.get() : 0;
        busy.set("");
        cursor.set(0);
        selection.set(null);
        tried.set(List.of());
        effect.set(d.advised());
        drive.set(d);
        if (again) {
            cursor.set(at);
        } else {
            notes.set(List.of());
            plans.set(List.of());
            librarian.queue(c -> library.newLoose(), s -> { }, e -> { });
            shelve(x -> { });
            goTo(d.analysis().advice().blamed().map(Stop::of).orElse(Stop.IDLE));
        }
    }

    /**
     * Selects a stretch of the log.
     *
     * @param span stretch, or null for none
     */
    public void select(Span span) {
        selection.set(span);
    }

    /**
     * Tries parts on this drive: pictures follow as soon as it is reckoned, a later trial overtakes an earlier one.
     *
     * @param changes parts in other sizes; none shows the advised ones again
     */
    public void tryParts(List<PartChange> changes) {
        Drive d = drive.get();
        if (d == null || !d.analysis().estimated()) {
            return;
        }
        tried.set(List.copyOf(changes));
        if (changes.isEmpty()) {
            trier.cancel();
            effect.set(d.advised());
            return;
        }
        trier.start(cancelled -> Effect.tried(d.analysis(), changes), e -> {
            if (d.equals(drive.get())) {
                effect.set(e);
            }
        }, this::fail);
    }

    /**
     * Makes a step that undo takes back of a trial, once the hand has let go.
     *
     * @param before parts tried before it
     */
    public void triedFrom(List<PartChange> before) {
        List<PartChange> now = tried.get();
        if (!now.equals(before)) {
            did(new Step("parts tried", true, () -> tryParts(before), () -> tryParts(now)));
        }
    }

    /** {@return parts being tried, empty when the advised ones are shown} */
    public ReadOnlyObjectProperty<List<PartChange>> triedProperty() {
        return tried.getReadOnlyProperty();
    }

    /** {@return what the pictures draw over today: the parts tried, or those advised; null without a drive} */
    public ReadOnlyObjectProperty<Effect> effectProperty() {
        return effect.getReadOnlyProperty();
    }

    /**
     * Keeps the parts being tried as a plan.
     *
     * @param name as the user calls it
     */
    public void keepPlan(String name) {
        List<PartChange> parts = tried.get();
        if (parts.isEmpty()) {
            complain("Nothing is being tried. Move a part first, then keep it as a plan.");
            return;
        }
        onShelf("plan " + name, s -> s.addPlan(name, parts), s -> s.plans().stream().filter(p -> p.name().equals(name))
                .reduce((a, b) -> b).ifPresent(s::removePlan));
    }

    /**
     * Takes a plan off the list.
     *
     * @param p plan
     */
    public void removePlan(Workbook.PartPlan p) {
        onShelf("plan " + p.name() + " taken off", s -> s.removePlan(p), s -> s.addPlan(p.name(), p.changes()));
    }

    /**
     * Writes a note on the moment under the cursor.
     *
     * @param text what to keep
     */
    public void note(String text) {
        Drive d = drive.get();
        if (d == null || text.isBlank()) {
            return;
        }
        double at = d.log().timeS()[cursor.get()];
        onShelf("note", s -> s.addNote(at, text.strip()), s -> s.notes().stream().filter(n -> n.text().equals(
                text.strip()) && n.atS().equals(Optional.of(at))).reduce((a, b) -> b).ifPresent(s::removeNote));
    }

    /**
     * Takes a note away.
     *
     * @param n note
     */
    public void removeNote(Workbook.Note n) {
        onShelf("note taken away", s -> s.removeNote(n), s -> s.addNote(n.atS().orElse(0.0), n.text()));
    }

    /**
     * Writes a file beside the interface thread; what stood there is replaced only once the new one is whole.
     *
     * @param file where to
     * @param writing writes it
     */
    public void write(Path file, Exchange.Writing writing) {
        writeOut(file, () -> Exchange.whole(file, writing));
    }

    /**
     * Writes the open drive out: the selected stretch or all of it as CSV with a row of units, or the whole as a data
     * package where the name ends in .zip.
     *
     * @param file where to
     */
    public void export(Path file) {
        Drive d = drive.get();
        if (d == null) {
            return;
        }
        if (d.run().isEmpty()) {
            complain("Only kept drives are written out; the demo's files come from \"nariz demo-log\".");
            return;
        }
        Span s = selection.get();
        writeOut(file, () -> library.export(d.run().get(), s, file));
    }

    /** Work on a file that may fail. */
    @FunctionalInterface
    private interface FileWork {
        void run() throws IOException;
    }

    private void writeOut(Path file, FileWork job) {
        String what = "Writing " + file.getFileName();
        if (busy.get().isEmpty()) {
            busy.set(what);
        }
        problem.set("");
        // Not on the worker that reads logs: starting there would cancel one.
        librarian.queue(cancelled -> {
            try {
                job.run();
                return file;
            } catch (IOException e) {
                throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "", "a place that cannot be written ("
                        + e.getClass().getSimpleName() + ")", "Choose another folder; nothing was written.");
            }
        }, f -> written(what), e -> {
            written(what);
            complain(e.getMessage());
        });
    }

    private void written(String what) {
        if (busy.get().equals(what)) {
            busy.set("");
        }
    }

    /**
     * Takes a kept drive off the list.
     *
     * @param run its key
     */
    public void takeOff(long run) {
        did(new Step("drive taken off the list", false, () -> onList(() -> library.removed(run, false)),
                () -> onList(() -> library.removed(run, true))));
        onList(() -> library.removed(run, true));
    }

    private void onList(Runnable change) {
        librarian.queue(c -> {
            change.run();
            return library.entries();
        }, kept::set, e -> complain(e.getMessage()));
    }

    private void onShelf(String title, Consumer<Library.Shelf> again, Consumer<Library.Shelf> back) {
        did(new Step(title, true, () -> shelve(back), () -> shelve(again)));
        shelve(again);
    }

    /** Does something to what is kept beside a drive and shows it. */
    private void shelve(Consumer<Library.Shelf> change) {
        Drive d = drive.get();
        librarian.queue(c -> {
            Library.Shelf s = library.shelf(d.run());
            change.accept(s);
            return s;
        }, s -> {
            if (drive.get() != null && drive.get().run().equals(d.run())) {
                notes.set(s.notes());
                plans.set(s.plans());
            }
        }, e -> complain(e.getMessage()));
    }

    /** {@return notes on the open drive} */
    public ReadOnlyObjectProperty<List<Workbook.Note>> notesProperty() {
        return notes.getReadOnlyProperty();
    }

    /** {@return plans kept for the open drive's vehicle} */
    public ReadOnlyObjectProperty<List<Workbook.PartPlan>> plansProperty() {
        return plans.getReadOnlyProperty();
    }

    /** {@return the selected stretch, or null} */
    public ReadOnlyObjectProperty<Span> selectionProperty() {
        return selection.getReadOnlyProperty();
    }

    /** {@return the question about a log's columns, or null} */
    public ReadOnlyObjectProperty<Question> questionProperty() {
        return question.getReadOnlyProperty();
    }

    /** {@return drives kept in the workbook, the latest first} */
    public ReadOnlyObjectProperty<List<Library.Entry>> keptProperty() {
        return kept.getReadOnlyProperty();
    }

    private void fail(RuntimeException e) {
        busy.set("");
        problem.set(e instanceof InputProblem ? e.getMessage()
                : "Something unexpected went wrong (" + e + "). Nothing was changed; the drive shown before is still "
                + "open.");
    }

    /** Cancels what is being worked on; what was open stays open. */
    public void cancel() {
        work.cancel();
        busy.set("");
    }

    /** Puts the message away. */
    public void dismissProblem() {
        problem.set("");
    }

    /**
     * Complains about something the user tried.
     *
     * @param message what was found and what to do
     */
    public void complain(String message) {
        problem.set(message);
    }

    /**
     * Moves the cursor.
     *
     * @param sample sample, clamped to the log
     */
    public void moveCursor(int sample) {
        Drive d = drive.get();
        if (d != null) {
            cursor.set(Math.clamp(sample, 0, d.log().size() - 1));
        }
    }

    /**
     * Shows a stop and takes the log to the moment that speaks loudest for it.
     *
     * @param s stop
     */
    public void goTo(Stop s) {
        stop.set(s);
        Drive d = drive.get();
        if (d != null) {
            moveCursor(d.trace().bestMoment(d.analysis(), s));
        }
    }

    /** {@return the open drive, or null} */
    public ReadOnlyObjectProperty<Drive> driveProperty() {
        return drive.getReadOnlyProperty();
    }

    /** {@return sample under the cursor} */
    public ReadOnlyObjectProperty<Integer> cursorProperty() {
        return cursor.getReadOnlyProperty();
    }

    /** {@return the stop that is shown} */
    public ReadOnlyObjectProperty<Stop> stopProperty() {
        return stop.getReadOnlyProperty();
    }

    /** {@return how mixtures are shown} */
    public ObjectProperty<MixtureUnit> unitProperty() {
        return unit;
    }

    /** {@return what is being worked on, or empty} */
    public ReadOnlyStringProperty busyProperty() {
        return busy.getReadOnlyProperty();
    }

    /** {@return what went wrong, or empty} */
    public ReadOnlyStringProperty problemProperty() {
        return problem.getReadOnlyProperty();
    }

    @Override
    public void close() {
        work.close();
        trier.close();
        librarian.close();
        library.close();
    }
}
