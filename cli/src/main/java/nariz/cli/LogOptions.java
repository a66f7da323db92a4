package nariz.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;
import nariz.carburetor.InputProblem;
import nariz.carburetor.TextFile;
import nariz.log.Channel;
import nariz.log.ColumnPlan;
import nariz.log.LogReader;
import nariz.log.Plan;
import nariz.log.PlanJson;
import nariz.log.PointReader;
import nariz.log.Proposal;
import nariz.log.Recording;
import nariz.log.TrackReader;
import nariz.text.Message;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;

/** How a log is to be read: by its own header, by a profile, or with columns named by hand. */
final class LogOptions {
    private static final long LONGEST_PROFILE = 1_000_000;

    @Option(names = "--profile", paramLabel = "FILE", description = "What the columns mean, nariz-profile/1.")
    private Path profile;

    @Option(names = "--columns", split = ",", paramLabel = "N=CHANNEL[:UNIT]",
            description = "Name columns by hand, for example 3=vacuum:inhg,5=afr; unit as in the header.")
    private List<String> columns = new ArrayList<>();

    @Option(names = "--rate", paramLabel = "HZ", description = "Samples a second, for a log without time.")
    private double rateHz;

    @Option(names = "--track", paramLabel = "FILE", description = "GPX track of the same drive, laid beside by clock.")
    private Path track;

    @Option(names = "--guess", description = "Take columns as they seem to be where the header does not say.")
    private boolean guess;

    /** Files these options name; null for those that were not given. */
    List<Path> inputs() {
        return java.util.Arrays.asList(profile, track);
    }

    /** The plan to read a file by; empty options leave it to the header. */
    Plan plan(Path file, picocli.CommandLine line) {
        if (profile == null && columns.isEmpty() && rateHz == 0 && !guess) {
            return null;
        }
        if (profile != null) {
            String name = String.valueOf(profile.getFileName());
            Plan kept = PlanJson.parse(name, TextFile.read(profile, LONGEST_PROFILE,
                    Message.literal("A profile is a short JSON text; did you pick the log by mistake?"),
                    Message.literal("Save the profile as UTF-8 JSON.")));
            if (!kept.missing().isEmpty()) {
                throw new InputProblem(name, 0, 0, "columns", "no column for " + Message.join(", ", kept.missing()),
                        Message.literal("Add it to the profile; nariz info FILE --write-profile writes "
                                + "one to correct."));
            }
            return kept;
        }
        Proposal p = LogReader.propose(file);
        Plan plan = guess ? p.plan() : p.plan().onlySure();
        for (String c : columns) {
            plan = plan.with(column(c, p, line));
        }
        if (rateHz > 0) {
            plan = plan.atRate(rateHz);
        }
        if (!plan.missing().isEmpty()) {
            throw new InputProblem(String.valueOf(file.getFileName()), 1, 0, "", "no column for "
                    + Message.join(", ", plan.missing()) + told(plan),
                    Message.literal("Name it, for example --columns 3=vacuum:inhg; nariz info FILE "
                    + "shows the columns."));
        }
        return plan.taken();
    }

    /** What is not read may be what is missing. */
    private static String told(Plan plan) {
        String all = String.join("; ", plan.unread().stream().map(u -> u.title() + " " + u.looksLike()).limit(5)
                .toList());
        return all.isEmpty() ? "" : " (" + all + ")";
    }

    private static ColumnPlan column(String text, Proposal p, picocli.CommandLine line) {
        String[] parts = text.split("[=:]", 3);
        try {
            int index = Integer.parseInt(parts[0].trim()) - 1;
            Channel c = Channel.ofKey(parts[1].trim()).orElseThrow();
            if (index < 0 || index >= p.width()) {
                throw new ParameterException(line, "--columns: there is no column " + parts[0].trim() + "; the log has "
                        + p.width() + ".");
            }
            Channel.Unit u = parts.length > 2 ? c.unit(parts[2]).orElseThrow() : c.units().getFirst();
            return new ColumnPlan(index, p.title(index).toString(), c, u.name(), new nariz.log.Scale.Linear(u.factor(),
                    u.shift()),
                    ColumnPlan.Certainty.SURE, Message.message("because.you-said-so"));
        } catch (ParameterException e) {
            throw e;
        } catch (RuntimeException e) {
            throw new ParameterException(line, "--columns: \"" + text + "\" is not like 3=vacuum:inhg; channels: "
                    + String.join(", ", java.util.Arrays.stream(Channel.values()).map(Channel::key).toList()) + ".", e);
        }
    }

    /** Reads a file; a short list of noted points counts as a log. */
    Recording record(Path file, picocli.CommandLine line, LongConsumer progress) {
        Optional<Recording> points = profile == null && columns.isEmpty() ? PointReader.read(file) : Optional.empty();
        if (points.isPresent()) {
            return points.get();
        }
        Recording r = LogReader.record(file, plan(file, line), () -> false, progress);
        return track == null ? r : r.beside(TrackReader.read(track));
    }
}
