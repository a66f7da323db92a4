package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.FaultShapes;
import nariz.estimation.Observation;
import nariz.estimation.PullTrend;
import nariz.text.Message;
import nariz.units.Units;
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
 * 24. A part besides costs ln of the number of parts it was chosen from: the prior of "some part" is shared out over
 * all of them. What is left is judged with the scatter healthy carburetors show: 2.5 % correlated over neighbouring
 * cells (scales as in the estimator) and 1 % of its own, more for short stays and in proportion to large errors.
 *
 * <p>Two faults leave a mark that no mixture by speed and load shows, and that mark enters their likelihood: a supply
 * that runs short leans with time inside a pull ({@link PullTrend}, and the fuel pressure where it is logged), a
 * cylinder that misses leaves short lean spikes ({@link Observation#spikeShare}). A sheet that cannot be true shows as
 * coefficients no carburetor of the family has ({@link Estimate#strain}).
 *
 * <p>The prior shares are judgement: how often a tuner finds each when a car reads wrong.
 */
final class Hypotheses {
    private static final double NOTHING_PRIOR = 0.30;
    private static final double PARTS_PRIOR = 0.45;
    private static final double SHEET_PRIOR = 0.01;
    private static final double HEALTHY_SCATTER = 0.025;
    private static final double OWN_SCATTER = 0.010;
    /** Extra scatter of a cell stayed in for one second. */
    private static final double SHORT_STAY = 0.02;
    /** Errors beyond this are as bad as this. */
    private static final double MOST = 0.50;
    /** No cause is known to better than this share of its effect: one odd corner must not decide between causes. */
    private static final double SHARE_SCATTER = 0.15;
    private static final double LEAK_M2 = 3e-6;
    private static final double PLATES_RAD = 1.5 * Units.DEG;
    private static final double STARVES_PER_S = 0.02;
    private static final double MISSES = 0.05;
    /** Log likelihood for every spike in a hundred readings over {@link #USUAL_SPIKES}. */
    private static final double PER_SPIKE = 4.0;
    private static final double USUAL_SPIKES = 0.012;
    private static final double STRONGEST = 14.0;

    private static final double EFFECT_SD = 0.3;

    private final BuildSheet sheet;
    private final List<Cell> cells;
    private final Scorer scorer;
    private final Estimate estimate;
    private final Observation observation;
    private final PullTrend trend;
    private final CholeskyDecomposition chol;
    private final double penalty;
    private final int parts;

    /**
     * What a fault would look like.
     *
     * @param prior how often it is the cause
     * @param usual size of gamma that is common
     * @param shape relative change of phi by cell at gamma = 1
     * @param bothSigns whether gamma may be negative
     * @param gammaRead gamma as another mark has it, and its standard deviation; infinite when there is none
     * @param mark log likelihood of a mark that only this fault leaves
     */
    private record Signature(String cause, Message label, double prior, double usual, double[] shape,
            boolean bothSigns, double gammaRead, double gammaSd, double mark, Message evidence, Message check) {
        Signature(String cause, Message label, double prior, double usual, double[] shape, boolean bothSigns,
                Message evidence, Message check) {
            this(cause, label, prior, usual, shape, bothSigns, 0.0, Double.POSITIVE_INFINITY, 0.0, evidence, check);
        }
    }

    Hypotheses(Scorer scorer, Estimate estimate, Observation observation) {
        this.sheet = observation.sheet();
        this.scorer = scorer;
        this.estimate = estimate;
        this.observation = observation;
        trend = PullTrend.of(observation);
        cells = estimate.cells();
        chol = new CholeskyDecomposition(scatter(), 1e-8, 1e-14);
        penalty = 0.5 * Math.log(Math.clamp(0.4 * cells.size(), 8, 24));
        parts = Ladder.of(sheet).size();
    }

    private RealMatrix scatter() {
        int m = cells.size();
        double ambient = sheet.ambient().pressurePa();
        RealMatrix c = new Array2DRowRealMatrix(m, m);
        for (int i = 0; i < m; i++) {
            for (int j = 0; j < m; j++) {
                c.setEntry(i, j, HEALTHY_SCATTER * HEALTHY_SCATTER * cells.get(i).kinship(cells.get(j), ambient));
            }
            double own = OWN_SCATTER + SHORT_STAY / Math.sqrt(cells.get(i).dwellS())
                    + estimate.phiSd(i) / estimate.phi(i);
            double large = SHARE_SCATTER * Math.abs(estimate.phi(i) / scorer.targetPhi(i) - 1.0);
            c.addToEntry(i, i, own * own + large * large);
        }
        return c;
    }

    List<Hypothesis> weigh(List<Decision.Step> chosen, List<String> ruledOut) {
        RealVector r = residual(scorer.today());
        List<Hypothesis> out = new ArrayList<>();
        List<Double> score = new ArrayList<>();
        double nothing = Math.log(NOTHING_PRIOR) + quadratic(r);
        double carburetor = nothing;
        if (chosen.isEmpty()) {
            add(out, score, nothing, new Hypothesis(Hypothesis.NONE, message("hypotheses.nothing-wrong"), 0,
                    message("hypotheses.the-readings-lie-within"), message("hypotheses.no-check-needed")));
        } else {
            // Whether a trim is worth making is the decision's question; here both mean "no fault".
            double parted = Math.log(PARTS_PRIOR) + afterParts(r, chosen)
                    - chosen.size() * (penalty + Math.log(parts));
            carburetor = Math.max(nothing, parted) + Math.log1p(Math.exp(-Math.abs(nothing - parted)));
            add(out, score, carburetor, new Hypothesis(Hypothesis.CALIBRATION, message("hypotheses.fuel-parts"), 0,
                    message("hypotheses.the-error-follows-the"),
                    message("hypotheses.change-the-part-drive")));
        }
        for (Signature f : signatures()) {
            if (!ruledOut.contains(f.cause())) {
                add(out, score, score(f, r), new Hypothesis(f.cause(), f.label(), 0, f.evidence(), f.check()));
            }
        }
        if (!ruledOut.contains(Hypothesis.WRONG_SHEET)) {
            double as = carburetor - penalty + Math.log(SHEET_PRIOR / PARTS_PRIOR);
            add(out, score, as + Math.min(STRONGEST, estimate.strain()),
                    new Hypothesis(Hypothesis.WRONG_SHEET, message("hypotheses.build-sheet-that-cannot"), 0,
                    message("hypotheses.a-circuit-delivers-what"),
                    message("hypotheses.take-out-the-jets")));
        }
        return normalised(out, score);
    }

    private double score(Signature f, RealVector r) {
        RealVector shape = new ArrayRealVector(f.shape());
        RealVector solved = chol.getSolver().solve(shape);
        double read = 1.0 / (f.gammaSd() * f.gammaSd());
        double usual = 1.0 / (f.usual() * f.usual());
        double gamma = (r.dotProduct(solved) + f.gammaRead() * read) / (shape.dotProduct(solved) + read + usual);
        if (!f.bothSigns()) {
            gamma = Math.max(0.0, gamma);
        }
        // Against a gamma of 0, which every other cause implies for this mark.
        double mark = f.mark() + Math.min(STRONGEST, 0.5 * read * (f.gammaRead() * f.gammaRead()
                - (gamma - f.gammaRead()) * (gamma - f.gammaRead())));
        return Math.log(f.prior()) + quadratic(r.subtract(shape.mapMultiply(gamma))) + mark - penalty
                - 0.5 * gamma * gamma * usual;
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
        double[] starving = new double[m];
        double[] misses = new double[m];
        for (int i = 0; i < m; i++) {
            double a = cells.get(i).airKgPerS();
            exhaust[i] = -0.05 * (idleAir / a) * (idleAir / a);
            offset[i] = 0.035;
            cleaner[i] = 0.05 * (a / mostAir) * (a / mostAir);
            starving[i] = -STARVES_PER_S * trend.meanDrinkingS(i);
            misses[i] = -MISSES;
        }
        double spikes = Math.clamp(PER_SPIKE * 100.0 * (observation.spikeShare() - USUAL_SPIKES), -STRONGEST,
                STRONGEST);
        return List.of(
                new Signature(Hypothesis.VACUUM_LEAK, message("hypotheses.vacuum-leak"), 0.08, 3.0,
                        FaultShapes.leak(sheet, cells, LEAK_M2), false,
                        message("hypotheses.lean-at-idle-less"),
                        message("hypotheses.with-the-engine-idling")),
                new Signature(Hypothesis.EXHAUST_LEAK, message("hypotheses.exhaust-leak-ahead-of"), 0.04, 2.0, exhaust,
                        false,
                        message("hypotheses.lean-only-where-little"),
                        message("hypotheses.with-a-cold-engine")),
                new Signature("sensor-offset", message("hypotheses.sensor-offset-or-wrong"), 0.03, 1.5, offset, true,
                        message("hypotheses.the-same-error-everywhere"),
                        message("hypotheses.run-the-sensor-in")),
                new Signature("fuel-starvation", message("hypotheses.fuel-supply-that-runs"), 0.03, 1.5, starving,
                false,
                        -trend.perS() / STARVES_PER_S, trend.sdPerS() / STARVES_PER_S, pressureMark(),
                        message("hypotheses.leaner-the-longer-a"),
                        message("hypotheses.log-or-watch-fuel")),
                new Signature("misfire", message("hypotheses.misfire"), 0.02, 1.0, misses, false, 0.0,
                Double.POSITIVE_INFINITY, spikes,
                        message("hypotheses.short-lean-spikes-in"),
                        message("hypotheses.plugs-leads-cap-coil")),
                new Signature("plates-open", message("hypotheses.throttle-plates-too-far"), 0.01, 1.0,
                        FaultShapes.platesOpen(estimate.carburetor(), sheet, cells, PLATES_RAD), false,
                        message("hypotheses.rich-at-idle-alone"),
                        message("hypotheses.turn-one-mixture-screw")),
                new Signature("fuel-level", message("hypotheses.fuel-level"), 0.005, 1.5, level(), true,
                        message("hypotheses.error-everywhere-largest-where"),
                        message("hypotheses.check-the-fuel-level")),
                new Signature("air-cleaner", message("hypotheses.air-cleaner-restriction"), 0.03, 1.5, cleaner, false,
                        message("hypotheses.rich-that-grows-with"),
                        message("hypotheses.repeat-one-full-load")));
    }

    /** Log likelihood of the fuel pressure under load: three quarters of the pressure at rest says nothing. */
    private double pressureMark() {
        double ratio = trend.pressureRatio();
        return Double.isNaN(ratio) ? 0.0 : Math.clamp(20.0 * (0.75 - ratio), -5.0, 8.0);
    }
}
