package nariz.app.session;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import nariz.advice.Advice;
import nariz.advice.BankFinding;
import nariz.advice.Blame;
import nariz.advice.Change;
import nariz.advice.CircuitFinding;
import nariz.advice.Hypothesis;
import nariz.advice.Status;
import nariz.advice.Verdict;

/**
 * The words of one stop, all in one shape.
 *
 * @param state state of the stop
 * @param sentence verdict in one sentence
 * @param confidence how sure, and what it could be confused with
 * @param changes changes that belong to this stop
 * @param toRead drive that would read it, or empty
 */
public record StopWords(Status state, String sentence, String confidence, List<Change> changes, String toRead) {
    /** Copies the list. */
    public StopWords {
        changes = List.copyOf(changes);
    }

    /**
     * Words of a stop.
     *
     * @param a advice
     * @param stop stop
     * @return its words
     */
    public static StopWords of(Advice a, Stop stop) {
        CircuitFinding f = a.finding(stop.circuit());
        List<Change> changes = a.changes().stream().filter(c -> stop.circuits().contains(Blame.circuit(c))).toList();
        return new StopWords(f.status(), sentence(a, stop, f, changes), confidence(a, f, changes), changes,
                f.settledBy());
    }

    private static String sentence(Advice a, Stop stop, CircuitFinding f, List<Change> changes) {
        if (a.verdict() == Verdict.MORE_DATA) {
            return a.sentence();
        }
        if (!changes.isEmpty()) {
            Change c = changes.getFirst();
            String lead = a.changes().getFirst().equals(c) ? a.sentence()
                    : stop.label() + " is off too: change the " + c.side().key() + " " + c.part().label() + " from "
                            + c.part().text(c.from()) + " to " + c.part().text(c.to()) + ".";
            return changes.size() == 1 ? lead : lead + " And " + changes.get(1).title() + ".";
        }
        return switch (f.status()) {
            case NOT_READ -> stop == Stop.PUMP
                    ? "The pump is not judged from steady running. Steady mixtures come first."
                    : "This drive hardly used the " + stop.label().toLowerCase(Locale.ROOT) + " circuit.";
            case WAITING -> "Reads " + error(f.error()) + ", but an earlier circuit feeds it too. Put that right, read"
                    + " again, then judge this one.";
            case IN_DOUBT -> a.verdict() == Verdict.CHECK_FIRST ? a.sentence()
                    : "Reads " + error(f.error()) + ", with too little to go on for a verdict.";
            case SETTLED -> "Leave it alone: it reads on target, " + error(f.error()) + ".";
            case OFF -> a.sentence();
        };
    }

    private static String error(double e) {
        long percent = Double.isNaN(e) ? 0 : Math.round(Math.abs(e) * 100);
        if (percent == 0) {
            return "within 1 %";
        }
        return percent + " % " + (e > 0 ? "lean" : "rich");
    }

    private static String confidence(Advice a, CircuitFinding f, List<Change> changes) {
        if (f.status() == Status.NOT_READ) {
            return "";
        }
        List<String> parts = new ArrayList<>();
        parts.add(String.format(Locale.ROOT, "Delivers %.2f of what the sheet says (%.2f to %.2f, 90 %%)",
                f.correction(), f.low(), f.high()));
        f.slope().ifPresent(s -> parts.add(String.format(Locale.ROOT, "%+.0f %% for twice the air (%+.0f to %+.0f)",
                100 * s.perDoubling(), 100 * s.low(), 100 * s.high())));
        for (BankFinding b : a.banks()) {
            BankFinding.Interval k = b.circuits().get(f.circuit());
            if (k != null) {
                parts.add(String.format(Locale.ROOT, "bank %d alone %.2f", b.bank(), k.value()));
            }
        }
        a.hypotheses().stream().filter(Hypothesis::fault).filter(h -> h.probability() >= 0.05).findFirst()
                .ifPresent(h -> parts.add(h.label() + ": " + h.percent() + " %"));
        if (!f.confoundedWith().isEmpty() && (!changes.isEmpty() || f.status() == Status.IN_DOUBT)) {
            parts.add("not told apart from: " + String.join(", ", f.confoundedWith()));
        }
        return String.join(" · ", parts);
    }
}
