package nariz.live;

import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.atomic.AtomicLong;

/**
 * Writes lines down as they come: every {@value #EVERY_MS} ms what there is, so that a crash loses less than a second.
 * While nothing can be written, for want of room on the disk for example, lines wait and it is tried again.
 */
public final class LiveRecorder implements AutoCloseable {
    private static final DateTimeFormatter TITLE = DateTimeFormatter.ofPattern("yyyy-MM-dd HH.mm.ss", Locale.ROOT);
    private static final long EVERY_MS = 400;
    /** Lines that wait at most: half an hour at 100 a second. */
    private static final int MOST_WAITING = 200_000;

    private final Store store;
    private final LinkedBlockingQueue<String> waiting = new LinkedBlockingQueue<>(MOST_WAITING);
    private final Thread writer = new Thread(this::write, "nariz-recorder");
    private volatile boolean closed;
    private volatile String trouble = "";
    private final AtomicLong written = new AtomicLong();
    private final AtomicLong dropped = new AtomicLong();

    /** Where lines are kept. */
    @FunctionalInterface
    public interface Store {
        /**
         * Keeps lines; when it returns they survive a crash.
         *
         * @param lines in order, at least one
         */
        void append(List<String> lines);
    }

    /**
     * Begins.
     *
     * @param store where lines are kept
     */
    public LiveRecorder(Store store) {
        this.store = store;
        writer.setDaemon(true);
        writer.start();
    }

    /** {@return title of a recording that begins now: a name that any file system takes} */
    public static String title() {
        return LocalDateTime.now(ZoneId.systemDefault()).format(TITLE);
    }

    /**
     * Takes a line; returns at once.
     *
     * @param line header or row
     */
    public void add(String line) {
        if (!waiting.offer(line)) {
            dropped.incrementAndGet();
        }
    }

    private void write() {
        List<String> batch = new ArrayList<>();
        while (!closed || !waiting.isEmpty() || !batch.isEmpty()) {
            waiting.drainTo(batch);
            if (!batch.isEmpty()) {
                try {
                    store.append(batch);
                    written.addAndGet(batch.size());
                    batch = new ArrayList<>();
                    trouble = "";
                } catch (RuntimeException e) {
                    trouble = String.valueOf(e.getMessage());
                    if (closed) {
                        // Once more was tried; whoever closes is told by trouble().
                        return;
                    }
                }
            }
            if (!closed) {
                pause();
            }
        }
    }

    private static void pause() {
        try {
            Thread.sleep(EVERY_MS);
        } catch (InterruptedException e) {
            // Whoever closes does not want to wait.
        }
    }

    /** {@return why nothing can be written now, or empty} */
    public String trouble() {
        return trouble;
    }

    /** {@return lines that are kept} */
    public long written() {
        return written.get();
    }

    /** {@return lines that found no room while nothing could be written} */
    public long dropped() {
        return dropped.get();
    }

    /** Writes what waits and ends. */
    @Override
    public void close() {
        closed = true;
        writer.interrupt();
        try {
            writer.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
