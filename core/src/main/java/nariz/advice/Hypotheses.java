package nariz.advice;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import nariz.build.BuildSheet;
import nariz.fit.Cell;
import nariz.fit.FaultShapes;
import nariz.fit.Estimate;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.CholeskyDecomposition;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * Faults against calibration, by penalised likelihood (Schwarz 1978).
 *
 * <p>r_i = phi_i/target_i - 1 is what has to be explained, on the premise that whoever built the car aimed at about
 * these targets. "Nothing wrong" leaves r; "calibration" leaves what remains after the chosen parts; a fault leaves r
 * - gamma f with f its signature over the cells and gamma fitted under a normal prior of the fault's usual size.
 * Every free number costs ln(n_eff)/2; n_eff, the number of independent places, is taken as 0.4 of the cells, 8 to
 * 24. What is left is judged with the scatter healthy carburetors show: 2.5 % correlated over neighbouring cells
 * (scales as in the estimator) and 1 % of its own, more for short stays.
 */
final class Hypotheses {
    private static final double HEALTHY_SCATTER = 0.025;
    private static final double OWN_SCATTER = 0.010;
    /** Extra scatter of a cell stayed in for one second. */
    private static final double SHORT_STAY = 0.02;
    /** Errors beyond this are as bad as this: one odd corner must not decide between causes. */
    private static final double MOST = 0.15;
    private static final double LEAK_M2 = 3e-6;

    private static final double EFFECT_SD = 0.3;

    private final BuildSheet sheet;
    private final List<Cell> cells;
    private final Scorer scorer;
    private final Estimate estimate;
    private final CholeskyDecomposition chol;
    private final double penalty;

    private record Signature(String cause, String label, double prior, double usual, double[] shape,
            boolean bothSigns, String evidence, String check) {
    }

    Hypotheses(BuildSheet sheet, Scorer scorer, Estimate estimate) {
        this.sheet = sheet;
        this.scorer = scorer;
        this.estimate = estimate;
        cells = estimate.cells();
        chol = new CholeskyDecomposition(scatter(), 1e-8, 1e-14);
        penalty = 0.5 * Math.log(Math.clamp(0.4 * cells.size(), 8, 24));
    }

    private RealMatrix scatter() {
        int m = cells.size();
        double ambient = sheet.ambient().pressurePa();
        RealMatrix c = new Array2DRowRealMatrix(m, m);
        for (int i = 0; i < m; i++) {
            for (int j = 0; j < m; j++) {
                double dx = Math.log(cells.get(i).airKgPerS() / cells.get(j).airKgPerS()) / 0.6;
                double dl = (cells.get(i).vacuumPa() - cells.get(j).vacuumPa()) / ambient / 0.2;
                c.setEntry(i, j, HEALTHY_SCATTER * HEALTHY_SCATTER * Math.exp(-0.5 * (dx * dx + dl * dl)));
            }
            double own = OWN_SCATTER + SHORT_STAY / Math.sqrt(cells.get(i).dwellS())
                    + estimate.phiSd(i) / estimate.phi(i);
            c.addToEntry(i, i, own * own);
        }
        return c;
    }

    List<Hypothesis> weigh(List<Decision.Step> chosen, List<String> ruledOut) {
        RealVector r = residual(scorer.today());
        List<Hypothesis> out = new ArrayList<>();
        List<Double> score = new ArrayList<>();
        add(out, score, Math.log(0.30) + quadratic(r), new Hypothesis(Hypothesis.NONE, "nothing wrong", 0,
                "the readings lie within what healthy carburetors leave", "no check needed"));
        if (!chosen.isEmpty()) {
            double s = Math.log(0.50) + afterParts(r, chosen) - chosen.size() * penalty;
            add(out, score, s, new Hypothesis(Hypothesis.CALIBRATION, "fuel parts", 0,
                    "the error follows the share of the circuit that the change trims",
                    "change the part, drive the same road again"));
        }
        for (Signature f : signatures()) {
            if (ruledOut.contains(f.cause())) {
                continue;
            }
            RealVector shape = new ArrayRealVector(f.shape());
            RealVector solved = chol.getSolver().solve(shape);
            double gamma = r.dotProduct(solved) / (shape.dotProduct(solved)
                    + 1.0 / (f.usual() * f.usual()));
            if (!f.bothSigns()) {
                gamma = Math.max(0.0, gamma);
            }
            double s = Math.log(f.prior()) + quadratic(r.subtract(shape.mapMultiply(gamma))) - penalty
                    - 0.5 * gamma * gamma / (f.usual() * f.usual());
            add(out, score, s, new Hypothesis(f.cause(), f.label(), 0, f.evidence(), f.check()));
        }
        return normalised(out, score);
    }

    private static void add(List<Hypothesis> out, List<Double> score, double s, Hypothesis h) {
        out.add(h);
        score.add(s);
    }

    private static List<Hypothesis> normalised(List<Hypothesis> all, List<Double> score) {
        double top = score.stream().mapToDouble(Double::doubleValue).max().orElse(0);
        double sum = score.stream().mapToDouble(s -> Math.exp(s - top)).sum();
        List<Hypothesis> out = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            Hypothesis h = all.get(i);
            out.add(new Hypothesis(h.cause(), h.label(), Math.exp(score.get(i) - top) / sum, h.evidence(),
                    h.check()));
        }
        out.sort(Comparator.comparingDouble(Hypothesis::probability).reversed());
        return out;
    }

    private RealVector residual(double[] phi) {
        RealVector r = new ArrayRealVector(phi.length);
        for (int i = 0; i < phi.length; i++) {
            r.setEntry(i, Math.clamp(phi[i] / scorer.targetPhi(i) - 1.0, -MOST, MOST));
        }
        return r;
    }

    /**
     * Log likelihood of what the chosen parts leave. A part's effect is predicted to about {@link #EFFECT_SD} of its
     * size, so each effect may be scaled by a factor with prior N(1, EFFECT_SD²); the best factors are found one after
     * the other, twice round.
     */
    private double afterParts(RealVector r, List<Decision.Step> chosen) {
        List<RealVector> effects = new ArrayList<>();
        double[] now = scorer.today();
        List<Decision.Step> soFar = new ArrayList<>();
        double[] last = now;
        for (Decision.Step s : chosen) {
            soFar.add(s);
            double[] next = scorer.with(Decision.apply(sheet, soFar));
            effects.add(residual(next).subtract(residual(last)));
            last = next;
        }
        double[] factor = new double[effects.size()];
        Arrays.fill(factor, 1.0);
        double prior = 0.0;
        RealVector left = r;
        for (int round = 0; round < 2; round++) {
            for (int j = 0; j < factor.length; j++) {
                left = leaving(r, effects, factor, j);
                RealVector solved = chol.getSolver().solve(effects.get(j));
                double precision = 1.0 / (EFFECT_SD * EFFECT_SD);
                factor[j] = (precision - left.dotProduct(solved)) / (precision + effects.get(j).dotProduct(solved));
            }
        }
        for (double f : factor) {
            prior -= 0.5 * (f - 1.0) * (f - 1.0) / (EFFECT_SD * EFFECT_SD);
        }
        return quadratic(leaving(r, effects, factor, -1)) + prior;
    }

    private static RealVector leaving(RealVector r, List<RealVector> effects, double[] factor, int without) {
        RealVector left = r;
        for (int j = 0; j < factor.length; j++) {
            if (j != without) {
                left = left.add(effects.get(j).mapMultiply(factor[j]));
            }
        }
        return left;
    }

    private double quadratic(RealVector r) {
        return -0.5 * r.dotProduct(chol.getSolver().solve(r));
    }

    /** A level that moves the mixture by more than a few per cent floods or starves the engine first. */
    private double[] level() {
        double[] shape = FaultShapes.level(sheet, cells, 2e-3);
        for (int i = 0; i < shape.length; i++) {
            shape[i] = Math.min(shape[i], 0.03);
        }
        return shape;
    }

    private List<Signature> signatures() {
        int m = cells.size();
        double idleAir = cells.stream().mapToDouble(Cell::airKgPerS).min().orElse(1);
        double mostAir = cells.stream().mapToDouble(Cell::airKgPerS).max().orElse(1);
        double[] exhaust = new double[m];
        double[] offset = new double[m];
        double[] cleaner = new double[m];
        for (int i = 0; i < m; i++) {
            double a = cells.get(i).airKgPerS();
            exhaust[i] = -0.05 * (idleAir / a) * (idleAir / a);
            offset[i] = 0.035;
            cleaner[i] = 0.05 * (a / mostAir) * (a / mostAir);
        }
        return List.of(
                new Signature(Hypothesis.VACUUM_LEAK, "vacuum leak", 0.10, 3.0,
                        FaultShapes.leak(sheet, cells, LEAK_M2), false,
                        "lean at idle, less so with more air",
                        "with the engine idling, listen and feel along gaskets, hoses and shafts; pinch each vacuum "
                        + "hose in turn: the speed must not change. Unmetered air also wants the idle stop further in"
                        + " than usual"),
                new Signature("exhaust-leak", "exhaust leak ahead of the sensor", 0.05, 2.0, exhaust, false,
                        "lean only where little gas flows",
                        "with a cold engine feel along the joints ahead of the sensor with a gloved hand; vacuum and "
                        + "idle smoothness stay normal with this fault"),
                new Signature("sensor-offset", "sensor offset or wrong fuel scale", 0.04, 1.5, offset, true,
                        "the same error everywhere",
                        "run the sensor in free air and calibrate it; compare with a second sensor"),
                new Signature("fuel-level", "fuel level", 0.005, 1.5, level(), true,
                        "error everywhere, largest where the circuits just start",
                        "check the fuel level at the sight plug, needle and seat, and fuel pressure under load"),
                new Signature("air-cleaner", "air cleaner restriction", 0.02, 1.5, cleaner, false,
                        "rich that grows with the square of airflow",
                        "repeat one full-load pull with the air cleaner off, on a closed road or rolling road"));
    }
}
