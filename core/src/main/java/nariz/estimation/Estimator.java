package nariz.estimation;

import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficient;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Family;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
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
 * level k for every circuit, normal around 1 (spreads in {@link Circuit#levelSd}; idle and transfer share their feed,
 * so theirs are correlated 0.5), a slope s of the main circuit, and z: the coefficients no sheet gives, each normal in
 * the logarithm with its {@link Coefficient#spread()}, and the plates' true position. phi_ic(z) is not linear in z: the
 * equations are linearised and solved twice (Gauss-Newton; Nocedal and Wright 2006, section 10.3). g is what no
 * coefficient explains: a Gaussian process with standard deviation sigma phi_i and covariance exp(-(dx²/0.6² +
 * dL²/0.2²)/2) in x = ln airflow and L = load (Rasmussen and Williams 2006, section 2.7, "incorporating explicit basis
 * functions"); it keeps ten thousand idle samples from outvoting everything else and makes an interval honest where the
 * equations are not. e is reading error, with Student-t weights (nu = 4) by reweighting (Lange, Little and Taylor
 * 1989). sigma and the enrichment's actual opening are searched on a grid by marginal likelihood, the opening averaged
 * over its posterior.
 *
 * <p>What is reported for a circuit is the fuel it delivers over what the standard carburetor with the sheet's parts
 * would, K_c = sum_i w_i (k_c phi_ic(z) + its share of g_i) / sum_i w_i phi_ic(0), w_i the dwell up to 10 s; of bands
 * of one profile what {@link BandCorrections} says.
 *
 * <p>In one piece because prior, linearisation, weights and posterior are steps of one iteration over the same arrays:
 * apart, each would hand all of them to the next.
 */
public final class Estimator {
    private static final double IDLE_TRANSFER_CORRELATION = 0.5;
    /** What a size that was not on the sheet adds to the spread of a level it sets. */
    public static final double ASSUMED_SD = 0.10;
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

    private final BuildSheet sheet;
    private final List<Circuit> circuits;
    private final List<Coefficient> coefficients;
    /** Index of the circuit whose level may change with airflow. */
    private final int metering;
    private final int slopeAt;
    private final int firstZ;
    /** The coefficients and, last, the plate position. */
    private final int bends;
    private final int unknowns;
    private final List<Cell> cells;
    private final Overlap overlap;
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
    private final double[] z;
    private final double[] level;
    private double sigma = SIGMA_PRIOR;
    private double shiftPa;

    private Estimator(Observation observation, List<Cell> cells, Optional<EarlierEstimate> before) {
        sheet = observation.sheet();
        overlap = observation.overlap();
        this.cells = cells;
        Family kind = sheet.carburetor().family();
        circuits = kind.circuits();
        coefficients = kind.coefficients();
        metering = kind.circuit(Stage.PRIMARY, Circuit.Role.METERING).orElseThrow().index();
        slopeAt = circuits.size();
        firstZ = slopeAt + 1;
        bends = coefficients.size() + 1;
        unknowns = firstZ + bends;
        z = new double[bends];
        level = new double[circuits.size()];
        m = cells.size();
        airReference = Math.exp(cells.stream().mapToDouble(c -> Math.log(c.airKgPerS())).average().orElse(0));
        weights = new double[m];
        java.util.Arrays.fill(weights, 1.0);
        java.util.Arrays.fill(level, 1.0);
        family = prior();
        priorMean = before.map(b -> (RealVector) new ArrayRealVector(b.mean())).orElseGet(this::asListed);
        prior = before.map(b -> loosened(b.covariance())).orElse(family);
        shiftPrior = before.map(EarlierEstimate::shiftPa).orElse(0.0);
        shiftPriorSd = before.map(b -> Math.hypot(b.shiftSdPa(), CARRIED_SHIFT_SD)).orElse(shiftPrior(sheet));
        if (before.isPresent()) {
            moveTo(priorMean);
        }
        kernel = kernel();
        standard = Calibrated.standard(sheet).phi(sheet, cells);
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
    public static Estimate of(Observation observation, Optional<EarlierEstimate> before) {
        if (observation.cells().isEmpty()) {
            throw new IllegalArgumentException("no steady cell");
        }
        return new Estimator(observation, observation.cells(), before).solve();
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
                : Optional.of(new Estimator(observation, cells, Optional.empty()).solve());
    }

    /** A rating that was only assumed may be two steps off. */
    private static double shiftPrior(BuildSheet sheet) {
        Carburetor c = sheet.carburetor();
        boolean known = c.family().part(c, Stage.PRIMARY, Part.Role.ENRICHMENT_OPENING).stream().noneMatch(p ->
                sheet.assumed().stream().anyMatch(a -> a.startsWith("carburetor.primary." + p.field() + " ")));
        return known ? SHIFT_PRIOR : 2.0 * SHIFT_PRIOR;
    }

    private RealMatrix prior() {
        RealMatrix p = MatrixUtils.createRealMatrix(unknowns, unknowns);
        double[] sd = new double[circuits.size()];
        for (Circuit c : circuits) {
            int k = c.index();
            sd[k] = Math.hypot(c.levelSd(), ASSUMED_SD * Math.sqrt(sheet.assumedSizes(c).size()));
            p.setEntry(k, k, sd[k] * sd[k]);
        }
        for (Circuit a : circuits) {
            for (Circuit b : circuits) {
                if (!a.equals(b) && a.sharesFeed(b)) {
                    p.setEntry(a.index(), b.index(), IDLE_TRANSFER_CORRELATION * sd[a.index()] * sd[b.index()]);
                }
            }
        }
        p.setEntry(slopeAt, slopeAt, SLOPE_SD * SLOPE_SD);
        for (int j = 0; j < bends; j++) {
            p.setEntry(firstZ + j, firstZ + j, 1.0);
        }
        return p;
    }

    /** Everything as the family has it. */
    private RealVector asListed() {
        RealVector mean = new ArrayRealVector(unknowns);
        for (int c = 0; c < circuits.size(); c++) {
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
        for (int round = 1; ; round++) {
            Linear at = new Linear();
            for (int pass = 0; pass < 2; pass++) {
                sigma = bestSigma(at);
                reweigh(new Fit(at, at.base, sigma));
            }
            Posterior p = new Posterior(at);
            shiftPa = p.nearestShift();
            moveTo(p.fit().u);
            if (round == ROUNDS) {
                return result(at, p);
            }
        }
    }

    private void moveTo(RealVector u) {
        for (int c = 0; c < circuits.size(); c++) {
            level[c] = Math.clamp(u.getEntry(c), 0.3, 3.0);
        }
        for (int j = 0; j < bends; j++) {
            z[j] = Math.clamp(u.getEntry(firstZ + j), -FURTHEST, FURTHEST);
        }
    }

    private Calibrated carburetor(double[] z, double shiftPa) {
        Coefficients made = sheet.carburetor().family().standard();
        for (int j = 0; j < coefficients.size(); j++) {
            made = made.scaled(coefficients.get(j), coefficients.get(j).spread() * z[j]);
        }
        return new Calibrated(made, PLATE_SD * z[bends - 1], shiftPa, sheet.carburetor());
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
        double[] mean = new double[circuits.size()];
        double[] sd = new double[circuits.size()];
        double[][] correlation = new double[circuits.size()][circuits.size()];
        for (int c = 0; c < circuits.size(); c++) {
            mean[c] = reported(phi, f, c);
            double between = p.varianceOfMean(g.getRowVector(c));
            double left = 0.5 * sigma * mean[c];
            sd[c] = Math.sqrt(covariance.getEntry(c, c) + between + left * left);
        }
        if (sheet.carburetor().family().bands().isPresent()) {
            covariance = new BandCorrections(standard, IntStream.range(0, m).mapToDouble(this::weight).toArray(),
                    TINY).of(f.phi, f.phiCovariance(), f.doubt(), mean, sd);
        }
        for (int a = 0; a < circuits.size(); a++) {
            for (int b = 0; b < circuits.size(); b++) {
                correlation[a][b] = covariance.getEntry(a, b) / Math.max(1e-12,
                        Math.sqrt(covariance.getEntry(a, a) * covariance.getEntry(b, b)));
            }
        }
        double[] factor = new double[circuits.size()];
        for (int c = 0; c < circuits.size(); c++) {
            factor[c] = f.u.getEntry(c);
        }
        return new Estimate(sheet.carburetor().family(), cells, found, factor, mean, sd, correlation, f.phi, f.phiSd(),
                standard, phi, f.rest(phi),
                f.u.getEntry(slopeAt), slope(at, f, phi, posterior), airReference, p.mean, p.spread, strain(f),
                new EarlierEstimate(EarlierEstimate.names(sheet.carburetor().family()), f.u.toArray(),
                posterior.getData(), p.mean,
                p.spread));
    }

    /**
     * How far the unknowns had to move, in log probability, beyond what carburetors of a family need: half the sum of
     * squares in prior spreads, less {@link #USUAL_STRAIN}. At 9 three of 28 practice engines with a true sheet were
     * above it.
     */
    private double strain(Fit f) {
        RealVector moved = f.u.subtract(asListed());
        RealVector solved = Symmetric.factored(family.copy(), 1e-15).getSolver().solve(moved);
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
            double factor = f.u.getEntry(c) + (c == metering ? f.u.getEntry(slopeAt) * air(i) : 0.0);
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
        int c = metering;
        double[] v = slopeWeights(c);
        if (v.length == 0) {
            return Optional.empty();
        }
        double[] rest = f.rest(phi);
        RealVector g = new ArrayRealVector(unknowns);
        double b = 0.0;
        double left = 0.0;
        for (int i = 0; i < m; i++) {
            double share = v[i] / Math.max(standard[i][c], 1e-9);
            double total = 0.0;
            for (double p : phi[i]) {
                total += p;
            }
            b += share * phi[i][c] * (f.u.getEntry(c) + f.u.getEntry(slopeAt) * air(i) + rest[i] / Math.max(total,
                    1e-6));
            g.addToEntry(c, share * at.base[i][c]);
            g.addToEntry(slopeAt, share * at.base[i][c] * air(i));
            for (int j = 0; j < bends; j++) {
                g.addToEntry(firstZ + j, share * level[c] * at.bend[j][i][c]);
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
        RealMatrix g = MatrixUtils.createRealMatrix(circuits.size(), unknowns);
        for (int c = 0; c < circuits.size(); c++) {
            double fuel = sheetFuel(c);
            if (fuel < TINY * weightSum()) {
                // A circuit the drive hardly used: nothing but its level can be told.
                g.setEntry(c, c, 1.0);
                continue;
            }
            for (int i = 0; i < m; i++) {
                double w = weight(i) / fuel;
                g.addToEntry(c, c, w * at.base[i][c]);
                for (int j = 0; j < bends; j++) {
                    g.addToEntry(c, firstZ + j, w * level[c] * at.bend[j][i][c]);
                }
                if (c == metering) {
                    g.addToEntry(c, slopeAt, w * at.base[i][c] * air(i));
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
        private final double[][][] bend = new double[bends][m][circuits.size()];
        /** Sum of bends times where they were taken: belongs to the left side. */
        private final double[] offset = new double[m];

        Linear() {
            for (int j = 0; j < bends; j++) {
                double[] moved = z.clone();
                moved[j] += STEP;
                double[][] up = carburetor(moved, shiftPa).phi(sheet, cells);
                moved[j] -= 2.0 * STEP;
                double[][] down = carburetor(moved, shiftPa).phi(sheet, cells);
                for (int i = 0; i < m; i++) {
                    for (int c = 0; c < circuits.size(); c++) {
                        bend[j][i][c] = (up[i][c] - down[i][c]) / (2.0 * STEP);
                        offset[i] += level[c] * bend[j][i][c] * z[j];
                    }
                }
            }
        }

        RealMatrix design(double[][] phi) {
            RealMatrix x = new Array2DRowRealMatrix(m, unknowns);
            for (int i = 0; i < m; i++) {
                for (int c = 0; c < circuits.size(); c++) {
                    x.setEntry(i, c, phi[i][c]);
                }
                x.setEntry(i, slopeAt, phi[i][metering] * air(i));
                for (int j = 0; j < bends; j++) {
                    double sum = 0.0;
                    for (int c = 0; c < circuits.size(); c++) {
                        sum += level[c] * bend[j][i][c];
                    }
                    x.setEntry(i, firstZ + j, sum);
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
            span = sheet.carburetor().family().enrichmentPa(sheet.carburetor(), Stage.PRIMARY) > 0.0 ? SHIFTS : 0;
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
                double own = Math.hypot(CELL_ERROR, c.filmError()) * c.phi();
                double e2 = c.phiError() * c.phiError() + own * own;
                noise[i] = e2 / weights[i];
                total.addToEntry(i, i, noise[i]);
                miss.setEntry(i, c.phi() + at.offset[i] - start.getEntry(i));
            }
            chol = Symmetric.factored(total, 1e-14);
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

        RealMatrix phiCovariance() {
            return signal.subtract(signal.multiply(chol.getSolver().solve(signal)));
        }

        double[] phiSd() {
            RealMatrix covariance = phiCovariance();
            double[] out = doubt();
            for (int i = 0; i < m; i++) {
                out[i] = Math.hypot(out[i], Math.sqrt(Math.max(1e-8, covariance.getEntry(i, i))));
            }
            return out;
        }

        /** What overlap does to the sensor is not for the model to correct: it only widens the answer. */
        double[] doubt() {
            double[] out = new double[m];
            for (int i = 0; i < m; i++) {
                Cell c = cells.get(i);
                out[i] = Overlap.DOUBT * overlap.bias(c.rpm(), c.vacuumPa()) * phi[i];
            }
            return out;
        }

        /** What the found carburetor leaves of the estimate in every cell. */
        private double[] rest(double[][] found) {
            double[] out = new double[m];
            for (int i = 0; i < m; i++) {
                double sum = u.getEntry(slopeAt) * air(i) * found[i][metering];
                for (int c = 0; c < circuits.size(); c++) {
                    sum += u.getEntry(c) * found[i][c];
                }
                out[i] = phi[i] - sum;
            }
            return out;
        }
    }
}
