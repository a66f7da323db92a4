package nariz.exam;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.Verdict;
import nariz.estimation.Observation;

/**
 * How the first answer fares on many drives of engines from another simulator, whose healthy state is known: by halves
 * of the engines, so that one half can be looked at while the method is made and the other held back.
 *
 * <p>An engine is out of tune where a way of running is off by more than its tolerance and by more than
 * {@link Truth#BEYOND_BEST} beyond what the healthy parts leave. A fault counts where it puts the engine out of tune,
 * and an exhaust leak always: only the sensor sees it. What is hidden but leaves the engine in tune is counted apart.
 */
final class ReferenceBlame {
    private static final Map<String, String> FAULTS = Map.of("vacuum_leak", Hypothesis.VACUUM_LEAK, "exhaust_leak",
            Hypothesis.EXHAUST_LEAK, "fuel_supply", "fuel-starvation", "air_cleaner", "air-cleaner");

    private final List<String> rows = new ArrayList<>();
    private int parts;
    private int right;
    private int wrong;
    private int left;
    private int checked;
    private int faults;
    private int named;
    private int covered;
    private int sound;
    private int needless;
    private int looked;
    private int mild;
    private int mildChanged;

    private ReferenceBlame() {
    }

    /**
     * Judges and reports.
     *
     * @param title which engines these are
     * @param drives drives with known healthy state
     * @param answers their analyses
     * @param line receives the report, Markdown, a line at a time
     */
    static void write(String title, List<ReferenceDrive> drives, List<Analysis> answers, Consumer<String> line) {
        ReferenceBlame b = new ReferenceBlame();
        for (int i = 0; i < drives.size(); i++) {
            b.judge(drives.get(i), answers.get(i).advice());
        }
        line.accept("| " + title + " | result |");
        line.accept("|---|---|");
        line.accept(row("engines out of tune: right circuit in the first answer", b.right, b.parts));
        line.accept(row("... another circuit", b.wrong, b.parts));
        line.accept(row("... left alone", b.left, b.parts));
        line.accept(row("... a check first that finds nothing", b.checked, b.parts));
        line.accept(row("faults among the first two named, with a check", b.named, b.faults));
        line.accept(row("fuel parts for an engine with a fault", b.covered, b.faults));
        line.accept(row("fuel parts for a sound engine", b.needless, b.sound));
        line.accept(row("a check on a sound engine", b.looked, b.sound));
        line.accept(row("parts changed where what is hidden leaves the engine in tune", b.mildChanged, b.mild));
        line.accept("");
        bias(drives, answers, line);
        line.accept("");
        line.accept("| drive | hidden | answer | |");
        line.accept("|---|---|---|---|");
        b.rows.forEach(line);
    }

    private static String row(String what, int n, int of) {
        return String.format(Locale.ROOT, "| %s | %d of %d |", what, n, of);
    }

    private static boolean outOfTune(ReferenceDrive d) {
        return d.rms().entrySet().stream().anyMatch(e -> e.getValue() > Math.max(e.getKey().tolerance(),
                d.healthyRms().getOrDefault(e.getKey(), 0.0) + Truth.BEYOND_BEST));
    }

    private void judge(ReferenceDrive d, Advice a) {
        boolean out = outOfTune(d);
        boolean change = a.verdict() == Verdict.CHANGE;
        boolean check = a.verdict() == Verdict.CHECK_FIRST;
        String remark;
        if (d.keys().isEmpty()) {
            sound++;
            needless += change ? 1 : 0;
            looked += check ? 1 : 0;
            remark = change ? "needless" : check ? "needless check" : "right";
        } else if (d.fault() && (out || d.keys().contains("exhaust_leak"))) {
            boolean ok = check && d.keys().stream().map(FAULTS::get).anyMatch(c -> Examination.named(a, c));
            faults++;
            named += ok ? 1 : 0;
            covered += change ? 1 : 0;
            remark = ok ? "right" : change ? "parts on a fault" : "missed";
        } else if (d.fault() || !out) {
            mild++;
            mildChanged += change ? 1 : 0;
            remark = change ? "in tune, changed" : "in tune";
        } else {
            remark = parts(d, a);
        }
        rows.add("| " + d.name() + " | " + (d.hidden().isEmpty() ? "nothing" : d.hidden()) + " | "
                + ReferenceReport.answer(a) + " | " + remark + " |");
    }

    private String parts(ReferenceDrive d, Advice a) {
        parts++;
        if (a.verdict() == Verdict.CHECK_FIRST) {
            checked++;
            return "needless check";
        }
        if (a.verdict() != Verdict.CHANGE) {
            left++;
            return "left";
        }
        Circuit c = a.changes().getFirst().circuit();
        boolean ok = d.keys().stream().anyMatch(k -> trims(k, c));
        right += ok ? 1 : 0;
        wrong += ok ? 0 : 1;
        return ok ? "right" : "another circuit";
    }

    /** Whether a part, as the folder names it, trims a circuit; idle and transfer share one feed. */
    private static boolean trims(String key, Circuit c) {
        if (key.startsWith("sec_")) {
            return c.stage() == Stage.SECONDARY;
        }
        if (c.stage() == Stage.SECONDARY) {
            return false;
        }
        return switch (key) {
            case "pri_ifr", "pri_iab", "pri_screw" -> c.lowSpeed();
            case "pri_jet", "pri_hsab", "rod_cruise" -> c.role() == Circuit.Role.METERING;
            default -> c.role() == Circuit.Role.ENRICHMENT;
        };
    }

    /**
     * Estimated less true mean error by way of running, drives without faults: against what the folder says of the
     * drive, which leaves moments out by its own rules, and against what burnt in the very moments that were read.
     */
    private static void bias(List<ReferenceDrive> drives, List<Analysis> answers, Consumer<String> line) {
        Map<Regime, Mean> folder = new EnumMap<>(Regime.class);
        Map<Regime, Mean> same = new EnumMap<>(Regime.class);
        for (int i = 0; i < drives.size(); i++) {
            ReferenceDrive d = drives.get(i);
            if (d.fault()) {
                continue;
            }
            Map<Regime, Double> burnt = burnt(d, answers.get(i));
            for (RegimePrediction p : answers.get(i).advice().predicted()) {
                Regime g = p.before().regime();
                if (d.meanError().containsKey(g)) {
                    folder.computeIfAbsent(g, k -> new Mean()).add(100 * (p.before().mean() - d.meanError().get(g)), 1);
                    Optional.ofNullable(burnt.get(g)).ifPresent(b -> same.computeIfAbsent(g, k -> new Mean()).add(100
                            * (p.before().mean() - b), 1));
                }
            }
        }
        line.accept("| estimated less true mean error, points, engines without a fault |" + Arrays.stream(
                Regime.values()).map(g -> " " + g.label() + " |").collect(Collectors.joining()));
        line.accept("|---|" + "---|".repeat(Regime.values().length));
        line.accept(row("over the folder's own moments", folder));
        line.accept(row("over the moments that were read", same));
    }

    private static String row(String what, Map<Regime, Mean> of) {
        return "| " + what + " |" + Arrays.stream(Regime.values()).map(g -> of.containsKey(g) ? String.format(
                Locale.ROOT, " %+.1f |", of.get(g).mean()) : " - |").collect(Collectors.joining());
    }

    /** True mean of lambda/target - 1 over the moments of the cells, weighed as the answer weighs them. */
    private static Map<Regime, Double> burnt(ReferenceDrive d, Analysis a) {
        Observation o = a.observation();
        Mean[] phi = new Mean[o.cells().size()];
        for (int i = 0; i < o.log().size(); i++) {
            int c = o.cellOf(i);
            if (c >= 0) {
                phi[c] = phi[c] == null ? new Mean() : phi[c];
                phi[c].add(1.0 / d.lambda(o.log().timeS()[o.stateOf(i)]), 1);
            }
        }
        Map<Regime, Mean> sums = new EnumMap<>(Regime.class);
        for (int c = 0; c < phi.length; c++) {
            if (phi[c] != null) {
                sums.computeIfAbsent(a.regime(c), g -> new Mean()).add(a.targetPhi(c) / phi[c].mean() - 1.0, a.weight(
                        c));
            }
        }
        Map<Regime, Double> out = new EnumMap<>(Regime.class);
        sums.forEach((g, m) -> out.put(g, m.mean()));
        return out;
    }

    /** A mean with weights. */
    private static final class Mean {
        private double sum;
        private double weight;

        void add(double v, double w) {
            sum += w * v;
            weight += w;
        }

        double mean() {
            return sum / weight;
        }
    }
}
