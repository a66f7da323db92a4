package nariz.app.task;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.logging.FileHandler;
import java.util.logging.Level;
import java.util.logging.Logger;
import java.util.logging.SimpleFormatter;

/**
 * Where unexpected faults are written down: a few small files that replace each other, on this machine alone. Nothing
 * is sent anywhere.
 */
public final class FaultLog {
    private static final int LONGEST_BYTES = 500_000;
    private static final int FILES = 3;
    private static final Logger LOGGER = Logger.getLogger("nariz");

    private final Optional<Path> file;

    private FaultLog(Optional<Path> file) {
        this.file = file;
    }

    /**
     * Begins to write into a folder; where that cannot be, faults are only shown.
     *
     * @param folder folder of log files, made when it is not there
     * @return the log
     */
    public static FaultLog in(Path folder) {
        try {
            Files.createDirectories(folder);
            FileHandler handler = new FileHandler(folder.toString().replace("%", "%%") + "/nariz-%g.log", LONGEST_BYTES,
                    FILES, true);
            handler.setEncoding("UTF-8");
            handler.setFormatter(new SimpleFormatter());
            LOGGER.addHandler(handler);
            LOGGER.setUseParentHandlers(false);
            return new FaultLog(Optional.of(folder.resolve("nariz-0.log")));
        } catch (IOException | SecurityException e) {
            return none();
        }
    }

    /** {@return a log that keeps nothing} */
    public static FaultLog none() {
        return new FaultLog(Optional.empty());
    }

    /** {@return the file that is written to; empty when none can be} */
    public Optional<Path> file() {
        return file;
    }

    /**
     * Writes a fault down.
     *
     * @param where what was being done
     * @param fault what was thrown
     */
    public void report(String where, Throwable fault) {
        if (file.isPresent()) {
            LOGGER.log(Level.SEVERE, where, fault);
        }
    }

    /** Lets go of the file. */
    public void close() {
        for (var h : LOGGER.getHandlers()) {
            LOGGER.removeHandler(h);
            h.close();
        }
    }
}
