package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executor;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.SimpleObjectProperty;
import nariz.app.task.FaultLog;
import nariz.app.task.TaskRunner;
import nariz.app.words.WindowWords;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.NeedleChart;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Previous;
import nariz.log.ColumnPlan;
import nariz.log.Plan;
import nariz.log.Span;
import nariz.sim.Demo;
import nariz.units.Shown;

/**
 * The window's state: which drive is open, where the cursor is, which stop is shown, what the user decided, what is
 * being worked on and what went wrong. Holds no nodes. All methods are called on the interface thread. What belongs to
 * a task of its own stands in {@link #trials}, {@link #notes}, {@link #garage} and {@link #comparisons}.
 *
 * <p>In one piece because what is open, decided, selected and undone must change together: each of its short methods
 * touches several of them.
 */
public final class Session implements AutoCloseable {
    private final SessionContext context;
    private final Garage garage;
    private final Trials trials;
    private final Notes notes;
    private final Comparisons comparisons;
    private final DriveOpener opener;
    private final FollowedDrive followed;
    private final LiveDrive live;
    private final ReadOnlyObjectWrapper<Integer> cursor = new ReadOnlyObjectWrapper<>(0);
    private final ReadOnlyObjectWrapper<Stop> stop = new ReadOnlyObjectWrapper<>(Stops.IDLE);
    private final ObjectProperty<MixtureUnit> unit = new SimpleObjectProperty<>(MixtureUnit.LAMBDA);
    private final ReadOnlyObjectWrapper<Shown> shown = new ReadOnlyObjectWrapper<>(WindowWords.units());
    private final ReadOnlyObjectWrapper<ColumnsQuestion> question = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<Span> selection = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<Decisions> decisions = new ReadOnlyObjectWrapper<>(Decisions.NONE);
    /** Whether what is being worked on is the open drive weighed anew, which undo may overtake. */
    private boolean weighing;
    /** Counts openings of drives in this sitting. */
    private long openings;
    private final ObjectProperty<Optional<NeedleChart>> needles = new SimpleObjectProperty<>(Optional.empty());
    /** How often the demo's engine was driven again. */
    private int round;

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
        this(toInterface, workbook, FaultLog.none());
    }

    /**
     * An empty session that keeps its drives and writes unexpected faults down.
     *
     * @param toInterface runs what it is given on the interface thread
     * @param workbook where drives are kept, or null to keep none
     * @param faults where faults go
     */
    public Session(Executor toInterface, Path workbook, FaultLog faults) {
        context = new SessionContext(toInterface, new DriveRepository(workbook), faults);
        garage = new Garage(context);
        trials = new Trials(context);
        notes = new Notes(context, trials);
        comparisons = new Comparisons(context, garage);
        // What is still being read tells how far it is; the word that it was cancelled may have come before.
        opener = new DriveOpener(context.repository, words -> toInterface.execute(() -> context.busy.set(
                context.busy.get().isEmpty() ? "" : words)), words -> toInterface.execute(() -> complain(words)));
        followed = new FollowedDrive(context, toInterface, opener, new FollowedDrive.Host() {
            @Override
            public Decisions decisions() {
                return decisions.get();
            }

            @Override
            public void show(Drive d, boolean first) {
                if (first) {
                    showOpened(d);
                } else {
                    showMore(d);
                }
            }

            @Override
            public void open(String words, TaskRunner.Task<DriveOpener.Outcome> task) {
                Session.this.open(words, task);
            }
        });
        live = new LiveDrive(context, toInterface, run -> {
            garage.list();
            openKept(run);
        });
        garage.list();
    }

    /** {@return the running engine} */
    public LiveDrive live() {
        return live;
    }

    /** {@return parts tried on the open drive} */
    public Trials trials() {
        return trials;
    }

    /** {@return notes on the open drive and plans for its vehicle} */
    public Notes notes() {
        return notes;
    }

    /** {@return the user's own table of needles, where one was read} */
    public ObjectProperty<Optional<NeedleChart>> needlesProperty() {
        return needles;
    }

    /**
     * Reads a table of needles.
     *
     * @param file CSV
     */
    public void readNeedles(Path file) {
        context.storage.start(cancelled -> NeedleChart.read(file), c -> needles.set(Optional.of(c)), context::fail);
    }

    /** {@return the workbook} */
    public Garage garage() {
        return garage;
    }

    /** {@return the drive that is being written, if one is followed} */
    public Following following() {
        return followed.following();
    }

    /** {@return the open drive against others} */
    public Comparisons comparisons() {
        return comparisons;
    }

    // Opening

    /** Opens the first demo; it is not kept in the workbook. */
    public void openDemo() {
        openDemo(Demo.ESTATE);
    }

    /**
     * Opens a demo; it is not kept in the workbook.
     *
     * @param demo which
     */
    public void openDemo(Demo demo) {
        round = 0;
        long n = ++openings;
        open(say("session.simulating-the-demo-drive"), cancelled -> new DriveOpener.Outcome.Shown(DriveOpener.analyse(n,
                demo.sheet(), demo.drive().log(), Decisions.NONE, List.of(), Optional.empty(), Optional.empty(),
                cancelled)));
    }

    /** {@return whether the open drive is of the demo's engine, which can be driven again at once} */
    public boolean practice() {
        return context.drive.get() != null && practice(context.drive.get());
    }

    static boolean practice(Drive d) {
        return d.run().isEmpty() && Demo.of(d.sheet()).isPresent();
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
        Drive d = context.drive.get();
        if (!context.busy.get().isEmpty() || !d.analysis().estimated()) {
            complain(say("session.something-else-is-being"));
            return;
        }
        Demo demo = Demo.of(d.sheet()).orElseThrow();
        List<PartChange> parts = trials.effectProperty().get().changes();
        BuildSheet next = PartChange.fit(d.sheet(), parts);
        int driven = ++round;
        long n = ++openings;
        Comparison.Other before = Comparison.Other.demo(d.log().name(), demo, d.sheet(), driven == 1 ? -1 : driven - 1);
        open(say("session.driving-again"), cancelled -> {
            Drive again = DriveOpener.analyse(n, next, demo.again(next, driven).log(), Decisions.NONE, List.of(),
                    Optional.empty(), Previous.of(d.analysis().advice()).filter(p -> p.followed(next)), cancelled);
            return new DriveOpener.Outcome.Shown(again, Optional.of(Comparison.of(before, d.analysis(),
                    again.analysis())));
        });
    }

    /**
     * Opens a build sheet and a log, and keeps them in the workbook. Where the log does not say what its columns are,
     * the {@link #questionProperty} is set.
     *
     * @param sheetFile build sheet (JSON)
     * @param logFile log
     */
    public void open(Path sheetFile, Path logFile) {
        long n = ++openings;
        open(say("session.reading", logFile.getFileName()), c -> opener.files(n, SheetText.of(sheetFile), logFile, c));
    }

    /**
     * Opens a log of a car that is kept, with the car's newest build sheet.
     *
     * @param car the car
     * @param logFile log
     */
    public void open(Car car, Path logFile) {
        long n = ++openings;
        open(say("session.reading", logFile.getFileName()), c -> opener.files(n, car.sheet(), logFile, c));
    }

    /**
     * Opens a data package, which brings its own build sheet, and keeps it in the workbook.
     *
     * @param zip package written by this program
     */
    public void openPackage(Path zip) {
        long n = ++openings;
        open(say("session.reading", zip.getFileName()), cancelled -> opener.dataPackage(n, zip, cancelled));
    }

    /**
     * Reads the log in question by a plan, and remembers the plan for the next file of that source.
     *
     * @param plan what the columns mean, as the user agreed
     */
    public void answer(Plan plan) {
        ColumnsQuestion q = question.get();
        if (q == null) {
            return;
        }
        long n = ++openings;
        open(say("session.reading", q.logFile().getFileName()), c -> opener.answered(n, q, plan.confirmed(), c));
    }

    /**
     * Reads the log of the open drive once more, with a column it has and that was not read; the same log's decisions
     * and notes stay with it.
     *
     * @param column how it is read, as the user agreed
     */
    public void readColumn(ColumnPlan column) {
        Drive d = context.drive.get();
        if (d == null || context.occupied(say("session.something-is-being-read"))) {
            return;
        }
        long n = ++openings;
        open(say("session.reading-a-column", column.title()), c -> opener.withColumn(n, d, column, c));
    }

    /**
     * Opens a drive that is kept in the workbook.
     *
     * @param run its key
     */
    public void openKept(long run) {
        long n = ++openings;
        open(say("session.opening-a-kept-drive"), cancelled -> opener.kept(n, run, cancelled));
    }

    /**
     * Goes on with another workbook; the drive that was open is closed, for it belongs to the first.
     *
     * @param file workbook; begun when it is not there
     * @param from folder that a workbook was written out to, for a workbook not begun yet; or null
     */
    public void openWorkbook(Path file, Path from) {
        if (context.occupied(say("session.something-is-being-read"))) {
            return;
        }
        // What is being recorded belongs to the workbook that is left, and is kept there first.
        live.leave();
        garage.turnTo(file, from, () -> {
            followed.stop();
            context.history.clear();
            selection.set(null);
            decisions.set(Decisions.NONE);
            trials.reset(null);
            notes.clear();
            comparisons.clear();
            context.drive.set(null);
        });
    }

    /**
     * Shows a drive that is still being written, weighed anew every now and then; when no more will come, it is read
     * as a whole and kept, with what was decided and noted on the way.
     *
     * @param sheetFile build sheet (JSON)
     * @param logFile log that another program is writing
     */
    public void follow(Path sheetFile, Path logFile) {
        context.analysis.cancel();
        context.problem.set("");
        followed.start(++openings, sheetFile, logFile);
    }

    /** No more will be written: what is followed is read as a whole and kept. */
    public void finishFollowing() {
        followed.finish();
    }

    /** More of the drive that is followed: cursor, stop and the parts tried stay. */
    private void showMore(Drive d) {
        boolean atEnd = cursor.get() == context.drive.get().log().size() - 1;
        List<PartChange> tried = trials.triedProperty().get();
        trials.reset(d);
        context.drive.set(d);
        if (!tried.isEmpty()) {
            trials.tryParts(tried);
        }
        comparisons.refresh(d);
        if (atEnd) {
            moveCursor(d.log().size() - 1);
        }
    }

    private void open(String what, TaskRunner.Task<DriveOpener.Outcome> task) {
        weighing = false;
        followed.stop();
        context.busy.set(what);
        context.problem.set("");
        question.set(null);
        context.analysis.start(task, this::opened, context::fail);
    }

    private void opened(DriveOpener.Outcome o) {
        context.busy.set("");
        switch (o) {
            case DriveOpener.Outcome.Shown s -> {
                showOpened(s.drive());
                s.against().ifPresent(c -> {
                    comparisons.show(c);
                    goTo(Stops.PROOF);
                });
                garage.list();
                if (!context.repository.damage().isEmpty()) {
                    complain(say("session.the-workbook-is-damaged", context.repository.damage()));
                } else if (context.repository.elsewhere()) {
                    complain(say("session.another-window-has-the"));
                }
            }
            case DriveOpener.Outcome.Asked a -> {
                context.problem.set(a.question().why());
                question.set(a.question());
            }
        }
    }

    private void showOpened(Drive d) {
        if (!stop.get().in(d.sheet().carburetor().family())) {
            // Another kind of carburetor has other stops: whoever listens must not ask for one it lacks.
            stop.set(Stops.IDLE);
        }
        context.history.endOfDrive();
        cursor.set(0);
        selection.set(null);
        decisions.set(d.decisions());
        trials.reset(d);
        context.drive.set(d);
        comparisons.clear();
        notes.load();
        goTo(d.analysis().advice().lookedAtFirst().map(Stops::of).orElse(Stops.IDLE));
    }

    /** Puts the question about columns away; nothing is opened. */
    public void dismissQuestion() {
        question.set(null);
    }

    // Decisions

    /** {@return what the user decided about the open drive; the analysis may be a moment behind} */
    public ReadOnlyObjectProperty<Decisions> decisionsProperty() {
        return decisions.getReadOnlyProperty();
    }

    /**
     * Takes note that the tuner has looked for a cause and not found it, or takes that back, and weighs again.
     *
     * @param cause key as in an advice's hypotheses
     * @param soundNow whether it was looked for and not found
     */
    public void checked(String cause, boolean soundNow) {
        if (context.drive.get() != null && decisions.get().checked().contains(cause) != soundNow) {
            decide(say(soundNow ? "session.looked-for" : "session.weighed-again", causeLabel(cause)),
                    decisions.get().check(cause, soundNow));
        }
    }

    /** Takes the selected stretch out of the computation; nothing without a selection. */
    public void exclude() {
        Span s = selection.get();
        if (context.drive.get() != null && s != null) {
            selection.set(null);
            decide(say("session.stretch-taken-out"), decisions.get().without(s));
        }
    }

    /** Lets the stretch under the cursor count again; nothing where none was taken out. */
    public void restore() {
        Drive d = context.drive.get();
        if (d != null) {
            Decisions left = decisions.get().with(d.log().timeS()[cursor.get()]);
            if (!left.equals(decisions.get())) {
                decide(say("session.stretch-counts-again"), left);
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

    private void decide(String title, Decisions next) {
        Decisions was = decisions.get();
        context.history.record(title, true, () -> apply(was), () -> apply(next));
        apply(next);
    }

    /** Shown at once and written first; the analysis of the latest decisions follows. */
    private void apply(Decisions now) {
        Drive d = context.drive.get();
        decisions.set(now);
        d.run().ifPresent(run -> context.storage.queue(c -> {
            context.repository.decided(run, now);
            return now;
        }, x -> { }, e -> complain(context.words(e))));
        if (d.decisions().equals(now)) {
            // The answer for these is on the screen already.
            context.analysis.cancel();
            weighing = false;
            context.busy.set("");
            return;
        }
        weighing = true;
        followed.overtaken();
        context.busy.set(say("session.weighing-again"));
        context.problem.set("");
        context.analysis.start(cancelled -> DriveOpener.analyse(d.opening(), d.sheet(), d.log(), now, d.odd(), d.run(),
                d.before(), cancelled), this::showWeighed, context::fail);
    }

    /** The same drive weighed again keeps cursor and stop. */
    private void showWeighed(Drive d) {
        weighing = false;
        context.busy.set("");
        trials.reset(d);
        context.drive.set(d);
        comparisons.refresh(d);
        // The next drive goes on from what was advised in the end.
        d.run().ifPresent(run -> context.storage.queue(c -> {
            context.repository.advised(run, d.analysis().advice());
            return run;
        }, x -> { }, e -> complain(context.words(e))));
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
        if (context.busy.get().isEmpty() || weighing) {
            context.history.undo(steps);
        }
    }

    /** Brings back what was taken back last. */
    public void redo() {
        if (context.busy.get().isEmpty() || weighing) {
            context.history.redo();
        }
    }

    /** {@return what undo would take back, the latest first} */
    public ReadOnlyObjectProperty<List<String>> historyProperty() {
        return context.history.titlesProperty();
    }

    // Looking

    /** Shows the open drive in the language and units in use now; nothing is worked out anew. */
    public void reword() {
        Drive d = context.drive.get();
        if (d != null) {
            context.drive.set(d.in(WindowWords.wording()));
        }
    }

    /**
     * Shows numbers in other units, everywhere at once.
     *
     * @param units units of everything but mixtures
     */
    public void use(Shown units) {
        WindowWords.use(WindowWords.wording().with(units));
        shown.set(units);
        reword();
    }

    /** {@return units of everything but mixtures} */
    public ReadOnlyObjectProperty<Shown> shownProperty() {
        return shown.getReadOnlyProperty();
    }

    /**
     * Selects a stretch of the log.
     *
     * @param span stretch, or null for none
     */
    public void select(Span span) {
        selection.set(span);
    }

    /** {@return the selected stretch, or null} */
    public ReadOnlyObjectProperty<Span> selectionProperty() {
        return selection.getReadOnlyProperty();
    }

    /**
     * Writes a note on the moment under the cursor.
     *
     * @param text what to keep
     */
    public void note(String text) {
        Drive d = context.drive.get();
        if (d != null) {
            notes.add(d.log().timeS()[cursor.get()], text);
        }
    }

    /**
     * Writes the open drive out, the selected stretch where there is one.
     *
     * @param file where to
     */
    public void export(Path file) {
        garage.export(selection.get(), file);
    }

    /**
     * Moves the cursor.
     *
     * @param sample sample, clamped to the log
     */
    public void moveCursor(int sample) {
        Drive d = context.drive.get();
        if (d != null) {
            cursor.set(Math.clamp(sample, 0, d.log().size() - 1));
        }
    }

    /**
     * Shows a stop and takes the log to the most informative moment for it.
     *
     * @param s stop
     */
    public void goTo(Stop s) {
        stop.set(s);
        Drive d = context.drive.get();
        if (d == null) {
            return;
        }
        s.moment(d, comparisons.comparisonProperty().get()).ifPresent(this::moveCursor);
    }

    /** {@return the question about a log's columns, or null} */
    public ReadOnlyObjectProperty<ColumnsQuestion> questionProperty() {
        return question.getReadOnlyProperty();
    }

    /** {@return the open drive, or null} */
    public ReadOnlyObjectProperty<Drive> driveProperty() {
        return context.drive.getReadOnlyProperty();
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

    // What is told

    /** Cancels what is being worked on; what was open stays open, and what is shown is what was decided. */
    public void cancel() {
        if (weighing) {
            apply(context.drive.get().decisions());
            return;
        }
        context.analysis.cancel();
        context.busy.set("");
    }

    /** Puts the message away. */
    public void dismissProblem() {
        context.problem.set("");
    }

    /**
     * Complains about something the user tried.
     *
     * @param message what was found and what to do
     */
    public void complain(String message) {
        context.complain(message);
    }

    /**
     * Tells of a fault nobody expected, and writes it down.
     *
     * @param fault what was thrown
     */
    public void unexpected(Throwable fault) {
        context.fail(fault);
    }

    /** {@return what is being worked on, or empty} */
    public ReadOnlyStringProperty busyProperty() {
        return context.busy.getReadOnlyProperty();
    }

    /** {@return what went wrong, or empty} */
    public ReadOnlyStringProperty problemProperty() {
        return context.problem.getReadOnlyProperty();
    }

    /** Waits until what was decided and written is kept, then lets go of the workbook. */
    @Override
    public void close() {
        live.close();
        followed.close();
        context.close();
    }
}
