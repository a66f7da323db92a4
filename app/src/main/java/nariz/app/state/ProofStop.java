package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.RegimeError;
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
        List<RegimeError> off = advice.predicted().stream().map(RegimePrediction::before).filter(e -> e.rms()
                > e.regime().tolerance()).toList();
        int all = advice.predicted().size();
        String where = all == 0 ? say(advice.sentence()) : off.isEmpty() ? say("stop-words.every-way-of-running")
                : say("stop-words.of-ways-of-running", off.size(), all);
        if (against == null) {
            return new StopWords(Status.NOT_READ, say("stop-words.not-yet-compared"),
                    say("stop-words.to-prove-a-change", where), "", List.of(), "");
        }
        List<String> nearer = against.nearer(a);
        String errors = nearer.isEmpty() ? "" : "  " + say("stop-words.error-then-and-now", String.join(" · ",
                nearer));
        boolean enough = all >= FEWEST_WAYS;
        if (enough && off.isEmpty()) {
            return new StopWords(Status.SETTLED, say("stop-words.proved-2"), say("stop-words.proved", Character
                    .toLowerCase(where.charAt(0)), where.substring(1)), against.sentence() + errors, List.of(), "");
        }
        String badge = say("stop-words.off-of", off.size(), all);
        // What no part would better is no reason to go on: then the work has come to its end too.
        return enough && advice.verdict() == Verdict.LEAVE
                ? new StopWords(Status.OFF, badge, say("stop-words.as-far-as-parts-go", stillOff(off)),
                against.sentence() + errors, List.of(), "")
                : new StopWords(Status.OFF, badge, against.sentence(), where + errors, List.of(), "");
    }

    private static String stillOff(List<RegimeError> off) {
        return String.join(", ", off.stream().map(e -> say(e.sided() ? "stop-words.way-off"
                : "stop-words.way-uneven", say(e.regime().label()), Math.round(100 * e.rms()))).toList());
    }
}
