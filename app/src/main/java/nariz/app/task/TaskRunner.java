package nariz.app.task;

import java.util.concurrent.CancellationException;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;

/**
 * Runs tasks one after the other beside the interface thread and hands their results back there.
 *
 * <p>{@link #start}: the latest wins; one that runs or waits is cancelled. {@link #queue}: every one is run, in order;
 * {@link #close} waits for them, so that what was to be kept is kept. Whatever a task throws, errors of the machine
 * included, ends in its failure handler: nothing waits for ever.
 */
public final class TaskRunner implements AutoCloseable {
    /** Longest that closing waits for what is queued, s: the window must go away in the end. */
    private static final long DRAIN_S = 30;

    /**
     * A task.
     *
     * @param <T> its result
     */
    @FunctionalInterface
    public interface Task<T> {
        /**
         * Does the work.
         *
         * @param cancelled asked now and then
         * @return result
         */
        T run(BooleanSupplier cancelled);
    }

    private final Executor toInterface;
    private final ExecutorService worker;
    private volatile boolean closed;
    private AtomicBoolean current = new AtomicBoolean();

    /**
     * Sets up the worker.
     *
     * @param name of its thread
     * @param toInterface runs what it is given on the interface thread, for example {@code Platform::runLater}
     */
    public TaskRunner(String name, Executor toInterface) {
        this.toInterface = toInterface;
        worker = Executors.newSingleThreadExecutor(r -> {
            Thread t = new Thread(r, name);
            t.setDaemon(true);
            return t;
        });
    }

    /**
     * Starts a task; one that was started before is cancelled. Call on the interface thread.
     *
     * @param task task
     * @param done receives the result on the interface thread, unless cancelled
     * @param failed receives what was thrown on the interface thread, unless cancelled
     * @param <T> type of the result
     */
    public <T> void start(Task<T> task, Consumer<T> done, Consumer<Throwable> failed) {
        current.set(true);
        current = new AtomicBoolean();
        execute(current, task, done, failed);
    }

    /**
     * Lines a task up behind the others; none is cancelled for it, and none cancels it.
     *
     * @param task task
     * @param done receives the result on the interface thread
     * @param failed receives what was thrown on the interface thread
     * @param <T> type of the result
     */
    public <T> void queue(Task<T> task, Consumer<T> done, Consumer<Throwable> failed) {
        execute(new AtomicBoolean(), task, done, failed);
    }

    private <T> void execute(AtomicBoolean mine, Task<T> task, Consumer<T> done, Consumer<Throwable> failed) {
        if (closed) {
            return;
        }
        worker.execute(() -> {
            if (mine.get()) {
                return;
            }
            try {
                T result = task.run(mine::get);
                publish(mine, () -> done.accept(result));
            } catch (CancellationException e) {
                // Whoever cancelled knows.
            } catch (Throwable e) {
                publish(mine, () -> failed.accept(e));
            }
        });
    }

    private void publish(AtomicBoolean mine, Runnable r) {
        toInterface.execute(() -> {
            if (!mine.get() && !closed) {
                r.run();
            }
        });
    }

    /** Cancels what was started; its result is dropped. */
    public void cancel() {
        current.set(true);
    }

    /** Cancels what was started and waits for what is queued; results are handed to nobody any more. */
    @Override
    public void close() {
        closed = true;
        cancel();
        worker.shutdown();
        try {
            if (!worker.awaitTermination(DRAIN_S, TimeUnit.SECONDS)) {
                worker.shutdownNow();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
