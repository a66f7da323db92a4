package nariz.comparison;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.InputProblem;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;
import nariz.estimation.Calibrated;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import org.jspecify.annotations.Nullable;

/**
 * Two drives of one vehicle, like with like.
 *
 * <p>For every steady cell a of the first drive, the cells b of the second around it (weights: dwell and
 * exp(-(x²+y²)/2), x = |ln(rpm_b/rpm_a)| / 0.09, y = |vacuum_b - vacuum_a| / 2.5 kPa, both under 1.5; idle only with
 * idle). Readings of b are brought to the place of a by the ratio of what the first drive's carburetor delivers at the
 * two places. The difference is d = ln(phi_a / phi_b); its variance holds the scatter of both readings and a fifth of
 * the correction.
 *
 * <p>The mean of a way of running is that of a random-effects model: weights 1/(sd_i² + tau²), tau² by moments
 * (DerSimonian &amp; Laird, Controlled Clinical Trials 7, 1986, p. 177), never under {@value #REPEATS}² since the same
 * place on another day does not repeat better. Neighbouring places share that, so the interval of a mean has at least
 * {@value #DAY} beside it: what a sensor and an engine repeat to from one drive to the next.
 *
 * @param pairs matched places
 * @param differences by way of running, in the order of work
 * @param trend with airflow; empty where both drives together cover too little of it
 * @param changed parts of the second sheet against the first
 * @param share how much of the first drive's steady time found its like in the second, 0 to 1
 */
public record RunComparison(List<Pair> pairs, List<Difference> differences, Optional<Trend> trend,
        List<PartChange> changed, double share) {
    private static final double RPM_WIDTH = 0.09;
    private static final double VACUUM_WIDTH_PA = 2.5e3;
    private static final double REACH = 1.5;
    private static final double REPEATS = 0.008;
    private static final double DAY = 0.007;
    private static final double Z90 = 1.645;
    /** A change is predicted to about a fifth of its size. */
    private static final double PREDICTED = 0.2;
    private static final double SHORTEST_S = 1.0;
    private static final int FEWEST_FOR_TREND = 6;
    private static final double LEAST_RANGE = 0.3;

    /** Copies the lists. */
    public RunComparison {
        pairs = List.copyOf(pairs);
        differences = List.copyOf(differences);
        changed = List.copyOf(changed);
    }

    /**
     * Compares.
     *
     * @param before first drive
     * @param after second drive
     * @return what differs
     * @throws InputProblem when one of them was too short to judge, or they are of different engines
     */
    public static RunComparison of(Analysis before, Analysis after) {
        check(before);
        check(after);
        BuildSheet was = before.observation().sheet();
        BuildSheet is = after.observation().sheet();
        if (!was.carburetor().family().equals(is.carburetor().family())
                || was.engine().displacementM3() != is.engine().displacementM3()) {
            throw new InputProblem(after.observation().log().name(), 0, 0, "",
                    message("problem.a-drive-of-another-engine"),
                    message("problem.compare-two-drives-of-one"));
        }
        List<PartChange> changed = PartChange.between(was, is);
        List<Pair> pairs = pairs(before, after, changed.isEmpty() ? null : before.estimate().phiWith(is));
        List<Difference> differences = new ArrayList<>();
        for (Regime r : Regime.values()) {
            difference(r, pairs.stream().filter(p -> p.regime() == r).toList()).ifPresent(differences::add);
        }
        double all = before.estimate().cells().stream().mapToDouble(Cell::dwellS).sum();
        double matched = pairs.stream().mapToDouble(p -> p.before().dwellS()).sum();
        return new RunComparison(pairs, differences, trend(pairs), changed, matched / Math.max(all, 1e-9));
    }

    private static void check(Analysis a) {
        if (!a.estimated()) {
            throw new InputProblem(a.observation().log().name(), 0, 0, "", message("problem.too-little-steady-running"),
                    message("problem.record-steady-stretches"));
        }
    }

    private static List<Pair> pairs(Analysis before, Analysis after, double @Nullable [] withParts) {
        Estimate e = before.estimate();
        List<Cell> there = after.estimate().cells();
        BuildSheet sheet = before.observation().sheet();
        double[] here = total(e, e.carburetor(), sheet, e.cells());
        double[] elsewhere = total(e, e.carburetor(), sheet, there);
        List<Pair> out = new ArrayList<>();
        for (int i = 0; i < e.cells().size(); i++) {
            Cell a = e.cells().get(i);
            double sum = 0;
            double squares = 0;
            double mean = 0;
            double moved = 0;
            double seconds = 0;
            double most = 0;
            int sample = -1;
            for (int j = 0; j < there.size(); j++) {
                Cell b = there.get(j);
                double near = kernel(a, b);
                if (near > 0) {
                    double w = near * Math.min(b.dwellS(), 10.0);
                    double bring = Math.log(here[i] / elsewhere[j]);
                    double scatter = Math.hypot(b.phiError() / b.phi(), b.filmError());
                    sum += w;
                    mean += w * (Math.log(a.phi() / b.phi()) - bring);
                    squares += w * w * scatter * scatter;
                    moved += w * Math.abs(bring);
                    seconds += b.dwellS();
                    if (w > most) {
                        most = w;
                        sample = b.longestSample();
                    }
                }
            }
            if (sample >= 0) {
                double sd = Math.sqrt(squares / (sum * sum) + Math.pow(a.phiError() / a.phi(), 2)
                        + a.filmError() * a.filmError()
                        + Math.pow(PREDICTED * moved / sum, 2));
                out.add(new Pair(a, before.regime(i), Math.min(seconds, a.dwellS()), mean / sum, sd, withParts == null
                        ? Double.NaN : Math.log(e.phi(i) / withParts[i]), sample));
            }
        }
        return out;
    }

    private static double[] total(Estimate e, Calibrated c, BuildSheet sheet, List<Cell> cells) {
        double[][] phi = c.phi(sheet, cells);
        double[] out = new double[phi.length];
        for (int i = 0; i < out.length; i++) {
            for (Circuit k : sheet.carburetor().family().circuits()) {
                out[i] += e.level(k) * phi[i][k.index()];
            }
        }
        return out;
    }

    private static double kernel(Cell a, Cell b) {
        if (a.idle() || b.idle()) {
            return a.idle() && b.idle() ? 1.0 : 0.0;
        }
        double x = Math.abs(Math.log(b.rpm() / a.rpm())) / RPM_WIDTH;
        double y = Math.abs(b.vacuumPa() - a.vacuumPa()) / VACUUM_WIDTH_PA;
        return x > REACH || y > REACH ? 0.0 : Math.exp(-0.5 * (x * x + y * y));
    }

    private static Optional<Difference> difference(Regime r, List<Pair> pairs) {
        double seconds = pairs.stream().mapToDouble(Pair::seconds).sum();
        if (seconds < SHORTEST_S) {
            return Optional.empty();
        }
        double tau2 = tau2(pairs);
        double sum = 0;
        double mean = 0;
        double predicted = 0;
        for (Pair p : pairs) {
            double w = 1.0 / (p.sd() * p.sd() + tau2);
            sum += w;
            mean += w * p.difference();
            predicted += w * p.predicted();
        }
        mean /= sum;
        predicted /= sum;
        double half = Z90 * Math.hypot(DAY, Math.sqrt(1.0 / sum));
        return Optional.of(new Difference(r, pairs.size(), seconds, Math.expm1(mean), Math.expm1(mean - half),
                Math.expm1(mean + half), Double.isNaN(predicted) ? Double.NaN : Math.expm1(predicted),
                Double.isNaN(predicted) ? 0.0 : PREDICTED * Math.abs(predicted)));
    }

    /** Variance between places beyond their own scatter: (Q - (k - 1)) / (sum w - sum w² / sum w), w = 1/sd². */
    private static double tau2(List<Pair> pairs) {
        double sum = 0;
        double squares = 0;
        double mean = 0;
        for (Pair p : pairs) {
            double w = 1.0 / (p.sd() * p.sd());
            sum += w;
            squares += w * w;
            mean += w * p.difference();
        }
        mean /= sum;
        double q = 0;
        for (Pair p : pairs) {
            q += Math.pow((p.difference() - mean) / p.sd(), 2);
        }
        double free = sum - squares / sum;
        double tau2 = free > 0 ? (q - (pairs.size() - 1)) / free : 0.0;
        return Math.max(REPEATS * REPEATS, tau2);
    }

    /** Weighted straight line over the square of relative airflow; idle is left out, for overlap fakes it. */
    private static Optional<Trend> trend(List<Pair> all) {
        List<Pair> pairs = all.stream().filter(p -> !p.before().idle()).toList();
        double largest = pairs.stream().mapToDouble(p -> p.before().airKgPerS()).max().orElse(0);
        double least = pairs.stream().mapToDouble(p -> p.before().airKgPerS()).min().orElse(0);
        if (pairs.size() < FEWEST_FOR_TREND || 1 - Math.pow(least / largest, 2) < LEAST_RANGE) {
            return Optional.empty();
        }
        double tau2 = REPEATS * REPEATS;
        double[] line = line(pairs, largest, tau2);
        double left = 0;
        double scatter = 0;
        for (Pair p : pairs) {
            left += Math.pow(p.difference() - line[0] - line[1] * square(p, largest), 2);
            scatter += p.sd() * p.sd();
        }
        // What the line leaves beyond the scatter of the readings is how well a place repeats.
        tau2 = Math.max(tau2, left / (pairs.size() - 2) - scatter / pairs.size());
        line = line(pairs, largest, tau2);
        // The day's own drift may fall together with airflow: it counts once here as well.
        double half = Z90 * Math.hypot(DAY, line[2]);
        return Optional.of(new Trend(line[1], line[1] - half, line[1] + half, largest));
    }

    /** Weighted least squares: {intercept, slope, standard deviation of the slope}. */
    private static double[] line(List<Pair> pairs, double largest, double tau2) {
        double sw = 0;
        double sx = 0;
        double sy = 0;
        for (Pair p : pairs) {
            double w = 1.0 / (p.sd() * p.sd() + tau2);
            sw += w;
            sx += w * square(p, largest);
            sy += w * p.difference();
        }
        double mx = sx / sw;
        double my = sy / sw;
        double sxx = 0;
        double sxy = 0;
        for (Pair p : pairs) {
            double w = 1.0 / (p.sd() * p.sd() + tau2);
            sxx += w * Math.pow(square(p, largest) - mx, 2);
            sxy += w * (square(p, largest) - mx) * (p.difference() - my);
        }
        return new double[] {my - sxy / sxx * mx, sxy / sxx, Math.sqrt(1.0 / sxx)};
    }

    private static double square(Pair p, double largest) {
        return Math.pow(p.before().airKgPerS() / largest, 2);
    }
}
