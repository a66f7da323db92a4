package nariz.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.diagnosis.Strategy;
import nariz.log.ColumnPlan;
import nariz.log.DriveLog;
import nariz.log.LogReader;
import nariz.log.Scale;
import nariz.log.UnreadColumn;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** What every command on a drive asks for: build sheet, log, targets and where the result goes. */
final class DriveOptions {
    private static final int MOST_NAMED = 40;

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

    @Option(names = "--strategy", paramLabel = "NAME",
            description = "targets: balanced, economy or climb (default: those of the build sheet)")
    private @Nullable String strategy;

    /** {@return what is asked for here, which goes before what the sheet asks for} */
    Optional<Strategy> targets() {
        return Optional.ofNullable(strategy).map(s -> Strategy.named(s).orElseThrow(() -> new ParameterException(
                spec.commandLine(), "Unknown strategy '" + strategy + "'; use one of " + String.join(", ",
                Strategy.names()) + ".")));
    }

    BuildSheet sheet() {
        return BuildSheetReader.read(build);
    }

    DriveLog drive(BuildSheet sheet) {
        return LogReader.drive(reading.record(log, spec.commandLine(), n -> { }), sheet);
    }

    /** What the log holds besides, and what of it was left out: after the answer, since it may change it. */
    void tell(DriveLog drive, PrintWriter out) {
        if (drive.problemCount() > 0) {
            out.println(drive.problemCount() + " readings or rows of the log were left out; the first: "
                    + drive.problems().getFirst().text() + ".");
        }
        drive.unread().stream().filter(UnreadColumn::matters).forEach(u -> out.printf(Locale.ROOT,
                "Not read: column %d, %s: %s; read it? --columns %d=%s%n", u.index() + 1, u.title(), u.looksLike(),
                u.index() + 1, u.as().map(DriveOptions::option).orElse("")));
        List<UnreadColumn> rest = drive.unread().stream().filter(u -> !u.matters()).toList();
        if (!rest.isEmpty()) {
            out.println("Not read either: " + String.join("; ", rest.stream().limit(MOST_NAMED).map(u -> u.title() + " "
                    + u.looksLike()).toList()) + (rest.size() > MOST_NAMED ? "; and " + (rest.size() - MOST_NAMED)
                    + " more" : "") + ".");
        }
    }

    private static String option(ColumnPlan c) {
        boolean plain = c.scale() instanceof Scale.Linear && !c.unit().isEmpty();
        return c.channel().key() + (plain ? ":" + c.unit() : "");
    }

    /** Refuses to write the result over what it is made from. */
    void checkPlace(OutputOptions result, Path... more) throws IOException {
        List<Path> inputs = new ArrayList<>(Arrays.asList(more));
        inputs.addAll(Arrays.asList(build, log));
        inputs.addAll(reading.inputs());
        result.check(json, inputs.toArray(Path[]::new));
    }

    /** Where the result goes as JSON, or null. */
    Path json() {
        return json;
    }
}
