package nariz.app.state;

import static nariz.app.words.WindowWords.say;
import static nariz.text.Message.literal;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Advice;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.AdviceSummary;
import nariz.diagnosis.Previous;
import nariz.diagnosis.PreviousReader;
import nariz.log.LogReader;
import nariz.log.Plan;
import nariz.log.Recording;
import nariz.log.Span;
import nariz.workbook.Exchange;
import nariz.workbook.Exclusions;
import nariz.workbook.Recordings;
import nariz.workbook.Workbook;

/**
 * The workbook behind the window: every drive that is opened goes in, every decision about it is written at once.
 * Opened
 * when first asked for, on the worker's thread. Without a file nothing is kept.
 */
public final class DriveRepository implements AutoCloseable {
    /** Drives of a car whose answer is read for the list of cars. */
    private static final int MOST_TOLD = 12;
    /** Drives before one that are asked for the advice it follows. */
    private static final int MOST_BEFORE = 5;

    private volatile Path file;
    private volatile boolean elsewhere;
    private Workbook workbook;
    /** Of the one drive that is open and not kept; touched by the storage worker alone. */
    private Annotations unkept = new Annotations.InMemory();
    private long unkeptOf = -1;

    /**
     * A kept drive, for a list.
     *
     * @param run key
     * @param vehicle whose it is
     * @param name file it came from
     * @param imported when it came in
     * @param durationS length, s
     */
    public record Entry(long run, String vehicle, String name, Instant imported, double durationS) {
    }

    DriveRepository(Path file) {
        this.file = file;
    }

    private synchronized Optional<Workbook> open() {
        if (workbook == null && file != null) {
            workbook = Workbook.open(file);
            elsewhere = workbook.readOnly();
        }
        return Optional.ofNullable(workbook);
    }

    private Workbook needed() {
        return open().orElseThrow(() -> new IllegalStateException("nothing is kept without a workbook"));
    }

    /** Whether there is a workbook to keep drives in. */
    boolean keeps() {
        return file != null;
    }

    /** Whether its file is there. */
    boolean there() {
        return file != null && Files.exists(file);
    }

    /** Whether nothing can be written into it, or none is there. */
    boolean readOnly() {
        return open().map(Workbook::readOnly).orElse(true);
    }

    List<Entry> entries() {
        if (!Files.exists(file)) {
            return List.of();
        }
        Workbook w = needed();
        List<Workbook.Vehicle> vehicles = w.vehicles();
        return w.runs().stream().map(r -> new Entry(r.id(), vehicles.stream().filter(v -> v.id() == r.vehicle())
                .map(Workbook.Vehicle::name).findFirst().orElse(""), r.name(), r.imported(), r.durationS())).toList();
    }

    /** The cars there are, the one driven last first; drives that were taken off the list are not in their logbooks. */
    List<Car> cars() {
        if (!Files.exists(file)) {
            return List.of();
        }
        Workbook w = needed();
        List<Workbook.Run> runs = w.runs();
        return w.vehicles().stream().map(v -> car(w, v, runs.stream().filter(r -> r.vehicle() == v.id()).toList()))
                .flatMap(Optional::stream).sorted(Comparator.comparing((Car c) -> c.logbook().isEmpty() ? Instant.EPOCH
                        : c.logbook().getFirst().at()).reversed()).toList();
    }

    private static Optional<Car> car(Workbook w, Workbook.Vehicle v, List<Workbook.Run> runs) {
        List<Workbook.Sheet> sheets = w.sheets(v.id());
        if (sheets.isEmpty()) {
            return Optional.empty();
        }
        List<Car.Event> logbook = new ArrayList<>();
        for (Workbook.Run r : runs) {
            logbook.add(new Car.Event.Driven(new Entry(r.id(), v.name(), r.name(), r.imported(), r.durationS()),
                    logbook.size() < MOST_TOLD ? told(w, r.id()) : Optional.empty()));
        }
        for (int i = 1; i < sheets.size(); i++) {
            logbook.add(new Car.Event.Fitted(sheets.get(i).created(), between(sheets.get(i - 1), sheets.get(i))));
        }
        logbook.sort(Comparator.comparing(Car.Event::at).reversed());
        return Optional.of(new Car(v.id(), v.name(), new SheetText(v.name(), sheets.getLast().json()), logbook));
    }

    private static Optional<AdviceSummary> told(Workbook w, long run) {
        try {
            return w.advice(run).map(json -> PreviousReader.summary("", json));
        } catch (InputProblem e) {
            // A list of cars is no place to complain about one of its drives; opening it does.
            return Optional.empty();
        }
    }

    private static List<PartChange> between(Workbook.Sheet was, Workbook.Sheet is) {
        try {
            BuildSheet now = BuildSheetReader.parse("", is.json());
            BuildSheet then = BuildSheetReader.parse("", was.json());
            return now.carburetor().family().equals(then.carburetor().family()) ? PartChange.between(then, now)
                    : List.of();
        } catch (InputProblem e) {
            return List.of();
        }
    }

    /** Keeps a sheet as the newest of its car, and the car where there is none of its name. */
    void keepSheet(SheetText text) {
        Workbook w = needed();
        w.addSheet(w.vehicle(text.sheet().name()).id(), text.json());
    }

    /** The newest sheet of the car of a run. */
    SheetText newestSheet(long run) {
        Workbook w = needed();
        Workbook.Run r = run(run);
        String name = w.vehicles().stream().filter(v -> v.id() == r.vehicle()).map(Workbook.Vehicle::name).findFirst()
                .orElse("");
        return new SheetText(name, w.sheets(r.vehicle()).getLast().json());
    }

    Optional<Long> keep(String sheetJson, BuildSheet sheet, Recording r, Path logFile, Advice advice,
            BooleanSupplier cancelled) {
        Optional<Workbook> w = open().filter(x -> !x.readOnly());
        if (w.isEmpty()) {
            return Optional.empty();
        }
        Workbook.Sheet kept = w.get().addSheet(w.get().vehicle(sheet.name()).id(), sheetJson);
        Workbook.Run run = w.get().addRun(kept, r, logFile, cancelled);
        w.get().addAdvice(run.id(), advice.strategy(), AdviceJson.write(advice));
        return Optional.of(run.id());
    }

    /** Begins a recording on the car of a sheet; empty where nothing can be kept. */
    Optional<Recordings.Unfinished> beginRecording(SheetText text, String name) {
        Optional<Workbook> w = open().filter(x -> !x.readOnly());
        if (w.isEmpty()) {
            return Optional.empty();
        }
        Workbook.Sheet kept = w.get().addSheet(w.get().vehicle(text.sheet().name()).id(), text.json());
        long id = w.get().recordings().begin(kept, name, null);
        return w.get().recordings().unfinished().stream().filter(u -> u.id() == id).findFirst();
    }

    /** Keeps lines of a recording; any thread. */
    void record(Recordings.Unfinished u, List<String> lines) {
        needed().recordings().append(u.id(), lines);
    }

    /**
     * What became of recordings.
     *
     * @param runs those that are drives now
     * @param files those whose columns are not understood: their lines, to be opened as logs
     */
    record Recorded(List<Long> runs, List<Path> files) {
    }

    /** Ends a recording; one that holds nothing of use is let go. */
    Recorded recorded(Recordings.Unfinished u, boolean useful) {
        if (useful) {
            return recorded(List.of(u));
        }
        needed().recordings().drop(u);
        return new Recorded(List.of(), List.of());
    }

    /** Recordings become drives; where the columns are not understood the lines become a file beside the workbook. */
    private Recorded recorded(List<Recordings.Unfinished> all) {
        List<Long> runs = new ArrayList<>();
        List<Path> files = new ArrayList<>();
        for (Recordings.Unfinished u : all) {
            try {
                runs.add(needed().recordings().finish(u).id());
            } catch (InputProblem e) {
                files.add(writtenOut(u));
            }
        }
        return new Recorded(runs, files);
    }

    private Path writtenOut(Recordings.Unfinished u) {
        Path to = file.toAbsolutePath().resolveSibling(u.name() + ".csv");
        for (int n = 2; Files.exists(to); n++) {
            to = to.resolveSibling(u.name() + " (" + n + ").csv");
        }
        try {
            needed().recordings().write(u, to);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        // Only now: until the file is whole the lines stay where they are.
        needed().recordings().drop(u);
        return to;
    }

    /** Writes a note on every moment that was marked while it ran. */
    void marked(long run, List<LiveDrive.Mark> marks) {
        Workbook.Run r = run(run);
        for (LiveDrive.Mark m : marks) {
            needed().notes().add(r.vehicle(), Optional.of(run), Optional.of(m.atS()), m.text());
        }
    }

    /** Ends the recordings that a crash cut short. */
    Recorded recover() {
        return recorded(open().filter(x -> !x.readOnly()).map(x -> x.recordings().unfinished()).orElse(List.of()));
    }

    /** Whether another window has the workbook, so that this one keeps nothing; known once it is open. */
    boolean elsewhere() {
        return elsewhere;
    }

    /** Keeps what was advised once causes were looked for or stretches taken out. */
    void advised(long run, Advice advice) {
        Workbook w = needed();
        if (!w.readOnly()) {
            w.addAdvice(run, advice.strategy(), AdviceJson.write(advice));
        }
    }

    /**
     * The advice that the car of a drive has followed since: of the few drives before it, the last one whose changes
     * are all on its sheet, or which asked for a pull and has the same carburetor.
     *
     * @param sheet sheet of the drive
     * @param run where it is kept; empty where it is new
     */
    Optional<Previous> before(BuildSheet sheet, Optional<Long> run) {
        if (file == null || !Files.exists(file)) {
            return Optional.empty();
        }
        Workbook w = needed();
        List<Workbook.Run> runs = w.runs();
        Instant at = run.flatMap(id -> runs.stream().filter(r -> r.id() == id).findFirst()).map(Workbook.Run::imported)
                .orElse(Instant.MAX);
        return w.named(sheet.name()).flatMap(v -> runs.stream()
                .filter(r -> r.vehicle() == v.id() && r.imported().isBefore(at)).sorted(Comparator.comparing(
                Workbook.Run::imported).reversed()).limit(MOST_BEFORE).flatMap(r -> previous(w, r, sheet).stream())
                .findFirst());
    }

    private Optional<Previous> previous(Workbook w, Workbook.Run r, BuildSheet now) {
        try {
            return w.advice(r.id()).map(json -> PreviousReader.parse(r.name(), json)).filter(p -> p.followed(now)
                    || (p.asked() && sheet(r.id()).carburetor().equals(now.carburetor())));
        } catch (InputProblem e) {
            // Nothing was estimated then, or an earlier version wrote it: the drive is weighed by itself.
            return Optional.empty();
        }
    }

    /**
     * The run this file was kept as before with this sheet, whichever version of the chain that stands in: what was
     * decided then still counts.
     */
    Optional<Long> known(String sheetJson, BuildSheet sheet, Path logFile) {
        if (file == null || !Files.exists(file)) {
            return Optional.empty();
        }
        Workbook w = needed();
        List<Workbook.Sheet> same = w.named(sheet.name()).map(v -> w.sheets(v.id()).stream().filter(s ->
                s.json().equals(sheetJson)).toList()).orElse(List.of());
        return same.reversed().stream().flatMap(s -> w.known(s, logFile).stream()).findFirst();
    }

    Optional<Plan> profile(String signature) {
        return open().flatMap(w -> w.profile(signature));
    }

    void remember(Plan plan) {
        open().filter(w -> !w.readOnly()).ifPresent(w -> w.remember(plan));
    }

    private Workbook.Run run(long run) {
        return needed().runs().stream().filter(r -> r.id() == run).findFirst().orElseThrow(() ->
                new InputProblem(String.valueOf(file.getFileName()), 0, 0, "", literal(say("library.no-run",
                        run)), literal(say("library.it-was-taken-off"))));
    }

    BuildSheet sheet(long run) {
        return BuildSheetReader.parse(say("library.build-sheet"), needed().sheetJson(run(run).sheet()));
    }

    Recording recording(long run) {
        return needed().recording(run(run).id());
    }

    /** Reads a kept drive again from its own file, by another plan, and keeps it so. */
    void readAgain(long run, Plan plan, BooleanSupplier cancelled) throws IOException {
        Path raw = Files.createTempFile("nariz", ".log");
        try {
            try (OutputStream out = Files.newOutputStream(raw)) {
                needed().raw(run, out);
            }
            needed().reread(run, LogReader.record(raw, plan, cancelled, n -> { }));
        } finally {
            Files.deleteIfExists(raw);
        }
    }

    /** What of the workbook is damaged, in words; empty when nothing is or none is open. */
    String damage() {
        Workbook w = workbook;
        return w == null || w.damage().isEmpty() ? "" : say(w.damage().getFirst().text());
    }

    /** Writes a kept run, or a stretch of it where that is asked for, in the format the name asks for. */
    void export(long run, Span stretch, Path to) throws IOException {
        Recording r = recording(run);
        if (to.toString().endsWith(".zip")) {
            Exchange.dataPackage(r, needed().sheetJson(run(run).sheet()), to);
        } else {
            Exchange.csv(r, stretch == null ? Double.NEGATIVE_INFINITY : stretch.fromS(),
                    stretch == null ? Double.POSITIVE_INFINITY : stretch.toS(), to);
        }
    }

    Decisions decisions(long run) {
        return new Decisions(needed().lookedFor(run), needed().exclusions().of(run).stream().map(e -> new Span(e
                .fromS(), e.toS())).toList());
    }

    /** Brings what is kept about a run to what was decided. */
    void decided(long run, Decisions d) {
        List<String> checked = d.checked();
        List<Span> excluded = d.excluded();
        Workbook w = needed();
        if (w.readOnly()) {
            return;
        }
        List<String> before = w.lookedFor(run);
        before.stream().filter(c -> !checked.contains(c)).forEach(c -> w.lookedFor(run, c, false));
        checked.stream().filter(c -> !before.contains(c)).forEach(c -> w.lookedFor(run, c, true));
        List<Exclusions.Excluded> out = w.exclusions().of(run);
        out.stream().filter(e -> !excluded.contains(new Span(e.fromS(), e.toS()))).forEach(e ->
                w.exclusions().remove(run, e));
        excluded.stream().filter(s -> out.stream().noneMatch(e -> e.fromS() == s.fromS() && e.toS() == s.toS()))
                .forEach(s -> w.exclusions().add(run, s.fromS(), s.toS(), say("library.taken-out-in-the")));
    }

    /**
     * Goes on with another workbook. The one at hand is put away only once the other is open.
     *
     * @param other file; one that is not there begins empty
     * @param from folder that a workbook was exported to, to fill the new one from; null to take the file as it is
     */
    synchronized void turnTo(Path other, Path from) {
        if (workbook != null && workbook.file().equals(other.toAbsolutePath()) && from == null) {
            return;
        }
        boolean fresh = !Files.exists(other);
        Workbook next = Workbook.open(other);
        try {
            if (from != null) {
                Exchange.read(from, next);
            }
        } catch (RuntimeException e) {
            next.close();
            if (fresh) {
                discard(other);
            }
            throw e;
        }
        close();
        workbook = next;
        elsewhere = next.readOnly();
        file = other;
    }

    /** A workbook begun for a folder that turned out to be none leaves nothing behind. */
    private static void discard(Path begun) {
        for (String end : List.of("", "-wal", "-shm")) {
            try {
                Files.deleteIfExists(begun.resolveSibling(begun.getFileName() + end));
            } catch (IOException e) {
                // An empty workbook left over does no harm, and the message that matters is on its way.
            }
        }
    }

    /** Writes the whole workbook into an empty folder. */
    void exportAll(Path folder) throws IOException {
        if (Files.isDirectory(folder) && folder.toFile().list().length > 0) {
            throw new InputProblem(String.valueOf(folder.getFileName()), 0, 0, "",
                    literal(say("library.a-folder-with-something")), literal(say("library.choose-an-empty-one")));
        }
        Exchange.folder(needed(), folder);
    }

    /** {@return name of the workbook's file, or empty when nothing is kept} */
    String name() {
        return file == null ? "" : String.valueOf(file.getFileName());
    }

    /** Takes a run off the list, or puts it back. */
    void removed(long run, boolean off) {
        needed().runRemoved(run, off);
    }

    /**
     * What is kept beside a drive; beside one that is not kept, for as long as it is open.
     *
     * @param run its key, if it is kept
     * @param opening which opening it is
     */
    Annotations annotations(Optional<Long> run, long opening) {
        if (run.isPresent()) {
            return new Annotations.Kept(needed(), run(run.get()));
        }
        if (unkeptOf != opening) {
            unkept = new Annotations.InMemory();
            unkeptOf = opening;
        }
        return unkept;
    }

    @Override
    public synchronized void close() {
        if (workbook != null) {
            workbook.close();
        }
    }
}
