package nariz.exam;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.Verdict;
import nariz.dynamics.OpeningStudy;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.Observation;
import nariz.units.Units;

/** Compares model and estimate with the inside of drives from another simulator, as Markdown tables. */
public final class ReferenceReport {
    private static final double FAR_S = 0.15;

    private ReferenceReport() {
    }

    /**
     * Writes the report.
     *
     * @param drives what to compare with
     * @param line receives a line at a time
     */
    public static void write(List<ReferenceDrive> drives, Consumer<String> line) {
        List<Analysis> all = drives.stream().map(d -> Analysis.of(d.sheet(), d.log(), Strategy.BALANCED)).toList();
        if (drives.stream().anyMatch(d -> !d.healthyRms().isEmpty())) {
            halves(drives, all, line);
            openings(drives, all, line);
            return;
        }
        line.accept("| drive | hidden | answer |");
        line.accept("|---|---|---|");
        for (int i = 0; i < drives.size(); i++) {
            line.accept("| " + drives.get(i).name() + " | " + (drives.get(i).hidden().isEmpty() ? "nothing"
                    : drives.get(i).hidden()) + " | " + answer(all.get(i).advice()) + " |");
        }
        line.accept("");
        line.accept("| drive | air, model/true | plate, model - true, deg | idle-circuit share, model - true, points: "
                + "idle | transfer | above |");
        line.accept("|---|---|---|---|---|---|");
        for (int i = 0; i < drives.size(); i++) {
            line.accept(physics(drives.get(i), all.get(i)));
        }
        line.accept("");
        line.accept("| drive | true/sheet and estimate: idle + transfer | main + power | secondary idle "
                + "| secondary main |");
        line.accept("|---|---|---|---|---|");
        for (int i = 0; i < drives.size(); i++) {
            line.accept(corrections(drives.get(i), all.get(i)));
        }
        line.accept("");
        line.accept("| drive | mean error in %, estimated / true: " + String.join(" | ", Arrays.stream(Regime.values())
                .map(g -> g.label().toString()).toList()) + " |");
        line.accept("|---|---|---|---|---|---|---|");
        for (int i = 0; i < drives.size(); i++) {
            line.accept(errors(drives.get(i), all.get(i).advice()));
        }
        line.accept("");
        openings(drives, all, line);
    }

    /** What burns when the throttle opens, as the model has it and truly. */
    private static void openings(List<ReferenceDrive> drives, List<Analysis> answers, Consumer<String> line) {
        line.accept("| drive | openings | lean area an opening, lambda s: modelled | true |");
        line.accept("|---|---|---|---|");
        int n = 0;
        int held = 0;
        double sum = 0.0;
        double square = 0.0;
        for (int i = 0; i < drives.size(); i++) {
            Analysis a = answers.get(i);
            Optional<OpeningStudy.Finding> found = a.advice().pump();
            OptionalDouble truly = found.isEmpty() ? OptionalDouble.empty() : OpeningStudy.lean(a.observation(),
                    a.whatIf()::phi, a.tipIns(), drives.get(i)::lambda);
            if (truly.isPresent()) {
                double[] lean = found.get().lean();
                double off = lean[0] - truly.getAsDouble();
                n++;
                held += truly.getAsDouble() >= lean[1] && truly.getAsDouble() <= lean[2] ? 1 : 0;
                sum += off;
                square += off * off;
                line.accept(String.format(Locale.ROOT, "| %s | %d | %.3f (%.3f to %.3f) | %.3f |", drives.get(i).name(),
                        found.get().felt(), lean[0], lean[1], lean[2], truly.getAsDouble()));
            }
        }
        line.accept("");
        line.accept(String.format(Locale.ROOT, "Modelled less true, lambda s: %+.3f in the mean, %.3f rms; 90 %% "
                + "intervals hold %d of %d.", sum / Math.max(1, n), Math.sqrt(square / Math.max(1, n)), held, n));
    }

    /** The first half of the engines by name, then the second. */
    private static void halves(List<ReferenceDrive> drives, List<Analysis> answers, Consumer<String> line) {
        List<String> engines = drives.stream().map(ReferenceDrive::engine).distinct().sorted().toList();
        List<String> first = engines.subList(0, (engines.size() + 1) / 2);
        for (boolean half : new boolean[] {true, false}) {
            List<Integer> at = IntStream.range(0, drives.size()).filter(i -> first.contains(drives.get(i).engine())
                    == half).boxed().toList();
            ReferenceBlame.write(half ? "first half of the engines" : "second half", at.stream().map(drives::get)
                    .toList(), at.stream().map(answers::get).toList(), line);
            line.accept("");
        }
    }

    static String answer(Advice a) {
        if (a.verdict() == Verdict.CHANGE) {
            return String.join("; ", a.changes().stream().map(c -> c.title() + (c.now() ? "" : " (later)")).toList());
        }
        return a.verdict().key() + a.hypotheses().stream().filter(Hypothesis::fault).findFirst()
                .filter(h -> a.verdict() == Verdict.CHECK_FIRST).map(h -> " (" + h.label() + ")").orElse("");
    }

    /** Row of the inside table nearest a time, or -1. */
    private static int at(ReferenceDrive d, double timeS) {
        double[] t = d.inside().get("t");
        int i = Arrays.binarySearch(t, timeS);
        i = i >= 0 ? i : Math.min(t.length - 1, -i - 1);
        i = i > 0 && timeS - t[i - 1] < t[i] - timeS ? i - 1 : i;
        return Math.abs(t[i] - timeS) < FAR_S ? i : -1;
    }

    private static String physics(ReferenceDrive d, Analysis a) {
        Observation o = a.observation();
        double[] air = new double[o.log().size()];
        double[] plate = new double[air.length];
        double[][] share = new double[3][air.length];
        int[] k = new int[3];
        int n = 0;
        for (int i = 0; i < air.length; i++) {
            int s = o.stateOf(i);
            int row = at(d, o.log().timeS()[s]);
            if (o.cellOf(i) < 0 || row < 0) {
                continue;
            }
            air[n] = o.airKgPerS(s) / d.inside().get("air")[row];
            plate[n++] = o.thetaRad(s) / Units.DEG - d.inside().get("th_p")[row];
            double mine = 0.0;
            for (Circuit c : d.sheet().carburetor().family().circuits()) {
                mine += c.lowSpeed() ? o.phi(c, s) / o.predictedPhi(s) : 0.0;
            }
            double idle = d.inside().get("idle_p")[row] + d.inside().get("idle_s")[row];
            double his = idle / (idle + d.inside().get("main_p")[row] + d.inside().get("main_s")[row]);
            Regime g = a.regime(o.cellOf(i));
            int where = g == Regime.IDLE ? 0 : (g == Regime.TRANSFER ? 1 : 2);
            share[where][k[where]++] = 100 * (mine - his);
        }
        return String.format(Locale.ROOT, "| %s | %s | %s | %s | %s | %s |", d.name(), spread(air, n, 2),
                spread(plate, n, 1), spread(share[0], k[0], 1), spread(share[1], k[1], 1), spread(share[2], k[2], 1));
    }

    /** Median and the 10th and 90th percentiles. */
    private static String spread(double[] v, int n, int decimals) {
        if (n == 0) {
            return "-";
        }
        double[] s = Arrays.copyOf(v, n);
        Arrays.sort(s);
        String f = "%." + decimals + "f";
        return String.format(Locale.ROOT, f + " (" + f + " to " + f + ")", s[n / 2], s[n / 10], s[n * 9 / 10]);
    }

    private static String corrections(ReferenceDrive d, Analysis a) {
        Estimate e = a.estimate();
        String[] columns = {"idle_p", "main_p", "idle_s", "main_s"};
        List<List<Circuit>> mine = columns(d.sheet().carburetor().family());
        StringBuilder out = new StringBuilder("| " + d.name());
        for (int c = 0; c < columns.length; c++) {
            double theirs = 0;
            double sheet = 0;
            double estimated = 0;
            double low = 0;
            double high = 0;
            for (int i = 0; i < e.cells().size(); i++) {
                Cell cell = e.cells().get(i);
                int row = at(d, a.observation().log().timeS()[cell.longestSample()]);
                if (row < 0) {
                    continue;
                }
                double w = Math.min(cell.dwellS(), 5);
                theirs += w * d.inside().get(columns[c])[row] * d.sheet().fuel().stoichAfr()
                        / d.inside().get("air")[row];
                for (Circuit k : mine.get(c)) {
                    sheet += w * e.sheetPhi(i, k);
                    estimated += w * e.sheetPhi(i, k) * e.correction(k);
                    low += w * e.sheetPhi(i, k) * e.low(k);
                    high += w * e.sheetPhi(i, k) * e.high(k);
                }
            }
            out.append(sheet <= 1e-3 ? " | -" : String.format(Locale.ROOT, " | %.2f and %.2f (%.2f to %.2f)",
                    theirs / sheet, estimated / sheet, low / sheet, high / sheet));
        }
        return out + " |";
    }

    /** Circuits behind the columns of the inside tables; a needle has no idle system, all of it is main. */
    private static List<List<Circuit>> columns(Family family) {
        List<List<Circuit>> out = new ArrayList<>();
        for (Stage stage : Stage.values()) {
            for (boolean low : new boolean[] {true, false}) {
                out.add(family.circuits().stream().filter(c -> c.stage() == stage && c.role() != Circuit.Role.PUMP
                        && (c.lowSpeed() && family.bands().isEmpty()) == low).toList());
            }
        }
        return out;
    }

    private static String errors(ReferenceDrive d, Advice a) {
        StringBuilder out = new StringBuilder("| " + d.name());
        Map<Regime, Double> truth = d.meanError();
        for (Regime g : Regime.values()) {
            String mine = a.predicted().stream().map(RegimePrediction::before).filter(x -> x.regime() == g).findFirst()
                    .map(x -> String.format(Locale.ROOT, "%.1f", 100 * x.mean())).orElse("-");
            out.append(" | ").append(mine).append(" / ").append(truth.containsKey(g)
                    ? String.format(Locale.ROOT, "%.1f", 100 * truth.get(g)) : "-");
        }
        return out + " |";
    }
}
