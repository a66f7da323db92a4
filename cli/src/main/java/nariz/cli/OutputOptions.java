package nariz.cli;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import nariz.workbook.AtomicFile;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/**
 * Where results go. No result takes the place of what it was made from, nothing that is there is overwritten unless
 * asked, and every file is written beside its place and moved there whole.
 */
final class OutputOptions {
    private static final Pattern FORMAT = Pattern.compile("\"format\"\\s*:\\s*\"(nariz-[a-z]+/[0-9]+)\"");
    private static final int HEAD = 4096;

    @Spec(Spec.Target.MIXEE)
    private CommandSpec spec;

    @Option(names = "--overwrite", description = "Replace a result that is there already.")
    private boolean overwrite;

    /**
     * Refuses a place before any work is done for it.
     *
     * @param file where to, null for nowhere
     * @param inputs what the result is made from; null for what was not given
     */
    void check(Path file, Path... inputs) throws IOException {
        if (file == null) {
            return;
        }
        for (Path in : Arrays.stream(inputs).filter(Objects::nonNull).toList()) {
            if (Files.exists(file) && Files.exists(in) && Files.isSameFile(file, in)) {
                throw problem(file, "a file that the result is made from", "Choose another place for the result.");
            }
        }
        Path folder = file.toAbsolutePath().getParent();
        if (folder == null || !Files.isDirectory(folder)) {
            throw problem(file, "a folder that does not exist", "Create it or choose another place for the result.");
        }
        if (Files.isDirectory(file)) {
            throw problem(file, "a folder where a file is to go", "Name a file in it.");
        }
    }

    private static InputProblem problem(Path file, String found, String remedy) {
        return new InputProblem(file.toString(), 0, 0, "", found, Message.literal(remedy));
    }

    /** Writes a text of this program's own; an earlier one of the same kind is kept under another name. */
    void write(Path file, String text) throws IOException {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        if (Files.exists(file) && !overwrite && Files.size(file) > 0 && !same(file, bytes)) {
            if (!format(text).isEmpty() && format(text).equals(format(head(file)))) {
                Path kept = free(file);
                Files.move(file, kept);
                err().println("the earlier " + file.getFileName() + " is kept as " + kept.getFileName());
            } else {
                throw there(file);
            }
        }
        AtomicFile.write(file.toAbsolutePath(), out -> out.write(bytes));
    }

    /** Writes a text in place of an earlier one: for pictures that are drawn again. */
    static void replace(Path file, String text) throws IOException {
        AtomicFile.write(file.toAbsolutePath(), out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
    }

    /** Writes a file; one that is there already is left alone unless asked. */
    void write(Path file, AtomicFile.Content content) throws IOException {
        if (Files.exists(file) && !overwrite && Files.size(file) > 0) {
            throw there(file);
        }
        AtomicFile.write(file.toAbsolutePath(), content);
    }

    /** Writes a file that always comes out the same: there is nothing to lose where it is there already. */
    void writeAgain(Path file, AtomicFile.Content content) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        content.to(bytes);
        if (!same(file, bytes.toByteArray())) {
            write(file, out -> bytes.writeTo(out));
        }
    }

    private static InputProblem there(Path file) {
        return problem(file, "a file that is there already", "Choose another name, or say --overwrite.");
    }

    private static boolean same(Path file, byte[] bytes) throws IOException {
        return Files.isRegularFile(file) && Files.size(file) == bytes.length && Arrays.equals(Files.readAllBytes(file),
                bytes);
    }

    private static String head(Path file) throws IOException {
        try (var in = Files.newInputStream(file)) {
            return new String(in.readNBytes(HEAD), StandardCharsets.UTF_8);
        }
    }

    private static String format(String text) {
        Matcher m = FORMAT.matcher(text.length() > HEAD ? text.substring(0, HEAD) : text);
        return m.find() ? m.group(1) : "";
    }

    /** The first name of {@code advice-1.json}, {@code advice-2.json} and so on that is free. */
    private static Path free(Path file) {
        String name = String.valueOf(file.getFileName());
        int dot = name.lastIndexOf('.');
        String stem = dot > 0 ? name.substring(0, dot) : name;
        String end = dot > 0 ? name.substring(dot) : "";
        return Stream.iterate(1, n -> n + 1).map(n -> file.resolveSibling(stem + "-" + n + end)).filter(p ->
                !Files.exists(p)).findFirst().orElseThrow();
    }

    private PrintWriter err() {
        return spec.commandLine().getErr();
    }
}
