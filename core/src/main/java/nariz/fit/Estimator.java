package nariz.fit;

import java.util.List;
import nariz.build.BuildSheet;
import nariz.model.Circuit;
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
 * <p>y_i = sum_c k_c phi_ic + s phi_i,main ln(m_i/m_ref) + g_i + e_i over cells i, in phi. k has a normal prior
 * around 1 (spreads in {@link #PRIOR_SD}; idle and transfer share their feed, so theirs are correlated 0.7), s around
 * 0. g is the model's own error: a Gaussian process with standard deviation sigma phi_i and covariance exp(-(dx²/0.6²
 * + dL²/0.2²)/2) in x = ln airflow and L = load (Rasmussen and Williams 2006, section 2.7, "incorporating explicit
 * basis functions"); it is what keeps ten thousand idle samples from outvoting everything else, and makes an interval
 * honest where the equations are not. e is reading error, with Student-t weights (nu = 4) by reweighting (Lange,
 * Little and Taylor 1989). sigma and the enrichment's actual opening are searched on a grid by marginal likelihood,
 * the opening averaged over its posterior.
 */
public final class Estimator {
    /** Prior spread of each correction, in the order of {@link Circuit}. */
    private static final double[] PRIOR_SD = {0.18, 0.14, 0.10, 0.25, 0.15, 0.12, 0.30};
    private static final double IDLE_TRANSFER_CORRELATION = 0.7;
    private static final double SLOPE_SD = 0.05;
    private static final double[] SIGMAS = {0.01, 0.015, 0.02, 0.03, 0.04, 0.06};
    private static final double SIGMA_PRIOR = 0.022;
    private static final double AIR_LENGTH = 0.6;
    private static final double LOAD_LENGTH = 0.2;
    private static final double CELL_ERROR = 0.006;
    private static final double NU = 4.0;
    private static final double LONG_STAY_S = 5.0;
    private static final double SHIFT_STEP = 0.5 * Units.INHG;
    private static final int SHIFTS = 7;
    private static final double SHIFT_PRIOR = 0.8 * Units.INHG;
    private static final int CIRCUITS = Circuit.values().length;
    private static final int UNKNOWNS = CIRCUITS + 1;

    private final BuildSheet sheet;
    private final List<Cell> cells;
    private final int m;
    private final double airReference;
    private final RealVector y;
    private final double[] weights;
    private final RealMatrix prior;
    private final RealVector priorMean;

    private Estimator(BuildSheet sheet, List<Cell> cells) {
        this.sheet = sheet;
        this.cells = cells;
        m = cells.size();
        airReference = Math.exp(cells.stream().mapToDouble(c -> Math.log(c.airKgPerS())).average().orElse(0));
        y = new ArrayRealVector(m);
        weights = new double[m];
        for (int i = 0; i < m; i++) {
            y.setEntry(i, cells.get(i).phi());
            weights[i] = 1.0;
        }
        prior = prior();
        priorMean = new ArrayRealVector(UNKNOWNS, 1.0);
        priorMean.setEntry(CIRCUITS, 0.0);
    }

    /**
     * Estimates.
     *
     * @param observation a drive with at least one steady cell
     * @return the estimate
     * @throws IllegalArgumentException when there is no steady cell
     */
    public static Estimate of(Observation observation) {
        if (observation.cells().isEmpty()) {
            throw new IllegalArgumentException("no steady cell");
        }
        return new Estimator(observation.sheet(), observation.cells()).solve();
    }

    private static RealMatrix prior() {
        RealMatrix p = MatrixUtils.createRealMatrix(UNKNOWNS, UNKNOWNS);
        for (int c = 0; c < CIRCUITS; c++) {
            p.setEntry(c, c, PRIOR_SD[c] * PRIOR_SD[c]);
        }
        int a = Circuit.IDLE.ordinal();
        int b = Circuit.TRANSFER.ordinal();
        double shared = IDLE_TRANSFER_CORRELATION * PRIOR_SD[a] * PRIOR_SD[b];
        p.setEntry(a, b, shared);
        p.setEntry(b, a, shared);
        p.setEntry(CIRCUITS, CIRCUITS, SLOPE_SD * SLOPE_SD);
        return p;
    }

    private Estimate solve() {
        double[][] base = CellModel.phi(sheet, cells, 0.0);
        double sigma = SIGMA_PRIOR;
        for (int round = 0; round < 3; round++) {
            sigma = bestSigma(base);
            reweigh(base, sigma);
        }
        return averageOverOpening(base, sigma);
    }

    private double bestSigma(double[][] base) {
        double best = Double.NEGATIVE_INFINITY;
        double at = SIGMA_PRIOR;
        for (double s : SIGMAS) {
            double z = Math.log(s / SIGMA_PRIOR) / 0.5;
            double score = new Fit(base, s).logLikelihood - 0.5 * z * z;
            if (score > best) {
                best = score;
                at = s;
            }
        }
        return at;
    }

    private void reweigh(double[][] base, double sigma) {
        Fit f = new Fit(base, sigma);
        for (int i = 0; i < m; i++) {
            if (cells.get(i).dwellS() > LONG_STAY_S) {
                // A long stay that disagrees with the model is the finding, not an outlier.
                continue;
            }
            double r = y.getEntry(i) - f.phi[i];
            double r2 = r * r / (f.noise[i] * weights[i]);
            weights[i] = (NU + 1.0) / (NU + r2);
        }
    }

    private Estimate averageOverOpening(double[][] base, double sigma) {
        boolean enriches = sheet.carburetor().primary().enrichmentPa() > 0.0;
        int span = enriches ? SHIFTS : 0;
        Fit[] fits = new Fit[2 * span + 1];
        double[][][] phis = new double[fits.length][][];
        double[] score = new double[fits.length];
        double top = Double.NEGATIVE_INFINITY;
        for (int j = 0; j < fits.length; j++) {
            double shift = (j - span) * SHIFT_STEP;
            phis[j] = j == span ? base : CellModel.phi(sheet, cells, shift);
            fits[j] = new Fit(phis[j], sigma);
            double z = shift / SHIFT_PRIOR;
            score[j] = fits[j].logLikelihood - 0.5 * z * z;
            top = Math.max(top, score[j]);
        }
        double sum = 0.0;
        double mean = 0.0;
        double square = 0.0;
        for (int j = 0; j < fits.length; j++) {
            score[j] = Math.exp(score[j] - top);
            sum += score[j];
            double shift = (j - span) * SHIFT_STEP;
            mean += score[j] * shift;
            square += score[j] * shift * shift;
        }
        mean /= sum;
        // The grid is half an inch of mercury wide: its own rounding belongs into the spread.
        double spread = Math.sqrt(Math.max(0.0, square / sum - mean * mean) + SHIFT_STEP * SHIFT_STEP / 12.0);
        int nearest = span + Math.clamp(Math.round(mean / SHIFT_STEP), -span, span);
        return result(fits, score, sum, nearest, phis[nearest], mean, spread, sigma);
    }

    /** Mean and spread over openings (law of total variance), the rest from the nearest opening. */
    private Estimate result(Fit[] fits, double[] score, double sum, int nearest, double[][] phi, double shift,
            double spread, double sigma) {
        double[] k = new double[UNKNOWNS];
        double[] var = new double[UNKNOWNS];
        for (int c = 0; c < UNKNOWNS; c++) {
            double square = 0.0;
            for (int j = 0; j < fits.length; j++) {
                double v = fits[j].k.getEntry(c);
                k[c] += score[j] / sum * v;
                square += score[j] / sum * (v * v + fits[j].covariance.getEntry(c, c));
            }
            var[c] = Math.max(1e-12, square - k[c] * k[c]);
        }
        Fit f = fits[nearest];
        double[] sd = new double[CIRCUITS];
        double[][] correlation = new double[CIRCUITS][CIRCUITS];
        double[] centre = new double[CIRCUITS];
        for (int a = 0; a < CIRCUITS; a++) {
            sd[a] = Math.sqrt(var[a]);
            centre[a] = f.k.getEntry(a);
            for (int b = 0; b < CIRCUITS; b++) {
                correlation[a][b] = f.covariance.getEntry(a, b)
                        / Math.sqrt(f.covariance.getEntry(a, a) * f.covariance.getEntry(b, b));
            }
        }
        return new Estimate(cells, centre, sd, correlation, f.phi, f.phiSd, phi, f.rest, f.k.getEntry(CIRCUITS),
                Math.sqrt(var[CIRCUITS]), airReference, shift, spread, sigma);
    }

    /** One generalised least-squares solution for given sigma and opening. */
    private final class Fit {
        private final RealVector k;
        private final RealMatrix covariance;
        private final double[] phi = new double[m];
        private final double[] phiSd = new double[m];
        private final double[] rest = new double[m];
        private final double[] noise = new double[m];
        private final double logLikelihood;

        Fit(double[][] base, double sigma) {
            RealMatrix x = design(base);
            RealMatrix g = modelError(sigma);
            RealMatrix total = x.multiply(prior).multiplyTransposed(x).add(g);
            for (int i = 0; i < m; i++) {
                Cell c = cells.get(i);
                double e2 = c.phiError() * c.phiError() + CELL_ERROR * CELL_ERROR * c.phi() * c.phi();
                noise[i] = e2 / weights[i];
                total.addToEntry(i, i, noise[i]);
            }
            CholeskyDecomposition chol = new CholeskyDecomposition(total, 1e-8, 1e-14);
            RealVector miss = y.subtract(x.operate(priorMean));
            RealVector a = chol.getSolver().solve(miss);
            RealMatrix px = prior.multiplyTransposed(x);
            k = priorMean.add(px.operate(a));
            RealMatrix gain = chol.getSolver().solve(px.transpose());
            covariance = prior.subtract(px.multiply(gain));
            RealVector own = g.operate(a);
            RealMatrix signal = x.multiply(prior).multiplyTransposed(x).add(g);
            RealMatrix solved = chol.getSolver().solve(signal);
            RealVector fixed = x.operate(k);
            for (int i = 0; i < m; i++) {
                rest[i] = own.getEntry(i);
                phi[i] = fixed.getEntry(i) + rest[i];
                double explained = signal.getRowVector(i).dotProduct(solved.getColumnVector(i));
                // What overlap does to the sensor is not for the model to correct: it only widens the answer.
                double overlap = cells.get(i).idle() ? 0.5 * Observation.overlapBias(sheet) * phi[i] : 0.0;
                phiSd[i] = Math.hypot(overlap, Math.sqrt(Math.max(1e-8, signal.getEntry(i, i) - explained)));
            }
            double logDet = 0.0;
            RealMatrix l = chol.getL();
            for (int i = 0; i < m; i++) {
                logDet += 2.0 * Math.log(l.getEntry(i, i));
            }
            logLikelihood = -0.5 * (miss.dotProduct(a) + logDet);
        }

        private RealMatrix design(double[][] base) {
            RealMatrix x = new Array2DRowRealMatrix(m, UNKNOWNS);
            for (int i = 0; i < m; i++) {
                for (int c = 0; c < CIRCUITS; c++) {
                    x.setEntry(i, c, base[i][c]);
                }
                x.setEntry(i, CIRCUITS, base[i][Circuit.MAIN.ordinal()]
                        * Math.log(cells.get(i).airKgPerS() / airReference));
            }
            return x;
        }

        private RealMatrix modelError(double sigma) {
            double ambient = sheet.ambient().pressurePa();
            RealMatrix g = new Array2DRowRealMatrix(m, m);
            for (int i = 0; i < m; i++) {
                Cell a = cells.get(i);
                for (int j = 0; j <= i; j++) {
                    Cell b = cells.get(j);
                    double dx = Math.log(a.airKgPerS() / b.airKgPerS()) / AIR_LENGTH;
                    double dl = (a.vacuumPa() - b.vacuumPa()) / ambient / LOAD_LENGTH;
                    double v = sigma * sigma * a.phi() * b.phi() * Math.exp(-0.5 * (dx * dx + dl * dl));
                    g.setEntry(i, j, v);
                    g.setEntry(j, i, v);
                }
            }
            return g;
        }
    }
}
