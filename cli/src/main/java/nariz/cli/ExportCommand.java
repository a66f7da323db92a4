package nariz.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import nariz.carburetor.InputProblem;
import nariz.log.Recording;
import nariz.text.Message;
import nariz.workbook.Exchange;
import nariz.workbook.Workbook;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;
import picocli.CommandLine;

/** {@code nariz export}: writes a run or a whole workbook in open formats. */
@Command(name = "export", mixinStandardHelpOptions = true,
        description = "Writes a run as .csv, as a data package (.zip) or as the file it came from (--raw); without "
                + "--run the whole workbook as a folder.")
final class ExportCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Option(names = "--workbook", required = true, paramLabel = "FILE", description = "The workbook.")
    private Path workbook;

    @Option(names = "--run", paramLabel = "N", description = "Run, as nariz info lists it.")
    private Long run;

    @Option(names = "--out", required = true, paramLabel = "PATH", description = "Where to.")
    private Path out;

    @Option(names = "--raw", description = "The file the run came from, byte for byte.")
    private boolean raw;

    @Option(names = "--from", paramLabel = "S", description = "First time, s.")
    private double fromS = Double.NEGATIVE_INFINITY;

    @Option(names = "--to", paramLabel = "S", description = "Last time, s.")
    private double toS = Double.POSITIVE_INFINITY;

    @Mixin
    private OutputOptions result = new OutputOptions();

    @Override
    public Integer call() throws IOException {
        if (!Files.exists(workbook)) {
            throw new InputProblem(String.valueOf(workbook.getFileName()), 0, 0, "", "no file",
                    Message.literal("nariz import starts a workbook."));
        }
        if (run != null) {
            result.check(out, workbook);
        }
        PrintWriter text = spec.commandLine().getOut();
        try (Workbook w = Workbook.openToRead(workbook)) {
            if (run == null) {
                if (Files.exists(out) && (!Files.isDirectory(out) || !empty(out))) {
                    throw new ParameterException(spec.commandLine(), "--out: " + out
                            + (Files.isDirectory(out) ? " is not empty." : " is a file; name a new folder."));
                }
                Exchange.folder(w, out);
            } else {
                one(w);
            }
        }
        text.println("written: " + out);
        return 0;
    }

    private void one(Workbook w) throws IOException {
        Workbook.Run r = run(w, run, workbook, spec.commandLine());
        if (raw) {
            if (!w.hasFile(r.id())) {
                throw new InputProblem(String.valueOf(workbook.getFileName()), 0, 0, "", "run " + r.id()
                        + ", which came from no file", Message.literal("Export it as .csv or .zip instead."));
            }
            result.write(out, to -> w.raw(r.id(), to));
        } else if (out.toString().endsWith(".zip")) {
            Recording whole = w.recording(r.id());
            result.write(out, to -> Exchange.dataPackage(whole, w.sheetJson(r.sheet()), to));
        } else {
            Recording whole = w.recording(r.id());
            result.write(out, to -> Exchange.csv(whole, fromS, toS, to));
        }
    }

    private static boolean empty(Path folder) throws IOException {
        try (var in = Files.list(folder)) {
            return in.findAny().isEmpty();
        }
    }

    /** The run of a number, or a complaint that names the way to the list. */
    static Workbook.Run run(Workbook w, long run, Path workbook, CommandLine line) {
        return w.runs().stream().filter(x -> x.id() == run).findFirst().orElseThrow(() -> new ParameterException(line,
                "--run: there is no run " + run + "; nariz info " + workbook + " lists them."));
    }
}
