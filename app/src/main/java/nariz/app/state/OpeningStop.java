package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import nariz.carburetor.Circuit;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Status;
import nariz.diagnosis.Verdict;
import nariz.dynamics.OpeningStudy;
import nariz.dynamics.TipIn;
import nariz.dynamics.TipIns;
import org.jspecify.annotations.Nullable;

/** An accelerator pump, or the damper of a piston: judged by what follows an opening of the throttle. */
final class OpeningStop extends CircuitStop {
    private static final int FEWEST_STABS = 4;

    OpeningStop(Circuit circuit) {
        super(circuit);
    }

    /** A sentence of this stop: each has its own, since a pump gives a shot and a damper holds a piston back. */
    private String own(String key, Object... values) {
        return say("opening-stop." + id() + "." + key, values);
    }

    @Override
    public Evidence evidence(@Nullable Drive d, @Nullable Comparison against) {
        return Evidence.TIP_INS;
    }

    @Override
    public OptionalInt moment(Drive d, @Nullable Comparison against) {
        return d.tipIns().events().stream().max(Comparator.comparingDouble(TipIn::leanest)).map(t -> OptionalInt.of(
                t.sample())).orElseGet(OptionalInt::empty);
    }

    /** Lean after the throttle opens, with steady mixtures right: what to look at, the cheapest first. */
    @Override
    public Optional<Guide> guide(StopWords words) {
        return words.state() != Status.IN_DOUBT ? Optional.empty() : Optional.of(new Guide(
                own("look"), own("mind"), List.of(own("1"), own("2"), own("3"), own("4"), own("5")), own("proof")));
    }

    @Override
    public List<Seen> seen(Drive d) {
        return List.of(new Seen(say("work-card-panel.openings-by-kind"), TipIns.kinds(d.tipIns().events()).stream()
                .map(TipIns.Kind::words).toList()));
    }

    /** The pump is judged by what follows an opening of the throttle, and only once steady mixtures are right. */
    @Override
    public StopWords words(Drive d, @Nullable Comparison against) {
        Analysis found = d.analysis();
        TipInSeries stabs = d.tipIns();
        Advice a = found.advice();
        String toRead = say(a.finding(circuit(found.observation().sheet().carburetor().family())
                .orElseThrow()).settledBy());
        int n = stabs.events().size();
        if (n == 0) {
            return new StopWords(Status.NOT_READ, say(Status.NOT_READ.label()), a.verdict() == Verdict.MORE_DATA
                    ? say(a.sentence()) : own("nothing-known"),
                    "", List.of(), toRead);
        }
        int lean = stabs.lean().size();
        List<TipIn> fat = stabs.events().stream().filter(TipIn::rich).toList();
        boolean over = fat.size() > lean;
        String brief = over ? say("stop-words.of-rich", fat.size(), n) : say("stop-words.of-lean", lean, n);
        String what = over ? say("stop-words.of-tip-ins-go", fat.size(), n, 100 * middle(fat, TipIn::richest), lean)
                : lean == 0 ? say("stop-words.none-of-tip-ins", n)
                : say("stop-words.of-tip-ins-read", lean, n, 100 * middle(stabs.lean(), TipIn::leanest),
                        middle(stabs.lean(), TipIn::leanForS), middle(stabs.lean(), TipIn::leanAfterS));
        long untold = stabs.events().stream().filter(t -> Double.isNaN(t.readFromS())).count();
        String confidence = (untold > 0 ? say("stop-words.cannot-be-told-from", untold) : "")
                + say("stop-words.began-closed", stabs.events().stream()
                .filter(TipIn::fromClosed).count())
                + TipIns.soonAgain(stabs.events()).filter(x -> x[1] > 0.0).map(x -> " · "
                + own("soon-again", 100 * x[0])).orElse("");
        if (a.pump().isPresent()) {
            return studied(a, a.pump().get(), brief, what, confidence);
        }
        boolean steadyRight = a.verdict() == Verdict.LEAVE;
        if (!steadyRight) {
            return new StopWords(Status.WAITING, brief, say("stop-words.put-the-steady-mixtures", what), confidence,
                    List.of(), "");
        }
        if (over && fat.size() * 2 >= n && n >= FEWEST_STABS) {
            return new StopWords(Status.IN_DOUBT, brief, own("too-much", what), confidence,
                    List.of(), toRead);
        }
        if (lean * 2 >= n && n >= FEWEST_STABS) {
            // Sound carburetors go lean here too, and one log does not tell how much is the pump's.
            return new StopWords(Status.IN_DOUBT, brief, own("too-little", what), confidence,
                    List.of(), toRead);
        }
        return lean == 0 && n >= FEWEST_STABS ? new StopWords(Status.SETTLED, brief,
                own("leave", what),
                confidence, List.of(), "") : new StopWords(Status.IN_DOUBT, brief, what, confidence, List.of(),
                toRead);
    }

    /** What all openings together say. */
    private StopWords studied(Advice a, OpeningStudy.Finding f, String brief, String what, String confidence) {
        List<Change> changes = a.changes().stream().filter(c -> holds(c.circuit())).toList();
        List<String> parts = new ArrayList<>();
        f.causes().entrySet().stream().filter(e -> e.getValue() >= 0.05).sorted(Map.Entry.<OpeningStudy.Cause,
                Double>comparingByValue().reversed()).forEach(e -> parts.add(say(e.getKey().label()) + ": "
                + f.percent(e.getKey()) + " %"));
        parts.add(confidence);
        String sure = String.join(" · ", parts);
        if (!changes.isEmpty()) {
            return new StopWords(Status.OFF, brief, say(a.sentence()), sure, changes, "");
        }
        if (a.looksAtPump()) {
            return new StopWords(Status.IN_DOUBT, brief, own("look-first", f.percent(f.answered()), what), sure,
                    List.of(), "");
        }
        Optional<OpeningStudy.Cause> doubt = f.inDoubt();
        if (doubt.isPresent()) {
            OpeningStudy.Cause c = doubt.get();
            // No part has sizes for a piston that sticks: the card says what to look at.
            return new StopWords(Status.IN_DOUBT, brief, f.sticks() ? own("sticks", what)
                    : say("stop-words.openings-in-doubt", c.label(), f.percent(c), what), sure, List.of(), "");
        }
        return new StopWords(Status.SETTLED, brief, own("no-part", what) + " "
                + say("stop-words.not-the-mixture"), sure, List.of(), "");
    }

    private static double middle(List<TipIn> events, java.util.function.ToDoubleFunction<TipIn> of) {
        double[] v = events.stream().mapToDouble(of).filter(x -> !Double.isNaN(x)).sorted().toArray();
        return v.length == 0 ? Double.NaN : v[v.length / 2];
    }

}
