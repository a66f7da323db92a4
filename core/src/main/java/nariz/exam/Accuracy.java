package nariz.exam;

import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import nariz.advice.Advice;
import nariz.advice.Analysis;
import nariz.advice.Blame;
import nariz.advice.Change;
import nariz.advice.Strategy;
import nariz.advice.Verdict;
import nariz.build.BuildSheet;
import nariz.log.DriveLog;
import nariz.model.Circuit;
import nariz.sim.PracticeCase;

/** Puts the estimator through cases whose answers are known and prints what came out, misses included. */
public final class Accuracy {
    /**
     * Outcome of one case.
     *
     * @param truth what was hidden
     * @param answer what the advice said
     * @param right whether the advice blames a circuit that is really off, or rightly blames none
     * @param wrongWay whether a change moves a hidden error further away, or a part is changed on a sound or faulty car
     */
    public record Outcome(String truth, String answer, boolean right, boolean wrongWay) {
    }

    private static final List<String> CHECKED = List.of("vacuum-leak", "exhaust-leak", "sensor-offset", "fuel-level",
            "air-cleaner");

    private Accuracy() {
    }

    /**
     * The demo and ten cases.
     *
     * @param firstSeed seed of the first case
     * @param count how many
     * @param line receives the report, a line at a time, Markdown
     * @param progress receives the share done, 0 to 1
     */
    public static void report(long firstSeed, int count, Consumer<String> line, DoubleConsumer progress) {
        line.accept("| seed | engine | hidden | answer | right |");
        line.accept("|---|---|---|---|---|");
        int right = 0;
        int wrongWay = 0;
        for (int i = 0; i < count; i++) {
            PracticeCase c = PracticeCase.of(firstSeed + i);
            Outcome o = judge(c);
            right += o.right() ? 1 : 0;
            wrongWay += o.wrongWay() ? 1 : 0;
            line.accept(String.format(Locale.ROOT, "| %d | %.1f L, %d cyl, %s cam, %s | %s | %s | %s |", c.seed(),
                    c.fitted().engine().displacementM3() * 1e3, c.fitted().engine().cylinders(),
                    c.fitted().engine().cam().name().toLowerCase(Locale.ROOT),
                    c.fitted().carburetor().family().key(), o.truth(), o.answer(),
                    o.right() ? "yes" : (o.wrongWay() ? "NO, wrong way" : "NO")));
            progress.accept((i + 1.0) / count);
        }
        line.accept("");
        line.accept(String.format(Locale.ROOT, "Right: %d of %d. Wrong-way or needless changes: %d.", right, count,
                wrongWay));
    }

    /**
     * Analyses one case and compares.
     *
     * @param c case
     * @return outcome
     */
    public static Outcome judge(PracticeCase c) {
        BuildSheet sheet = c.fitted();
        DriveLog log = c.drive().log();
        Advice a = Analysis.of(sheet, log, Strategy.BALANCED).advice();
        String truth = truth(c);
        if (a.verdict() == Verdict.CHECK_FIRST && c.faults().isEmpty()) {
            // The tuner looks, finds nothing, and says so.
            Advice b = Analysis.of(sheet, log, Strategy.BALANCED, CHECKED, () -> false).advice();
            return judged(c, truth, "check-first, then " + answer(b), b);
        }
        return judged(c, truth, answer(a), a);
    }

    private static String answer(Advice a) {
        return a.verdict() == Verdict.CHANGE
                ? String.join("; ", a.changes().stream().map(Change::title).toList())
                : a.verdict().key() + (a.verdict() == Verdict.CHECK_FIRST ? " (" + a.hypotheses().stream()
                        .filter(h -> h.fault()).findFirst().orElseThrow().label() + ")" : "");
    }

    private static Outcome judged(PracticeCase c, String truth, String answer, Advice a) {
        boolean wrong = a.changes().stream().anyMatch(x -> wrongWay(c, x));
        if (c.errors().isEmpty()) {
            boolean fault = !c.faults().isEmpty();
            boolean right = a.verdict() != Verdict.CHANGE && (!fault || a.verdict() == Verdict.CHECK_FIRST);
            return new Outcome(truth, answer, right, a.verdict() == Verdict.CHANGE);
        }
        boolean right = a.verdict() == Verdict.CHANGE && blamesOneOf(c, a.changes().getFirst()) && !wrong;
        return new Outcome(truth, answer, right, wrong);
    }

    private static String truth(PracticeCase c) {
        if (!c.errors().isEmpty()) {
            return String.join("; ", c.errors().stream().map(PracticeCase.Misfit::text).toList());
        }
        return c.faults().isEmpty() ? "nothing" : c.faults().keySet().iterator().next().name().toLowerCase(Locale.ROOT)
                .replace('_', ' ');
    }

    /** Idle and transfer share one feed, so blaming either for the feed counts. */
    private static boolean blamesOneOf(PracticeCase c, Change first) {
        Circuit said = Blame.circuit(first);
        return c.errors().stream().map(e -> Blame.circuit(e.part(), e.side()))
                .anyMatch(t -> t == said || (idleSide(t) && idleSide(said)));
    }

    private static boolean idleSide(Circuit c) {
        return List.of(Circuit.IDLE, Circuit.TRANSFER).contains(c);
    }

    private static boolean wrongWay(PracticeCase c, Change x) {
        return c.errors().stream().anyMatch(e -> e.part() == x.part() && e.side() == x.side()
                && Math.signum(x.to() - x.from()) != Math.signum(e.healthy() - e.fitted()));
    }
}
