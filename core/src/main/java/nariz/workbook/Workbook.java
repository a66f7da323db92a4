package nariz.workbook;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import nariz.carburetor.InputProblem;
import nariz.log.Plan;
import nariz.log.PlanJson;
import nariz.log.Recording;
import org.jdbi.v3.core.Handle;
import org.jspecify.annotations.Nullable;

/**
 * One workbook file, open.
 *
 * <p>Every change is one transaction with full synchronisation: what a call that returned has written survives a crash
 * of the program or the machine. The first to open a file may write; who comes later reads only
 * ({@link #readOnly}). Calls may come from any thread; one writes at a time, and reading waits for no import. Samples
 * are loaded when asked for.
 *
 * <p>Vehicles, sheets and runs are here; what is kept beside them has a class for each kind ({@link VehicleNotes},
 * {@link PartPlans}, {@link Exclusions}, {@link Recordings}), under the same lock and the same history of edits. How
 * the file is opened, readings are packed and edits undone stands in {@link WorkbookFile}, {@link RunStore} and
 * {@link EditHistory}.
 */
public final class Workbook implements AutoCloseable {
    /** File name extension. */
    public static final String EXTENSION = ".nariz";

    private final WorkbookFile database;
    private final EditHistory history = new EditHistory();
    private final VehicleNotes notes = new VehicleNotes(this);
    private final PartPlans plans = new PartPlans(this);
    private final Recordings recordings = new Recordings(this);
    private final Exclusions exclusions = new Exclusions(this);

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

    private Workbook(WorkbookFile database) {
        this.database = database;
    }

    /**
     * Opens a workbook, or starts one where there is no file.
     *
     * @param file the file
     * @return the workbook; read-only when another window has it open or the place cannot be written
     * @throws InputProblem when it is no workbook, is damaged, or was written by a newer version
     */
    public static Workbook open(Path file) {
        return new Workbook(WorkbookFile.open(file));
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
        return new Workbook(WorkbookFile.openToRead(file));
    }

    /** {@return what was found damaged when the file was opened; the rest can be read, nothing can be written} */
    public List<Damage> damage() {
        return database.damage();
    }

    /** {@return the file} */
    public Path file() {
        return database.file();
    }

    /** {@return whether somebody else may write and this window may not} */
    public boolean readOnly() {
        return database.readOnly();
    }

    /** {@return why nothing can be written; empty when it can, or when it was opened to be read} */
    public String whyReadOnly() {
        return database.whyReadOnly();
    }

    static String now() {
        return Instant.now().truncatedTo(ChronoUnit.MILLIS).toString();
    }

    WorkbookFile database() {
        return database;
    }

    EditHistory history() {
        return history;
    }

    /** {@return notes on vehicles and runs} */
    public VehicleNotes notes() {
        return notes;
    }

    /** {@return parts that are meant to be fitted, and that were} */
    public PartPlans plans() {
        return plans;
    }

    /** {@return recordings that have not become runs} */
    public Recordings recordings() {
        return recordings;
    }

    /** {@return stretches of runs that are left out} */
    public Exclusions exclusions() {
        return exclusions;
    }

    Handle handle() {
        return database.handle();
    }

    Runnable sql(String statement, @Nullable Object... values) {
        return () -> database.write(h -> {
            var u = h.createUpdate(statement);
            for (int i = 0; i < values.length; i++) {
                u.bind(i, values[i]);
            }
            return u.execute();
        });
    }

    /** {@return what undo would take back, or empty} */
    public Optional<String> undoTitle() {
        return history.undoTitle();
    }

    /** {@return what redo would bring back, or empty} */
    public Optional<String> redoTitle() {
        return history.redoTitle();
    }

    /** Takes back the latest change of this sitting; nothing when there is none. */
    public void undo() {
        history.undo();
    }

    /** Brings back what was taken back last; nothing when nothing was. */
    public void redo() {
        history.redo();
    }

    /** {@return all vehicles by name} */
    public List<Vehicle> vehicles() {
        return database.read(Workbook::vehicles);
    }

    private static List<Vehicle> vehicles(Handle h) {
        return h.createQuery("SELECT id, name FROM vehicle ORDER BY name, id")
                .map((r, c) -> new Vehicle(r.getLong(1), r.getString(2))).list();
    }

    /**
     * Looks a vehicle up.
     *
     * @param name as the user calls it
     * @return it, or empty where there is none of that name
     */
    public Optional<Vehicle> named(String name) {
        return named(vehicles(), name);
    }

    private static Optional<Vehicle> named(List<Vehicle> all, String name) {
        return all.stream().filter(v -> v.name().equals(name)).findFirst();
    }

    /**
     * The vehicle of a name.
     *
     * @param name as the user calls it
     * @return it; added when there was none
     */
    public Vehicle vehicle(String name) {
        // Looked up again where it is written: another thread may have been faster.
        return named(name).orElseGet(() -> database.write(h -> named(vehicles(h), name).orElseGet(() -> new Vehicle(
                h.createUpdate("INSERT INTO vehicle (name, created) VALUES (?, ?)").bind(0, name).bind(1, now())
                        .executeAndReturnGeneratedKeys("id").mapTo(Long.class).one(), name))));
    }

    /**
     * Versions of a vehicle's build sheet.
     *
     * @param vehicle key
     * @return from the first to the latest
     */
    public List<Sheet> sheets(long vehicle) {
        return database.read(h -> sheets(h, vehicle));
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
        return database.write(h -> addSheet(h, vehicle, json));
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
        return database.read(h -> h.createQuery("SELECT json FROM build_sheet WHERE id = ?").bind(0,
                sheet).mapTo(String.class)
                .one());
    }

    /** {@return all runs, the latest first; no samples are loaded} */
    public List<Run> runs() {
        return database.read(h ->
                h.createQuery("SELECT id, vehicle, build_sheet, name, imported, samples, duration, problem_count "
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
        long id = database.takingIn(() -> RunStore.add(database, sheet, recording, source, at, cancelled));
        history.add("import of " + recording.name(), sql("UPDATE run SET deleted = 0 WHERE id = ?", id),
                sql("UPDATE run SET deleted = 1 WHERE id = ?", id));
        return new Run(id, sheet.vehicle(), sheet.id(), recording.name(), Instant.parse(at), recording.size(), duration,
                recording.problemCount());
    }

    /**
     * Takes a run's file in once more, read in another way; notes, decisions and the file itself stay.
     *
     * @param run key
     * @param recording what was read of the same file
     */
    public void reread(long run, Recording recording) {
        database.write(h -> RunStore.replace(h, run, recording));
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
            String sha = RunStore.sha256(source);
            return database.read(h ->
                    h.createQuery("SELECT run.id FROM run JOIN raw_file ON raw_file.id = run.raw_file WHERE "
                    + "run.build_sheet = ? AND raw_file.sha256 = ? AND run.deleted = 0 ORDER BY run.id DESC LIMIT 1")
                    .bind(0, sheet.id()).bind(1, sha).mapTo(Long.class).findOne());
        } catch (IOException e) {
            throw WorkbookFile.problem(String.valueOf(source.getFileName()), e);
        }
    }

    /**
     * Loads a run's samples.
     *
     * @param run key
     * @return the recording as it was imported
     */
    public Recording recording(long run) {
        return database.read(h -> RunStore.recording(h, run));
    }

    /**
     * Whether the file a run came from is kept.
     *
     * @param run key
     * @return false for a run that came from none
     */
    public boolean hasFile(long run) {
        return database.read(h -> h.createQuery("SELECT COUNT(raw_file) FROM run WHERE id = ?").bind(0, run).mapTo(
                Integer.class).one() > 0);
    }

    /**
     * Gives back the file a run came from, byte for byte.
     *
     * @param run key
     * @param out receives it; not closed
     * @return its name, or empty when the run came from no file
     * @throws IOException when writing fails
     * @throws InputProblem when what is kept of it is not what was taken in; something may have been written by then
     */
    public Optional<String> raw(long run, OutputStream out) throws IOException {
        try {
            return database.read(h -> RunStore.raw(h, run, out));
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
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
        history.run((off ? "removal of " : "return of ") + name, off ? take : put, off ? put : take);
    }

    private String runName(long run) {
        return database.read(h -> h.createQuery("SELECT name FROM run WHERE id = ?").bind(0,
                run).mapTo(String.class).one());
    }

    /**
     * What was looked for and not found.
     *
     * @param run key
     * @return causes
     */
    public List<String> lookedFor(long run) {
        return database.read(h -> h.createQuery("SELECT cause FROM looked_for WHERE run = ? ORDER BY id").bind(0, run)
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
        history.run("check of " + cause, soundNow ? add : drop, soundNow ? drop : add);
    }

    /**
     * Keeps an advice with its run.
     *
     * @param run key
     * @param strategy name of the targets
     * @param json format {@code nariz-advice/1}
     */
    public void addAdvice(long run, String strategy, String json) {
        database.write(h -> h.createUpdate("INSERT INTO advice (run, strategy, json, created) VALUES (?, ?, ?, ?)")
                .bind(0, run)
                .bind(1, strategy).bind(2, json).bind(3, now()).execute());
    }

    /**
     * The latest advice on a run.
     *
     * @param run key
     * @return its JSON, or empty
     */
    public Optional<String> advice(long run) {
        return database.read(h -> h.createQuery("SELECT json FROM advice WHERE run = ? ORDER BY id DESC LIMIT 1")
                .bind(0, run)
                .mapTo(String.class).findOne());
    }

    /**
     * How files from a source are read.
     *
     * @param signature of the file, as in {@link Plan#signature}
     * @return the plan the user agreed to, or empty
     */
    public Optional<Plan> profile(String signature) {
        return database.read(h -> h.createQuery("SELECT json FROM profile WHERE signature = ?").bind(0, signature)
                .mapTo(String.class).findOne().map(j -> PlanJson.parse("profile", j)));
    }

    /**
     * Remembers how files from a source are read.
     *
     * @param plan agreed plan
     */
    public void remember(Plan plan) {
        database.write(h -> h.createUpdate("INSERT INTO profile (signature, json, used) VALUES (?, ?, ?) ON CONFLICT "
                + "(signature) DO UPDATE SET json = excluded.json, used = excluded.used").bind(0, plan.signature())
                .bind(1, PlanJson.write(plan)).bind(2, now()).execute());
    }

    /** Closes the file; what was written stays. */
    @Override
    public void close() {
        database.close();
    }
}
