package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicBoolean;
import nariz.app.task.TaskRunner;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.log.FollowedFile;
import nariz.log.LogReader;
import nariz.log.Quality;
import nariz.log.Recording;

/** A drive that is shown while it is written, and kept when it ends. All methods on the interface thread. */
final class FollowedDrive {
    /** What shows it. */
    interface Host {
        /** What the user decided so far. */
        Decisions decisions();

        /** Shows what there is so far. */
        void show(Drive d, boolean first);

        /** Opens the whole. */
        void open(String words, TaskRunner.Task<DriveOpener.Outcome> task);
    }

    private final SessionContext context;
    private final DriveOpener opener;
    private final Host host;
    private final Following following;
    /** Whether a look is being weighed. */
    private boolean looking;
    /** Which opening is to be followed; -1 for none. */
    private long wanted = -1;
    /** Tells the source that nothing more will come. */
    private Runnable finish = () -> { };

    FollowedDrive(SessionContext context, Executor toInterface, DriveOpener opener, Host host) {
        this.context = context;
        this.opener = opener;
        this.host = host;
        following = new Following(toInterface);
    }

    /** Begins to follow; says what is wrong where that cannot be. */
    void start(long opening, Path sheetFile, Path logFile) {
        looking = false;
        AtomicBoolean finished = new AtomicBoolean();
        finish = () -> finished.set(true);
        wanted = opening;
        context.storage.queue(c -> opened(sheetFile, logFile, finished), o -> {
            if (wanted == opening) {
                begin(opening, o, logFile);
            } else {
                // Something else was opened in between.
                finished.set(true);
            }
        }, context::fail);
    }

    private void begin(long opening, Opened o, Path logFile) {
        BuildSheet sheet = o.text().sheet();
        following.start(o.log(), r -> look(opening, sheet, r), r -> allThere(opening, o.text(), logFile), e -> {
            context.fail(e);
            // What came before the fault is a drive like any other.
            if (shown(opening)) {
                allThere(opening, o.text(), logFile);
            }
        });
    }

    private record Opened(SheetText text, FollowedFile log) {
    }

    private static Opened opened(Path sheetFile, Path logFile, AtomicBoolean finished) {
        try {
            return new Opened(SheetText.of(sheetFile), new FollowedFile(logFile, finished::get));
        } catch (IOException e) {
            throw InputProblem.unreadable(String.valueOf(logFile.getFileName()), e);
        }
    }

    private boolean shown(long opening) {
        return context.drive.get() != null && context.drive.get().opening() == opening;
    }

    /** Weighs what there is so far, unless something else is being worked on: then the next look will do. */
    private boolean look(long opening, BuildSheet sheet, Recording r) {
        if (looking || !context.busy.get().isEmpty()) {
            return false;
        }
        looking = true;
        Decisions now = shown(opening) ? host.decisions() : Decisions.NONE;
        context.analysis.start(c -> DriveOpener.analyse(opening, sheet, LogReader.drive(r, sheet), now, Quality.of(r),
                Optional.empty(), Optional.empty(), c), d -> {
                    looking = false;
                    host.show(d, !shown(opening));
                }, e -> {
                    looking = false;
                    if (!(e instanceof InputProblem)) {
                        following.stop();
                    }
                    context.problem.set(context.words(e));
                });
        return true;
    }

    private void allThere(long opening, SheetText text, Path logFile) {
        Decisions made = shown(opening) ? host.decisions() : Decisions.NONE;
        // Behind the notes that are still being written.
        context.storage.queue(c -> context.repository.annotations(Optional.empty(), opening), a -> host.open(
                say("session.reading", logFile.getFileName()), c -> opener.followed(opening, text, logFile, made,
                        a, c)), e -> context.complain(context.words(e)));
    }

    /** No more will be written. */
    void finish() {
        finish.run();
    }

    /** Something else is being worked on in place of a look. */
    void overtaken() {
        looking = false;
    }

    /** Lets go of it. */
    void stop() {
        wanted = -1;
        looking = false;
        following.stop();
    }

    Following following() {
        return following;
    }

    void close() {
        following.close();
    }
}
