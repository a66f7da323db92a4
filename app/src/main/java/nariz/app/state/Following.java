package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.util.Optional;
import java.util.concurrent.Executor;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Predicate;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import nariz.app.task.TaskRunner;
import nariz.carburetor.InputProblem;
import nariz.log.GrowingLog;
import nariz.log.Recording;
import nariz.log.SampleSource;
import org.jspecify.annotations.Nullable;

/**
 * Reads a drive that is still being written on a worker of its own, and now and then hands out what there is so far.
 * The source waits; nothing else does.
 */
public final class Following implements AutoCloseable {
    /** Between two looks, s: long against an analysis of some minutes, short against what a driver waits for. */
    private static final long EVERY_MS = 2000;
    private static final long FIRST_MS = 300;
    private static final int FEWEST_ROWS = 50;
    private static final double SHORTEST_S = 10.0;

    private final Executor toInterface;
    private final TaskRunner reader;
    private final ReadOnlyStringWrapper progress = new ReadOnlyStringWrapper("");
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(r -> {
        Thread t = new Thread(r, "nariz-follow-clock");
        t.setDaemon(true);
        return t;
    });
    private @Nullable SampleSource source;
    private @Nullable Future<?> looks;
    private int shownRows;
    /** Counts what was followed, so that a late look is of no account. */
    private int turn;

    Following(Executor toInterface) {
        this.toInterface = toInterface;
        reader = new TaskRunner("nariz-follow", toInterface);
    }

    /**
     * Begins to read; what was followed before is let go.
     *
     * @param from source; closed at its end
     * @param soFar given what there is so far, on the interface thread; false when it has no time for it
     * @param ended given all there was when no more will come
     * @param failed given what went wrong
     */
    void start(SampleSource from, Predicate<Recording> soFar, Consumer<Recording> ended, Consumer<Throwable> failed) {
        stop();
        source = from;
        int mine = turn;
        shownRows = 0;
        progress.set(say("session.follow-begins", from.name()));
        GrowingLog log = new GrowingLog(from.name(), null);
        looks = clock.scheduleWithFixedDelay(() -> look(log, mine, soFar), FIRST_MS, EVERY_MS, TimeUnit.MILLISECONDS);
        reader.start(cancelled -> {
            try (from) {
                for (Optional<String> line = from.next(); line.isPresent() && !cancelled.getAsBoolean(); line =
                        from.next()) {
                    synchronized (log) {
                        log.add(line.get());
                    }
                }
                synchronized (log) {
                    return log.finished();
                }
            } catch (IOException e) {
                throw InputProblem.unreadable(from.name(), e);
            }
        }, r -> {
            stop();
            ended.accept(r);
        }, e -> {
            stop();
            failed.accept(e);
        });
    }

    /** On the clock's thread: the reader waits for lines, and a look must come though none does. */
    private void look(GrowingLog log, int mine, Predicate<Recording> soFar) {
        Recording r;
        double durationS;
        synchronized (log) {
            durationS = log.durationS();
            if (log.size() < FEWEST_ROWS || durationS <= SHORTEST_S) {
                return;
            }
            r = log.snapshot();
        }
        toInterface.execute(() -> {
            if (turn == mine && r.size() > shownRows) {
                progress.set(say("session.following", r.name(), text(durationS)));
                if (soFar.test(r)) {
                    shownRows = r.size();
                }
            }
        });
    }

    private static String text(double s) {
        return String.format(java.util.Locale.ROOT, "%d:%02d", (int) s / 60, (int) s % 60);
    }

    /** Lets go of what is followed. */
    void stop() {
        reader.cancel();
        progress.set("");
        SampleSource s = source;
        source = null;
        turn++;
        if (looks != null) {
            looks.cancel(false);
        }
        if (s != null) {
            try {
                s.close();
            } catch (IOException e) {
                // It was given up anyway.
            }
        }
    }

    /** {@return what is followed and how much there is of it, or empty} */
    public ReadOnlyStringProperty progressProperty() {
        return progress.getReadOnlyProperty();
    }

    @Override
    public void close() {
        stop();
        clock.shutdownNow();
        reader.close();
    }
}
