package nariz.estimation;

import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficient;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import nariz.units.Units;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.CholeskyDecomposition;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * Corrections of the circuits from steady cells.
 *
 * <p>y_i = sum_c k_c phi_ic(z) + s phi_i,main ln(m_i/m_ref) + g_i + e_i over cells i, in phi. The unknowns u are a
 * level k for every circuit, normal around 1 (spreads in {@link Circuit#levelSd}; idle and transfer share their feed,
 * so theirs are correlated 0.5), a slope s of the main circuit, and z: the coefficients no sheet gives, each normal in
 * the logarithm with its {@link Coefficient#spread()}, and the plates' true position. phi_ic(z) is not linear in z: the
 * equations are linearised and solved twice (Gauss-Newton; Nocedal and Wright 2006, section 10.3), and by how much a
 * third time would move a correction is part of its spread. g is what no coefficient explains: a Gaussian process with
 * standard deviation sigma phi_i and covariance exp(-(dx²/0.6² + dL²/0.2²)/2) in x = ln airflow and L = load (Rasmussen
 * and Williams 2006, section 2.7, "incorporating explicit basis functions"); it keeps ten thousand idle samples from
 * outvoting everything else and makes an interval honest where the equations are not. e is reading error, with
 * Student-t weights (nu = 4) by reweighting (Lange, Little and Taylor 1989). sigma and the enrichment's actual opening
 * are searched on a grid by marginal likelihood, the opening averaged over its posterior.
 *
 * <p>What is reported for a circuit is the fuel it delivers over what the standard carburetor with the sheet's parts
 * would, K_c = sum_i w_i (k_c phi_ic(z) + its share of g_i) / sum_i w_i phi_ic(0), w_i the dwell up to 10 s; of bands
 * of one profile what {@link BandCorrections} says.
 *
 * <p>Linearisation, weights and posterior are steps of one iteration over the same arrays and stand here; what holds
 * before a drive is {@link FamilyPrior}, what is read off in the end {@link LevelCorrections}.
 */
public final class Estimator {
    /** What a size that was not on the sheet adds to the spread of a level it sets. */
    public static final double ASSUMED_SD = 0.10;
    private static final double PLATE_SD = 0.8 * Units.DEG;
    private static final double[] SIGMAS = {0.005, 0.01, 0.015, 0.02, 0.03, 0.045};
    private static final double SIGMA_PRIOR = 0.014;
    private static final double CELL_ERROR = 0.006;
    private static final double NU = 4.0;
    private static final double LONG_STAY_S = 5.0;
    private static final double MOST_WEIGHT_S = 10.0;
    private static final double SHIFT_STEP = 0.5 * Units.INHG;
    private static final int SHIFTS = 7;
    private static final double CARRIED_SHIFT_SD = 0.5 * Units.INHG;
    private static final int FEWEST_CELLS = 4;
    private static final int ROUNDS = 2;
    /** Step of the difference quotients and limit of z, in spreads. */
    private static final double STEP = 0.5;
    private static final double FURTHEST = 2.5;

    private final BuildSheet sheet;
    private final List<Circuit> circuits;
    private final List<Coefficient> coefficients;
    private final Unknowns places;
    private final List<Cell> cells;
    private final Overlap overlap;
    private final int m;
    private final double airReference;
    /** Logarithm of each cell's airflow over the reference. */
    private final double[] lnAir;
    private final double[] weights;
    private final FamilyPrior family;
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
        // The coefficients and, last, the plate position.
        places = new Unknowns(circuits.size(), kind.circuit(Stage.PRIMARY, Circuit.Role.METERING).orElseThrow().index(),
                coefficients.size() + 1);
        z = new double[places.bends()];
        level = new double[circuits.size()];
        m = cells.size();
        airReference = Math.exp(cells.stream().mapToDouble(c -> Math.log(c.airKgPerS())).average().orElse(0));
        lnAir = cells.stream().mapToDouble(c -> Math.log(c.airKgPerS() / airReference)).toArray();
        weights = new double[m];
        java.util.Arrays.fill(weights, 1.0);
        java.util.Arrays.fill(level, 1.0);
        family = new FamilyPrior(sheet, places);
        priorMean = before.map(b -> (RealVector) new ArrayRealVector(b.mean())).orElseGet(family::mean);
        prior = before.map(b -> family.loosened(b.covariance())).orElseGet(family::covariance);
        shiftPrior = before.map(EarlierEstimate::shiftPa).orElse(0.0);
        shiftPriorSd = before.map(b -> Math.hypot(b.shiftSdPa(), CARRIED_SHIFT_SD)).orElseGet(family::shiftSdPa);
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
     * Estimates the carburetor alone where something besides it made part of what was read.
     *
     * @param observation a drive with at least one steady cell
     * @param made ln phi that it made, by cell
     * @param before the earlier drive's result on the same carburetor
     * @return the estimate from readings freed of that
     */
    public static Estimate beside(Observation observation, double[] made, Optional<EarlierEstimate> before) {
        List<Cell> cells = observation.cells();
        List<Cell> freed = IntStream.range(0, made.length).mapToObj(i -> cells.get(i).withPhi(cells.get(i).phi()
                * Math.exp(-made[i]))).toList();
        return new Estimator(observation, freed, before).solved(ROUNDS);
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

    private Estimate solve() {
        Estimate found = solved(ROUNDS);
        // What bands give is read off the mixture itself.
        boolean bands = sheet.carburetor().family().bands().isPresent();
        return bands ? found : found.unsettledBy(solved(1));
    }

    /** The equations linearised and solved so often, from where they stand. */
    private Estimate solved(int rounds) {
        for (int round = 1; ; round++) {
            Linear at = new Linear();
            for (int pass = 0; pass < 2; pass++) {
                sigma = bestSigma(at);
                reweigh(new Fit(at, at.base, sigma));
            }
            Posterior p = new Posterior(at);
            shiftPa = p.nearestShift();
            moveTo(p.fit().u);
            if (round == rounds) {
                return result(at, p);
            }
        }
    }

    private void moveTo(RealVector u) {
        for (int c = 0; c < circuits.size(); c++) {
            level[c] = Math.clamp(u.getEntry(c), 0.3, 3.0);
        }
        for (int j = 0; j < places.bends(); j++) {
            z[j] = Math.clamp(u.getEntry(places.firstBend() + j), -FURTHEST, FURTHEST);
        }
    }

    private Calibrated carburetor(double[] z, double shiftPa) {
        Coefficients made = sheet.carburetor().family().standard();
        for (int j = 0; j < coefficients.size(); j++) {
            made = made.scaled(coefficients.get(j), coefficients.get(j).spread() * z[j]);
        }
        return new Calibrated(made, PLATE_SD * z[places.bends() - 1], shiftPa, sheet.carburetor());
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
        double[] rest = f.rest(phi);
        LevelCorrections levels = new LevelCorrections(places, cells, standard, dwell(), lnAir, at.base, at.bend,
                level);
        RealMatrix g = levels.gradients();
        RealMatrix posterior = f.covariance();
        RealMatrix covariance = g.multiply(posterior).multiplyTransposed(g);
        double[] mean = new double[circuits.size()];
        double[] sd = new double[circuits.size()];
        double[][] correlation = new double[circuits.size()][circuits.size()];
        for (int c = 0; c < circuits.size(); c++) {
            mean[c] = levels.mean(c, phi, f.u, rest);
            double between = p.varianceOfMean(g.getRowVector(c));
            double left = 0.5 * sigma * mean[c];
            sd[c] = Math.sqrt(covariance.getEntry(c, c) + between + left * left);
        }
        if (sheet.carburetor().family().bands().isPresent()) {
            covariance = new BandCorrections(standard, dwell(), LevelCorrections.TINY).of(f.phi, f
                    .phiCovariance(), f.doubt(), mean, sd);
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
                standard, phi, rest, f.u.getEntry(places.slope()), levels.slope(phi, f.u, rest, posterior, sigma, sheet
                .ambient().pressurePa()), airReference, p.mean, p.spread, family.strain(f.u),
                new EarlierEstimate(EarlierEstimate.names(sheet.carburetor().family()), f.u.toArray(),
                posterior.getData(), p.mean,
                p.spread));
    }

    /** {@return what every cell counts for} */
    private double[] dwell() {
        return cells.stream().mapToDouble(c -> Math.min(c.dwellS(), MOST_WEIGHT_S)).toArray();
    }

    /** The equations linearised around the carburetor found so far. */
    private final class Linear {
        private final double[][] base = carburetor(z, shiftPa).phi(sheet, cells);
        private final double[][][] bend = new double[places.bends()][m][circuits.size()];
        /** Sum of bends times where they were taken: belongs to the left side. */
        private final double[] offset = new double[m];

        Linear() {
            IntStream.range(0, places.bends()).parallel().forEach(j -> {
                double[][] up = moved(j, STEP).phi(sheet, cells);
                double[][] down = moved(j, -STEP).phi(sheet, cells);
                for (int i = 0; i < m; i++) {
                    for (int c = 0; c < circuits.size(); c++) {
                        bend[j][i][c] = (up[i][c] - down[i][c]) / (2.0 * STEP);
                    }
                }
            });
            for (int j = 0; j < places.bends(); j++) {
                for (int i = 0; i < m; i++) {
                    for (int c = 0; c < circuits.size(); c++) {
                        offset[i] += level[c] * bend[j][i][c] * z[j];
                    }
                }
            }
        }

        private Calibrated moved(int j, double by) {
            double[] to = z.clone();
            to[j] += by;
            return carburetor(to, shiftPa);
        }

        RealMatrix design(double[][] phi) {
            RealMatrix x = new Array2DRowRealMatrix(m, places.count());
            for (int i = 0; i < m; i++) {
                for (int c = 0; c < circuits.size(); c++) {
                    x.setEntry(i, c, phi[i][c]);
                }
                x.setEntry(i, places.slope(), phi[i][places.metering()] * lnAir[i]);
                for (int j = 0; j < places.bends(); j++) {
                    double sum = 0.0;
                    for (int c = 0; c < circuits.size(); c++) {
                        sum += level[c] * bend[j][i][c];
                    }
                    x.setEntry(i, places.firstBend() + j, sum);
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
                double sum = u.getEntry(places.slope()) * lnAir[i] * found[i][places.metering()];
                for (int c = 0; c < circuits.size(); c++) {
                    sum += u.getEntry(c) * found[i][c];
                }
                out[i] = phi[i] - sum;
            }
            return out;
        }
    }
}
