package nariz.cli;

import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import nariz.log.LogWriter;
import nariz.sim.DemoDrive;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** {@code nariz demo-log}: writes the demo's build sheet and drive, always the same. */
@Command(name = "demo-log", mixinStandardHelpOptions = true,
        description = "Writes the demo car's build sheet and twelve-minute drive.")
final class DemoLogCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Option(names = "--out", paramLabel = "FOLDER", defaultValue = ".",
            description = "folder for hillclimb-estate.json and hillclimb-estate.csv (default: here)")
    private Path out;

    @Mixin
    private OutputOptions result = new OutputOptions();

    @Override
    public Integer call() throws IOException {
        Files.createDirectories(out);
        Path sheet = out.resolve("hillclimb-estate.json");
        Path log = out.resolve("hillclimb-estate.csv");
        result.check(sheet);
        result.check(log);
        result.writeAgain(sheet, to -> to.write(DemoDrive.sheetJson().getBytes(StandardCharsets.UTF_8)));
        result.writeAgain(log, to -> {
            Writer w = new OutputStreamWriter(to, StandardCharsets.UTF_8);
            LogWriter.write(DemoDrive.drive().log(), w);
            w.flush();
        });
        spec.commandLine().getOut().println(sheet + System.lineSeparator() + log);
        return 0;
    }
}
