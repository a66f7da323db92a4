package nariz.app.session;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import nariz.advice.Analysis;
import nariz.advice.Strategy;
import nariz.build.BuildSheet;
import nariz.build.BuildSheetReader;
import nariz.build.InputProblem;
import nariz.drive.DrivePlan;
import nariz.log.DriveLog;
import nariz.log.LogReader;
import nariz.log.Plan;
import nariz.log.PointReader;
import nariz.log.Proposal;
import nariz.log.Quality;
import nariz.log.Recording;
import nariz.log.TrackReader;
import nariz.store.Exchange;

/** The way from files to a drive that can be shown and is kept. Runs on a worker and knows nothing of the window. */
final class Intake {
    private static final long TELL_NS = 300_000_000L;
    /** Speed, vacuum and mixture; time may come from a rate. */
    private static final int FEWEST_COLUMNS = 3;

    private final Library library;
    private final Consumer<String> progress;
    private final Consumer<String> complaint;

    /**
     * The way into a workbook.
     *
     * @param library where drives are kept
     * @param progress told in words how far a reading is, from the worker
     * @param complaint told what was left out, from the worker
     */
    Intake(Library library, Consumer<String> progress, Consumer<String> complaint) {
        this.library = library;
        this.progress = progress;
        this.complaint = complaint;
    }

    /** What came of opening files: a drive, or a question about its columns. */
    sealed interface Outcome {
        record Shown(Session.Drive drive, Optional<Comparison> against) implements Outcome {
            Shown(Session.Drive drive) {
                this(drive, Optional.empty());
            }
        }

        record Asked(Session.Question question) implements Outcome {
        }
    }

    /** Opens a build sheet and a log; asks where the log does not say what its columns are. */
    Outcome files(Path sheetFile, Path logFile, BooleanSupplier cancelled) {
        BuildSheet sheet = BuildSheetReader.read(sheetFile);
        try {
            return keep(json(sheetFile), sheet, read(logFile, null, cancelled), logFile, cancelled);
        } catch (InputProblem e) {
            return ask(sheetFile, sheet, logFile, e, cancelled);
        }
    }

    /** Opens a data package, which brings its own build sheet. */
    Outcome dataPackage(Path zip, BooleanSupplier cancelled) {
        Exchange.Packed p = Exchange.dataPackage(zip);
        return keep(p.sheetJson(), BuildSheetReader.parse("build-sheet.json", p.sheetJson()), p.recording(), zip,
                cancelled);
    }

    /** Opens the log in question by a plan somebody agreed to, and remembers the plan for the next of its source. */
    Outcome answered(Session.Question q, Plan plan, BooleanSupplier cancelled) {
        BuildSheet sheet = BuildSheetReader.read(q.sheetFile());
        Outcome o = keep(json(q.sheetFile()), sheet, read(q.logFile(), plan, cancelled), q.logFile(), cancelled);
        library.remember(plan);
        return o;
    }

    /** Opens a drive of the workbook. */
    Outcome kept(long run, BooleanSupplier cancelled) {
        BuildSheet sheet = library.sheet(run);
        Recording r = library.recording(run);
        DriveLog log = LogReader.drive(r, sheet).without(library.excluded(run));
        return new Outcome.Shown(analyse(sheet, log, library.checked(run), Quality.of(r), Optional.of(run),
                cancelled));
    }

    /** A sheet's own text, to be kept as it stands; it has just been read without complaint. */
    private static String json(Path sheetFile) {
        try {
            return Files.readString(sheetFile);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A short list of noted points counts as a log. */
    private Recording read(Path file, Plan plan, BooleanSupplier cancelled) {
        Optional<Recording> points = plan == null ? PointReader.read(file) : Optional.empty();
        if (points.isPresent()) {
            return points.get();
        }
        long started = System.nanoTime();
        long[] told = {started};
        Recording r = LogReader.record(file, plan, cancelled, rows -> {
            long now = System.nanoTime();
            if (now - told[0] > TELL_NS) {
                told[0] = now;
                String words = say("session.reading-million-rows-thousand",
                        file.getFileName(), rows / 1e6, rows * 1e6 / (now - started));
                progress.accept(words);
            }
        });
        Path track = file.resolveSibling(String.valueOf(file.getFileName()).replaceFirst("\\.[^.]*$", "") + ".gpx");
        // A track of the same name beside the log belongs to it.
        if (!Files.isRegularFile(track)) {
            return r;
        }
        try {
            return r.beside(TrackReader.read(track));
        } catch (InputProblem e) {
            complaint.accept(say("session.the-track-was-left", e.getMessage()));
            return r;
        }
    }

    private Outcome ask(Path sheetFile, BuildSheet sheet, Path logFile, InputProblem why, BooleanSupplier cancelled) {
        Proposal p;
        try {
            p = LogReader.propose(logFile);
        } catch (InputProblem e) {
            throw why;
        }
        Optional<Plan> before = library.profile(p.plan().signature());
        if (before.isPresent()) {
            return keep(json(sheetFile), sheet, read(logFile, before.get(), cancelled), logFile, cancelled);
        }
        // A header that names nothing can still be asked about, as long as there are readings enough to choose from.
        if (p.clear() || p.numbers() < FEWEST_COLUMNS) {
            throw why;
        }
        return new Outcome.Asked(new Session.Question(sheetFile, logFile, p, why.getMessage()));
    }

    private Outcome keep(String sheetJson, BuildSheet sheet, Recording r, Path logFile, BooleanSupplier cancelled) {
        DriveLog log = LogReader.drive(r, sheet);
        Optional<Long> known = library.known(sheetJson, sheet, logFile);
        if (known.isPresent()) {
            long run = known.get();
            return new Outcome.Shown(analyse(sheet, log.without(library.excluded(run)), library.checked(run),
                    Quality.of(r), known, cancelled));
        }
        Session.Drive d = analyse(sheet, log, List.of(), Quality.of(r), Optional.empty(), cancelled);
        return new Outcome.Shown(d.keptAs(library.keep(sheetJson, sheet, r, logFile, d.analysis().advice(),
                cancelled)));
    }

    /** Everything that is shown of a drive. */
    static Session.Drive analyse(BuildSheet sheet, DriveLog log, List<String> checked, List<Quality.Finding> odd,
            Optional<Long> run, BooleanSupplier cancelled) {
        Analysis a = Analysis.of(sheet, log, Strategy.BALANCED, checked, cancelled);
        Trace trace = Trace.of(a);
        Stabs stabs = Stabs.of(a);
        return new Session.Drive(sheet, log, a, trace, Boundaries.of(sheet, a), checked, odd, run, Effect.advised(a),
                Strips.of(sheet, log, a, trace), stabs, DrivePlan.of(a.observation(), stabs.events()));
    }
}
