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
import nariz.carburetor.NeedleChart;
import nariz.carburetor.PartChange;
import nariz.carburetor.TubeChart;
import nariz.log.Span;
import nariz.units.Shown;

/**
 * The window's state: which drive is open, where the cursor is, which stop is shown, what is being worked on and what
 * went wrong. Holds no nodes. All methods are called on the interface thread. What belongs to a task of its own stands
 * in {@link #open}, {@link #decisions}, {@link #trials}, {@link #notes}, {@link #garage}, {@link #comparisons} and
 * {@link #live}; the session joins them, since another drive changes all of them together.
 */
public final class Session implements AutoCloseable {
    private final SessionContext context;
    private final Garage garage;
    private final Trials trials;
    private final Notes notes;
    private final Comparisons comparisons;
    private final OpenRequests requests;
    private final DriveDecisions decisions;
    private final FollowedDrive followed;
    private final LiveDrive live;
    private final ReadOnlyObjectWrapper<Integer> cursor = new ReadOnlyObjectWrapper<>(0);
    private final ReadOnlyObjectWrapper<Stop> stop = new ReadOnlyObjectWrapper<>(Stops.IDLE);
    private final ObjectProperty<MixtureUnit> unit = new SimpleObjectProperty<>(MixtureUnit.LAMBDA);
    private final ReadOnlyObjectWrapper<Shown> shown = new ReadOnlyObjectWrapper<>(WindowWords.units());
    private final ReadOnlyObjectWrapper<Span> selection = new ReadOnlyObjectWrapper<>();
    private final ObjectProperty<Optional<NeedleChart>> needles = new SimpleObjectProperty<>(Optional.empty());
    private final ObjectProperty<Optional<TubeChart>> tubes = new SimpleObjectProperty<>(Optional.empty());

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
        DriveOpener opener = new DriveOpener(context.repository, words -> toInterface.execute(() -> context.busy.set(
                context.busy.get().isEmpty() ? "" : words)), words -> toInterface.execute(() -> complain(words)));
        followed = new FollowedDrive(context, toInterface, opener, new FollowedDrive.Host() {
            @Override
            public Decisions decisions() {
                return decisions.valueProperty().get();
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
                requests.start(words, task);
            }
        });
        decisions = new DriveDecisions(context, d -> {
            trials.reset(d);
            context.drive.set(d);
            comparisons.refresh(d);
        }, followed::overtaken);
        requests = new OpenRequests(context, opener, trials, new OpenRequests.Host() {
            @Override
            public void begun() {
                decisions.left();
                followed.stop();
            }

            @Override
            public void shown(Drive d, Optional<Comparison> against) {
                showOpened(d);
                against.ifPresent(c -> {
                    comparisons.show(c);
                    goTo(Stops.PROOF);
                });
                garage.list();
                tellOfWorkbook();
            }
        });
        live = new LiveDrive(context, toInterface, run -> {
            garage.list();
            requests.kept(run);
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

    /** {@return the user's own table of emulsion tubes, where one was read} */
    public ObjectProperty<Optional<TubeChart>> tubesProperty() {
        return tubes;
    }

    /**
     * Reads a table of emulsion tubes.
     *
     * @param file CSV
     */
    public void readTubes(Path file) {
        context.storage.start(cancelled -> TubeChart.read(file), c -> tubes.set(Optional.of(c)), context::fail);
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

    /** {@return what is asked to be opened} */
    public OpenRequests open() {
        return requests;
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
            decisions.reset(Decisions.NONE);
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
        followed.start(requests.next(), sheetFile, logFile);
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

    private void tellOfWorkbook() {
        if (!context.repository.damage().isEmpty()) {
            complain(say("session.the-workbook-is-damaged", context.repository.damage()));
        } else if (context.repository.elsewhere()) {
            complain(say("session.another-window-has-the"));
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
        decisions.reset(d.decisions());
        trials.reset(d);
        context.drive.set(d);
        comparisons.clear();
        notes.load();
        goTo(d.analysis().advice().lookedAtFirst().map(Stops::of).orElse(Stops.IDLE));
    }

    // Decisions

    /** {@return what the user decided about the open drive} */
    public DriveDecisions decisions() {
        return decisions;
    }

    /** Takes the selected stretch out of the computation; nothing without a selection. */
    public void exclude() {
        Span s = selection.get();
        if (context.drive.get() != null && s != null) {
            selection.set(null);
            decisions.exclude(s);
        }
    }

    /** Lets the stretch under the cursor count again; nothing where none was taken out. */
    public void restore() {
        Drive d = context.drive.get();
        if (d != null) {
            decisions.restore(d.log().timeS()[cursor.get()]);
        }
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
        if (context.busy.get().isEmpty() || decisions.weighing()) {
            context.history.undo(steps);
        }
    }

    /** Brings back what was taken back last. */
    public void redo() {
        if (context.busy.get().isEmpty() || decisions.weighing()) {
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
        if (decisions.weighing()) {
            decisions.cancel();
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
