package nariz.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.carburetor.KitReader;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.AdviceText;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.PreviousReader;
import nariz.diagnosis.Request;
import nariz.diagnosis.Strategy;
import nariz.log.DriveLog;
import nariz.text.Message;
import nariz.workbook.AtomicFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** {@code nariz analyze}: a build sheet and a log in, a verdict out. */
@Command(name = "analyze", mixinStandardHelpOptions = true,
        description = "Says which circuit a log blames and which part to change.")
final class AnalyzeCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Mixin
    private DriveOptions on;

    @Option(names = "--checked", paramLabel = "CAUSE", split = ",",
            description = "faults you have looked for and ruled out, for example vacuum-leak,exhaust-leak")
    private List<String> checked = new ArrayList<>();

    @Option(names = "--kit", paramLabel = "FILE", description = "sizes you have, can get or would drill (JSON)")
    private Path kit;

    @Option(names = "--previous", paramLabel = "FILE",
            description = "the advice before the last change (JSON): start from it and score its prediction")
    private Path previous;

    @Override
    public Integer call() throws IOException {
        Strategy targets = on.targets();
        checkCauses();
        BuildSheet sheet = on.sheet();
        DriveLog drive = on.drive(sheet);
        Request q = Request.of(sheet, drive, targets).withRuledOut(checked);
        q = kit == null ? q : q.withKit(KitReader.read(kit));
        q = previous == null ? q : q.withPrevious(PreviousReader.read(previous));
        Analysis a = Analysis.of(q, () -> false);
        if (on.json() != null) {
            write(on.json(), AdviceJson.write(a.advice()));
        }
        spec.commandLine().getOut().print(AdviceText.write(a.advice()));
        if (drive.problemCount() > 0) {
            spec.commandLine().getOut().println(drive.problemCount() + " readings or rows of the log were left out; "
                    + "the first: " + drive.problems().getFirst().text() + ".");
        }
        spec.commandLine().getOut().flush();
        return 0;
    }

    /** A misspelt cause must not pass for a check that was made. */
    private void checkCauses() {
        for (String c : checked) {
            if (!Hypothesis.FAULTS.contains(c)) {
                throw new ParameterException(spec.commandLine(), "Unknown cause '" + c + "'; use some of "
                        + String.join(", ", Hypothesis.FAULTS) + ".");
            }
        }
    }

    /** Writes beside the target and moves, so that a failed write leaves no half file. */
    static void write(Path file, String text) throws IOException {
        Path folder = file.toAbsolutePath().getParent();
        if (folder == null || !Files.isDirectory(folder)) {
            throw new InputProblem(file.toString(), 0, 0, "", "a folder that does not exist",
                    Message.literal("Create it or choose another place for the result."));
        }
        AtomicFile.write(file.toAbsolutePath(), out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
    }
}
