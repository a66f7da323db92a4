package nariz.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import nariz.workbook.Rescue;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code nariz rescue}: what is whole of a damaged workbook, in a new one. */
@Command(name = "rescue", mixinStandardHelpOptions = true,
        description = "Saves what is whole of a damaged workbook into a new one and lists what is lost.")
final class RescueCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Parameters(paramLabel = "FILE", description = "The damaged workbook; it is not changed.")
    private Path file;

    @Option(names = "--out", required = true, paramLabel = "FILE", description = "The new workbook.")
    private Path out;

    @Override
    public Integer call() throws IOException {
        if (!Files.isRegularFile(file)) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "", "no file",
                    Message.literal("Name the damaged workbook."));
        }
        if (Files.exists(out)) {
            throw new InputProblem(out.toString(), 0, 0, "", "a file that is there already",
                    Message.literal("Name a new file."));
        }
        Rescue.Outcome o;
        try {
            o = Rescue.save(file, out);
        } catch (RuntimeException e) {
            // Half a rescue is none.
            Files.deleteIfExists(out);
            Files.deleteIfExists(out.resolveSibling(out.getFileName() + ".lock"));
            throw e;
        }
        PrintWriter text = spec.commandLine().getOut();
        text.println("saved: " + o.runs() + " runs in " + out);
        o.lost().forEach(l -> text.println("  " + l));
        if (o.lost().isEmpty()) {
            text.println("nothing was lost");
        }
        return 0;
    }
}
