package nariz.cli;

import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.concurrent.Callable;
import nariz.log.LogWriter;
import nariz.sim.Demo;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** {@code nariz demo-log}: writes the demo's build sheet and drive, always the same. */
@Command(name = "demo-log", mixinStandardHelpOptions = true,
        description = "Writes the demo car's build sheet and twelve-minute drive.")
final class DemoLogCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Option(names = "--car", paramLabel = "NAME", defaultValue = "hillclimb-estate",
            description = "hillclimb-estate (default), kit-roadster or small-four")
    private String car;

    @Option(names = "--out", paramLabel = "FOLDER", defaultValue = ".",
            description = "folder for the two files, named after the car (default: here)")
    private Path out;

    @Mixin
    private OutputOptions result = new OutputOptions();

    @Override
    public Integer call() throws IOException {
        Demo demo = Demo.ofId(car).orElseThrow(() -> new ParameterException(spec.commandLine(), "found --car " + car
                + ". There are " + String.join(", ", Arrays.stream(Demo.values()).map(Demo::id).toList()) + "."));
        Files.createDirectories(out);
        Path sheet = out.resolve(demo.id() + ".json");
        Path log = out.resolve(demo.id() + ".csv");
        result.check(sheet);
        result.check(log);
        result.writeAgain(sheet, to -> to.write(demo.sheetJson().getBytes(StandardCharsets.UTF_8)));
        result.writeAgain(log, to -> {
            Writer w = new OutputStreamWriter(to, StandardCharsets.UTF_8);
            LogWriter.write(demo.drive().log(), w);
            w.flush();
        });
        spec.commandLine().getOut().println(sheet + System.lineSeparator() + log);
        return 0;
    }
}
