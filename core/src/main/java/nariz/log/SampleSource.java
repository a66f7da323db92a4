package nariz.log;

import java.io.Closeable;
import java.io.IOException;
import java.util.Optional;

/** Where the lines of a log come from while it is being written: a file that grows, or a device. */
public interface SampleSource extends Closeable {
    /** {@return name for messages and lists} */
    String name();

    /**
     * The next line; waits until there is one. Called by one thread.
     *
     * @return the line without its end; empty when there will be none any more
     * @throws IOException when the source fails
     */
    Optional<String> next() throws IOException;

    /** Lets go of it; a {@link #next} that waits ends with an exception. Called by any thread. */
    @Override
    void close() throws IOException;
}
