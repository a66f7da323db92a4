package nariz.fit;

import java.util.List;
import java.util.Optional;
import nariz.build.BuildSheet;
import nariz.model.Circuit;
import nariz.model.Coefficient;
import nariz.model.Coefficients;
import nariz.units.Units;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.CholeskyDecomposition;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * Corrections of the circuits from steady cells.
 *
 * <p>y_i = sum_c k_c phi_ic(z) + s phi_i,main ln(m_i/m_ref) + g_i + e_i over cells i, in phi. The unknowns u are a
 * level k for every circuit, normal around 1 (spreads in {@link #LEVEL_SD}; idle and transfer share their feed, so
 * theirs are correlated 0.5), a slope s of the main circuit, and z: the coefficients no sheet gives, each normal in the
 * logarithm with its {@link Coefficient#spread()}, and the plates' true position. phi_ic(z) is not linear in z: the
 * equations are linearised and solved twice (Gauss-Newton; Nocedal and Wright 2006, section 10.3). g is what no
 * coefficient explains: a Gaussian process with standard deviation sigma phi_i and covariance exp(-(dx²/0.6² +
 * dL²/0.2²)/2) in x = ln airflow and L = load (Rasmussen and Williams 2006, section 2.7, "incorporating explicit basis
 * functions"); it keeps ten thousand idle samples from outvoting everything else and makes an interval honest where the
 * equations are not. e is reading error, with Student-t weights (nu = 4) by reweighting (Lange, Little and Taylor
 * 1989). sigma and the enrichment's actual opening are searched on a grid by marginal likelihood, the opening averaged
 * over its posterior.
 *
 * <p>What is reported for a circuit is the fuel it delivers over what the standard carburetor with the sheet's parts
 * would, K_c = sum_i w_i (k_c phi_ic(z) + its share of g_i) / sum_i w_i phi_ic(0), w_i the dwell up to 10 s.
 */
public final class Estimator {
    /** Prior spread of each level, in the order of {@link Circuit}. */
    private static final double[] LEVEL_SD = {0.10, 0.10, 0.08, 0.18, 0.15, 0.12, 0.30};
    private static final double IDLE_TRANSFER_CORRELATION = 0.5;
    /** What a size that was not on the sheet adds to the spread of a level it sets. */
    private static final double ASSUMED_SD = 0.10;
    private static final double SLOPE_SD = 0.03;
    private static final double PLATE_SD = 0.8 * Units.DEG;
    private static final double[] SIGMAS = {0.005, 0.01, 0.015, 0.02, 0.03, 0.045};
    private static final double SIGMA_PRIOR = 0.014;
    private static final double CELL_ERROR = 0.006;
    private static final double NU = 4.0;
    private static final double LONG_STAY_S = 5.0;
    private static final double MOST_WEIGHT_S = 10.0;
    private static final double SHIFT_STEP = 0.5 * Units.INHG;
    private static final int SHIFTS = 7;
    private static final double SHIFT_PRIOR = 0.8 * Units.INHG;
    private static final double CARRIED_SHIFT_SD = 0.5 * Units.INHG;
    /** An earlier posterior counts with its covariance times the one plus the family's times the other. */
    private static final double CARRIED_LOOSER = 1.0;
    private static final double CARRIED_FRESH = 0.03;
    /** Part of phi below which a circuit counts as not used. */
    private static final double TINY = 0.004;
    private static final int FEWEST_CELLS = 4;
    private static final int ROUNDS = 2;
    private static final double LN2 = Math.log(2.0);
    /** A slope is read where main gives this share of the fuel, over this many doublings of airflow. */
    private static final double LEAST_MAIN = 1.0 / 3.0;
    private static final double LEAST_SPAN = 0.7;
    private static final double USUAL_STRAIN = 13.0;
    /** Step of the difference quotients and limit of z, in spreads. */
    private static final double STEP = 0.5;
    private static final double FURTHEST = 2.5;
    private static final int CIRCUITS = Circuit.values().length;
    private static final int SLOPE = CIRCUITS;
    private static final int FIRST_Z = CIRCUITS + 1;
    /** The coefficients and, last, the plate position. */
    private static final int BENDS = Coefficient.values().length + 1;
    private static final int UNKNOWNS = FIRST_Z + BENDS;

    private final BuildSheet sheet;
    private final List<Cell> cells;
    private final int m;
    private final double airReference;
    private final double[] weights;
    private final RealMatrix family;
    private final RealMatrix prior;
    private final RealVector priorMean;
    private final double shiftPrior;
    private final double shiftPriorSd;
    private final RealMatrix kernel;
    private final double[][] standard;
    private final double[] z = new double[BENDS];
    private final double[] level = new double[CIRCUITS];
    private double sigma = SIGMA_PRIOR;
    private double shiftPa;

    private Estimator(BuildSheet sheet, List<Cell> cells, Optional<Carried> before) {
        this.sheet = sheet;
        this.cells = cells;
        m = cells.size();
        airReference = Math.exp(cells.stream().mapToDouble(c -> Math.log(c.airKgPerS())).average().orElse(0));
        weights = new double[m];
        java.util.Arrays.fill(weights, 1.0);
        java.util.Arrays.fill(level, 1.0);
        family = prior(sheet);
        priorMean = before.map(b -> (RealVector) new ArrayRealVector(b.mean())).orElseGet(Estimator::asListed);
        prior = before.map(b -> loosened(b.covariance())).orElse(family);
        shiftPrior = before.map(Carried::shiftPa).orElse(0.0);
        shiftPriorSd = before.map(b -> Math.hypot(b.shiftSdPa(), CARRIED_SHIFT_SD)).orElse(shiftPrior(sheet));
        if (before.isPresent()) {
            moveTo(priorMean);
        }
        kernel = kernel();
        standard = Calibrated.STANDARD.phi(sheet, cells);
    }

    /**
     * Estimates.
     *
     * @param observation a drive with at least one steady cell
     * @return the estimate
     * @throws IllegalArgumentException when there is no steady cell
     */
    public static Estimate of(Observation observation) {
        return of(observation, Optional.empty());
    }

    /**
     * Estimates, starting from what an earlier drive taught.
     *
     * @param observation a drive with at least one steady cell
     * @param before the earlier drive's result on the same carburetor
     * @return the estimate
     * @throws IllegalArgumentException when there is no steady cell
     */
    public static Estimate of(Observation observation, Optional<Carried> before) {
        if (observation.cells().isEmpty()) {
            throw new IllegalArgumentException("no steady cell");
        }
        return new Estimator(observation.sheet(), observation.cells(), before).solve();
    }

    /**
     * Estimates the carburetor as one sensor sees it.
     *
     * @param observation a drive with two sensors
     * @param bank 1 or 2
     * @return the estimate, or empty when that sensor read too little
     */
    public static Optional<Estimate> ofBank(Observation observation, int bank) {
        List<Cell> cells = observation.bankCells(bank);
        return cells.size() < FEWEST_CELLS ? Optional.empty()
                : Optional.of(new Estimator(observation.sheet(), cells, Optional.empty()).solve());
    }

    /** A rating that was only assumed may be two steps off. */
    private static double shiftPrior(BuildSheet sheet) {
        boolean known = sheet.assumed().stream().noneMatch(a -> a.startsWith("carburetor.primary.powerValve ")
                || a.startsWith("carburetor.primary.stepUpSpring "));
        return known ? SHIFT_PRIOR : 2.0 * SHIFT_PRIOR;
    }

    private static RealMatrix prior(BuildSheet sheet) {
        RealMatrix p = MatrixUtils.createRealMatrix(UNKNOWNS, UNKNOWNS);
        double[] sd = new double[CIRCUITS];
        for (Circuit c : Circuit.values()) {
            int k = c.ordinal();
            sd[k] = Math.hypot(LEVEL_SD[k], ASSUMED_SD * Math.sqrt(assumed(sheet, c)));
            p.setEntry(k, k, sd[k] * sd[k]);
        }
        int a = Circuit.IDLE.ordinal();
        int b = Circuit.TRANSFER.ordinal();
        double shared = IDLE_TRANSFER_CORRELATION * sd[a] * sd[b];
        p.setEntry(a, b, shared);
        p.setEntry(b, a, shared);
        p.setEntry(SLOPE, SLOPE, SLOPE_SD * SLOPE_SD);
        for (int j = 0; j < BENDS; j++) {
            p.setEntry(FIRST_Z + j, FIRST_Z + j, 1.0);
        }
        return p;
    }

    /** How many of the sizes that set a circuit's level the sheet leaves to the family's default. */
    private static int assumed(BuildSheet sheet, Circuit c) {
        String side = "carburetor." + c.side().key() + ".";
        List<String> fields = switch (c) {
            case IDLE, TRANSFER, SECONDARY_IDLE -> List.of("idleFeedRestriction", "idleAirBleed", "mixtureScrew");
            case MAIN, SECONDARY_MAIN -> List.of("mainJet", "venturi", "booster", "highSpeedAirBleed", "rodCruise");
            case POWER -> List.of("powerChannelRestriction", "rodPower");
            case PUMP -> List.of();
        };
        return (int) fields.stream().filter(f -> sheet.assumed().stream()
                .anyMatch(a -> a.startsWith(side + f + " "))).count();
    }

    /** Everything as the family has it. */
    private static RealVector asListed() {
        RealVector mean = new ArrayRealVector(UNKNOWNS);
        for (int c = 0; c < CIRCUITS; c++) {
            mean.setEntry(c, 1.0);
        }
        return mean;
    }

    /** A carburetor that has been opened is not quite the one that was read before. */
    private RealMatrix loosened(double[][] covariance) {
        return new Array2DRowRealMatrix(covariance).scalarMultiply(CARRIED_LOOSER)
                .add(family.scalarMultiply(CARRIED_FRESH));
    }

    private Estimate solve() {
        Linear at = null;
        Posterior p = null;
        for (int round = 0; round < ROUNDS; round++) {
            at = new Linear();
            for (int pass = 0; pass < 2; pass++) {
                sigma = bestSigma(at);
                reweigh(new Fit(at, at.base, sigma));
            }
            p = new Posterior(at);
            shiftPa = p.nearestShift();
            moveTo(p.fit().u);
        }
        return result(at, p);
    }

    private void moveTo(RealVector u) {
        for (int c = 0; c < CIRCUITS; c++) {
            level[c] = Math.clamp(u.getEntry(c), 0.3, 3.0);
        }
        for (int j = 0; j < BENDS; j++) {
            z[j] = Math.clamp(u.getEntry(FIRST_Z + j), -FURTHEST, FURTHEST);
        }
    }

    private static Calibrated carburetor(double[] z, double shiftPa) {
        Coefficients made = Coefficients.STANDARD;
        for (Coefficient c : Coefficient.values()) {
            made = made.scaled(c, c.spread() * z[c.ordinal()]);
        }
        return new Calibrated(made, PLATE_SD * z[BENDS - 1], shiftPa);
    }

    private double bestSigma(Linear at) {
        double best = Double.NEGATIVE_INFINITY;
        double found = SIGMA_PRIOR;
        for (double s : SIGMAS) {
            double x = Math.log(s / SIGMA_PRIOR) / 0.5;
            double score = new Fit(at, at.base, s).logLikelihood - 0.5 * x * x;
            if (score > best) {
                best = score;
                found = s;
            }
        }
        return found;
    }

    private void reweigh(Fit f) {
        for (int i = 0; i < m; i++) {
            if (cells.get(i).dwellS() > LONG_STAY_S) {
                // A long stay that disagrees with the model is the finding, not an outlier.
                continue;
            }
            double r = cells.get(i).phi() - f.phi[i];
            double r2 = r * r / (f.noise[i] * weights[i]);
            weights[i] = (NU + 1.0) / (NU + r2);
        }
    }

    private Estimate result(Linear at, Posterior p) {
        Fit f = p.fit();
        Calibrated found = carburetor(z, shiftPa);
        double[][] phi = found.phi(sheet, cells);
        RealMatrix g = gradients(at);
        RealMatrix posterior = f.covariance();
        RealMatrix covariance = g.multiply(posterior).multiplyTransposed(g);
        double[] mean = new double[CIRCUITS];
        double[] sd = new double[CIRCUITS];
        double[][] correlation = new double[CIRCUITS][CIRCUITS];
        for (int c = 0; c < CIRCUITS; c++) {
            mean[c] = reported(phi, f, c);
            double between = p.varianceOfMean(g.getRowVector(c));
            double left = 0.5 * sigma * mean[c];
            sd[c] = Math.sqrt(covariance.getEntry(c, c) + between + left * left);
        }
        for (int a = 0; a < CIRCUITS; a++) {
            for (int b = 0; b < CIRCUITS; b++) {
                correlation[a][b] = covariance.getEntry(a, b) / Math.max(1e-12,
                        Math.sqrt(covariance.getEntry(a, a) * covariance.getEntry(b, b)));
            }
        }
        double[] factor = new double[CIRCUITS];
        for (int c = 0; c < CIRCUITS; c++) {
            factor[c] = f.u.getEntry(c);
        }
        return new Estimate(cells, found, factor, mean, sd, correlation, f.phi, f.phiSd(), standard, phi, f.rest(phi),
                f.u.getEntry(SLOPE), slope(at, f, phi, posterior), airReference, p.mean, p.spread, strain(f),
                new Carried(f.u.toArray(), posterior.getData(), p.mean, p.spread));
    }

    /**
     * How far the unknowns had to move, in log probability, beyond what carburetors of a family need: half the sum of
     * squares in prior spreads, less {@link #USUAL_STRAIN}. At 9 three of 28 practice engines with a true sheet were
     * above it.
     */
    private double strain(Fit f) {
        RealVector moved = f.u.subtract(asListed());
        RealVector solved = new CholeskyDecomposition(family, 1e-9, 1e-15).getSolver().solve(moved);
        return Math.max(0.0, 0.5 * moved.dotProduct(solved) - USUAL_STRAIN);
    }

    private double weight(int i) {
        return Math.min(cells.get(i).dwellS(), MOST_WEIGHT_S);
    }

    private double weightSum() {
        double sum = 0.0;
        for (int i = 0; i < m; i++) {
            sum += weight(i);
        }
        return sum;
    }

    private double sheetFuel(int c) {
        double sum = 1e-9;
        for (int i = 0; i < m; i++) {
            sum += weight(i) * standard[i][c];
        }
        return sum;
    }

    private double reported(double[][] phi, Fit f, int c) {
        double sum = 0.0;
        double[] rest = f.rest(phi);
        for (int i = 0; i < m; i++) {
            double total = 0.0;
            for (double v : phi[i]) {
                total += v;
            }
            double factor = f.u.getEntry(c) + (c == Circuit.MAIN.ordinal() ? f.u.getEntry(SLOPE) * air(i) : 0.0);
            sum += weight(i) * phi[i][c] * (factor + rest[i] / Math.max(total, 1e-6));
        }
        return sheetFuel(c) < TINY * weightSum() ? f.u.getEntry(c) : sum / sheetFuel(c);
    }

    /**
     * Slope of the main circuit: weighted straight line through r_i = delivered/sheet over x_i = log2 airflow, in cells
     * where the sheet gives main a third of the fuel. It is a linear function sum_i v_i r_i of the unknowns, so that
     * its
     * variance follows from theirs; half of the model error's prior variance is left, as for the levels.
     */
    private Optional<Slope> slope(Linear at, Fit f, double[][] phi, RealMatrix posterior) {
        int c = Circuit.MAIN.ordinal();
        double[] v = slopeWeights(c);
        if (v.length == 0) {
            return Optional.empty();
        }
        double[] rest = f.rest(phi);
        RealVector g = new ArrayRealVector(UNKNOWNS);
        double b = 0.0;
        double left = 0.0;
        for (int i = 0; i < m; i++) {
            double share = v[i] / Math.max(standard[i][c], 1e-9);
            double total = 0.0;
            for (double p : phi[i]) {
                total += p;
            }
            b += share * phi[i][c] * (f.u.getEntry(c) + f.u.getEntry(SLOPE) * air(i) + rest[i] / Math.max(total, 1e-6));
            g.addToEntry(c, share * at.base[i][c]);
            g.addToEntry(SLOPE, share * at.base[i][c] * air(i));
            for (int j = 0; j < BENDS; j++) {
                g.addToEntry(FIRST_Z + j, share * level[c] * at.bend[j][i][c]);
            }
            for (int k = 0; k < m; k++) {
                left += v[i] * v[k] * cells.get(i).kinship(cells.get(k), sheet.ambient().pressurePa());
            }
        }
        double sd = Math.sqrt(Math.max(0.0, g.dotProduct(posterior.operate(g))) + 0.25 * sigma * sigma * left);
        return Optional.of(new Slope(b, b - Estimate.Z90 * sd, b + Estimate.Z90 * sd));
    }

    /** v_i = w_i (x_i - mean x)/sum w (x - mean x)^2; empty when the airflow spans less than a factor of 1.6. */
    private double[] slopeWeights(int circuit) {
        double[] v = new double[m];
        double sum = 0.0;
        double mean = 0.0;
        double least = Double.POSITIVE_INFINITY;
        double most = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < m; i++) {
            double total = 0.0;
            for (double p : standard[i]) {
                total += p;
            }
            if (standard[i][circuit] > LEAST_MAIN * total) {
                double x = air(i) / LN2;
                v[i] = weight(i);
                sum += v[i];
                mean += v[i] * x;
                least = Math.min(least, x);
                most = Math.max(most, x);
            }
        }
        if (most - least < LEAST_SPAN) {
            return new double[0];
        }
        double square = 0.0;
        for (int i = 0; i < m; i++) {
            double d = air(i) / LN2 - mean / sum;
            square += v[i] * d * d;
            v[i] *= d;
        }
        for (int i = 0; i < m; i++) {
            v[i] /= square;
        }
        return v;
    }

    /** Derivatives of what is reported for each circuit by every unknown. */
    private RealMatrix gradients(Linear at) {
        RealMatrix g = MatrixUtils.createRealMatrix(CIRCUITS, UNKNOWNS);
        for (int c = 0; c < CIRCUITS; c++) {
            double fuel = sheetFuel(c);
            if (fuel < TINY * weightSum()) {
                // A circuit the drive hardly used: nothing but its level can be told.
                g.setEntry(c, c, 1.0);
                continue;
            }
            for (int i = 0; i < m; i++) {
                double w = weight(i) / fuel;
                g.addToEntry(c, c, w * at.base[i][c]);
                for (int j = 0; j < BENDS; j++) {
                    g.addToEntry(c, FIRST_Z + j, w * level[c] * at.bend[j][i][c]);
                }
                if (c == Circuit.MAIN.ordinal()) {
                    g.addToEntry(c, SLOPE, w * at.base[i][c] * air(i));
                }
            }

        }
        return g;
    }

    private double air(int i) {
        return Math.log(cells.get(i).airKgPerS() / airReference);
    }

    /** The equations linearised around the carburetor found so far. */
    private final class Linear {
        private final double[][] base = carburetor(z, shiftPa).phi(sheet, cells);
        private final double[][][] bend = new double[BENDS][m][CIRCUITS];
        /** Sum of bends times where they were taken: belongs to the left side. */
        private final double[] offset = new double[m];

        Linear() {
            for (int j = 0; j < BENDS; j++) {
                double[] moved = z.clone();
                moved[j] += STEP;
                double[][] up = carburetor(moved, shiftPa).phi(sheet, cells);
                moved[j] -= 2.0 * STEP;
                double[][] down = carburetor(moved, shiftPa).phi(sheet, cells);
                for (int i = 0; i < m; i++) {
                    for (int c = 0; c < CIRCUITS; c++) {
                        bend[j][i][c] = (up[i][c] - down[i][c]) / (2.0 * STEP);
                        offset[i] += level[c] * bend[j][i][c] * z[j];
                    }
                }
            }
        }

        RealMatrix design(double[][] phi) {
            RealMatrix x = new Array2DRowRealMatrix(m, UNKNOWNS);
            for (int i = 0; i < m; i++) {
                for (int c = 0; c < CIRCUITS; c++) {
                    x.setEntry(i, c, phi[i][c]);
                }
                x.setEntry(i, SLOPE, phi[i][Circuit.MAIN.ordinal()] * air(i));
                for (int j = 0; j < BENDS; j++) {
                    double sum = 0.0;
                    for (int c = 0; c < CIRCUITS; c++) {
                        sum += level[c] * bend[j][i][c];
                    }
                    x.setEntry(i, FIRST_Z + j, sum);
                }
            }
            return x;
        }
    }

    /** Fits over a grid of openings, weighed against each other. */
    private final class Posterior {
        private final Fit[] fits;
        private final double[] probability;
        private final int span;
        private final double mean;
        private final double spread;

        Posterior(Linear at) {
            span = sheet.carburetor().primary().enrichmentPa() > 0.0 ? SHIFTS : 0;
            fits = new Fit[2 * span + 1];
            probability = new double[fits.length];
            double[] score = new double[fits.length];
            double top = Double.NEGATIVE_INFINITY;
            for (int j = 0; j < fits.length; j++) {
                fits[j] = new Fit(at, carburetor(z, shift(j)).phi(sheet, cells), sigma);
                double x = (shift(j) - shiftPrior) / shiftPriorSd;
                score[j] = fits[j].logLikelihood - 0.5 * x * x;
                top = Math.max(top, score[j]);
            }
            double sum = 0.0;
            for (int j = 0; j < fits.length; j++) {
                probability[j] = Math.exp(score[j] - top);
                sum += probability[j];
            }
            double first = 0.0;
            double second = 0.0;
            for (int j = 0; j < fits.length; j++) {
                probability[j] /= sum;
                first += probability[j] * shift(j);
                second += probability[j] * shift(j) * shift(j);
            }
            mean = first;
            // The grid is half an inch of mercury wide: its own rounding belongs into the spread.
            spread = Math.sqrt(Math.max(0.0, second - first * first) + SHIFT_STEP * SHIFT_STEP / 12.0);
        }

        private double shift(int j) {
            return (j - span) * SHIFT_STEP;
        }

        private int nearest() {
            return span + Math.clamp(Math.round(mean / SHIFT_STEP), -span, span);
        }

        double nearestShift() {
            return shift(nearest());
        }

        Fit fit() {
            return fits[nearest()];
        }

        /** Variance of gradient times unknowns between openings (law of total variance). */
        double varianceOfMean(RealVector gradient) {
            double first = 0.0;
            double second = 0.0;
            for (int j = 0; j < fits.length; j++) {
                double v = gradient.dotProduct(fits[j].u);
                first += probability[j] * v;
                second += probability[j] * v * v;
            }
            return Math.max(0.0, second - first * first);
        }
    }

    /** Covariance of the model's error between cells at sigma = 1. */
    private RealMatrix kernel() {
        double ambient = sheet.ambient().pressurePa();
        RealMatrix g = new Array2DRowRealMatrix(m, m);
        for (int i = 0; i < m; i++) {
            Cell a = cells.get(i);
            for (int j = 0; j <= i; j++) {
                Cell b = cells.get(j);
                double v = a.phi() * b.phi() * a.kinship(b, ambient);
                g.setEntry(i, j, v);
                g.setEntry(j, i, v);
            }
        }
        return g;
    }

    /**
     * One generalised least-squares solution for given sigma and opening. Means and likelihood come at once; the
     * covariances cost several times as much and are worked out for the solutions that are reported.
     */
    private final class Fit {
        private final RealMatrix px;
        private final RealMatrix signal;
        private final CholeskyDecomposition chol;
        private final RealVector u;
        private final double[] phi = new double[m];
        private final double[] noise = new double[m];
        private final double logLikelihood;

        Fit(Linear at, double[][] base, double sigma) {
            RealMatrix x = at.design(base);
            px = prior.multiplyTransposed(x);
            signal = x.multiply(px).add(kernel.scalarMultiply(sigma * sigma));
            RealMatrix total = signal.copy();
            RealVector start = x.operate(priorMean);
            RealVector miss = new ArrayRealVector(m);
            for (int i = 0; i < m; i++) {
                Cell c = cells.get(i);
                double e2 = c.phiError() * c.phiError() + CELL_ERROR * CELL_ERROR * c.phi() * c.phi();
                noise[i] = e2 / weights[i];
                total.addToEntry(i, i, noise[i]);
                miss.setEntry(i, c.phi() + at.offset[i] - start.getEntry(i));
            }
            chol = new CholeskyDecomposition(total, 1e-8, 1e-14);
            RealVector a = chol.getSolver().solve(miss);
            u = priorMean.add(px.operate(a));
            RealVector explained = signal.operate(a);
            double logDet = 0.0;
            RealMatrix l = chol.getL();
            for (int i = 0; i < m; i++) {
                phi[i] = start.getEntry(i) - at.offset[i] + explained.getEntry(i);
                logDet += 2.0 * Math.log(l.getEntry(i, i));
            }
            logLikelihood = -0.5 * (miss.dotProduct(a) + logDet);
        }

        RealMatrix covariance() {
            return prior.subtract(px.multiply(chol.getSolver().solve(px.transpose())));
        }

        double[] phiSd() {
            RealMatrix solved = chol.getSolver().solve(signal);
            double[] out = new double[m];
            for (int i = 0; i < m; i++) {
                double known = signal.getRowVector(i).dotProduct(solved.getColumnVector(i));
                // What overlap does to the sensor is not for the model to correct: it only widens the answer.
                double overlap = cells.get(i).idle() ? 0.5 * Observation.overlapBias(sheet) * phi[i] : 0.0;
                out[i] = Math.hypot(overlap, Math.sqrt(Math.max(1e-8, signal.getEntry(i, i) - known)));
            }
            return out;
        }

        /** What the found carburetor leaves of the estimate in every cell. */
        private double[] rest(double[][] found) {
            double[] out = new double[m];
            for (int i = 0; i < m; i++) {
                double sum = u.getEntry(SLOPE) * air(i) * found[i][Circuit.MAIN.ordinal()];
                for (int c = 0; c < CIRCUITS; c++) {
                    sum += u.getEntry(c) * found[i][c];
                }
                out[i] = phi[i] - sum;
            }
            return out;
        }
    }
}
