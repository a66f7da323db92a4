package nariz.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.comparison.SeriesJson;
import nariz.comparison.TrialSeries;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Request;
import nariz.diagnosis.Strategy;
import nariz.log.DriveLog;
import nariz.log.LogReader;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** {@code nariz series}: several drives of one car with one part in several sizes, laid beside each other. */
@Command(name = "series", mixinStandardHelpOptions = true,
        description = "Lays drives of one car with one part in several sizes beside each other: which is best, how "
                + "sure, which to try next.")
final class SeriesCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Mixin
    private OutputOptions result = new OutputOptions();

    @Option(names = "--trial", arity = "2", required = true, paramLabel = "SHEET LOG",
            description = "build sheet and log of one drive; give it once for every drive, two or more")
    private List<Path> trials = new ArrayList<>();

    @Option(names = "--json", paramLabel = "FILE", description = "also write the result as JSON")
    private Path json;

    @Override
    public Integer call() throws IOException {
        result.check(json, trials.toArray(Path[]::new));
        List<TrialSeries.Drive> drives = new ArrayList<>();
        for (int i = 0; i + 1 < trials.size(); i += 2) {
            BuildSheet sheet = BuildSheetReader.read(trials.get(i));
            Path log = trials.get(i + 1);
            DriveLog drive = LogReader.drive(LogReader.record(log, null, () -> false, n -> { }), sheet);
            drives.add(new TrialSeries.Drive(String.valueOf(log.getFileName()), Analysis.of(Request.of(sheet, drive,
                    Strategy.of(sheet)), () -> false)));
        }
        TrialSeries s = TrialSeries.of(drives);
        if (json != null) {
            result.write(json, SeriesJson.write(s));
        }
        print(s);
        return 0;
    }

    private void print(TrialSeries s) {
        PrintWriter out = spec.commandLine().getOut();
        out.println(s.sentence());
        out.println();
        StringBuilder head = new StringBuilder(String.format(Locale.ROOT, "%-24s %-10s %7s", "drive", "size",
                "score"));
        for (Regime r : s.regimes()) {
            head.append(String.format(Locale.ROOT, " %22s", r.label()));
        }
        out.println(head);
        for (int k = 0; k < s.trials().size(); k++) {
            TrialSeries.Trial t = s.trials().get(k);
            StringBuilder line = new StringBuilder(String.format(Locale.ROOT, "%-24s %-10s %7.2f", (k == s.best() ? "* "
                    : "  ") + t.name(), s.part().text(t.size()), t.score()));
            for (Regime r : s.regimes()) {
                double[] e = t.errors().get(r);
                line.append(String.format(Locale.ROOT, " %22s", String.format(Locale.ROOT, "%+.0f %% (%+.0f to %+.0f)",
                        100.0 * e[0], 100.0 * e[1], 100.0 * e[2])));
            }
            out.println(line);
        }
        out.println();
        out.println("Errors are of lambda against the target, lean is positive, at the places all drives share; score "
                + "1 is just tuned.");
        s.warnings().forEach(w -> out.println("Mind: " + w + "."));
        out.flush();
    }
}
