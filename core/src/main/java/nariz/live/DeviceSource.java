package nariz.live;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.DoubleSupplier;
import nariz.log.SampleSource;
import org.jspecify.annotations.Nullable;

/**
 * Lines of a device, made fit for a log. A way that breaks is opened again until somebody closes the source: nothing
 * that was read is lost by it.
 */
public final class DeviceSource implements SampleSource {
    private static final long AGAIN_MS = 400;
    /** Nothing for so long is silence, s. */
    private static final double SILENT_S = 1.5;

    private final String name;
    private final Connector connector;
    private final DoubleSupplier clockS;
    private final LineFilter filter = new LineFilter();
    private final Deque<String> ready = new ArrayDeque<>();
    private final ByteArrayOutputStream line = new ByteArrayOutputStream();
    private final byte[] buffer = new byte[1 << 13];
    private int at;
    private int filled;
    private boolean overlong;
    private double heardS = Double.NaN;
    private volatile boolean closed;
    private volatile @Nullable DeviceConnection connection;
    private volatile State state = State.WAITING;
    private volatile String trouble = "";
    private final AtomicInteger opened = new AtomicInteger();
    private volatile LineFilter.Tally tally = filter.tally();

    /** How it stands with the device. */
    public enum State {
        /** Nobody answers yet. */
        WAITING,
        /** Lines come. */
        READING,
        /** The way is open and nothing comes. */
        SILENT,
        /** Most of what comes is no line of readings. */
        GARBAGE,
        /** The way broke; it is tried again. */
        LOST
    }

    /** Opens the way to the device, as often as it takes. */
    @FunctionalInterface
    public interface Connector {
        /**
         * Opens it.
         *
         * @return the way
         * @throws IOException when nobody answers
         */
        DeviceConnection open() throws IOException;
    }

    /**
     * Lines of the device at an address.
     *
     * @param address where it is
     */
    public DeviceSource(DeviceAddress address) {
        this(address.text(), () -> DeviceConnection.open(address), () -> System.nanoTime() * 1e-9);
    }

    /**
     * Lines of a device.
     *
     * @param name for messages and lists
     * @param connector opens the way
     * @param clockS a clock that only goes forward, s
     */
    public DeviceSource(String name, Connector connector, DoubleSupplier clockS) {
        this.name = name;
        this.connector = connector;
        this.clockS = clockS;
    }

    @Override
    public String name() {
        return name;
    }

    /** {@return how it stands; any thread} */
    public State state() {
        return state;
    }

    /** {@return what the last attempt failed with, or empty; any thread} */
    public String trouble() {
        return trouble;
    }

    /** {@return how often the way was opened again; any thread} */
    public int reconnections() {
        return Math.max(0, opened.get() - 1);
    }

    /** {@return what was counted so far; any thread} */
    public LineFilter.Tally tally() {
        return tally;
    }

    /** A header or a row, as a log has it; waits, and is empty only when the source was closed. */
    @Override
    public Optional<String> next() throws IOException {
        while (!closed) {
            String s = ready.pollFirst();
            if (s != null) {
                return Optional.of(s);
            }
            DeviceConnection c = connection;
            if (c == null) {
                connect();
            } else {
                read(c);
            }
        }
        return Optional.ofNullable(ready.pollFirst());
    }

    private void connect() {
        try {
            DeviceConnection c = connector.open();
            connection = c;
            if (closed) {
                c.close();
            }
            opened.incrementAndGet();
            line.reset();
            at = 0;
            filled = 0;
            heardS = clockS.getAsDouble();
            trouble = "";
            state = State.SILENT;
        } catch (IOException e) {
            trouble = String.valueOf(e.getMessage());
            state = opened.get() == 0 ? State.WAITING : State.LOST;
            pause();
        }
    }

    private void pause() {
        try {
            Thread.sleep(AGAIN_MS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            closed = true;
        }
    }

    private void read(DeviceConnection c) {
        while (at < filled) {
            byte b = buffer[at++];
            if (b == '\n' || b == '\r') {
                taken();
                if (!ready.isEmpty()) {
                    return;
                }
            } else if (line.size() < LineFilter.LONGEST) {
                line.write(b);
            } else {
                overlong = true;
            }
        }
        at = 0;
        filled = 0;
        try {
            int n = c.read(buffer);
            if (n < 0) {
                lost(c, "the device closed the line");
            } else if (n == 0) {
                silent();
            } else {
                filled = n;
            }
        } catch (IOException e) {
            lost(c, String.valueOf(e.getMessage()));
        }
    }

    /** A wrong rate may never bring an end of line: such bytes are judged in pieces. */
    private void taken() {
        if (line.size() > 0) {
            String s = overlong ? "\uFFFD" : line.toString(StandardCharsets.UTF_8);
            heardS = clockS.getAsDouble();
            ready.addAll(filter.take(s, heardS));
            state = filter.garbage() ? State.GARBAGE : State.READING;
            tally = filter.tally();
        }
        line.reset();
        overlong = false;
    }

    private void silent() {
        if (line.size() >= LineFilter.LONGEST) {
            overlong = true;
            taken();
        }
        if (clockS.getAsDouble() - heardS > SILENT_S && state != State.GARBAGE) {
            state = State.SILENT;
        }
    }

    private void lost(DeviceConnection c, String why) {
        connection = null;
        line.reset();
        if (!closed) {
            trouble = why;
            state = State.LOST;
        }
        try {
            c.close();
        } catch (IOException e) {
            // It is gone anyway.
        }
        if (!closed) {
            pause();
        }
    }

    @Override
    public void close() throws IOException {
        closed = true;
        DeviceConnection c = connection;
        if (c != null) {
            c.close();
        }
    }
}
