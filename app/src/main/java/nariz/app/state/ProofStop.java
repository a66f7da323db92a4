package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.Status;
import nariz.diagnosis.Verdict;
import org.jspecify.annotations.Nullable;

/** The same road again: whether the work did what was foretold. */
final class ProofStop implements Stop {
    private static final int FEWEST_WAYS = 4;

    @Override
    public String id() {
        return "proof";
    }

    @Override
    public boolean in(Family family) {
        return true;
    }

    @Override
    public Optional<Circuit> circuit(Family family) {
        return Optional.empty();
    }

    @Override
    public boolean holds(Circuit c) {
        return false;
    }

    @Override
    public Evidence evidence(@Nullable Drive d, @Nullable Comparison against) {
        return against == null ? Evidence.STREAM : Evidence.DIFFERENCE;
    }

    @Override
    public boolean compares() {
        return true;
    }

    @Override
    public OptionalInt moment(Drive d, @Nullable Comparison against) {
        return against == null ? OptionalInt.empty() : against.result().pairs().stream().max(Comparator.comparingDouble(
                p -> Math.abs(p.difference()) * Math.sqrt(p.seconds()))).map(p -> OptionalInt.of(p.afterSample()))
                .orElseGet(OptionalInt::empty);
    }

    @Override
    public Optional<Guide> guide(StopWords words) {
        return Optional.of(new Guide(say("work-card-panel.to-prove-it"), "", List.of(say("work-card-panel.proof-1"),
                say("work-card-panel.proof-2"), say("work-card-panel.proof-3"), say("work-card-panel.proof-4"),
                say("work-card-panel.proof-5")), ""));
    }

    /** What the same road shows after the work. */
    @Override
    public StopWords words(Drive d, @Nullable Comparison against) {
        Analysis a = d.analysis();
        Advice advice = a.advice();
        long off = advice.predicted().stream().filter(p -> p.before().rms() > p.before().regime().tolerance()).count();
        int all = advice.predicted().size();
        String where = all == 0 ? say(advice.sentence()) : off == 0
                ? say("stop-words.every-way-of-running")
                : say("stop-words.of-ways-of-running", off, all);
        if (against == null) {
            return new StopWords(Status.NOT_READ, say("stop-words.not-yet-compared"),
                    say("stop-words.to-prove-a-change", where), "", List.of(), "");
        }
        boolean proved = off == 0 && all >= FEWEST_WAYS;
        // What no part would better is no reason to go on: then the work has come to its end too.
        boolean left = !proved && all >= FEWEST_WAYS && advice.verdict() == Verdict.LEAVE;
        List<String> more = new ArrayList<>();
        more.add(proved || left ? against.sentence() : where);
        List<String> nearer = against.nearer(a);
        if (!nearer.isEmpty()) {
            more.add(say("stop-words.error-then-and-now", String.join(" · ", nearer)));
        }
        return new StopWords(proved ? Status.SETTLED : Status.OFF, proved ? say("stop-words.proved-2")
                : say("stop-words.off-of", off, all), proved ? say("stop-words.proved", Character.toLowerCase(
                where.charAt(0)), where.substring(1)) : left ? say("stop-words.as-far-as-parts-go", stillOff(advice))
                : against.sentence(), String.join("  ", more), List.of(), "");
    }

    private static String stillOff(Advice advice) {
        return String.join(", ", advice.predicted().stream().map(RegimePrediction::before).filter(e -> e.rms()
                > e.regime().tolerance()).map(e -> say("stop-words.way-off", say(e.regime().label()), Math.round(100
                * e.rms()))).toList());
    }

}
