package nariz.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.dynamics.UnloadedSweep;
import nariz.estimation.Observation;
import nariz.log.LogReader;
import nariz.log.Recording;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** {@code nariz sweep}: held speeds without load, with and without the air box. */
@Command(name = "sweep", mixinStandardHelpOptions = true,
        description =
                "Reads held speeds of a standing car (2, 3, 4, 5, 6 thousand), with and without the air box. Open "
                + "air or extraction; nobody near the fan; no longer at high speed than the reading takes.")
final class SweepCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Mixin
    private LogOptions reading = new LogOptions();

    @Option(names = "--build", required = true, paramLabel = "FILE", description = "build sheet (JSON)")
    private Path build;

    @Option(names = "--log", required = true, paramLabel = "FILE",
            description = "log or noted points of the held speeds")
    private Path log;

    @Option(names = "--without", paramLabel = "FILE", description = "the same speeds without the air box")
    private @Nullable Path without;

    @Override
    public Integer call() {
        BuildSheet sheet = BuildSheetReader.read(build);
        UnloadedSweep with = sweep(log, sheet);
        PrintWriter out = spec.commandLine().getOut();
        with.words().forEach(m -> out.println(m + "."));
        if (without != null) {
            UnloadedSweep bare = sweep(without, sheet);
            out.println();
            out.println("Without the air box:");
            with.airBox(bare).forEach(m -> out.println(m + "."));
        }
        out.flush();
        return 0;
    }

    private UnloadedSweep sweep(Path file, BuildSheet sheet) {
        Recording r = reading.record(file, spec.commandLine(), n -> { });
        UnloadedSweep s = UnloadedSweep.of(Observation.of(LogReader.drive(r, sheet), sheet, () -> false));
        if (s.holds().isEmpty()) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "",
                    "no engine speed held for 4 s with the "
                    + "car standing", Message.literal("Hold 2000, 3000, 4000 rpm and so on for six seconds each."));
        }
        return s;
    }
}
