package nariz.app.session;

import java.util.concurrent.CancellationException;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;

/** Runs one long job at a time beside the interface thread and hands its result back there. */
public final class BackgroundWork implements AutoCloseable {
    /**
     * A job.
     *
     * @param <T> its result
     */
    @FunctionalInterface
    public interface Job<T> {
        /**
         * Does the work.
         *
         * @param cancelled asked now and then
         * @return result
         */
        T run(BooleanSupplier cancelled);
    }

    private final Executor toInterface;
    private final ExecutorService worker = Executors.newSingleThreadExecutor(r -> {
        Thread t = new Thread(r, "nariz-work");
        t.setDaemon(true);
        return t;
    });
    private AtomicBoolean current = new AtomicBoolean();

    /**
     * Sets up the worker.
     *
     * @param toInterface runs what it is given on the interface thread, for example {@code Platform::runLater}
     */
    public BackgroundWork(Executor toInterface) {
        this.toInterface = toInterface;
    }

    /**
     * Starts a job; a running one is cancelled first. Call on the interface thread.
     *
     * @param job job
     * @param done receives the result on the interface thread, unless cancelled
     * @param failed receives what was thrown on the interface thread, unless cancelled
     * @param <T> type of the result
     */
    public <T> void start(Job<T> job, Consumer<T> done, Consumer<RuntimeException> failed) {
        current.set(true);
        current = new AtomicBoolean();
        execute(current, job, done, failed);
    }

    /**
     * Lines a job up behind those that were started; none is cancelled for it.
     *
     * @param job job
     * @param done receives the result on the interface thread
     * @param failed receives what was thrown on the interface thread
     * @param <T> type of the result
     */
    public <T> void queue(Job<T> job, Consumer<T> done, Consumer<RuntimeException> failed) {
        execute(new AtomicBoolean(), job, done, failed);
    }

    private <T> void execute(AtomicBoolean mine, Job<T> job, Consumer<T> done, Consumer<RuntimeException> failed) {
        worker.execute(() -> {
            try {
                T result = job.run(mine::get);
                publish(mine, () -> done.accept(result));
            } catch (CancellationException e) {
                // Whoever cancelled knows.
            } catch (RuntimeException e) {
                publish(mine, () -> failed.accept(e));
            }
        });
    }

    private void publish(AtomicBoolean mine, Runnable r) {
        toInterface.execute(() -> {
            if (!mine.get()) {
                r.run();
            }
        });
    }

    /** Cancels what runs; its result is dropped. */
    public void cancel() {
        current.set(true);
    }

    @Override
    public void close() {
        cancel();
        worker.shutdownNow();
    }
}
