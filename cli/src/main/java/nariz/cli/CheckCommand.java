package nariz.cli;

import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import nariz.carburetor.InputProblem;
import nariz.log.LogProblem;
import nariz.log.Quality;
import nariz.log.Recording;
import nariz.text.Message;
import nariz.workbook.Damage;
import nariz.workbook.Workbook;
import nariz.workbook.WorkbookCheck;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import tools.jackson.databind.json.JsonMapper;

/** {@code nariz check}: what is wrong or odd in a log, with places. */
@Command(name = "check", mixinStandardHelpOptions = true,
        description =
                "Lists what cannot be read in a log and what is odd in it (exit code 0 also when there is some), or "
                + "the damage in a workbook (exit code 3 when there is some).")
final class CheckCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Parameters(paramLabel = "FILE", description = "The log or workbook.")
    private Path file;

    @Mixin
    private LogOptions options = new LogOptions();

    @Option(names = "--json", description = "As JSON on standard output.")
    private boolean json;

    @Override
    public Integer call() {
        PrintWriter out = spec.commandLine().getOut();
        if (file.toString().endsWith(Workbook.EXTENSION)) {
            return workbook(out);
        }
        Recording r = options.record(file, spec.commandLine(), n -> { });
        List<Quality.Finding> odd = Quality.of(r);
        if (json) {
            out.print(json(r, odd));
            out.flush();
            return 0;
        }
        out.printf(Locale.ROOT, "%s: %d rows over %.1f s, %d channels%n", r.name(), r.size(), r.durationS(),
                r.channels().size());
        r.problems().forEach(p -> out.println(p.text()));
        if (r.problemCount() > r.problems().size()) {
            out.printf(Locale.ROOT, "... and %d more cells and rows%n", r.problemCount() - r.problems().size());
        }
        odd.forEach(f -> out.printf(Locale.ROOT, "%.1f to %.1f s: %s%n", f.fromS(), f.toS(), f.text()));
        if (r.problemCount() == 0 && odd.isEmpty()) {
            out.println("Nothing to complain of.");
        }
        return 0;
    }

    /** Damage has an exit code of its own, so that a script that keeps copies can tell. */
    private int workbook(PrintWriter out) {
        if (!Files.exists(file)) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "", "no file",
                    Message.literal("nariz import starts a workbook."));
        }
        List<Damage> all = WorkbookCheck.of(file, () -> false);
        if (json) {
            Map<String, Object> root = new LinkedHashMap<>();
            root.put("format", "nariz-check/1");
            root.put("file", String.valueOf(file.getFileName()));
            root.put("damage", all.stream().map(d -> d.text().toString()).toList());
            out.print(JsonMapper.builder().build().writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n");
            out.flush();
        } else {
            all.forEach(d -> out.println(d.text()));
            out.println(all.isEmpty() ? file.getFileName() + ": every row, reading and file is what was written"
                    : all.size() + " places are damaged; nariz rescue saves the rest into a new workbook");
        }
        return all.isEmpty() ? 0 : NarizCommand.UNUSABLE_INPUT;
    }

    private static String json(Recording r, List<Quality.Finding> odd) {
        Map<String, Object> root = new LinkedHashMap<>();
        root.put("format", "nariz-check/1");
        root.put("file", r.name());
        root.put("rows", r.size());
        root.put("durationS", r.durationS());
        List<Map<String, Object>> problems = new ArrayList<>();
        for (LogProblem p : r.problems()) {
            Map<String, Object> m = new LinkedHashMap<>();
            m.put("line", p.line());
            m.put("column", p.column());
            m.put("title", p.channel());
            m.put("found", p.found().toString());
            m.put("done", p.done().toString());
            problems.add(m);
        }
        root.put("problems", problems);
        root.put("problemCount", r.problemCount());
        List<Map<String, Object>> findings = new ArrayList<>();
        for (Quality.Finding f : odd) {
            Map<String, Object> m = new LinkedHashMap<>();
            m.put("kind", f.kind().name().toLowerCase(Locale.ROOT));
            m.put("channel", f.channel().key());
            m.put("fromS", f.fromS());
            m.put("toS", f.toS());
            m.put("text", f.text().toString());
            findings.add(m);
        }
        root.put("odd", findings);
        return JsonMapper.builder().build().writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n";
    }
}
