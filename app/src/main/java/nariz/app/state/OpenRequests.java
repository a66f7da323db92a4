package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import nariz.app.task.TaskRunner;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Previous;
import nariz.log.ColumnPlan;
import nariz.log.Plan;
import nariz.sim.Demo;

/**
 * What the user asks to be opened: a demo, files, a package, a kept drive, a demo driven again. Reading and analysing
 * are done beside the window ({@link DriveOpener}); what comes of it is handed to the host, or asked about first where
 * a log does not say what its columns are. Called on the interface thread.
 */
public final class OpenRequests {
    /** What shows a drive that was opened. */
    interface Host {
        /** Something is about to be opened. */
        void begun();

        /** It is there, compared with another where there is something to compare it with. */
        void shown(Drive d, Optional<Comparison> against);
    }

    private final SessionContext context;
    private final DriveOpener opener;
    private final Trials trials;
    private final Host host;
    private final ReadOnlyObjectWrapper<ColumnsQuestion> question = new ReadOnlyObjectWrapper<>();
    /** Counts openings of drives in this sitting. */
    private long openings;
    /** How often the demo's engine was driven again. */
    private int round;

    OpenRequests(SessionContext context, DriveOpener opener, Trials trials, Host host) {
        this.context = context;
        this.opener = opener;
        this.trials = trials;
        this.host = host;
    }

    /** {@return a number that no other opening of this sitting has} */
    long next() {
        return ++openings;
    }

    /** Opens the first demo; it is not kept in the workbook. */
    public void demo() {
        demo(Demo.ESTATE);
    }

    /**
     * Opens a demo; it is not kept in the workbook.
     *
     * @param demo which
     */
    public void demo(Demo demo) {
        round = 0;
        long n = next();
        start(say("session.simulating-the-demo-drive"), cancelled -> new DriveOpener.Outcome.Shown(
                DriveOpener.analyse(n, demo.sheet(), demo.drive().log(), Decisions.NONE, List.of(), Optional.empty(),
                Optional.empty(), cancelled)));
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
    public void again() {
        if (!practice()) {
            context.complain(say("session.only-the-demo-is"));
            return;
        }
        Drive d = context.drive.get();
        if (!context.busy.get().isEmpty() || !d.analysis().estimated()) {
            context.complain(say("session.something-else-is-being"));
            return;
        }
        Demo demo = Demo.of(d.sheet()).orElseThrow();
        List<PartChange> parts = trials.effectProperty().get().changes();
        BuildSheet next = PartChange.fit(d.sheet(), parts);
        int driven = ++round;
        long n = next();
        Comparison.Other before = Comparison.Other.demo(d.log().name(), demo, d.sheet(), driven == 1 ? -1 : driven - 1);
        start(say("session.driving-again"), cancelled -> {
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
    public void files(Path sheetFile, Path logFile) {
        long n = next();
        start(say("session.reading", logFile.getFileName()), c -> opener.files(n, SheetText.of(sheetFile), logFile, c));
    }

    /**
     * Opens a log of a car that is kept, with the car's newest build sheet.
     *
     * @param car the car
     * @param logFile log
     */
    public void files(Car car, Path logFile) {
        long n = next();
        start(say("session.reading", logFile.getFileName()), c -> opener.files(n, car.sheet(), logFile, c));
    }

    /**
     * Opens a data package, which brings its own build sheet, and keeps it in the workbook.
     *
     * @param zip package written by this program
     */
    public void dataPackage(Path zip) {
        long n = next();
        start(say("session.reading", zip.getFileName()), cancelled -> opener.dataPackage(n, zip, cancelled));
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
        long n = next();
        start(say("session.reading", q.logFile().getFileName()), c -> opener.answered(n, q, plan.confirmed(), c));
    }

    /**
     * Reads the log of the open drive once more, with a column it has and that was not read; the same log's decisions
     * and notes stay with it.
     *
     * @param column how it is read, as the user agreed
     */
    public void withColumn(ColumnPlan column) {
        Drive d = context.drive.get();
        if (d == null || context.occupied(say("session.something-is-being-read"))) {
            return;
        }
        long n = next();
        start(say("session.reading-a-column", column.title()), c -> opener.withColumn(n, d, column, c));
    }

    /**
     * Opens a drive that is kept in the workbook.
     *
     * @param run its key
     */
    public void kept(long run) {
        long n = next();
        start(say("session.opening-a-kept-drive"), cancelled -> opener.kept(n, run, cancelled));
    }

    /** Opens what a task makes. */
    void start(String what, TaskRunner.Task<DriveOpener.Outcome> task) {
        host.begun();
        context.busy.set(what);
        context.problem.set("");
        question.set(null);
        context.analysis.start(task, this::opened, context::fail);
    }

    private void opened(DriveOpener.Outcome o) {
        context.busy.set("");
        switch (o) {
            case DriveOpener.Outcome.Shown s -> host.shown(s.drive(), s.against());
            case DriveOpener.Outcome.Asked a -> {
                context.problem.set(a.question().why());
                question.set(a.question());
            }
        }
    }

    /** Puts the question about columns away; nothing is opened. */
    public void dismissQuestion() {
        question.set(null);
    }

    /** {@return the question about a log's columns, or null} */
    public ReadOnlyObjectProperty<ColumnsQuestion> questionProperty() {
        return question.getReadOnlyProperty();
    }
}
