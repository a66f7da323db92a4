package nariz.exam;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import java.util.stream.Collectors;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Request;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.Verdict;
import nariz.sim.Fault;
import nariz.sim.Seeds;

/**
 * Faults put into the logs of sound engines of another simulator ({@link AlteredFault}): whether a look at the right
 * thing is asked for first, or fuel parts are.
 */
public final class FaultsExam {
    private final ReferenceDrive drive;
    private final AlteredFault hidden;
    private final boolean felt;
    private final Advice advice;

    private FaultsExam(ReferenceDrive drive, AlteredFault hidden, long seed) {
        this.drive = drive;
        this.hidden = hidden;
        AlteredEngine engine = new AlteredEngine(drive, seed, Optional.of(hidden));
        // A leak into the exhaust spoils no mixture, only what is read of it.
        felt = hidden.kind() == Fault.EXHAUST_LEAK || !engine.tuned(engine.healthy());
        advice = Analysis.of(Request.of(engine.healthy(), engine.log(engine.healthy()), Strategy.BALANCED), () -> false)
                .advice();
    }

    /**
     * Examines and reports.
     *
     * @param drives drives of another simulator; of every engine the one is used that {@link AlteredExam} uses
     * @param papers how many cases an engine, the faults in turn
     * @param firstSeed draws how large they are, and by which law they work
     * @param line receives the report, Markdown, a line at a time
     * @param progress receives the share done, 0 to 1, from any thread
     */
    public static void report(List<ReferenceDrive> drives, int papers, long firstSeed, Consumer<String> line,
            DoubleConsumer progress) {
        List<ReferenceDrive> used = AlteredExam.used(drives);
        List<FaultsExam> all = Cases.all(firstSeed, used.size() * papers, seed -> {
            int i = (int) (seed - firstSeed);
            Fault kind = AlteredFault.KINDS[i % papers % AlteredFault.KINDS.length];
            ReferenceDrive d = used.get(i / papers);
            Random r = Seeds.random(seed, 47);
            return new FaultsExam(d, AlteredFault.draw(r, kind, AlteredEngine.needle(d)), seed);
        }, progress);
        line.accept("| hidden | among the first two named, with a check | another check | fuel parts | left alone "
                + "| not felt: fuel parts |");
        line.accept("|---|---|---|---|---|---|");
        for (Fault kind : AlteredFault.KINDS) {
            row(AlteredFault.name(kind), all.stream().filter(e -> e.hidden.kind() == kind).toList(), line);
        }
        row("all", all, line);
        line.accept("");
        line.accept("| drive | hidden | answer | |");
        line.accept("|---|---|---|---|");
        all.stream().sorted(Comparator.comparing(e -> e.hidden.kind())).forEach(e -> line.accept("| " + e.drive.name()
                + " | " + e.hidden + (e.felt ? "" : ", not felt") + " | " + Examination.answer(e.advice) + " "
                + e.causes() + " | " + e.remark() + " |"));
    }

    private static void row(String what, List<FaultsExam> all, Consumer<String> line) {
        List<FaultsExam> felt = all.stream().filter(e -> e.felt).toList();
        List<FaultsExam> mild = all.stream().filter(e -> !e.felt).toList();
        long named = felt.stream().filter(FaultsExam::named).count();
        long checked = felt.stream().filter(e -> e.advice.verdict() == Verdict.CHECK_FIRST && !e.named()).count();
        long parts = felt.stream().filter(FaultsExam::parts).count();
        long changed = mild.stream().filter(FaultsExam::parts).count();
        line.accept(String.format(Locale.ROOT, "| %s | %s | %d | %d | %d | %s |", what, Cases.share(named, felt.size()),
                checked, parts, felt.size() - named - checked - parts, Cases.share(changed, mild.size())));
    }

    private String remark() {
        return named() ? "right" : felt ? "NOT RIGHT" : parts() ? "changed" : "";
    }

    private boolean parts() {
        return advice.verdict() == Verdict.CHANGE;
    }

    private boolean named() {
        return advice.verdict() == Verdict.CHECK_FIRST && Examination.named(advice, Examination.cause(hidden.kind()));
    }

    private String causes() {
        return advice.hypotheses().stream().limit(4).map(h -> h.cause() + " " + h.percent()).collect(Collectors.joining(
                ", ", "(", ")"));
    }
}
