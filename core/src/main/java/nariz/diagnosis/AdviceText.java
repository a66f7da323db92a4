package nariz.diagnosis;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import nariz.carburetor.Circuit;
import nariz.estimation.Flag;
import nariz.text.Message;
import nariz.units.Units;

/** Advice as plain text for a terminal, at most 100 columns wide. */
public final class AdviceText {
    private static final int WIDTH = 100;

    private AdviceText() {
    }

    /**
     * Writes advice.
     *
     * @param a advice
     * @return lines
     */
    public static String write(Advice a) {
        List<String> out = new ArrayList<>();
        out.add(wrap(a.sentence().toString(), ""));
        out.add("");
        changes(a, out);
        predicted(a, out);
        scored(a, out);
        circuits(a, out);
        a.needle().ifPresent(n -> needle(n, a.changes().isEmpty(), out));
        causes(a, out);
        moments(a, out);
        schools(a, out);
        notes(a, out);
        return String.join("\n", out) + "\n";
    }

    private static void changes(Advice a, List<String> out) {
        for (Change c : a.changes()) {
            out.add((c.now() ? "Do now:  " : "Later:   ") + c.title());
            c.reasons().forEach(r -> out.add(wrap("because " + r, "         ")));
            out.add(wrap("recheck: " + Message.join("; ", c.recheck()), "         "));
            c.cautions().forEach(x -> out.add(wrap("caution: " + x, "         ")));
            out.add("");
        }
    }

    private static void predicted(Advice a, List<String> out) {
        if (a.predicted().isEmpty()) {
            return;
        }
        boolean change = a.changes().stream().anyMatch(Change::now);
        out.add(String.format(Locale.ROOT, "%-14s %8s %8s %10s %s", "regime", "steady", "target", "lambda",
                change ? "after the change (90 % interval)" : ""));
        for (RegimePrediction p : a.predicted()) {
            out.add(String.format(Locale.ROOT, "%-14s %6.0f s %8.2f %10.2f %s", p.before().regime().label(),
                    p.before().dwellS(), p.before().target(), p.before().lambda(), change
                            ? String.format(Locale.ROOT, "%.2f (%.2f to %.2f)", p.after().lambda(), p.low(), p.high())
                            : p.before().words()));
        }
        out.add("");
    }

    private static void scored(Advice a, List<String> out) {
        if (!a.scored().isEmpty()) {
            out.add(String.format(Locale.ROOT, "%-14s %-26s %s", "last round", "was predicted", "is measured"));
            for (Previous.Scored p : a.scored()) {
                out.add(String.format(Locale.ROOT, "%-14s %-26s %.2f, %s", p.regime().label(),
                        String.format(Locale.ROOT, "%.2f (%.2f to %.2f)", p.predicted(), p.low(), p.high()),
                        p.measured(), p.within() ? "as predicted" : "not as predicted"));
            }
            out.add("");
        }
        a.notes().forEach(n -> out.add(wrap("Note: " + n + ".", "")));
    }

    private static void circuits(Advice a, List<String> out) {
        out.add(String.format(Locale.ROOT, "%-15s %-26s %s", "circuit", "delivers against the sheet", "state"));
        for (CircuitFinding c : a.circuits()) {
            String k = c.status() == Status.NOT_READ ? "-"
                    : String.format(Locale.ROOT, "%.2f (%.2f to %.2f)", c.correction(), c.low(), c.high());
            out.add(String.format(Locale.ROOT, "%-15s %-26s %s", c.circuit().label(), k, c.status().label()));
            c.slope().ifPresent(s -> out.add(String.format(Locale.ROOT,
                    "                %+.0f %% for twice the air (%+.0f to %+.0f %%)", 100 * s.perDoubling(),
                    100 * s.low(), 100 * s.high())));
            if (!c.why().isEmpty() && c.status() == Status.IN_DOUBT) {
                out.add(wrap(c.why() + ".", "                "));
            }
            if (!c.settledBy().isEmpty()) {
                out.add(wrap("to read it: " + c.settledBy(), "                "));
            }
        }
        for (BankFinding b : a.banks()) {
            List<String> words = new ArrayList<>();
            for (Circuit c : b.inOrder()) {
                BankFinding.Interval k = b.of(c);
                words.add(String.format(Locale.ROOT, "%s %.2f (%.2f to %.2f)", c.label(), k.value(), k.low(),
                        k.high()));
            }
            out.add(wrap("Bank " + b.bank() + " alone: " + String.join(", ", words), ""));
        }
        out.add("");
    }

    private static void needle(NeedleProfile n, boolean left, List<String> out) {
        out.add(String.format(Locale.ROOT, "%-15s %-9s %s", "needle station", "today", "wanted (90 % interval), thou"));
        for (int i = 0; i < n.stations().size(); i++) {
            NeedleProfile.Station s = n.stations().get(i);
            String remedy = !s.off() ? "" : s.byFiling() ? ", thinner: can be filed" : ", thicker: another needle";
            out.add(String.format(Locale.ROOT, "%-15d %-9.1f %s", i + 1, s.diameterM() / Units.THOU, s.read()
                    ? String.format(Locale.ROOT, "%.1f (%.1f to %.1f)%s", s.wantedM() / Units.THOU, s.lowM()
                    / Units.THOU, s.highM() / Units.THOU, remedy) : "not read"));
        }
        if (n.level()) {
            out.add("All stations ask for the same: the jet's height first.");
        }
        if (left && n.off()) {
            out.add("Nothing of this is advised: it is what would meet the targets to the letter.");
        }
        out.add("");
    }

    private static void causes(Advice a, List<String> out) {
        for (Hypothesis h : a.hypotheses()) {
            if (h.probability() >= 0.05) {
                out.add(wrap(String.format(Locale.ROOT, "%2d %%  %s: %s", h.percent(), h.label(),
                        h.evidence()), "      "));
                if (h.fault()) {
                    out.add(wrap("check: " + h.check(), "      "));
                }
            }
        }
        out.add("");
    }

    private static void moments(Advice a, List<String> out) {
        part(a.dynamics().ofEnrichment(), "Enrichment: ", out);
        part(a.dynamics().ofSecondStage(), "Second stage: ", out);
        part(a.dynamics().ofPulls(), "Pulls: ", out);
        if (!out.getLast().isEmpty()) {
            out.add("");
        }
    }

    private static void part(List<Message> lines, String title, List<String> out) {
        for (int i = 0; i < lines.size(); i++) {
            out.add(wrap((i == 0 ? title : "") + lines.get(i) + ".", "    ".substring(0, i == 0 ? 0 : 4)));
        }
    }

    private static void schools(Advice a, List<String> out) {
        for (RuleOfThumb s : a.schools()) {
            out.add("Schools differ on " + s.question() + ":");
            for (RuleOfThumb.Answer x : s.answers()) {
                out.add(wrap((x.name().equals(s.followed()) ? "* " : "  ") + x.name() + ": " + x.says(), "   "));
            }
            out.add(wrap("* followed here, because " + s.why(), "   "));
        }
        if (!a.schools().isEmpty()) {
            out.add("");
        }
    }

    private static void notes(Advice a, List<String> out) {
        Map<Flag, Double> share = new EnumMap<>(Flag.class);
        a.flags().forEach(f -> share.merge(f.kind(), f.share(), Double::sum));
        if (!share.isEmpty()) {
            List<String> words = share.entrySet().stream().filter(e -> e.getValue() >= 0.005)
                    .map(e -> String.format(Locale.ROOT, "%s %.0f %%", e.getKey().label(), 100 * e.getValue()))
                    .toList();
            if (!words.isEmpty()) {
                out.add(wrap("Not counted as steady: " + String.join(", ", words) + ".", ""));
            }
        }
        out.add(String.format(Locale.ROOT,
                "Readings lined up with a sensor lag of %.2f s and %.1f L of exhaust ahead of "
                + "it.", a.sensor().lagS(), a.sensor().exhaustL()));
        a.missing().forEach(m -> out.add(wrap("Still to read - " + m, "")));
        if (!a.assumed().isEmpty()) {
            out.add(wrap("Assumed from the family: " + String.join(", ", a.assumed()) + ".", ""));
        }
    }

    private static String wrap(String text, String indent) {
        StringBuilder out = new StringBuilder(indent);
        int column = indent.length();
        for (String word : text.split(" ")) {
            if (column + word.length() > WIDTH && column > indent.length()) {
                out.append('\n').append(indent);
                column = indent.length();
            }
            if (column > indent.length()) {
                out.append(' ');
                column++;
            }
            out.append(word);
            column += word.length();
        }
        return out.toString();
    }
}
