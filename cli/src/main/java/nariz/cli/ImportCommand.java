package nariz.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.concurrent.Callable;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.log.LogReader;
import nariz.log.Recording;
import nariz.workbook.Exchange;
import nariz.workbook.Workbook;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code nariz import}: takes a log, a data package or a whole exported workbook into a workbook. */
@Command(name = "import", mixinStandardHelpOptions = true,
        description = "Takes a log, a data package (.zip) or an exported folder into a workbook.")
final class ImportCommand implements Callable<Integer> {
    private static final int PLAUSIBLE_BY = 200_000;

    @Spec
    private CommandSpec spec;

    @Parameters(paramLabel = "FILE", description = "Log, data package or folder.")
    private Path file;

    @Option(names = "--workbook", required = true, paramLabel = "FILE",
            description = "The workbook; started when there is none.")
    private Path workbook;

    @Option(names = "--build", paramLabel = "FILE", description = "Build sheet the log was driven on.")
    private Path build;

    @Option(names = "--vehicle", paramLabel = "NAME", description = "Vehicle; the build sheet's name when left out.")
    private String vehicle;

    @Mixin
    private LogOptions options = new LogOptions();

    @Override
    public Integer call() throws IOException {
        PrintWriter out = spec.commandLine().getOut();
        if (Files.isDirectory(file)) {
            try (Workbook w = Workbook.open(workbook)) {
                Exchange.read(file, w);
                out.printf(Locale.ROOT, "%d runs of %d vehicles%n", w.runs().size(), w.vehicles().size());
            }
            return 0;
        }
        Recording r;
        String sheet;
        if (file.toString().endsWith(".zip")) {
            Exchange.Packed p = Exchange.dataPackage(file);
            r = p.recording();
            sheet = p.sheetJson();
        } else {
            if (build == null) {
                throw new ParameterException(spec.commandLine(), "--build is needed: a log says nothing of the jets it "
                        + "was driven on.");
            }
            // Read it first: a sheet that cannot be used stops the import with its own message.
            BuildSheet parts = BuildSheetReader.read(build);
            sheet = Files.readString(build);
            long started = System.nanoTime();
            r = options.record(file, spec.commandLine(), rows -> progress(rows, started));
            // Ten million rows are judged by some of them: unpacked, all would take a gigabyte.
            LogReader.drive(r.thinned(PLAUSIBLE_BY), parts);
        }
        BuildSheet named = BuildSheetReader.parse(String.valueOf(build == null ? file : build), sheet);
        try (Workbook w = Workbook.open(workbook)) {
            Workbook.Vehicle v = w.vehicle(vehicle == null ? named.name() : vehicle);
            Workbook.Run run = w.addRun(w.addSheet(v.id(), sheet), r, file, () -> false);
            out.printf(Locale.ROOT, "run %d of %s: %d rows over %.0f s, %d cells or rows kept out%n", run.id(),
                    v.name(),
                    run.samples(), run.durationS(), run.problemCount());
        }
        return 0;
    }

    private void progress(long rows, long started) {
        if (rows % (1 << 20) < (1 << 12) && rows > 1 << 20) {
            spec.commandLine().getErr().printf(Locale.ROOT, "%d rows, %.0f thousand a second%n", rows,
                    rows / ((System.nanoTime() - started) / 1e6));
        }
    }
}
