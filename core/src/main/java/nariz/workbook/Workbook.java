package nariz.workbook;

import static nariz.text.Message.message;

import nariz.text.Message;
import nariz.carburetor.Families;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.EnumMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import java.util.function.Supplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.log.Channel;
import nariz.log.Plan;
import nariz.log.PlanJson;
import nariz.log.Recording;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.JdbiException;
import org.jspecify.annotations.Nullable;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;

/**
 * One workbook file, open.
 *
 * <p>Every change is one transaction with full synchronisation: what a call that returned has written survives a crash
 * of the program or the machine. The first to open a file may write; who comes later reads only
 * ({@link #readOnly}). Calls may come from any thread; one writes at a time, and reading waits for no import. Samples
 * are loaded when asked for.
 */
public final class Workbook implements AutoCloseable {
    /** File name extension. */
    public static final String EXTENSION = ".nariz";
    private static final int PART = 1 << 20;
    private static final int LONGEST_HISTORY = 200;

    private final Path file;
    /** Writes. */
    private final Handle handle;
    /** Reads; the same as the one that writes where there is only one. */
    private final Handle reader;
    /** A copy of an older workbook that was made to read it, or null. */
    private final @Nullable Path copy;
    private final @Nullable FileChannel lockFile;
    private final @Nullable FileLock lock;
    private final Deque<Edit> done = new ArrayDeque<>();
    private final Deque<Edit> undone = new ArrayDeque<>();

    /** A change with what takes it back; both run in a transaction of their own. */
    private record Edit(String title, Runnable again, Runnable back) {
    }

    /**
     * A vehicle.
     *
     * @param id key in this file
     * @param name as the user calls it
     */
    public record Vehicle(long id, String name) {
    }

    /**
     * A version of a build sheet.
     *
     * @param id key in this file
     * @param vehicle whose it is
     * @param json the sheet, format {@code nariz-build/1}
     * @param created when it was added
     */
    public record Sheet(long id, long vehicle, String json, Instant created) {
    }

    /**
     * What a list of runs shows; samples are not loaded for it.
     *
     * @param id key in this file
     * @param vehicle whose it is
     * @param sheet build sheet it was driven on
     * @param name file name or title
     * @param imported when it came in
     * @param samples rows
     * @param durationS length, s
     * @param problemCount cells and rows that were kept out
     */
    public record Run(long id, long vehicle, long sheet, String name, Instant imported, int samples, double durationS,
            long problemCount) {
    }

    /**
     * A stretch the user took out of the computation; its samples stay.
     *
     * @param id key in this file
     * @param fromS start, s in the run
     * @param toS end
     * @param reason in the user's words
     */
    public record Excluded(long id, double fromS, double toS, String reason) {
    }

    /**
     * A note.
     *
     * @param id key in this file
     * @param run run it belongs to, if any
     * @param atS moment in the run it names, s; empty for a note on the whole
     * @param text what was written
     * @param created when
     */
    public record Note(long id, Optional<Long> run, Optional<Double> atS, String text, Instant created) {
    }

    /**
     * Parts one means to fit.
     *
     * @param id key in this file
     * @param sheet build sheet it starts from
     * @param name as the user calls it
     * @param changes parts against that sheet
     * @param created when
     */
    public record PartPlan(long id, long sheet, String name, List<PartChange> changes, Instant created) {
        /** Copies the list. */
        public PartPlan {
            changes = List.copyOf(changes);
        }
    }

    /**
     * What one version of a build sheet changed against the version before.
     *
     * @param sheet the version
     * @param changes parts changed; empty where only other things were
     */
    public record Made(Sheet sheet, List<PartChange> changes) {
        /** Copies the list. */
        public Made {
            changes = List.copyOf(changes);
        }
    }

    private Workbook(Path file, Handle handle, Handle reader, @Nullable FileChannel lockFile, @Nullable FileLock lock,
            @Nullable Path copy) {
        this.file = file;
        this.handle = handle;
        this.reader = reader;
        this.copy = copy;
        this.lockFile = lockFile;
        this.lock = lock;
    }

    /**
     * Opens a workbook, or starts one where there is no file.
     *
     * @param file the file
     * @return the workbook; read-only when another window has it open or the place cannot be written
     * @throws InputProblem when it is no workbook, is damaged, or was written by a newer version
     */
    public static Workbook open(Path file) {
        String name = String.valueOf(file.getFileName());
        Path absolute = file.toAbsolutePath();
        FileChannel channel = null;
        FileLock lock = null;
        try {
            boolean there = Files.exists(absolute);
            if (!there && absolute.getParent() != null) {
                Files.createDirectories(absolute.getParent());
            }
            channel = lockFile(absolute);
            lock = channel == null ? null : tryLock(channel);
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
            if (lock == null) {
                return new Workbook(absolute, h, h, channel, null, null);
            }
            forgetUnfinished(h);
            return new Workbook(absolute, h, Jdbi.open(connect(absolute, true)), channel, lock, null);
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
    public static Workbook openToRead(Path file) {
        String name = String.valueOf(file.getFileName());
        Path absolute = file.toAbsolutePath();
        Path copy = null;
        try {
            Migrations.check(name, absolute);
            copy = Migrations.upToDateCopy(absolute).orElse(null);
            Handle h = Jdbi.open(connect(copy == null ? absolute : copy, true));
            return new Workbook(absolute, h, h, null, null, copy);
        } catch (IOException | SQLException | JdbiException | FlywayException e) {
            throw problem(name, e);
        }
    }

    /** An import that a crash cut short leaves no trace: its rows were never on the list. */
    private static void forgetUnfinished(Handle h) {
        h.useTransaction(t -> {
            for (Long run : t.createQuery("SELECT id FROM run WHERE deleted = 2").mapTo(Long.class).list()) {
                forget(t, run);
            }
            // A file whose import was cut short before its run was there, too.
            for (Long raw : t.createQuery("SELECT id FROM raw_file WHERE NOT EXISTS (SELECT 1 FROM run WHERE raw_file = "
                    + "raw_file.id)").mapTo(Long.class).list()) {
                forgetFile(t, raw);
            }
        });
    }

    private static void forget(Handle h, long run) {
        Optional<Long> raw = h.createQuery("SELECT raw_file FROM run WHERE id = ? AND raw_file IS NOT NULL").bind(0, run)
                .mapTo(Long.class).findOne();
        h.createUpdate("DELETE FROM chunk WHERE run = ?").bind(0, run).execute();
        h.createUpdate("DELETE FROM mark WHERE run = ?").bind(0, run).execute();
        h.createUpdate("DELETE FROM run WHERE id = ?").bind(0, run).execute();
        raw.filter(f -> h.createQuery("SELECT COUNT(*) FROM run WHERE raw_file = ?").bind(0, f).mapTo(Integer.class)
                .one() == 0).ifPresent(f -> forgetFile(h, f));
    }

    private static void forgetFile(Handle h, long raw) {
        h.createUpdate("DELETE FROM raw_part WHERE raw_file = ?").bind(0, raw).execute();
        h.createUpdate("DELETE FROM raw_file WHERE id = ?").bind(0, raw).execute();
    }

    static Connection connect(Path file, boolean readOnly) throws SQLException {
        SQLiteConfig c = new SQLiteConfig();
        c.enforceForeignKeys(true);
        c.setBusyTimeout(5000);
        if (readOnly) {
            c.setReadOnly(true);
        } else {
            c.setJournalMode(SQLiteConfig.JournalMode.WAL);
            c.setSynchronous(SQLiteConfig.SynchronousMode.FULL);
        }
        SQLiteDataSource source = new SQLiteDataSource(c);
        source.setUrl("jdbc:sqlite:" + (readOnly && frozen(file) ? file.toUri() + "?immutable=1" : file));
        return source.getConnection();
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

    private static FileChannel lockFile(Path file) {
        try {
            return FileChannel.open(file.resolveSibling(file.getFileName() + ".lock"), StandardOpenOption.CREATE,
                    StandardOpenOption.WRITE);
        } catch (IOException e) {
            // A folder that cannot be written: the workbook can still be read.
            return null;
        }
    }

    private static FileLock tryLock(FileChannel channel) throws IOException {
        try {
            return channel.tryLock();
        } catch (OverlappingFileLockException e) {
            return null;
        }
    }

    private static void release(FileChannel channel, FileLock lock) {
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
                : message("problem.take-a-copy-aside");
        return new InputProblem(name, 0, 0, "", message("problem.a-workbook-that-cannot-be-used", why), wanted);
    }

    /** {@return the file} */
    public Path file() {
        return file;
    }

    /** {@return whether somebody else may write and this window may not} */
    public boolean readOnly() {
        return lock == null;
    }

    /** {@return why this window only reads; only when {@link #readOnly()}} */
    public String whyReadOnly() {
        return copy != null ? "it is of an older version" : lockFile == null ? "the folder may not be written"
                : "another window has it open";
    }

    private static String now() {
        return Instant.now().truncatedTo(ChronoUnit.MILLIS).toString();
    }

    Handle handle() {
        return handle;
    }

    /**
     * Asks the file. Readers have a connection of their own, so that a long import keeps nobody waiting; they see what
     * was committed.
     */
    private <T> T read(Function<Handle, T> work) {
        synchronized (reader) {
            return checked(() -> work.apply(reader));
        }
    }

    /** What goes wrong within is told with the file's name; damage is not the program's fault. */
    private <T> T checked(Supplier<T> work) {
        try {
            return work.get();
        } catch (JdbiException e) {
            throw problem(String.valueOf(file.getFileName()), e);
        } catch (DamagedPart e) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "", message("problem.a-damaged-part",
                    String.valueOf(e.getMessage())), message("problem.take-a-copy-aside"));
        }
    }

    private <T> T write(Function<Handle, T> work) {
        if (readOnly()) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "",
                    message("problem.a-workbook-open-for-reading-only"),
                    message(lockFile == null ? "problem.its-folder-may-not-be-written" : "problem.close-the-other-window"));
        }
        synchronized (handle) {
            return checked(() -> handle.inTransaction(work::apply));
        }
    }

    /** Runs a change and remembers how to take it back. */
    private void edit(String title, Runnable again, Runnable back) {
        again.run();
        done(title, again, back);
    }

    /** Remembers how to take back what has just been done. */
    private synchronized void done(String title, Runnable again, Runnable back) {
        done.push(new Edit(title, again, back));
        if (done.size() > LONGEST_HISTORY) {
            done.removeLast();
        }
        undone.clear();
    }

    private Runnable sql(String statement, Object... values) {
        return () -> write(h -> {
            var u = h.createUpdate(statement);
            for (int i = 0; i < values.length; i++) {
                u.bind(i, values[i]);
            }
            return u.execute();
        });
    }

    /** {@return what undo would take back, or empty} */
    public synchronized Optional<String> undoTitle() {
        return Optional.ofNullable(done.peek()).map(Edit::title);
    }

    /** {@return what redo would bring back, or empty} */
    public synchronized Optional<String> redoTitle() {
        return Optional.ofNullable(undone.peek()).map(Edit::title);
    }

    /** Takes back the latest change of this sitting; nothing when there is none. */
    public synchronized void undo() {
        if (!done.isEmpty()) {
            Edit e = done.peek();
            e.back().run();
            undone.push(done.pop());
        }
    }

    /** Brings back what was taken back last; nothing when there is none. */
    public synchronized void redo() {
        if (!undone.isEmpty()) {
            Edit e = undone.peek();
            e.again().run();
            done.push(undone.pop());
        }
    }

    /** {@return all vehicles by name} */
    public List<Vehicle> vehicles() {
        return read(Workbook::vehicles);
    }

    private static List<Vehicle> vehicles(Handle h) {
        return h.createQuery("SELECT id, name FROM vehicle ORDER BY name, id")
                .map((r, c) -> new Vehicle(r.getLong(1), r.getString(2))).list();
    }

    /**
     * The vehicle of a name.
     *
     * @param name as the user calls it
     * @return it; added when there was none
     */
    public Vehicle vehicle(String name) {
        Optional<Vehicle> there = vehicles().stream().filter(v -> v.name().equals(name)).findFirst();
        // Looked up again where it is written: another thread may have been faster.
        return there.orElseGet(() -> write(h -> vehicles(h).stream().filter(v -> v.name().equals(name)).findFirst()
                .orElseGet(() -> new Vehicle(h.createUpdate("INSERT INTO vehicle (name, created) VALUES (?, ?)")
                        .bind(0, name).bind(1, now()).executeAndReturnGeneratedKeys("id").mapTo(Long.class).one(),
                        name))));
    }

    /**
     * Versions of a vehicle's build sheet.
     *
     * @param vehicle key
     * @return from the first to the latest
     */
    public List<Sheet> sheets(long vehicle) {
        return read(h -> sheets(h, vehicle));
    }

    private static List<Sheet> sheets(Handle h, long vehicle) {
        return h.createQuery("SELECT id, json, created FROM build_sheet WHERE vehicle = ? ORDER BY id")
                .bind(0, vehicle).map((r, c) -> new Sheet(r.getLong(1), vehicle, r.getString(2),
                        Instant.parse(r.getString(3)))).list();
    }

    /**
     * Adds a version of a build sheet; the latest one is returned when it is the same.
     *
     * @param vehicle key
     * @param json the sheet
     * @return the version
     */
    public Sheet addSheet(long vehicle, String json) {
        return write(h -> addSheet(h, vehicle, json));
    }

    private Sheet addSheet(Handle h, long vehicle, String json) {
        List<Sheet> before = sheets(h, vehicle);
        if (!before.isEmpty() && before.getLast().json().equals(json)) {
            return before.getLast();
        }
        String at = now();
        Long previous = before.isEmpty() ? null : before.getLast().id();
        long id = h.createUpdate("INSERT INTO build_sheet (vehicle, previous, json, created) VALUES "
                + "(?, ?, ?, ?)").bind(0, vehicle).bind(1, previous).bind(2, json).bind(3, at)
                .executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
        return new Sheet(id, vehicle, json, Instant.parse(at));
    }

    /**
     * The build sheet a run was driven on.
     *
     * @param sheet key
     * @return its JSON
     */
    public String sheetJson(long sheet) {
        return read(h -> h.createQuery("SELECT json FROM build_sheet WHERE id = ?").bind(0, sheet).mapTo(String.class)
                .one());
    }

    /** {@return all runs, the latest first; no samples are loaded} */
    public List<Run> runs() {
        return read(h -> h.createQuery("SELECT id, vehicle, build_sheet, name, imported, samples, duration, problem_count "
                + "FROM run WHERE deleted = 0 ORDER BY imported DESC, id DESC").map((r, c) -> new Run(r.getLong(1),
                r.getLong(2), r.getLong(3), r.getString(4), Instant.parse(r.getString(5)), r.getInt(6),
                r.getDouble(7), r.getLong(8))).list());
    }

    /**
     * Takes a recording in, with the file it came from.
     *
     * @param sheet build sheet it was driven on
     * @param recording what was read
     * @param source the file, kept byte for byte; null when there is none
     * @param cancelled asked now and then; true gives up and leaves no trace
     * @return the run
     * @throws InputProblem when the workbook cannot take it
     */
    public Run addRun(Sheet sheet, Recording recording, Path source, BooleanSupplier cancelled) {
        String at = now();
        double duration = recording.durationS();
        long id = write(h -> begun(h, sheet, recording, at));
        try {
            if (source != null) {
                addRaw(id, source, cancelled);
            }
            addChunks(recording, cancelled, (channel, part, packed) -> write(h -> chunk(h, id, channel, part, packed)));
            write(h -> {
                addMarks(h, id, recording);
                return h.createUpdate("UPDATE run SET deleted = 0 WHERE id = ?").bind(0, id).execute();
            });
        } catch (RuntimeException | Error e) {
            write(h -> {
                forget(h, id);
                return id;
            });
            throw e;
        }
        done("import of " + recording.name(), sql("UPDATE run SET deleted = 0 WHERE id = ?", id),
                sql("UPDATE run SET deleted = 1 WHERE id = ?", id));
        return new Run(id, sheet.vehicle(), sheet.id(), recording.name(), Instant.parse(at), recording.size(), duration,
                recording.problemCount());
    }

    /**
     * A run that is being taken in: on no list until everything of it is there. It is written in many short steps, so
     * that a note or a decision never waits for an import.
     */
    private static long begun(Handle h, Sheet sheet, Recording recording, String at) {
        return h.createUpdate("INSERT INTO run (vehicle, build_sheet, name, imported, samples, duration, start_clock, "
                + "header_line, plan, preamble, problems, problem_count, deleted) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, "
                + "?, ?, 2)").bind(0, sheet.vehicle()).bind(1, sheet.id()).bind(2, recording.name()).bind(3, at)
                .bind(4, recording.size()).bind(5, recording.durationS())
                .bind(6, Double.isNaN(recording.startClockS()) ? null : (Double) recording.startClockS())
                .bind(7, recording.headerLine()).bind(8, PlanJson.write(recording.plan()))
                .bind(9, String.join("\n", recording.preamble())).bind(10, Problems.write(recording.problems()))
                .bind(11, recording.problemCount()).executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
    }

    /**
     * The run a file was taken in as before, on the same build sheet.
     *
     * @param sheet build sheet
     * @param source file
     * @return its key; empty when this is the first time or it was taken off the list
     * @throws InputProblem when the file cannot be read
     */
    public Optional<Long> known(Sheet sheet, Path source) {
        try {
            String sha = sha256(source);
            return read(h -> h.createQuery("SELECT run.id FROM run JOIN raw_file ON raw_file.id = run.raw_file WHERE "
                    + "run.build_sheet = ? AND raw_file.sha256 = ? AND run.deleted = 0 ORDER BY run.id DESC LIMIT 1")
                    .bind(0, sheet.id()).bind(1, sha).mapTo(Long.class).findOne());
        } catch (IOException e) {
            throw problem(String.valueOf(source.getFileName()), e);
        }
    }

    private static void stopIf(BooleanSupplier cancelled) {
        if (cancelled.getAsBoolean()) {
            throw new java.util.concurrent.CancellationException("import was cancelled");
        }
    }

    /** Takes packed parts of channels. */
    @FunctionalInterface
    interface ChunkSink {
        void put(String channel, int part, byte[] packed);
    }

    static void addChunks(Recording recording, BooleanSupplier cancelled, ChunkSink sink) {
        for (Channel c : recording.channels()) {
            int part = 0;
            for (byte[] chunk : recording.chunks(c)) {
                stopIf(cancelled);
                sink.put(c.key(), part++, Packing.pack(chunk, chunk.length));
            }
        }
    }

    static int chunk(Handle h, long run, String channel, int part, byte[] packed) {
        return h.createUpdate("INSERT INTO chunk (run, channel, part, packed) VALUES (?, ?, ?, ?)").bind(0, run)
                .bind(1, channel).bind(2, part).bind(3, packed).execute();
    }

    private static void addMarks(Handle h, long run, Recording recording) {
        for (Recording.Mark m : recording.marks()) {
            h.createUpdate("INSERT INTO mark (run, time, text) VALUES (?, ?, ?)").bind(0, run).bind(1, m.timeS())
                    .bind(2, m.text()).execute();
        }
    }

    /** Stores bytes in packed parts under a raw file's key. */
    static void addParts(Handle h, long rawFile, InputStream in) throws IOException {
        byte[] part = new byte[PART];
        int n = 0;
        for (int got = in.readNBytes(part, 0, PART); got > 0; got = in.readNBytes(part, 0, PART)) {
            part(h, rawFile, n++, Packing.pack(part, got));
        }
    }

    private static int part(Handle h, long rawFile, int number, byte[] packed) {
        return h.createUpdate("INSERT INTO raw_part (raw_file, part, packed) VALUES (?, ?, ?)").bind(0, rawFile)
                .bind(1, number).bind(2, packed).execute();
    }

    /** Gives the bytes under a raw file's key back. */
    static void copyRaw(Handle h, long rawFile, OutputStream out) throws IOException {
        int parts = h.createQuery("SELECT COUNT(*) FROM raw_part WHERE raw_file = ?").bind(0, rawFile)
                .mapTo(Integer.class).one();
        for (int i = 0; i < parts; i++) {
            out.write(Packing.unpack(h.createQuery("SELECT packed FROM raw_part WHERE raw_file = ? AND part = ?")
                    .bind(0, rawFile).bind(1, i).mapTo(byte[].class).one()));
        }
    }

    /** Stores the file a run came from in packed parts; one that is there already is stored once. */
    private void addRaw(long run, Path source, BooleanSupplier cancelled) {
        try (InputStream in = Files.newInputStream(source)) {
            String sha = sha256(source);
            long size = Files.size(source);
            Optional<Long> same = write(h -> {
                Optional<Long> there = h.createQuery("SELECT id FROM raw_file WHERE sha256 = ?").bind(0, sha)
                        .mapTo(Long.class).findOne();
                there.ifPresent(f -> belongs(h, run, f));
                return there;
            });
            if (same.isPresent()) {
                return;
            }
            long id = write(h -> {
                long made = h.createUpdate("INSERT INTO raw_file (sha256, name, size) VALUES (?, ?, ?)").bind(0, sha)
                        .bind(1, String.valueOf(source.getFileName())).bind(2, size)
                        .executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
                belongs(h, run, made);
                return made;
            });
            byte[] part = new byte[PART];
            int n = 0;
            for (int got = in.readNBytes(part, 0, PART); got > 0; got = in.readNBytes(part, 0, PART)) {
                stopIf(cancelled);
                byte[] packed = Packing.pack(part, got);
                int number = n++;
                write(h -> part(h, id, number, packed));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void belongs(Handle h, long run, long rawFile) {
        h.createUpdate("UPDATE run SET raw_file = ? WHERE id = ?").bind(0, rawFile).bind(1, run).execute();
    }

    static String sha256(Path source) throws IOException {
        try (InputStream in = Files.newInputStream(source)) {
            MessageDigest d = MessageDigest.getInstance("SHA-256");
            byte[] buffer = new byte[PART];
            for (int got = in.read(buffer); got > 0; got = in.read(buffer)) {
                d.update(buffer, 0, got);
            }
            return HexFormat.of().formatHex(d.digest());
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /**
     * Loads a run's samples.
     *
     * @param run key
     * @return the recording as it was imported
     */
    public Recording recording(long run) {
        return read(h -> recording(h, run));
    }

    static Recording recording(Handle handle, long run) {
        Map<Channel, List<byte[]>> chunks = new EnumMap<>(Channel.class);
        handle.createQuery("SELECT channel, packed FROM chunk WHERE run = ? ORDER BY channel, part").bind(0, run)
                .map((r, c) -> chunks.computeIfAbsent(Channel.ofKey(r.getString(1)).orElseThrow(() ->
                        new DamagedPart("a channel of no name")),
                        k -> new ArrayList<>()).add(Packing.unpack(r.getBytes(2)))).list();
        List<Recording.Mark> marks = handle.createQuery("SELECT time, text FROM mark WHERE run = ? ORDER BY id")
                .bind(0, run).map((r, c) -> new Recording.Mark(r.getDouble(1), r.getString(2))).list();
        return handle.createQuery("SELECT name, samples, start_clock, header_line, plan, preamble, problems, "
                + "problem_count FROM run WHERE id = ?").bind(0, run).map((r, c) -> {
                    double clock = r.getDouble(3);
                    double start = r.wasNull() ? Double.NaN : clock;
                    Plan plan = PlanJson.parse("workbook", r.getString(5));
                    return new Recording(r.getString(1), plan, r.getString(6).lines().toList(), r.getInt(2),
                            r.getLong(4), chunks, marks, Problems.parse(r.getString(7)), r.getLong(8), start);
                }).one();
    }

    /**
     * Gives back the file a run came from, byte for byte.
     *
     * @param run key
     * @param out receives it; not closed
     * @return its name, or empty when the run came from no file
     * @throws IOException when writing fails
     */
    public Optional<String> raw(long run, OutputStream out) throws IOException {
        try {
            return read(h -> raw(h, run, out));
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private static Optional<String> raw(Handle handle, long run, OutputStream out) {
        Optional<Long> raw = handle.createQuery("SELECT raw_file FROM run WHERE id = ? AND raw_file IS NOT NULL")
                .bind(0, run).mapTo(Long.class).findOne();
        if (raw.isEmpty()) {
            return Optional.empty();
        }
        try {
            copyRaw(handle, raw.get(), out);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return handle.createQuery("SELECT name FROM raw_file WHERE id = ?").bind(0, raw.get()).mapTo(String.class)
                .findOne();
    }

    /**
     * Takes a run off the list, or puts one back that was taken off; its samples stay.
     *
     * @param run key
     * @param off true to take it off
     */
    public void runRemoved(long run, boolean off) {
        String name = runName(run);
        Runnable take = sql("UPDATE run SET deleted = 1 WHERE id = ?", run);
        Runnable put = sql("UPDATE run SET deleted = 0 WHERE id = ?", run);
        edit((off ? "removal of " : "return of ") + name, off ? take : put, off ? put : take);
    }

    private String runName(long run) {
        return read(h -> h.createQuery("SELECT name FROM run WHERE id = ?").bind(0, run).mapTo(String.class).one());
    }

    /**
     * Stretches of a run that do not count.
     *
     * @param run key
     * @return in the order of time
     */
    public List<Excluded> excluded(long run) {
        return read(h -> h.createQuery("SELECT id, from_s, to_s, reason FROM excluded WHERE run = ? ORDER BY from_s, id")
                .bind(0, run).map((r, c) -> new Excluded(r.getLong(1), r.getDouble(2), r.getDouble(3), r.getString(4)))
                .list());
    }

    /**
     * Takes a stretch out of the computation.
     *
     * @param run key
     * @param fromS start, s in the run
     * @param toS end, later than the start
     * @param reason in the user's words
     */
    public void exclude(long run, double fromS, double toS, String reason) {
        if (!(toS > fromS)) {
            throw new IllegalArgumentException("stretch from " + fromS + " to " + toS + " s");
        }
        long id = write(h -> h.createUpdate("INSERT INTO excluded (run, from_s, to_s, reason) VALUES (?, ?, ?, ?)")
                .bind(0, run).bind(1, fromS).bind(2, toS).bind(3, reason).executeAndReturnGeneratedKeys("id")
                .mapTo(Long.class).one());
        done("exclusion of a stretch", sql("INSERT INTO excluded (id, run, from_s, to_s, reason) VALUES (?, ?, ?, ?, ?)",
                id, run, fromS, toS, reason), sql("DELETE FROM excluded WHERE id = ?", id));
    }

    /**
     * Lets a stretch count again.
     *
     * @param run key
     * @param e the stretch
     */
    public void restore(long run, Excluded e) {
        edit("return of a stretch", sql("DELETE FROM excluded WHERE id = ?", e.id()),
                sql("INSERT INTO excluded (id, run, from_s, to_s, reason) VALUES (?, ?, ?, ?, ?)", e.id(), run,
                        e.fromS(),
                        e.toS(), e.reason()));
    }

    /**
     * Notes on a vehicle and its runs.
     *
     * @param vehicle key
     * @return in the order they were written
     */
    public List<Note> notes(long vehicle) {
        return read(h -> h.createQuery("SELECT id, run, at_s, text, created FROM note WHERE vehicle = ? ORDER BY id")
                .bind(0, vehicle).map((r, c) -> new Note(r.getLong(1), Optional.ofNullable((Number) r.getObject(2))
                        .map(Number::longValue), Optional.ofNullable((Number) r.getObject(3)).map(Number::doubleValue),
                        r.getString(4), Instant.parse(r.getString(5)))).list());
    }

    /**
     * Writes a note.
     *
     * @param vehicle key
     * @param run run it belongs to, if any
     * @param atS moment in that run, s; empty for the whole
     * @param text what to keep, not blank
     * @return the note as it is kept
     */
    public Note addNote(long vehicle, Optional<Long> run, Optional<Double> atS, String text) {
        if (text.isBlank() || (atS.isPresent() && run.isEmpty())) {
            throw new IllegalArgumentException("a note needs words, and a moment needs a run: \"" + text + "\"");
        }
        Instant created = Instant.parse(now());
        Note n = write(h -> {
            long id = h.createUpdate("INSERT INTO note (vehicle, run, at_s, text, created) VALUES (?, ?, ?, ?, ?)")
                    .bind(0, vehicle).bind(1, run.orElse(null)).bind(2, atS.orElse(null)).bind(3, text)
                    .bind(4, created.toString()).executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
            return new Note(id, run, atS, text, created);
        });
        done("note \"" + shortened(text) + "\"", put(vehicle, n), sql("DELETE FROM note WHERE id = ?", n.id()));
        return n;
    }

    /**
     * Puts a note in other words; it stays on its moment, or on the whole.
     *
     * @param n the note
     * @param text what to keep instead, not blank
     */
    public void rewordNote(Note n, String text) {
        if (text.isBlank()) {
            throw new IllegalArgumentException("a note needs words");
        }
        edit("note \"" + shortened(text) + "\"", sql("UPDATE note SET text = ? WHERE id = ?", text, n.id()),
                sql("UPDATE note SET text = ? WHERE id = ?", n.text(), n.id()));
    }

    /**
     * Takes a note away; undo brings it back.
     *
     * @param vehicle key
     * @param n the note
     */
    public void removeNote(long vehicle, Note n) {
        edit("removal of note \"" + shortened(n.text()) + "\"", sql("DELETE FROM note WHERE id = ?", n.id()),
                put(vehicle, n));
    }

    private Runnable put(long vehicle, Note n) {
        return sql("INSERT INTO note (id, vehicle, run, at_s, text, created) VALUES (?, ?, ?, ?, ?, ?)", n.id(),
                vehicle, n.run().orElse(null), n.atS().orElse(null), n.text(), n.created().toString());
    }

    private static String shortened(String text) {
        return text.length() > 30 ? text.substring(0, 29) + "…" : text;
    }

    /**
     * Plans for a vehicle.
     *
     * @param vehicle key
     * @return in the order they were kept
     */
    public List<PartPlan> plans(long vehicle) {
        return read(h -> h.createQuery("SELECT id, build_sheet, name, created FROM plan WHERE vehicle = ? ORDER BY id")
                .bind(0, vehicle).map((r, c) -> new PartPlan(r.getLong(1), r.getLong(2), r.getString(3),
                        planned(h, r.getLong(1), r.getLong(2)), Instant.parse(r.getString(4)))).list());
    }

    private static List<PartChange> planned(Handle handle, long plan, long sheet) {
        BuildSheet parts = BuildSheetReader.parse("build sheet", handle.createQuery("SELECT json FROM build_sheet WHERE "
                + "id = ?").bind(0, sheet).mapTo(String.class).one());
        return handle.createQuery("SELECT part, side, size FROM planned WHERE plan = ? ORDER BY rowid").bind(0, plan)
                .map((r, c) -> {
                    Part part = Families.part(r.getString(1)).orElseThrow();
                    Stage side = Stage.ofKey(r.getString(2)).orElseThrow();
                    return new PartChange(part, side, part.of(parts.carburetor(), side), r.getDouble(3));
                }).list();
    }

    /**
     * Keeps parts one means to fit.
     *
     * @param sheet build sheet they are changes of
     * @param name as the user calls the plan
     * @param changes parts, at least one
     */
    public void addPlan(Sheet sheet, String name, List<PartChange> changes) {
        if (changes.isEmpty()) {
            throw new IllegalArgumentException("a plan without parts");
        }
        Instant created = Instant.parse(now());
        PartPlan p = write(h -> {
            long id = h.createUpdate("INSERT INTO plan (vehicle, build_sheet, name, created) VALUES (?, ?, ?, ?)")
                    .bind(0, sheet.vehicle()).bind(1, sheet.id()).bind(2, name).bind(3, created.toString())
                    .executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
            PartPlan made = new PartPlan(id, sheet.id(), name, changes, created);
            planned(h, made);
            return made;
        });
        done("plan " + name, put(sheet.vehicle(), p), sql("DELETE FROM plan WHERE id = ?", p.id()));
    }

    /**
     * Takes a plan away; undo brings it back.
     *
     * @param vehicle key
     * @param p the plan
     */
    public void removePlan(long vehicle, PartPlan p) {
        edit("removal of plan " + p.name(), sql("DELETE FROM plan WHERE id = ?", p.id()), put(vehicle, p));
    }

    private Runnable put(long vehicle, PartPlan p) {
        return () -> write(h -> {
            h.createUpdate("INSERT INTO plan (id, vehicle, build_sheet, name, created) VALUES (?, ?, ?, ?, ?)")
                    .bind(0, p.id()).bind(1, vehicle).bind(2, p.sheet()).bind(3, p.name())
                    .bind(4, p.created().toString()).execute();
            planned(h, p);
            return p.id();
        });
    }

    private static void planned(Handle h, PartPlan p) {
        for (PartChange c : p.changes()) {
            h.createUpdate("INSERT INTO planned (plan, part, side, size) VALUES (?, ?, ?, ?)").bind(0, p.id())
                    .bind(1, c.part().key()).bind(2, c.side().key()).bind(3, c.to()).execute();
        }
    }

    /**
     * What was changed on a vehicle, version by version of its build sheet.
     *
     * @param vehicle key
     * @return from the second version on
     */
    public List<Made> made(long vehicle) {
        List<Sheet> all = sheets(vehicle);
        List<Made> out = new ArrayList<>();
        for (int i = 1; i < all.size(); i++) {
            out.add(new Made(all.get(i), PartChange.between(
                    BuildSheetReader.parse("build sheet", all.get(i - 1).json()),
                    BuildSheetReader.parse("build sheet", all.get(i).json()))));
        }
        return out;
    }

    /**
     * What was looked for and not found.
     *
     * @param run key
     * @return causes
     */
    public List<String> lookedFor(long run) {
        return read(h -> h.createQuery("SELECT cause FROM looked_for WHERE run = ? ORDER BY id").bind(0, run)
                .mapTo(String.class).list());
    }

    /**
     * Records that a cause was looked for and not found, or takes that back.
     *
     * @param run key
     * @param cause as in an advice
     * @param soundNow whether it is sound
     */
    public void lookedFor(long run, String cause, boolean soundNow) {
        Runnable add = sql("INSERT OR IGNORE INTO looked_for (run, cause, created) VALUES (?, ?, ?)", run, cause,
                now());
        Runnable drop = sql("DELETE FROM looked_for WHERE run = ? AND cause = ?", run, cause);
        edit("check of " + cause, soundNow ? add : drop, soundNow ? drop : add);
    }

    /**
     * Keeps an advice with its run.
     *
     * @param run key
     * @param strategy name of the targets
     * @param json format {@code nariz-advice/1}
     */
    public void addAdvice(long run, String strategy, String json) {
        write(h -> h.createUpdate("INSERT INTO advice (run, strategy, json, created) VALUES (?, ?, ?, ?)").bind(0, run)
                .bind(1, strategy).bind(2, json).bind(3, now()).execute());
    }

    /**
     * The latest advice on a run.
     *
     * @param run key
     * @return its JSON, or empty
     */
    public Optional<String> advice(long run) {
        return read(h -> h.createQuery("SELECT json FROM advice WHERE run = ? ORDER BY id DESC LIMIT 1").bind(0, run)
                .mapTo(String.class).findOne());
    }

    /**
     * How files from a source are read.
     *
     * @param signature of the file, as in {@link Plan#signature}
     * @return the plan the user agreed to, or empty
     */
    public Optional<Plan> profile(String signature) {
        return read(h -> h.createQuery("SELECT json FROM profile WHERE signature = ?").bind(0, signature)
                .mapTo(String.class).findOne().map(j -> PlanJson.parse("profile", j)));
    }

    /**
     * Remembers how files from a source are read.
     *
     * @param plan agreed plan
     */
    public void remember(Plan plan) {
        write(h -> h.createUpdate("INSERT INTO profile (signature, json, used) VALUES (?, ?, ?) ON CONFLICT "
                + "(signature) DO UPDATE SET json = excluded.json, used = excluded.used").bind(0, plan.signature())
                .bind(1, PlanJson.write(plan)).bind(2, now()).execute());
    }

    /** Closes the file; what was written stays. */
    @Override
    public void close() {
        synchronized (handle) {
            reader.close();
            handle.close();
            release(lockFile, lock);
        }
        if (copy != null) {
            copy.toFile().delete();
        }
    }
}
