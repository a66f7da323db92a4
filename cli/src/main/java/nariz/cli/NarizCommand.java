package nariz.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import nariz.carburetor.InputProblem;
import picocli.CommandLine.Command;
import picocli.CommandLine;

/** {@code nariz}: entry point of the command line. */
@Command(name = "nariz", mixinStandardHelpOptions = true, version = "nariz 0.1.0",
        description = "Reads an engine's drive log and says which fuel circuit is wrong and what to change.",
        subcommands = {AnalyzeCommand.class, PredictCommand.class, SeriesCommand.class, SweepCommand.class,
            InfoCommand.class,
        CheckCommand.class,
                ImportCommand.class,
            ExportCommand.class, RescueCommand.class, DeviceCommand.class, RecordCommand.class, NoteCommand.class,
            DemoLogCommand.class, AccuracyCommand.class,
            PicturesCommand.class})
public final class NarizCommand {
    /** Input that cannot be used. */
    public static final int UNUSABLE_INPUT = 3;

    /** A fault of this program. */
    public static final int FAULT = 70;

    private NarizCommand() {
    }

    /**
     * Runs the command line.
     *
     * @param args arguments
     */
    public static void main(String[] args) {
        System.exit(run(utf8(System.out), utf8(System.err), args));
    }

    private static PrintWriter utf8(OutputStream stream) {
        return new PrintWriter(stream, true, StandardCharsets.UTF_8);
    }

    /**
     * Runs a command.
     *
     * @param out standard output
     * @param err standard error
     * @param args arguments
     * @return exit code
     */
    public static int run(PrintWriter out, PrintWriter err, String... args) {
        CommandLine line = new CommandLine(new NarizCommand()).setOut(new PrintWriter(new PlainWriter(out), true))
                .setErr(new PrintWriter(new PlainWriter(err), true))
                .setExecutionExceptionHandler((e, cmd, parsed) -> {
                    if (e instanceof InputProblem p) {
                        cmd.getErr().println(p.getMessage());
                        return UNUSABLE_INPUT;
                    }
                    if (e instanceof IOException || e instanceof UncheckedIOException) {
                        Throwable root = e instanceof UncheckedIOException ? e.getCause() : e;
                        cmd.getErr().println(root.getClass().getSimpleName() + ": " + root.getMessage()
                                + ". Check that the place exists, may be written, and that the disk is not full.");
                        return UNUSABLE_INPUT;
                    }
                    return fault(cmd.getErr(), e);
                });
        try {
            return args.length == 0 ? line.execute("--help") : line.execute(args);
        } catch (OutOfMemoryError e) {
            err.println("The memory given to Java is not enough for this file; give it more, for example with "
                    + "JAVA_TOOL_OPTIONS=-Xmx2g.");
            return UNUSABLE_INPUT;
        }
    }

    /** What nobody foresaw is told in a line; {@code -Dnariz.trace=true} shows where it happened. */
    private static int fault(PrintWriter err, Exception e) {
        err.println("nariz met something it does not know how to handle: " + e + ". Nothing was written. Please report "
                + "it with the file it happened on.");
        if (Boolean.getBoolean("nariz.trace")) {
            e.printStackTrace(err);
        }
        return FAULT;
    }
}
