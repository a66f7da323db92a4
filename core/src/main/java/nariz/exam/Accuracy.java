package nariz.exam;

import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import java.util.function.LongFunction;
import java.util.function.Predicate;
import nariz.carburetor.Circuit;
import nariz.carburetor.Families;

/** Puts the adviser through cases whose answers are known and prints what came out, misses included. */
public final class Accuracy {
    private Accuracy() {
    }

    /**
     * Examines and reports.
     *
     * @param papers gives the case of a seed, for example {@code PracticeCase::of}
     * @param firstSeed seed of the first case
     * @param count how many
     * @param line receives the report, a line at a time, Markdown
     * @param progress receives the share done, 0 to 1, from any thread
     */
    public static void report(LongFunction<PracticeCase> papers, long firstSeed, int count, Consumer<String> line,
            DoubleConsumer progress) {
        List<Examination.Outcome> all = Cases.all(firstSeed, count, seed -> Examination.sit(papers.apply(seed)),
                progress);
        summary(all, line);
        line.accept("");
        line.accept("| seed | engine | hidden | answers, round by round | |");
        line.accept("|---|---|---|---|---|");
        all.forEach(o -> line.accept(row(o)));
    }

    private static void summary(List<Examination.Outcome> all, Consumer<String> line) {
        List<Examination.Outcome> parts = all.stream().filter(o -> !o.paper.errors().isEmpty()).toList();
        List<Examination.Outcome> faulty = all.stream().filter(o -> !o.paper.faults().isEmpty()).toList();
        List<Examination.Outcome> sound = all.stream().filter(o -> o.paper.errors().isEmpty()
                && o.paper.faults().isEmpty() && o.paper.sound()).toList();
        List<Examination.Outcome> odd = all.stream().filter(o -> o.paper.errors().isEmpty()
                && o.paper.faults().isEmpty() && !o.paper.sound()).toList();
        int[] rounds = parts.stream()
                .mapToInt(o -> o.tuned ? o.rounds : Examination.MOST_ROUNDS + 1).sorted().toArray();
        line.accept("| measure | aim | result |");
        line.accept("|---|---|---|");
        line.accept(share("worst error blamed on the right circuit, engines with wrong parts", "95 %", parts,
                o -> o.rightCircuit));
        line.accept(share("... and on the very part", "", parts, o -> o.rightPart));
        line.accept(share("a change the wrong way in the first round", "0", parts, o -> o.wrongWay));
        line.accept(share("a check asked for that finds nothing, engines with wrong parts", "", parts,
                o -> o.checkFirst));
        line.accept(share("... a pull asked for first, which is driven", "", parts, o -> o.asked));
        line.accept(share("in tune at the end", "", parts, o -> o.tuned));
        if (rounds.length > 0) {
            line.accept(String.format(Locale.ROOT, "| rounds until in tune, median and 95th percentile (%d = not in %d)"
                    + " | 2 and 3 | %d and %d |", Examination.MOST_ROUNDS + 1, Examination.MOST_ROUNDS,
                    rounds[rounds.length / 2], rounds[(int) Math.min(rounds.length - 1L,
                    Math.round(0.95 * rounds.length))]));
        }
        line.accept(share("engines with a fault answered with a check", "100 %", faulty, o -> o.checkFirst));
        line.accept(share("... with the fault among the first two named", "", faulty, o -> o.namedFault));
        line.accept(share("fuel parts for an engine with a fault", "0", faulty, o -> o.needless));
        line.accept(share("fuel parts for a sound engine", "0", sound, o -> o.needless));
        line.accept(share("fuel parts for an engine that no parts on the ladders set up well", "", odd,
                o -> o.needless));
        line.accept(cover("90 % intervals of corrections that hold the truth", all.stream()
                .mapToInt(o -> o.circuitsIn).sum(), all.stream().mapToInt(o -> o.circuits).sum()));
        line.accept(cover("90 % intervals of today's mean lambda by regime", all.stream()
                .mapToInt(o -> o.regimesIn).sum(), all.stream().mapToInt(o -> o.regimes).sum()));
        line.accept(cover("90 % intervals of predicted lambda after a change: truth, same running", all.stream()
                .mapToInt(o -> o.effectsIn).sum(), all.stream().mapToInt(o -> o.effects).sum()));
        line.accept(cover("... the next drive's reading", all.stream()
                .mapToInt(o -> o.promisesIn).sum(), all.stream().mapToInt(o -> o.promises).sum()));
        StringBuilder by = new StringBuilder("| corrections by circuit | |");
        for (Circuit c : Families.all().getFirst().circuits()) {
            int in = all.stream().mapToInt(o -> o.byCircuit.getOrDefault(c, new int[2])[0]).sum();
            int of = all.stream().mapToInt(o -> o.byCircuit.getOrDefault(c, new int[2])[1]).sum();
            if (of > 0) {
                by.append(' ').append(c.label()).append(' ').append(in).append('/').append(of);
            }
        }
        line.accept(by + " |");
    }

    private static String share(String what, String aim, List<Examination.Outcome> of,
            Predicate<Examination.Outcome> is) {
        long n = of.stream().filter(is).count();
        return String.format(Locale.ROOT, "| %s | %s | %d of %d%s |", what, aim, n, of.size(),
                of.isEmpty() ? "" : String.format(Locale.ROOT, " (%.0f %%)", 100.0 * n / of.size()));
    }

    private static String cover(String what, int in, int of) {
        return String.format(Locale.ROOT, "| %s | 87 to 93 %% | %d of %d (%.0f %%) |", what, in, of,
                100.0 * in / Math.max(1, of));
    }

    private static String hidden(PracticeCase c) {
        if (!c.errors().isEmpty()) {
            return String.join("; ", c.errors().stream().map(PracticeCase.Misfit::text).toList());
        }
        if (!c.faults().isEmpty()) {
            return c.faults().keySet().iterator().next().name().toLowerCase(Locale.ROOT).replace('_', ' ');
        }
        return c.sound() ? "nothing" : "nothing, but no parts set it up well";
    }

    private static String row(Examination.Outcome o) {
        PracticeCase c = o.paper;
        String hidden = hidden(c);
        String remark = (o.right() ? "right" : "NOT RIGHT") + (o.wrongWay ? ", wrong way" : "")
                + (c.errors().isEmpty() ? "" : (o.tuned ? ", in tune after " + o.rounds : ", not in tune"));
        return String.format(Locale.ROOT, "| %d | %.1f L, %d cyl, %s cam, %s | %s | %s | %s |", c.seed(),
                c.fitted().engine().displacementM3() * 1e3, c.fitted().engine().cylinders(),
                c.fitted().engine().cam().name().toLowerCase(Locale.ROOT), c.fitted().carburetor().family().key(),
                hidden, String.join(" -> ", o.answers), remark);
    }
}
