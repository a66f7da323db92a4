package nariz.workbook;

import static nariz.text.Message.message;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.DateTimeException;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import java.util.function.Supplier;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;
import org.jspecify.annotations.Nullable;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteConnection;
import org.sqlite.SQLiteDataSource;

/**
 * The database behind a workbook: one connection that writes and one that reads, the lock that says who may write, and
 * the words for what goes wrong with the file.
 */
final class WorkbookFile {
    private static final int START_TRIES = 100;
    private static final long START_PAUSE_MS = 100;

    private final Path file;
    /** Writes, and reads while nothing is taken in. */
    private final Handle handle;
    private final Object readerLock = new Object();
    /** Reads while an import is going on; opened when it is first needed. */
    private @Nullable Handle reader;
    /** Opened by somebody who only wants to read. */
    private boolean onlyToRead;
    private final AtomicInteger importing = new AtomicInteger();
    /** A copy of an older workbook that was made to read it, or null. */
    private final @Nullable Path copy;
    private final @Nullable FileChannel lockFile;
    private final @Nullable FileLock lock;
    private final Health health;

    private WorkbookFile(Path file, Handle handle, @Nullable FileChannel lockFile, @Nullable FileLock lock,
            @Nullable Path copy, Health health) {
        this.health = health;
        this.file = file;
        this.handle = handle;
        this.copy = copy;
        this.lockFile = lockFile;
        this.lock = lock;
    }

    /** Opens to write, or to read where somebody else writes. */
    static WorkbookFile open(Path file) {
        String name = String.valueOf(file.getFileName());
        Path absolute = real(file);
        @Nullable FileChannel channel = null;
        @Nullable FileLock lock = null;
        try {
            boolean there = Files.exists(absolute);
            if (!there && absolute.getParent() != null) {
                Files.createDirectories(absolute.getParent());
            }
            channel = lockFile(absolute);
            lock = channel == null ? null : tryLock(channel);
            if (lock == null && channel != null) {
                there = started(name, absolute);
            }
            if (lock == null && !there) {
                throw new InputProblem(name, 0, 0, "", message("problem.a-place-where-no-workbook-can"),
                        message("problem.check-that-the-folder-may-be"));
            }
            if (there) {
                Migrations.check(name, absolute);
            }
            if (lock != null) {
                Migrations.bringUpToDate(absolute);
            }
            Handle h = Jdbi.open(connect(absolute, lock == null));
            Health health = Health.look(h);
            if (lock != null && !health.damage().isEmpty()) {
                // What is damaged is not written to: it could only become worse.
                release(channel, lock);
                lock = null;
            }
            if (lock == null) {
                return new WorkbookFile(absolute, h, channel, null, null, health);
            }
            forgetUnfinished(h);
            return new WorkbookFile(absolute, h, channel, lock, null, health);
        } catch (IOException | SQLException | JdbiException | FlywayException e) {
            release(channel, lock);
            throw problem(name, e);
        } catch (InputProblem e) {
            release(channel, lock);
            throw e;
        }
    }

    /**
     * Opens a workbook to look into it: no lock is taken and nothing is written, neither in the file nor beside it. One
     * of an older version is read from a copy that is brought up to date.
     *
     * @param file the file, which is there
     * @return the workbook, read-only
     * @throws InputProblem when it is no workbook, is damaged, or was written by a newer version
     */
    static WorkbookFile openToRead(Path file) {
        String name = String.valueOf(file.getFileName());
        Path absolute = real(file);
        @Nullable Path copy = null;
        try {
            if (Files.size(absolute) == 0) {
                throw new InputProblem(name, 0, 0, "", message("problem.an-empty-file-no-workbook"),
                        message("problem.nariz-import-starts-a-workbook"));
            }
            Migrations.check(name, absolute);
            copy = Migrations.upToDateCopy(absolute).orElse(null);
            Handle h = Jdbi.open(connect(copy == null ? absolute : copy, true));
            WorkbookFile f = new WorkbookFile(absolute, h, null, null, copy, Health.look(h));
            f.onlyToRead = true;
            return f;
        } catch (IOException | SQLException | JdbiException | FlywayException e) {
            throw problem(name, e);
        }
    }

    /** Where a file really is: a link to it has no lock of its own. */
    private static Path real(Path file) {
        try {
            return file.toRealPath();
        } catch (IOException e) {
            Path absolute = file.toAbsolutePath().normalize();
            Path folder = absolute.getParent();
            try {
                return folder == null ? absolute : folder.toRealPath().resolve(absolute.getFileName());
            } catch (IOException notThere) {
                return absolute;
            }
        }
    }

    /** Waits until whoever holds the lock has written the workbook's first page. */
    private static boolean started(String name, Path file) throws IOException, SQLException {
        for (int i = 0; i < START_TRIES; i++) {
            if (Files.exists(file) && Files.size(file) > 0 && upToDate(file)) {
                return true;
            }
            try {
                Thread.sleep(START_PAUSE_MS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                break;
            }
        }
        throw new InputProblem(name, 0, 0, "", message("problem.a-workbook-that-is-being-started"),
                message("problem.try-again-in-a-moment"));
    }

    private static boolean upToDate(Path file) throws IOException, SQLException {
        Migrations.check(String.valueOf(file.getFileName()), file);
        try (Connection c = connect(file, true)) {
            return Migrations.pragma(c, "user_version") == Migrations.VERSION;
        }
    }

    /** An import that a crash cut short leaves no trace: its rows were never on the list. */
    private static void forgetUnfinished(Handle h) {
        h.useTransaction(t -> {
            for (Long run : t.createQuery("SELECT id FROM run WHERE deleted = 2").mapTo(Long.class).list()) {
                RunStore.forget(t, run);
            }
            // A file whose import was cut short before its run was there, too.
            for (Long raw
                    : t.createQuery("SELECT id FROM raw_file WHERE NOT EXISTS (SELECT 1 FROM run WHERE raw_file = "
                    + "raw_file.id)").mapTo(Long.class).list()) {
                RunStore.forgetFile(t, raw);
            }
        });
    }

    static Connection connect(Path file, boolean readOnly) throws SQLException {
        return source(file, readOnly).getConnection();
    }

    /** Connections that know the sums of rows. */
    static SQLiteDataSource source(Path file, boolean readOnly) {
        SQLiteConfig c = new SQLiteConfig();
        c.enforceForeignKeys(true);
        c.setBusyTimeout(5000);
        if (readOnly) {
            c.setReadOnly(true);
        } else {
            c.setJournalMode(SQLiteConfig.JournalMode.WAL);
            c.setSynchronous(SQLiteConfig.SynchronousMode.FULL);
        }
        SQLiteDataSource source = new SQLiteDataSource(c) {
            @Override
            public SQLiteConnection getConnection(@Nullable String user,
                    @Nullable String password) throws SQLException {
                SQLiteConnection made = super.getConnection(user, password);
                RowSum.register(made);
                return made;
            }
        };
        source.setUrl("jdbc:sqlite:" + (readOnly && frozen(file) ? file.toUri() + "?immutable=1" : file));
        return source;
    }

    /**
     * Whether nothing can be written beside the file and nothing waits in its log. A write-ahead log cannot be opened
     * in
     * such a folder, even for reading, unless the database is told that the file does not change.
     */
    private static boolean frozen(Path file) {
        Path log = file.resolveSibling(file.getFileName() + "-wal");
        return !Files.isWritable(file.toAbsolutePath().getParent())
                && (!Files.exists(log) || log.toFile().length() == 0);
    }

    private static @Nullable FileChannel lockFile(Path file) {
        try {
            return FileChannel.open(file.resolveSibling(file.getFileName() + ".lock"), StandardOpenOption.CREATE,
                    StandardOpenOption.WRITE);
        } catch (IOException e) {
            // A folder that cannot be written: the workbook can still be read.
            return null;
        }
    }

    private static @Nullable FileLock tryLock(FileChannel channel) throws IOException {
        try {
            return channel.tryLock();
        } catch (OverlappingFileLockException e) {
            return null;
        }
    }

    private static void release(@Nullable FileChannel channel, @Nullable FileLock lock) {
        try {
            if (lock != null) {
                lock.release();
            }
            if (channel != null) {
                channel.close();
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static InputProblem problem(String name, Exception e) {
        Throwable root = e;
        while (root.getCause() != null) {
            root = root.getCause();
        }
        String why = String.valueOf(root.getMessage());
        Message wanted = why.contains("FULL") ? message("problem.make-room-on-the-disk")
                : why.contains("READONLY") ? message("problem.the-workbook-is-open-for-reading")
                : message("problem.rescue-the-rest");
        return new InputProblem(name, 0, 0, "", message("problem.a-workbook-that-cannot-be-used", why), wanted);
    }

    /**
     * Asks the file. While something is taken in, questions have a connection of their own, so that nobody waits for
     * the end of it; they see what was committed.
     */
    <T> T read(Function<Handle, T> work) {
        if (importing.get() == 0) {
            synchronized (handle) {
                return checked(() -> work.apply(handle));
            }
        }
        synchronized (readerLock) {
            Handle h = reader == null ? secondConnection() : reader;
            reader = h;
            return checked(() -> work.apply(h));
        }
    }

    private Handle secondConnection() {
        try {
            // Only sound workbooks are written to, and only then is there a second connection.
            return Jdbi.open(connect(file, true));
        } catch (SQLException e) {
            throw problem(String.valueOf(file.getFileName()), e);
        }
    }

    /** Something long is written in many short transactions, between which others have their turn. */
    <T> T takingIn(Supplier<T> work) {
        importing.incrementAndGet();
        try {
            return work.get();
        } finally {
            importing.decrementAndGet();
        }
    }

    /** What goes wrong within is told with the file's name; damage is not the program's fault. */
    private <T> T checked(Supplier<T> work) {
        try {
            return work.get();
        } catch (JdbiException e) {
            throw problem(String.valueOf(file.getFileName()), e);
        } catch (DamagedPart | DateTimeException | IllegalStateException | NullPointerException e) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "", message("problem.a-damaged-part",
                    String.valueOf(e.getMessage())), message("problem.rescue-the-rest"));
        }
    }

    <T> T write(Function<Handle, T> work) {
        if (lock == null && !health.damage().isEmpty()) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "", message("problem.a-damaged-workbook",
                    health.damage().getFirst().text()), message("problem.rescue-the-rest"));
        }
        if (lock == null) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "",
                    message("problem.a-workbook-open-for-reading-only"),
                    message(lockFile == null ? "problem.its-folder-may-not-be-written"
                    : "problem.close-the-other-window"));
        }
        synchronized (handle) {
            return checked(() -> handle.inTransaction(work::apply));
        }
    }

    /** What is damaged, as far as it was looked at when the file was opened. */
    List<Damage> damage() {
        return health.damage();
    }

    Path file() {
        return file;
    }

    /** The connection that writes, for what has to be done in one go; lock it. */
    Handle handle() {
        return handle;
    }

    boolean readOnly() {
        return lock == null;
    }

    /** Why nothing can be written; empty where nobody asked for that. */
    String whyReadOnly() {
        if (!health.damage().isEmpty()) {
            return "it is damaged";
        }
        if (copy != null) {
            return "it is of an older version";
        }
        if (lock != null || onlyToRead) {
            return "";
        }
        return lockFile == null ? "the folder may not be written" : "another window has it open";
    }

    /** Closes the file; what was written stays. */
    void close() {
        synchronized (readerLock) {
            if (reader != null) {
                reader.close();
            }
        }
        synchronized (handle) {
            handle.close();
            release(lockFile, lock);
        }
        if (copy != null) {
            copy.toFile().delete();
        }
    }
}
