package nariz.cli;

import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.Callable;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import nariz.workbook.Workbook;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code nariz note}: writes a note on a kept run, or on a moment of it. */
@Command(name = "note", mixinStandardHelpOptions = true,
        description = "Writes a note on a run in a workbook, or on a moment of it; nariz info shows notes.")
final class NoteCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Parameters(paramLabel = "TEXT", description = "What to keep.")
    private String text;

    @Option(names = "--workbook", required = true, paramLabel = "FILE", description = "The workbook.")
    private Path workbook;

    @Option(names = "--run", required = true, paramLabel = "N", description = "Run, as nariz info lists it.")
    private long run;

    @Option(names = "--at", paramLabel = "S", description = "Moment in the run, s.")
    private Double atS;

    @Override
    public Integer call() {
        if (!Files.exists(workbook)) {
            throw new InputProblem(String.valueOf(workbook.getFileName()), 0, 0, "", "no file",
                    Message.literal("nariz import starts a workbook."));
        }
        if (text.isBlank()) {
            throw new ParameterException(spec.commandLine(), "TEXT: a note needs words.");
        }
        PrintWriter out = spec.commandLine().getOut();
        try (Workbook w = Workbook.open(workbook)) {
            Workbook.Run r = ExportCommand.run(w, run, workbook, spec.commandLine());
            if (atS != null && !(atS >= 0 && atS <= r.durationS())) {
                throw new ParameterException(spec.commandLine(), "--at: run " + run + " goes from 0 to "
                        + Math.round(r.durationS()) + " s.");
            }
            w.notes().add(r.vehicle(), Optional.of(r.id()), Optional.ofNullable(atS), text);
            out.println("noted on run " + run);
        }
        return 0;
    }
}
