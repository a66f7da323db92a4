package nariz.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.live.DeviceAddress;
import nariz.live.DeviceSource;
import nariz.live.LineFilter;
import nariz.live.LiveRecorder;
import nariz.workbook.Recordings;
import nariz.workbook.Workbook;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** {@code nariz record}: records a device straight into a workbook. */
@Command(name = "record", mixinStandardHelpOptions = true,
        description = "Records the lines of a device straight into a workbook; a crash loses less than a second. What "
                + "an earlier crash cut short becomes a run first. Nobody reads the screen while driving.")
final class RecordCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Option(names = "--from", required = true, paramLabel = "ADDRESS", description = "tcp:HOST:PORT or serial:NAME, "
            + "with @RATE where it is not 115200")
    private String from;

    @Option(names = "--workbook", required = true, paramLabel = "FILE", description = "the workbook; started when "
            + "there is none")
    private Path workbook;

    @Option(names = "--build", paramLabel = "FILE", description = "build sheet of the car; its newest in the workbook "
            + "when left out")
    private @Nullable Path build;

    @Option(names = "--vehicle", paramLabel = "NAME", description = "which car of the workbook")
    private @Nullable String vehicle;

    @Option(names = "--for", paramLabel = "SECONDS", description = "how long; until it is stopped when left out")
    private @Nullable Double forS;

    @Option(names = "--csv", paramLabel = "FILE", description = "also as a file of its own")
    private @Nullable Path csv;

    @Mixin
    private OutputOptions result = new OutputOptions();

    @Override
    public Integer call() throws IOException {
        DeviceAddress address = DeviceAddress.parse(from);
        if (csv != null) {
            result.check(csv);
        }
        PrintWriter out = spec.commandLine().getOut();
        try (Workbook w = Workbook.open(workbook)) {
            for (Recordings.Unfinished u : w.recordings().unfinished()) {
                finish(w, u, out);
            }
            Workbook.Sheet sheet = sheet(w);
            long id = w.recordings().begin(sheet, LiveRecorder.title(), null);
            record(address, w, id, out);
            Recordings.Unfinished mine = w.recordings().unfinished().stream().filter(u -> u.id() == id)
                    .findFirst().orElseThrow();
            Optional<Workbook.Run> run = finish(w, mine, out);
            if (run.isEmpty()) {
                return NarizCommand.UNUSABLE_INPUT;
            }
            if (csv != null) {
                result.writeAgain(csv, to -> w.raw(run.get().id(), to));
            }
        }
        return 0;
    }

    private Workbook.Sheet sheet(Workbook w) throws IOException {
        if (build != null) {
            BuildSheet parts = BuildSheetReader.read(build);
            return w.addSheet(w.vehicle(vehicle == null ? parts.name() : vehicle).id(), Files.readString(build));
        }
        List<Workbook.Vehicle> there = w.vehicles().stream().filter(v -> vehicle == null || v.name().equals(vehicle))
                .toList();
        if (there.size() != 1 || w.sheets(there.getFirst().id()).isEmpty()) {
            throw new ParameterException(spec.commandLine(), "Say which car it is: --build FILE, or --vehicle NAME of "
                    + "one that is in the workbook (" + String.join(", ", w.vehicles().stream().map(
                            Workbook.Vehicle::name).toList()) + ").");
        }
        return w.sheets(there.getFirst().id()).getLast();
    }

    private void record(DeviceAddress address, Workbook w, long id, PrintWriter out) throws IOException {
        DeviceSource source = new DeviceSource(address);
        Thread ends = Thread.ofVirtual().unstarted(() -> end(source));
        ends.start();
        Thread stopped = new Thread(() -> close(source));
        Runtime.getRuntime().addShutdownHook(stopped);
        out.println("recording " + address.text());
        out.flush();
        DeviceSource.State told = DeviceSource.State.READING;
        try (LiveRecorder recorder = new LiveRecorder(lines -> w.recordings().append(id, lines))) {
            for (Optional<String> line = source.next(); line.isPresent(); line = source.next()) {
                recorder.add(line.get());
                if (source.state() != told) {
                    told = source.state();
                    out.println(told.name().toLowerCase(Locale.ROOT) + " " + source.trouble());
                    out.flush();
                }
            }
            if (!recorder.trouble().isEmpty()) {
                out.println("not everything could be written: " + recorder.trouble());
            }
        }
        LineFilter.Tally t = source.tally();
        out.printf(Locale.ROOT, "%d rows; lost %d lines (%d malformed, %d with a wrong checksum), %d gaps, %d clock "
                + "jumps, connected again %d times%n", t.rows(), t.lost(), t.malformed(), t.sums(), t.gaps(), t.jumps(),
                source.reconnections());
        out.flush();
    }

    private void end(DeviceSource source) {
        if (forS != null) {
            try {
                Thread.sleep(Math.round(forS * 1e3));
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            close(source);
        }
    }

    private static void close(DeviceSource source) {
        try {
            source.close();
        } catch (IOException e) {
            // It is given up anyway.
        }
    }

    private static Optional<Workbook.Run> finish(Workbook w, Recordings.Unfinished u, PrintWriter out) {
        try {
            Workbook.Run run = w.recordings().finish(u);
            out.printf(Locale.ROOT, "run %d: %s, %d rows over %.0f s%n", run.id(), run.name(), run.samples(), run
                    .durationS());
            return Optional.of(run);
        } catch (InputProblem e) {
            out.println(u.name() + ": " + e.getMessage() + " Its lines stay in the workbook.");
            return Optional.empty();
        } finally {
            out.flush();
        }
    }
}
