package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import nariz.carburetor.Part;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.BankFinding;
import nariz.diagnosis.Change;
import nariz.diagnosis.CircuitFinding;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Status;
import nariz.diagnosis.Verdict;
import nariz.dynamics.PumpStudy;
import nariz.dynamics.TipIn;
import nariz.dynamics.TipIns;
import nariz.text.Message;

/**
 * The words of one stop, all in one shape.
 *
 * @param state state of the stop
 * @param brief state in a word or two, with the size of the error where there is one
 * @param sentence verdict in one sentence
 * @param confidence how sure, and what it could be confused with
 * @param changes changes that belong to this stop
 * @param toRead drive that would read it, or empty
 */
public record StopWords(Status state, String brief, String sentence, String confidence, List<Change> changes,
        String toRead) {
    private static final int FEWEST_STABS = 4;
    private static final int FEWEST_WAYS = 4;

    /** Copies the list. */
    public StopWords {
        changes = List.copyOf(changes);
    }

    /**
     * Words of a stop.
     *
     * @param d drive
     * @param stop stop
     * @param against the drive it is compared with, or null
     * @return its words
     */
    public static StopWords of(Drive d, Stop stop, Comparison against) {
        return switch (stop) {
            case PUMP -> pump(d.analysis(), d.tipIns());
            case PROOF -> proof(d.analysis(), against);
            default -> circuit(d.analysis(), stop);
        };
    }

    private static StopWords circuit(Analysis found, Stop stop) {
        Advice a = found.advice();
        CircuitFinding f = a.finding(stop.circuit(found.observation().sheet().carburetor().family()).orElseThrow());
        List<Change> changes = a.changes().stream().filter(c -> Stop.of(c.circuit()) == stop).toList();
        String brief = f.status() == Status.OFF && !changes.isEmpty()
                && changes.getFirst().part().role() != Part.Role.IDLE_STOP ? say(changes.getFirst().enriches()
                ? "stop-words.off-lean" : "stop-words.off-rich")
                : f.status() == Status.WAITING ? say("stop-words.waits") : say(f.status().label());
        return new StopWords(f.status(), brief, sentence(a, stop, f, changes), confidence(a, f, changes), changes,
                say(f.settledBy()));
    }

    /** The pump is judged by what follows an opening of the throttle, and only once steady mixtures are right. */
    private static StopWords pump(Analysis found, TipInSeries stabs) {
        Advice a = found.advice();
        String toRead = say(a.finding(Stop.PUMP.circuit(found.observation().sheet().carburetor().family())
                .orElseThrow()).settledBy());
        int n = stabs.events().size();
        if (n == 0) {
            return new StopWords(Status.NOT_READ, say(Status.NOT_READ.label()), a.verdict() == Verdict.MORE_DATA
                    ? say(a.sentence()) : say("stop-words.no-quick-opening-of"),
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
                + TipIns.soonAgain(stabs.events()).filter(d -> d[1] > 0.0).map(d -> say("stop-words.does-not-refill",
                100 * d[0])).orElse("");
        if (a.pump().isPresent()) {
            return studied(a, a.pump().get(), brief, what, confidence);
        }
        boolean steadyRight = a.verdict() == Verdict.LEAVE;
        if (!steadyRight) {
            return new StopWords(Status.WAITING, brief, say("stop-words.put-the-steady-mixtures", what), confidence,
                    List.of(), "");
        }
        if (over && fat.size() * 2 >= n && n >= FEWEST_STABS) {
            return new StopWords(Status.IN_DOUBT, brief, say("stop-words.the-shot-is-more", what), confidence,
                    List.of(), toRead);
        }
        if (lean * 2 >= n && n >= FEWEST_STABS) {
            // Sound carburetors go lean here too, and one log does not tell how much is the pump's.
            return new StopWords(Status.IN_DOUBT, brief, say("stop-words.the-pump-gives-too", what), confidence,
                    List.of(), toRead);
        }
        return lean == 0 && n >= FEWEST_STABS ? new StopWords(Status.SETTLED, brief,
                say("stop-words.leave-the-pump-alone", what),
                confidence, List.of(), "") : new StopWords(Status.IN_DOUBT, brief, what, confidence, List.of(),
                toRead);
    }

    /** What all openings together say of the pump. */
    private static StopWords studied(Advice a, PumpStudy.Finding f, String brief, String what, String confidence) {
        List<Change> changes = a.changes().stream().filter(c -> Stop.of(c.circuit()) == Stop.PUMP).toList();
        List<String> parts = new ArrayList<>();
        f.causes().entrySet().stream().filter(e -> e.getValue() >= 0.05).sorted(Map.Entry.<PumpStudy.Cause,
                Double>comparingByValue().reversed()).forEach(e -> parts.add(say(e.getKey().label()) + ": "
                + f.percent(e.getKey()) + " %"));
        parts.add(confidence);
        String sure = String.join(" · ", parts);
        if (!changes.isEmpty()) {
            return new StopWords(Status.OFF, brief, say(a.sentence()), sure, changes, "");
        }
        return new StopWords(Status.SETTLED, brief, say("stop-words.no-part-of-the-pump", what)
                + say("stop-words.not-the-mixture"), sure, List.of(), "");
    }

    private static double middle(List<TipIn> events, java.util.function.ToDoubleFunction<TipIn> of) {
        double[] v = events.stream().mapToDouble(of).filter(x -> !Double.isNaN(x)).sorted().toArray();
        return v.length == 0 ? Double.NaN : v[v.length / 2];
    }

    /** What the same road shows after the work. */
    private static StopWords proof(Analysis a, Comparison against) {
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
        List<String> more = new ArrayList<>();
        more.add(proved ? against.sentence() : where);
        List<String> nearer = against.nearer(a);
        if (!nearer.isEmpty()) {
            more.add(say("stop-words.error-then-and-now", String.join(" · ", nearer)));
        }
        return new StopWords(proved ? Status.SETTLED : Status.OFF, proved ? say("stop-words.proved-2")
                : say("stop-words.off-of", off, all), proved ? say("stop-words.proved", Character.toLowerCase(
                where.charAt(0)), where.substring(1)) : against.sentence(), String.join("  ", more), List.of(), "");
    }

    private static String sentence(Advice a, Stop stop, CircuitFinding f, List<Change> changes) {
        if (a.verdict() == Verdict.MORE_DATA) {
            return say(a.sentence());
        }
        if (!changes.isEmpty()) {
            Change c = changes.getFirst();
            String lead = a.changes().getFirst().equals(c) ? say(a.sentence())
                    : say(f.error() > 0 ? "stop-words.is-lean-too-change" : "stop-words.is-rich-too-change",
                    stop.label(), c.part().named(c.side()), c.part().text(c.from()), c.part().text(c.to()));
            return changes.size() == 1 ? lead : say("stop-words.and", lead, changes.get(1).title());
        }
        return switch (f.status()) {
            case NOT_READ -> say("stop-words.this-drive-hardly-used", stop.label().toLowerCase(Locale.ROOT));
            case WAITING -> say("stop-words.reads-but-an-earlier", error(f.error()));
            case IN_DOUBT -> a.verdict() == Verdict.CHECK_FIRST ? say(a.sentence())
                    : say("stop-words.reads-but", error(f.error()), say(f.why()));
            case SETTLED -> say("stop-words.leave-it-alone-it", error(f.error()));
            case OFF -> say(a.sentence());
        };
    }

    private static String error(double e) {
        long percent = Double.isNaN(e) ? 0 : Math.round(Math.abs(e) * 100);
        if (percent == 0) {
            return say("stop-words.within");
        }
        return say(e > 0 ? "stop-words.lean" : "stop-words.rich", percent);
    }

    private static String confidence(Advice a, CircuitFinding f, List<Change> changes) {
        if (f.status() == Status.NOT_READ) {
            return "";
        }
        List<String> parts = new ArrayList<>();
        parts.add(say("stop-words.delivers-of-what-the",
                f.correction(), f.low(), f.high()));
        f.slope().ifPresent(s -> parts.add(say("stop-words.for-twice-the-air",
                100 * s.perDoubling(), 100 * s.low(), 100 * s.high())));
        for (BankFinding b : a.banks()) {
            BankFinding.Interval k = b.circuits().get(f.circuit());
            if (k != null) {
                parts.add(say("stop-words.bank-alone", b.bank(), k.value()));
            }
        }
        a.hypotheses().stream().filter(Hypothesis::fault).filter(h -> h.probability() >= 0.05).findFirst()
                .ifPresent(h -> parts.add(say(h.label()) + ": " + h.percent() + " %"));
        if (!f.confoundedWith().isEmpty() && (!changes.isEmpty() || f.status() == Status.IN_DOUBT)) {
            parts.add(say("stop-words.not-told-apart-from", Message.join(", ", f.confoundedWith())));
        }
        return String.join(" · ", parts);
    }
}
