package nariz.cli;

import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import nariz.carburetor.InputProblem;
import nariz.carburetor.PartChange;
import nariz.log.ColumnPlan;
import nariz.log.LogReader;
import nariz.log.PlanJson;
import nariz.log.Proposal;
import nariz.text.Message;
import nariz.workbook.VehicleNotes;
import nariz.workbook.Workbook;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code nariz info}: what a log's columns seem to mean, or what a workbook holds. */
@Command(name = "info", mixinStandardHelpOptions = true,
        description = "Shows what the columns of a log seem to mean, or the runs in a workbook.")
final class InfoCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Parameters(paramLabel = "FILE", description = "A log or a workbook (" + Workbook.EXTENSION + ").")
    private Path file;

    @Option(names = "--write-profile", paramLabel = "FILE",
            description = "Write what the columns seem to mean as a profile, to correct and use with --profile.")
    private Path profile;

    @Mixin
    private OutputOptions result = new OutputOptions();

    @Override
    public Integer call() throws java.io.IOException {
        PrintWriter out = spec.commandLine().getOut();
        if (file.toString().endsWith(Workbook.EXTENSION)) {
            workbook(out);
        } else {
            log(out);
        }
        return 0;
    }

    private void workbook(PrintWriter out) {
        if (!Files.exists(file)) {
            throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "", "no file",
                    Message.literal("nariz import starts a workbook."));
        }
        try (Workbook w = Workbook.openToRead(file)) {
            List<Workbook.Run> runs = w.runs();
            out.printf(Locale.ROOT, "%s: %d vehicles, %d runs%s%n", file.getFileName(), w.vehicles().size(),
                    runs.size(),
                    w.whyReadOnly().isEmpty() ? "" : ", reading only: " + w.whyReadOnly());
            w.damage().forEach(d -> out.println("damaged: " + d.text()));
            for (Workbook.Vehicle v : w.vehicles()) {
                out.printf(Locale.ROOT, "%s, %d versions of its build sheet%n", v.name(), w.sheets(v.id()).size());
                List<VehicleNotes.Note> notes = w.notes().of(v.id());
                for (Workbook.Run r : runs) {
                    if (r.vehicle() == v.id()) {
                        out.printf(Locale.ROOT, "  run %d  %s  %s  %.0f s, %d rows%s%n", r.id(),
                                r.imported().toString().substring(0, 16).replace('T', ' '), r.name(), r.durationS(),
                                r.samples(), r.problemCount() > 0 ? ", " + r.problemCount() + " cells or rows kept out"
                                        : "");
                        notes.stream().filter(n -> n.run().equals(java.util.Optional.of(r.id()))).forEach(n -> note(
                                out, n));
                    }
                }
                w.plans().made(v.id()).stream().filter(m -> !m.changes().isEmpty()).forEach(m -> out.printf(Locale.ROOT,
                        "  changed by %s: %s%n", m.sheet().created().toString().substring(0, 10), text(m.changes())));
                w.plans().of(v.id()).forEach(p -> out.printf(Locale.ROOT, "  plan \"%s\": %s%n", p.name(),
                        text(p.changes())));
            }
        }
    }

    private static String text(List<PartChange> changes) {
        return String.join("; ", changes.stream().map(c -> c.text().toString()).toList());
    }

    private static void note(PrintWriter out, VehicleNotes.Note n) {
        out.printf(Locale.ROOT, "    %s%s%n", n.atS().map(t -> String.format(Locale.ROOT, "at %.1f s: ", t)).orElse(""),
                n.text());
    }

    private void log(PrintWriter out) throws java.io.IOException {
        Proposal p = LogReader.propose(file);
        p.preamble().forEach(l -> out.println("above the header: " + l));
        out.printf(Locale.ROOT, "%-4s %-22s %-16s %-10s %-8s %s%n", "no.", "header", "channel", "unit", "sure",
                "first readings");
        for (int i = 0; i < p.width(); i++) {
            int field = i;
            ColumnPlan c = p.plan().columns().stream().filter(x -> x.index() == field).findFirst().orElse(null);
            String readings = String.join(" ", p.sample().stream().limit(4).map(r -> field < r.size()
                    ? r.get(field).trim() : "").toList());
            out.printf(Locale.ROOT, "%-4d %-22s %-16s %-10s %-8s %s%n", i + 1, p.title(i), c == null ? "-"
                    : c.channel().key(), c == null ? "" : c.unit(), c == null ? "" : switch (c.certainty()) {
                        case SURE -> "yes";
                        case LIKELY -> "likely";
                        case GUESS -> "guess";
                    }, readings);
        }
        if (p.plan().rateHz() > 0) {
            out.printf(Locale.ROOT, "time from %s samples a second%n", p.plan().rateHz());
        }
        p.plan().unread().forEach(u -> out.printf(Locale.ROOT, "column %d, %s, is not read: it %s%n", u.index() + 1,
                u.title(), u.looksLike()));
        p.plan().missing().forEach(m -> out.println("not found: " + m));
        if (!p.clear()) {
            out.println("Say what is not sure with --columns, or agree with --guess.");
        }
        if (profile != null) {
            result.check(profile, file);
            result.write(profile, PlanJson.write(p.plan()));
        }
    }
}
