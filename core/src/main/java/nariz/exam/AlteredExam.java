package nariz.exam;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import java.util.function.ToIntFunction;
import nariz.carburetor.BuildSheet;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Previous;
import nariz.diagnosis.Request;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.Verdict;
import nariz.exam.PracticeCase.Misfit;
import nariz.sim.Seeds;

/**
 * Rounds of advise, fit, drive again on engines of another simulator into which wrong parts are put
 * ({@link AlteredEngine}): whether the first answer is right, and whether the car is in tune at the end. Of every two
 * cases that are out of tune there is one in which a part is so little off that the car is in tune, and is to be left
 * alone. By halves of the engines, so that one half can be looked at while the method is made and the other held back.
 */
public final class AlteredExam {
    /** Rounds after which a tuner gives up. */
    private static final int MOST_ROUNDS = 3;
    private static final double SINGLE = 0.7;
    private static final int LARGER = 3;
    private static final int MOST_DRAWS = 200;
    /** Share of an error's usual size that leaves a car in tune mostly. */
    private static final double SLIGHT = 1.0 / 3.0;

    private final AlteredEngine engine;
    private final List<Misfit> hidden;
    private final BuildSheet fitted;
    private final String name;
    private final boolean first;
    private final boolean off;
    private final List<String> answers = new ArrayList<>();
    private boolean right;
    private boolean part;
    private boolean wrongWay;
    private boolean checked;
    private boolean asked;
    private boolean left;
    private boolean tuned;
    private int rounds;

    private AlteredExam(AlteredEngine engine, String name, boolean first, List<Misfit> hidden) {
        off = !engine.tuned(PracticeCase.apply(engine.healthy(), hidden));
        this.engine = engine;
        this.name = name;
        this.first = first;
        this.hidden = hidden;
        fitted = PracticeCase.apply(engine.healthy(), hidden);
    }

    /**
     * Examines and reports.
     *
     * @param drives drives of another simulator; of every engine the first without a fault and with fewest
     *     wrong parts is used, which is one that was driven with nothing hidden where there is one
     * @param papers how many cases an engine
     * @param firstSeed draws what is wrong
     * @param line receives the report, Markdown, a line at a time
     * @param progress receives the share done, 0 to 1, from any thread
     */
    public static void report(List<ReferenceDrive> drives, int papers, long firstSeed, Consumer<String> line,
            DoubleConsumer progress) {
        List<ReferenceDrive> used = used(drives);
        int cases = papers + papers / 2;
        List<AlteredExam> all = Cases.all(firstSeed, used.size() * cases, seed -> {
            int i = (int) (seed - firstSeed);
            ReferenceDrive d = used.get(i / cases);
            boolean half = i / cases < (used.size() + 1) / 2;
            AlteredExam e = i % cases < papers ? drawn(d, half, seed) : slight(d, half, seed);
            e.sit();
            return e;
        }, progress);
        List<AlteredExam> off = all.stream().filter(e -> e.off).toList();
        List<AlteredExam> fine = all.stream().filter(e -> !e.off).toList();
        line.accept("| measure | first half of the engines | second half |");
        line.accept("|---|---|---|");
        line.accept(row("right circuit in the first answer", off, e -> e.right ? 1 : 0));
        line.accept(row("... and the very part", off, e -> e.part ? 1 : 0));
        line.accept(row("... a check that finds nothing, in any round", off, e -> e.checked ? 1 : 0));
        line.accept(row("... a pull that is asked for first, and is not in these logs", off, e -> e.asked ? 1 : 0));
        line.accept(row("... left alone", off, e -> e.left ? 1 : 0));
        line.accept(row("a change the wrong way in the first answer", off, e -> e.wrongWay ? 1 : 0));
        line.accept(row("in tune after one round", off, e -> e.tuned && e.rounds == 1 ? 1 : 0));
        line.accept(row("in tune after at most " + MOST_ROUNDS, off, e -> e.tuned ? 1 : 0));
        line.accept(row("parts changed on a car in tune", fine, e -> e.rounds > 0 && !e.checked ? 1 : 0));
        line.accept(row("a check on a car in tune", fine, e -> e.checked ? 1 : 0));
        line.accept("");
        line.accept("| drive | hidden | answers, round by round | |");
        line.accept("|---|---|---|---|");
        all.forEach(e -> line.accept("| " + e.name + " | " + String.join("; ", e.hidden.stream().map(Misfit::text)
                .toList()) + " | " + String.join(" -> ", e.answers) + " | " + e.remark() + " |"));
    }

    /** Of every engine the first drive without a fault and with fewest wrong parts. */
    static List<ReferenceDrive> used(List<ReferenceDrive> drives) {
        List<String> engines = drives.stream().map(ReferenceDrive::engine).distinct().sorted().toList();
        return engines.stream().flatMap(e -> drives.stream().filter(d -> d.engine().equals(e) && !d.fault()).min(
                Comparator.comparingInt(d -> d.keys().size())).stream()).toList();
    }

    private String remark() {
        if (!off) {
            return checked ? "needless check" : rounds > 0 ? "needless" : "right";
        }
        return (right ? "right" : "NOT RIGHT") + (tuned ? ", in tune after " + rounds : ", not in tune");
    }

    private static String row(String what, List<AlteredExam> all, ToIntFunction<AlteredExam> is) {
        StringBuilder out = new StringBuilder("| " + what);
        for (boolean half : new boolean[] {true, false}) {
            List<AlteredExam> these = all.stream().filter(e -> e.first == half).toList();
            int n = these.stream().mapToInt(is).sum();
            out.append(" | ").append(Cases.share(n, these.size()));
        }
        return out + " |";
    }

    /** One or two wrong parts that leave the car out of tune, but running. */
    private static AlteredExam drawn(ReferenceDrive d, boolean first, long seed) {
        Random r = Seeds.random(seed, 41);
        AlteredEngine engine = new AlteredEngine(d, seed, Optional.empty());
        int count = r.nextDouble() < SINGLE ? 1 : 2;
        List<Misfit> out = new ArrayList<>();
        for (int draw = 0; out.size() < count && draw < MOST_DRAWS; draw++) {
            Misfit e = PracticeCase.error(r, engine.healthy());
            if (!engine.healthy().carburetor().family().stages().contains(e.side()) || out.stream().anyMatch(o -> o
                    .part().equals(e.part()) && o.side() == e.side())) {
                continue;
            }
            Misfit felt = e;
            for (int i = 0; i < LARGER && felt.fitted() > 0 && engine.tuned(PracticeCase.apply(engine.healthy(), with(
                    out, felt))); i++) {
                felt = new Misfit(e.part(), e.side(), e.healthy(), felt.fitted() + 0.5 * (e.fitted() - e.healthy()));
            }
            if (felt.fitted() > 0) {
                BuildSheet tried = PracticeCase.apply(engine.healthy(), with(out, felt));
                if (!engine.tuned(tried) && engine.runs(tried)) {
                    out.add(felt);
                }
            }
        }
        return new AlteredExam(engine, d.name(), first, out);
    }

    /** A part so little off that the car is in tune. */
    private static AlteredExam slight(ReferenceDrive d, boolean first, long seed) {
        Random r = Seeds.random(seed, 43);
        AlteredEngine engine = new AlteredEngine(d, seed, Optional.empty());
        for (int draw = 0; draw < MOST_DRAWS; draw++) {
            Misfit e = PracticeCase.error(r, engine.healthy());
            if (engine.healthy().carburetor().family().stages().contains(e.side())) {
                Misfit little = new Misfit(e.part(), e.side(), e.healthy(), e.healthy() + SLIGHT * (e.fitted()
                        - e.healthy()));
                if (engine.tuned(PracticeCase.apply(engine.healthy(), List.of(little)))) {
                    return new AlteredExam(engine, d.name(), first, List.of(little));
                }
            }
        }
        return new AlteredExam(engine, d.name(), first, List.of());
    }

    private static List<Misfit> with(List<Misfit> some, Misfit m) {
        List<Misfit> all = new ArrayList<>(some);
        all.add(m);
        return all;
    }

    private void sit() {
        BuildSheet sheet = fitted;
        List<String> lookedFor = List.of();
        Optional<Previous> previous = Optional.empty();
        while (rounds < MOST_ROUNDS) {
            Analysis a = Analysis.of(Request.of(sheet, engine.log(sheet), Strategy.BALANCED).withRuledOut(lookedFor)
                    .withPrevious(previous), () -> false);
            Advice advice = a.advice();
            answers.add(Examination.answer(advice));
            if (advice.verdict() == Verdict.CHECK_FIRST && lookedFor.isEmpty()) {
                checked = true;
                lookedFor = Hypothesis.FAULTS;
                continue;
            }
            if (advice.verdict() == Verdict.MORE_DATA && advice.awaited().isPresent() && !asked) {
                // The logs there are have no such pull: the same is driven again.
                asked = true;
                previous = Previous.of(advice);
                continue;
            }
            if (advice.verdict() != Verdict.CHANGE) {
                left |= rounds == 0;
                break;
            }
            if (rounds == 0 && off) {
                judge(advice);
            }
            sheet = a.sheetAfter();
            previous = Previous.of(advice);
            rounds++;
            tuned = engine.tuned(sheet);
            if (tuned || !off) {
                break;
            }
        }
    }

    private void judge(Advice a) {
        Change x = a.changes().getFirst();
        List<Misfit> worst = Examination.worst(hidden, fitted, engine::loss);
        right = !checked && !asked && worst.stream().anyMatch(e -> fitted.carburetor().family().trims(e.part(),
                e.side()).sharesFeed(x.circuit()));
        part = right && worst.stream().anyMatch(e -> e.part().equals(x.part()) && e.side() == x.side());
        wrongWay = Examination.wrongWay(a, hidden);
    }
}
