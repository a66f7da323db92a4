package nariz.app.state;

import static nariz.app.words.WindowWords.say;
import static nariz.text.Message.literal;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import nariz.app.words.WindowWords;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.coverage.DrivePlan;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Previous;
import nariz.diagnosis.Request;
import nariz.log.ColumnPlan;
import nariz.log.DriveLog;
import nariz.log.LogReader;
import nariz.log.Plan;
import nariz.log.PointReader;
import nariz.log.Proposal;
import nariz.log.Quality;
import nariz.log.Recording;
import nariz.log.TrackReader;
import nariz.text.Message;
import nariz.workbook.Exchange;
import org.jspecify.annotations.Nullable;

/** The way from files to a drive that can be shown and is kept. Runs on a worker and knows nothing of the window. */
final class DriveOpener {
    private static final long TELL_NS = 300_000_000L;
    /** Speed, vacuum and mixture; time may come from a rate. */
    private static final int FEWEST_COLUMNS = 3;

    private final DriveRepository repository;
    private final Consumer<String> progress;
    private final Consumer<String> complaint;
    /** Where the drive that was opened last came from; it may not be kept anywhere. */
    private volatile Source last;

    /** What a drive was read from, and how. */
    private record Source(long opening, String sheetJson, Path log, Plan plan) {
    }

    /**
     * The way into a workbook.
     *
     * @param repository where drives are kept
     * @param progress told in words how far a reading is, from the worker
     * @param complaint told what was left out, from the worker
     */
    DriveOpener(DriveRepository repository, Consumer<String> progress, Consumer<String> complaint) {
        this.repository = repository;
        this.progress = progress;
        this.complaint = complaint;
    }

    /** What came of opening files: a drive, or a question about its columns. */
    sealed interface Outcome {
        record Shown(Drive drive, Optional<Comparison> against) implements Outcome {
            Shown(Drive drive) {
                this(drive, Optional.empty());
            }
        }

        record Asked(ColumnsQuestion question) implements Outcome {
        }
    }

    /** Opens a build sheet and a log; asks where the log does not say what its columns are. */
    Outcome files(long opening, SheetText text, Path logFile, BooleanSupplier cancelled) {
        BuildSheet sheet = text.sheet();
        try {
            Plan before = remembered(logFile);
            return keep(opening, text.json(), sheet, read(logFile, before, cancelled), logFile, cancelled);
        } catch (InputProblem e) {
            return ask(opening, text, sheet, logFile, e, cancelled);
        }
    }

    /** What was agreed about logs of this kind before; null when nothing was. */
    private @Nullable Plan remembered(Path logFile) {
        try {
            return repository.profile(LogReader.propose(logFile).plan().signature()).orElse(null);
        } catch (InputProblem e) {
            // Whatever is wrong with it is told when it is read.
            return null;
        }
    }

    /** Opens a data package, which brings its own build sheet. */
    Outcome dataPackage(long opening, Path zip, BooleanSupplier cancelled) {
        Exchange.Packed p = Exchange.dataPackage(zip);
        return keep(opening, p.sheetJson(), BuildSheetReader.parse("build-sheet.json", p.sheetJson()), p.recording(),
                zip,
                cancelled);
    }

    /** Opens the log in question by a plan somebody agreed to, and remembers the plan for the next of its source. */
    Outcome answered(long opening, ColumnsQuestion q, Plan plan, BooleanSupplier cancelled) {
        BuildSheet sheet = q.sheet().sheet();
        Outcome o = keep(opening, q.sheet().json(), sheet, read(q.logFile(), plan, cancelled), q.logFile(),
                cancelled);
        repository.remember(plan);
        return o;
    }

    /** Opens a drive that was followed, and keeps with it what was decided and noted on the way. */
    Outcome followed(long opening, SheetText text, Path logFile, Decisions made, Annotations noted,
            BooleanSupplier cancelled) {
        Outcome o = files(opening, text, logFile, cancelled);
        if (!(o instanceof Outcome.Shown s)) {
            return o;
        }
        Drive d = s.drive();
        Decisions all = d.decisions().equals(Decisions.NONE) ? made : d.decisions();
        if (d.run().isPresent()) {
            repository.decided(d.run().get(), all);
            Annotations kept = repository.annotations(d.run(), opening);
            noted.notes().forEach(n -> kept.addNote(n.atS(), n.text()));
            noted.plans().forEach(p -> kept.addPlan(p.name(), p.changes()));
        }
        return all.equals(d.decisions()) ? o : new Outcome.Shown(analyse(opening, d.sheet(), d.log(), all, d.odd(),
                d.run(), d.before(), cancelled));
    }

    /** Reads the log of a drive again with one column more, and remembers that for the next log of its kind. */
    Outcome withColumn(long opening, Drive d, ColumnPlan column, BooleanSupplier cancelled) {
        try {
            if (d.run().isPresent() && !repository.readOnly()) {
                long run = d.run().get();
                Plan plan = repository.recording(run).plan().with(column.confirmed());
                repository.readAgain(run, plan, cancelled);
                repository.remember(plan);
                return kept(opening, run, cancelled);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        Source from = last;
        if (from == null || from.opening() != d.opening()) {
            throw new InputProblem(d.log().name(), 0, 0, "", literal(say("session.the-log-is-not-at-hand")),
                    Message.NONE);
        }
        Recording r = read(from.log(), from.plan().with(column.confirmed()), cancelled);
        return keep(opening, from.sheetJson(), d.sheet(), r, from.log(), cancelled);
    }

    /** Opens a drive of the workbook. */
    Outcome kept(long opening, long run, BooleanSupplier cancelled) {
        BuildSheet sheet = repository.sheet(run);
        Recording r = repository.recording(run);
        return new Outcome.Shown(analyse(opening, sheet, LogReader.drive(r, sheet), repository.decisions(run),
                Quality.of(r), Optional.of(run), repository.before(sheet, Optional.of(run)), cancelled));
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
            complaint.accept(say("session.the-track-was-left", e.text(WindowWords.wording())));
            return r;
        }
    }

    private Outcome ask(long opening, SheetText text, BuildSheet sheet, Path logFile, InputProblem why,
            BooleanSupplier cancelled) {
        Proposal p;
        try {
            p = LogReader.propose(logFile);
        } catch (InputProblem e) {
            throw why;
        }
        Optional<Plan> before = repository.profile(p.plan().signature());
        if (before.isPresent()) {
            return keep(opening, text.json(), sheet, read(logFile, before.get(), cancelled), logFile, cancelled);
        }
        // A header that names nothing can still be asked about, as long as there are readings enough to choose from.
        if (p.clear() || p.numbers() < FEWEST_COLUMNS) {
            throw why;
        }
        return new Outcome.Asked(new ColumnsQuestion(text, logFile, p, why.text(WindowWords.wording())));
    }

    private Outcome keep(long opening, String sheetJson, BuildSheet sheet, Recording r, Path logFile,
            BooleanSupplier cancelled) {
        DriveLog log = LogReader.drive(r, sheet);
        last = new Source(opening, sheetJson, logFile, r.plan());
        Optional<Long> known = repository.known(sheetJson, sheet, logFile);
        if (known.isPresent()) {
            long run = known.get();
            return new Outcome.Shown(analyse(opening, sheet, log, repository.decisions(run), Quality.of(r), known,
                    repository.before(sheet, known), cancelled));
        }
        Drive d = analyse(opening, sheet, log, Decisions.NONE, Quality.of(r), Optional.empty(),
                repository.before(sheet, Optional.empty()), cancelled);
        return new Outcome.Shown(d.keptAs(repository.keep(sheetJson, sheet, r, logFile, d.analysis().advice(),
                cancelled)));
    }

    /** Everything that is shown of a drive: a function of sheet, log, decisions and the advice it follows. */
    static Drive analyse(long opening, BuildSheet sheet, DriveLog log, Decisions decisions,
            List<Quality.Finding> odd, Optional<Long> run, Optional<Previous> before, BooleanSupplier cancelled) {
        DriveLog counted = log.without(decisions.excluded());
        Analysis a = Analysis.of(Request.of(sheet, counted).withRuledOut(decisions.checked()).withPrevious(before),
                cancelled);
        Trace trace = Trace.of(a);
        TipInSeries tipIns = TipInSeries.of(a);
        return new Drive(opening, sheet, counted, a, trace, Boundaries.of(sheet, a), decisions, odd, run, before,
                Effect.advised(a), Strips.of(sheet, counted, a, trace), tipIns, DrivePlan.of(a,
                        tipIns.events()), WindowWords.wording());
    }
}
