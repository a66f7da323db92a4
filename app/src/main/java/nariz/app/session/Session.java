package nariz.app.session;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Executor;
import java.util.function.BooleanSupplier;
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
import nariz.log.DriveLog;
import nariz.log.LogReader;
import nariz.sim.DemoDrive;

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
    private final ReadOnlyStringWrapper busy = new ReadOnlyStringWrapper("");
    private final ReadOnlyStringWrapper problem = new ReadOnlyStringWrapper("");

    /**
     * A drive with its analysis.
     *
     * @param sheet build sheet
     * @param log what was recorded
     * @param analysis answer and what it rests on
     * @param trace display series
     * @param today boundaries between circuits with today's parts
     * @param after the same with the changes to make now
     * @param checked causes the tuner has looked for and not found
     */
    public record Drive(BuildSheet sheet, DriveLog log, Analysis analysis, Trace trace, Boundaries today,
            Boundaries after, List<String> checked) {
        /** Copies the list. */
        public Drive {
            checked = List.copyOf(checked);
        }
    }

    /**
     * An empty session.
     *
     * @param toInterface runs what it is given on the interface thread
     */
    public Session(Executor toInterface) {
        work = new BackgroundWork(toInterface);
    }

    /** Opens the demo. */
    public void openDemo() {
        open("Simulating the demo drive", cancelled -> {
            BuildSheet sheet = DemoDrive.sheet();
            return analyse(sheet, DemoDrive.drive().log(), List.of(), cancelled);
        });
    }

    /**
     * Opens a build sheet and a log.
     *
     * @param sheetFile build sheet (JSON)
     * @param logFile log (CSV)
     */
    public void open(Path sheetFile, Path logFile) {
        open("Reading " + logFile.getFileName(), cancelled -> {
            BuildSheet sheet = BuildSheetReader.read(sheetFile);
            return analyse(sheet, LogReader.read(logFile, sheet, cancelled), List.of(), cancelled);
        });
    }

    private void open(String what, BackgroundWork.Job<Drive> job) {
        busy.set(what);
        problem.set("");
        work.start(job, this::show, this::fail);
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
        open("Weighing again", cancelled -> analyse(d.sheet(), d.log(), all, cancelled));
    }

    private static Drive analyse(BuildSheet sheet, DriveLog log, List<String> checked, BooleanSupplier cancelled) {
        Analysis a = Analysis.of(sheet, log, Strategy.BALANCED, checked, cancelled);
        return new Drive(sheet, log, a, Trace.of(a), Boundaries.of(sheet, a), Boundaries.of(a.sheetAfter(), a),
                checked);
    }

    private void show(Drive d) {
        busy.set("");
        cursor.set(0);
        drive.set(d);
        goTo(d.analysis().advice().blamed().map(Stop::of).orElse(Stop.IDLE));
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
    }
}
