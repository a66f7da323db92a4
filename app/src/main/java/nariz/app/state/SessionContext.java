package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.concurrent.Executor;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringWrapper;
import nariz.app.task.FaultLog;
import nariz.app.task.TaskRunner;
import nariz.app.words.WindowWords;
import nariz.carburetor.InputProblem;

/** What the parts of a session share: the open drive, the workbook, the workers, and what is told to the user. */
final class SessionContext {
    final ReadOnlyObjectWrapper<Drive> drive = new ReadOnlyObjectWrapper<>();
    final ReadOnlyStringWrapper busy = new ReadOnlyStringWrapper("");
    final ReadOnlyStringWrapper problem = new ReadOnlyStringWrapper("");
    final History history = new History();
    final DriveRepository repository;
    final FaultLog faults;
    /** Logs and analyses: a new one cancels the one before. */
    final TaskRunner analysis;
    /** The workbook: one after the other, all of them. */
    final TaskRunner storage;
    /** Parts being tried: the latest wins. */
    final TaskRunner trial;

    SessionContext(Executor toInterface, DriveRepository repository, FaultLog faults) {
        this.repository = repository;
        this.faults = faults;
        analysis = new TaskRunner("nariz-analysis", toInterface);
        storage = new TaskRunner("nariz-storage", toInterface);
        trial = new TaskRunner("nariz-trial", toInterface);
    }

    /** Whether something is being worked on; says so when it is. */
    boolean occupied(String words) {
        if (!busy.get().isEmpty()) {
            problem.set(words);
            return true;
        }
        return false;
    }

    void complain(String words) {
        problem.set(words);
    }

    /** Ends what is being worked on with what went wrong. */
    void fail(Throwable e) {
        busy.set("");
        problem.set(words(e));
    }

    /** What went wrong, in words; the unexpected is written down as well. */
    String words(Throwable e) {
        if (e instanceof InputProblem p) {
            return p.text(WindowWords.wording());
        }
        faults.report("work beside the window", e);
        String place = faults.file().map(f -> say("session.it-is-written-down-in", f)).orElse("");
        return (e instanceof OutOfMemoryError ? say("session.not-enough-memory")
                : say("session.something-unexpected-went-wrong", e)) + place;
    }

    void close() {
        analysis.close();
        trial.close();
        storage.close();
        repository.close();
    }
}
