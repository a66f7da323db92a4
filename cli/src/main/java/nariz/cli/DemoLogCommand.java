package nariz.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import nariz.log.LogWriter;
import nariz.sim.DemoDrive;
import picocli.CommandLine.Command;
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

    @Override
    public Integer call() throws IOException {
        Files.createDirectories(out);
        Path sheet = out.resolve("hillclimb-estate.json");
        Path log = out.resolve("hillclimb-estate.csv");
        AnalyzeCommand.write(sheet, DemoDrive.sheetJson());
        LogWriter.write(DemoDrive.drive().log(), log);
        spec.commandLine().getOut().println(sheet + System.lineSeparator() + log);
        return 0;
    }
}
