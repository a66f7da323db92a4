package nariz.app.session;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executor;
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
import nariz.build.InputProblem;
import nariz.build.PartChange;
import nariz.drive.DrivePlan;
import nariz.drive.TipIn;
import nariz.log.DriveLog;
import nariz.log.LogReader;
import nariz.log.Plan;
import nariz.log.Proposal;
import nariz.log.Quality;
import nariz.log.Span;
import nariz.sim.DemoDrive;
import nariz.store.Exchange;
import nariz.store.Workbook;
import nariz.units.Shown;

/**
 * The window's state: which drive is open, where the cursor is, which stop is shown, what is being worked on and what
 * went wrong. Holds no nodes. All methods are called on the interface thread.
 */
public final class Session implements AutoCloseable {
    private final BackgroundWork work;
    private final ReadOnlyObjectWrapper<Drive> drive = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<Integer> cursor = new ReadOnlyObjectWrapper<>(0);
    private final ReadOnlyObjectWrapper<Stop> stop = new ReadOnlyObjectWrapper<>(Stop.IDLE);
    private final ObjectProperty<MixtureUnit> unit = new SimpleObjectProperty<>(MixtureUnit.LAMBDA);
    private final ReadOnlyObjectWrapper<Shown> shown = new ReadOnlyObjectWrapper<>(Shown.now());
    private final ReadOnlyStringWrapper busy = new ReadOnlyStringWrapper("");
    private final ReadOnlyStringWrapper problem = new ReadOnlyStringWrapper("");
    private final ReadOnlyObjectWrapper<Question> question = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<Span> selection = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<List<Library.Entry>> kept = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyStringWrapper workbook = new ReadOnlyStringWrapper("");
    private final Library library;
    private final Intake intake;
    private final BackgroundWork librarian;
    private final BackgroundWork trier;
    private final ReadOnlyObjectWrapper<Effect> effect = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<List<PartChange>> tried = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<List<Workbook.Note>> notes = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<List<Workbook.PartPlan>> plans = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<Comparison> comparison = new ReadOnlyObjectWrapper<>();
    /** Whether a language or unit was chosen that the words on the screen may not follow yet. */
    private boolean wordsDue;
    /** Whether the answer is being put into words. */
    private boolean telling;
    /** How often the demo's engine was driven again. */
    private int round;
    private final History history = new History();

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
     * @param stabs openings of the throttle
     * @param plan readings still to be made, and those that were
     */
    public record Drive(BuildSheet sheet, DriveLog log, Analysis analysis, Trace trace, Boundaries today,
            List<String> checked, List<Quality.Finding> odd, Optional<Long> run, Effect advised, Strips strips,
            Stabs stabs, DrivePlan plan) {
        /** Copies the lists. */
        public Drive {
            checked = List.copyOf(checked);
            odd = List.copyOf(odd);
        }

        Drive keptAs(Optional<Long> place) {
            return new Drive(sheet, log, analysis, trace, today, checked, odd, place, advised, strips, stabs, plan);
        }

        /** The same drive in the language and units in use now. */
        Drive retold() {
            return new Drive(sheet, log, analysis.retold(), trace, today, checked, odd, run, advised, strips, stabs,
                    DrivePlan.of(analysis.observation(), stabs.events()));
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

    /** What the user decided about a drive. */
    private record Decided(List<String> checked, List<Span> excluded) {
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
        work = new BackgroundWork(toInterface);
        librarian = new BackgroundWork(toInterface);
        trier = new BackgroundWork(toInterface);
        library = new Library(workbook);
        // What is still being read tells how far it is; the word that it was cancelled may have come before.
        intake = new Intake(library, words -> toInterface.execute(() -> busy.set(busy.get().isEmpty() ? "" : words)),
                words -> toInterface.execute(() -> complain(words)));
        this.workbook.set(library.name());
        busy.addListener((o, was, now) -> tell());
        list();
    }

    private void list() {
        if (!library.keeps()) {
            return;
        }
        librarian.queue(c -> library.entries(), kept::set, e -> complain(say("session.drives-cannot-be-kept",
                e.getMessage())));
    }

    /** Opens the demo; it is not kept in the workbook. */
    public void openDemo() {
        round = 0;
        open(say("session.simulating-the-demo-drive"), cancelled -> new Intake.Outcome.Shown(Intake.analyse(
                DemoDrive.sheet(),
                DemoDrive.drive().log(), List.of(), List.of(), Optional.empty(), cancelled)));
    }

    /** {@return whether the open drive is of the demo's engine, which can be driven again at once} */
    public boolean practice() {
        return drive.get() != null && drive.get().run().isEmpty() && drive.get().sheet().name().equals(
                DemoDrive.sheet().name());
    }

    /**
     * Drives the demo's engine again with the parts tried, or those advised, and compares the two drives: the round a
     * tuner goes, without the road.
     */
    public void driveAgain() {
        if (!practice()) {
            complain(say("session.only-the-demo-is"));
            return;
        }
        Drive d = drive.get();
        if (!busy.get().isEmpty() || !d.analysis().estimated()) {
            complain(say("session.something-else-is-being"));
            return;
        }
        List<PartChange> parts = effect.get().changes();
        BuildSheet next = PartChange.fit(d.sheet(), parts);
        int n = ++round;
        open(say("session.driving-again"), cancelled -> {
            Drive again = Intake.analyse(next, DemoDrive.again(next, n).log(), List.of(), List.of(), Optional.empty(),
                    cancelled);
            return new Intake.Outcome.Shown(again, Optional.of(Comparison.of(d.log().name(), d.analysis(),
                    again.analysis())));
        });
    }

    /** {@return what the open drive can be compared with: kept drives of the same car, the demo's other day} */
    public List<Comparison.Other> others() {
        Drive d = drive.get();
        if (d == null) {
            return List.of();
        }
        List<Comparison.Other> out = new ArrayList<>();
        if (practice()) {
            out.add(new Comparison.Other(say("session.the-demo-with-its"), 0));
        }
        kept.get().stream().filter(e -> e.vehicle().equals(d.sheet().name()) && !d.run().equals(Optional.of(e.run())))
                .forEach(e -> out.add(new Comparison.Other(e.name() + ", " + e.imported().toString().substring(0, 10),
                        e.run())));
        return out;
    }

    /**
     * Compares the open drive with another of the same car.
     *
     * @param other one of {@link #others}
     */
    public void compareWith(Comparison.Other other) {
        Drive d = drive.get();
        if (!busy.get().isEmpty()) {
            complain(say("session.something-else-is-being-2"));
            return;
        }
        busy.set(say("session.comparing"));
        problem.set("");
        work.start(cancelled -> {
            Analysis a;
            if (other.run() == 0) {
                a = Analysis.of(DemoDrive.sheet(), DemoDrive.withCleaner().log(), Strategy.BALANCED, List.of(),
                        cancelled);
            } else {
                BuildSheet sheet = library.sheet(other.run());
                a = Analysis.of(sheet, LogReader.drive(library.recording(other.run()), sheet).without(
                        library.excluded(other.run())), Strategy.BALANCED, library.checked(other.run()), cancelled);
            }
            return Comparison.of(other.label(), a, d.analysis());
        }, c -> {
            busy.set("");
            Comparison before = comparison.get();
            history.did(say("session.compared"), true, () -> comparison.set(before), () -> comparison.set(c));
            comparison.set(c);
        }, this::fail);
    }

    /** Ends the comparison; nothing when there is none. */
    public void endComparison() {
        Comparison c = comparison.get();
        if (c != null) {
            history.did(say("session.comparison-put-away"), true, () -> comparison.set(c), () -> comparison.set(
                    null));
            comparison.set(null);
        }
    }

    /** {@return the drive the open one is compared with, or null} */
    public ReadOnlyObjectProperty<Comparison> comparisonProperty() {
        return comparison.getReadOnlyProperty();
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
        open(say("session.reading", logFile.getFileName()), cancelled -> intake.files(sheetFile, logFile, cancelled));
    }

    /**
     * Opens a data package, which brings its own build sheet, and keeps it in the workbook.
     *
     * @param zip package written by this program
     */
    public void openPackage(Path zip) {
        open(say("session.reading", zip.getFileName()), cancelled -> intake.dataPackage(zip, cancelled));
    }

    /**
     * Goes on with another workbook; the drive that was open is closed, for it belongs to the first.
     *
     * @param file workbook; begun when it is not there
     * @param from folder that a workbook was written out to, for a workbook not begun yet; or null
     */
    public void openWorkbook(Path file, Path from) {
        if (!busy.get().isEmpty()) {
            complain(say("session.something-is-being-read"));
            return;
        }
        busy.set(say("session.opening", file.getFileName()));
        problem.set("");
        librarian.queue(c -> {
            library.turnTo(file, from);
            return library.entries();
        }, entries -> {
            busy.set("");
            history.clear();
            selection.set(null);
            tried.set(List.of());
            effect.set(null);
            notes.set(List.of());
            plans.set(List.of());
            comparison.set(null);
            drive.set(null);
            workbook.set(library.name());
            kept.set(entries);
        }, this::fail);
    }

    /**
     * Writes the whole workbook out as CSV and JSON.
     *
     * @param folder an empty folder, or one to make
     */
    public void exportAll(Path folder) {
        writeOut(folder, () -> library.exportAll(folder));
    }

    /** {@return name of the workbook drives are kept in, or empty} */
    public ReadOnlyStringProperty workbookProperty() {
        return workbook.getReadOnlyProperty();
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
        open(say("session.reading", q.logFile().getFileName()), cancelled -> intake.answered(q, plan.confirmed(),
                cancelled));
    }

    /**
     * Opens a drive that is kept in the workbook.
     *
     * @param run its key
     */
    public void openKept(long run) {
        open(say("session.opening-a-kept-drive"), cancelled -> intake.kept(run, cancelled));
    }

    private void open(String what, BackgroundWork.Job<Intake.Outcome> job) {
        busy.set(what);
        problem.set("");
        question.set(null);
        work.start(job, this::came, this::fail);
    }

    private void came(Intake.Outcome o) {
        switch (o) {
            case Intake.Outcome.Shown s -> {
                history.endOfDrive();
                show(s.drive());
                s.against().ifPresent(c -> {
                    comparison.set(c);
                    goTo(Stop.PROOF);
                });
                list();
                if (library.elsewhere()) {
                    complain(say("session.another-window-has-the"));
                }
            }
            case Intake.Outcome.Asked a -> {
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
        decide(say(soundNow ? "session.looked-for" : "session.weighed-again", causeLabel(cause)),
                new Decided(all, d.log().excluded()));
    }

    /** Takes the selected stretch out of the computation; nothing without a selection. */
    public void exclude() {
        Drive d = drive.get();
        if (d != null && selection.get() != null) {
            List<Span> all = new ArrayList<>(d.log().excluded());
            all.add(selection.get());
            selection.set(null);
            decide(say("session.stretch-taken-out"), new Decided(d.checked(), all));
        }
    }

    /** Lets the stretch under the cursor count again; nothing where none was taken out. */
    public void restore() {
        Drive d = drive.get();
        if (d != null) {
            double t = d.log().timeS()[cursor.get()];
            List<Span> left = d.log().excluded().stream().filter(s -> !s.holds(t)).toList();
            if (left.size() < d.log().excluded().size()) {
                decide(say("session.stretch-counts-again"), new Decided(d.checked(), left));
            }
        }
    }

    /**
     * A cause as a person would say it.
     *
     * @param cause key as in an advice's hypotheses
     * @return its name
     */
    public static String causeLabel(String cause) {
        return say("cause." + cause);
    }

    private void decide(String title, Decided next) {
        Drive d = drive.get();
        Decided was = new Decided(d.checked(), d.log().excluded());
        history.did(title, true, () -> weigh(was), () -> weigh(next));
        weigh(next);
    }

    /** Takes back what was done last. */
    public void undo() {
        undo(1);
    }

    /**
     * Takes back several steps at once.
     *
     * @param steps how many, the latest first
     */
    public void undo(int steps) {
        if (busy.get().isEmpty()) {
            history.undo(steps);
        }
    }

    /** Brings back what was taken back last. */
    public void redo() {
        if (busy.get().isEmpty()) {
            history.redo();
        }
    }

    /** {@return what undo would take back, the latest first} */
    public ReadOnlyObjectProperty<List<String>> historyProperty() {
        return history.titlesProperty();
    }

    /** Puts the answer into words once more, after another language or unit was chosen; nothing else changes. */
    public void retell() {
        wordsDue = true;
        tell();
    }

    /**
     * One telling at a time, and none while a drive is being worked on; a choice that comes meanwhile is followed
     * afterwards, since what is under way may have been worded half before it and half after.
     */
    private void tell() {
        if (!wordsDue || telling || !busy.get().isEmpty()) {
            return;
        }
        wordsDue = false;
        Drive d = drive.get();
        if (d == null) {
            return;
        }
        telling = true;
        // In line with the trials: neither a trial nor what is read next takes the place of the words.
        trier.queue(cancelled -> d.retold(), told -> {
            telling = false;
            if (d.equals(drive.get())) {
                drive.set(told);
                effect.set(tried.get().isEmpty() ? told.advised() : effect.get());
            } else {
                wordsDue = true;
            }
            tell();
        }, e -> {
            telling = false;
            fail(e);
        });
    }

    /**
     * Shows numbers in other units, everywhere at once.
     *
     * @param units units of everything but mixtures
     */
    public void use(Shown units) {
        Shown.use(units);
        shown.set(units);
        retell();
    }

    /** {@return units of everything but mixtures} */
    public ReadOnlyObjectProperty<Shown> shownProperty() {
        return shown.getReadOnlyProperty();
    }

    private void weigh(Decided now) {
        Drive d = drive.get();
        busy.set(say("session.weighing-again"));
        problem.set("");
        work.start(cancelled -> {
            Drive next = Intake.analyse(d.sheet(), d.log().without(now.excluded()), now.checked(), d.odd(), d.run(),
                    cancelled);
            d.run().ifPresent(r -> library.decided(r, now.checked(), now.excluded()));
            return next;
        }, this::show, this::fail);
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
            // What was weighed anew compares anew.
            Comparison c = comparison.get();
            comparison.set(c == null || !d.analysis().estimated() ? null : Comparison.of(c.name(), c.other(),
                    d.analysis()));
        } else {
            comparison.set(null);
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
            // The same log told in other words is still the same drive.
            if (drive.get() != null && d.log().equals(drive.get().log())) {
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
            history.did(say("session.parts-tried"), true, () -> tryParts(before), () -> tryParts(now));
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
            complain(say("session.nothing-is-being-tried"));
            return;
        }
        onShelf(say("session.plan", name), s -> s.addPlan(name, parts), s -> s.plans().stream().filter(p -> p.name()
                .equals(name))
                .reduce((a, b) -> b).ifPresent(s::removePlan));
    }

    /**
     * Takes a plan off the list.
     *
     * @param p plan
     */
    public void removePlan(Workbook.PartPlan p) {
        onShelf(say("session.plan-taken-off", p.name()), s -> s.removePlan(p), s -> s.addPlan(p.name(), p.changes()));
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
        onShelf(say("session.note"), s -> s.addNote(at, text.strip()), s -> s.notes().stream().filter(n -> n.text()
                .equals(
                text.strip()) && n.atS().equals(Optional.of(at))).reduce((a, b) -> b).ifPresent(s::removeNote));
    }

    /**
     * Puts a note in other words; it stays on its moment.
     *
     * @param n note
     * @param text what to keep instead
     */
    public void rewordNote(Workbook.Note n, String text) {
        String words = text.strip();
        if (words.isEmpty() || words.equals(n.text())) {
            return;
        }
        double at = n.atS().orElse(0.0);
        onShelf(say("session.note-reworded"), s -> reword(s, at, n.text(), words), s -> reword(s, at, words, n.text()));
    }

    private static void reword(Library.Shelf s, double at, String from, String to) {
        s.notes().stream().filter(n -> n.text().equals(from) && n.atS().orElse(0.0) == at).reduce((a, b) -> b)
                .ifPresent(n -> {
                    s.removeNote(n);
                    s.addNote(at, to);
                });
    }

    /**
     * Takes a note away.
     *
     * @param n note
     */
    public void removeNote(Workbook.Note n) {
        onShelf(say("session.note-taken-away"), s -> s.removeNote(n), s -> s.addNote(n.atS().orElse(0.0), n.text()));
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
            complain(say("session.only-kept-drives-are"));
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
        String what = say("session.writing", file.getFileName());
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
                throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "",
                        say("session.a-place-that-cannot", e.getClass().getSimpleName()),
                                say("session.choose-another-folder-nothing"));
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
        history.did(say("session.drive-taken-off-the"), false, () -> onList(() -> library.removed(run, false)),
                () -> onList(() -> library.removed(run, true)));
        onList(() -> library.removed(run, true));
    }

    private void onList(Runnable change) {
        librarian.queue(c -> {
            change.run();
            return library.entries();
        }, kept::set, e -> complain(e.getMessage()));
    }

    private void onShelf(String title, Consumer<Library.Shelf> again, Consumer<Library.Shelf> back) {
        history.did(title, true, () -> shelve(back), () -> shelve(again));
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
                : say("session.something-unexpected-went-wrong", e));
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
        if (d == null) {
            return;
        }
        switch (s) {
            case PUMP -> d.stabs().events().stream().max(java.util.Comparator.comparingDouble(TipIn::leanest))
                    .ifPresent(t -> moveCursor(t.sample()));
            case PROOF -> {
                if (comparison.get() != null) {
                    comparison.get().result().pairs().stream().max(java.util.Comparator.comparingDouble(p ->
                            Math.abs(p.difference()) * Math.sqrt(p.seconds()))).ifPresent(p ->
                            moveCursor(p.afterSample()));
                }
            }
            default -> moveCursor(d.trace().bestMoment(d.analysis(), s));
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
