package nariz.cli;

import java.nio.file.Path;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.diagnosis.Strategy;
import nariz.log.DriveLog;
import nariz.log.LogReader;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** What every command on a drive asks for: build sheet, log, targets and where the result goes. */
final class DriveOptions {
    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec;

    @Option(names = "--build", required = true, paramLabel = "FILE", description = "build sheet (JSON)")
    private Path build;

    @Option(names = "--log", required = true, paramLabel = "FILE", description = "drive log (CSV)")
    private Path log;

    @Mixin
    private LogOptions reading = new LogOptions();

    @Option(names = "--json", paramLabel = "FILE", description = "also write the result as JSON")
    private Path json;

    @Option(names = "--strategy", paramLabel = "NAME", defaultValue = "balanced",
            description = "targets: balanced, economy or climb (default: balanced)")
    private String strategy;

    Strategy targets() {
        return Strategy.named(strategy).orElseThrow(() -> new ParameterException(spec.commandLine(),
                "Unknown strategy '" + strategy + "'; use one of " + String.join(", ", Strategy.names()) + "."));
    }

    BuildSheet sheet() {
        return BuildSheetReader.read(build);
    }

    DriveLog drive(BuildSheet sheet) {
        return LogReader.drive(reading.record(log, spec.commandLine(), n -> { }), sheet);
    }

    /** Where the result goes as JSON, or null. */
    Path json() {
        return json;
    }
}
