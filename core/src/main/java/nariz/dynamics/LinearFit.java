package nariz.dynamics;

import java.util.List;
import nariz.estimation.Symmetric;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.CholeskyDecomposition;

/**
 * Unknowns of a straight model, y = x a + e, from readings of equal scatter and normal priors of their own (Box &amp;
 * Tiao, Bayesian Inference in Statistical Analysis, 1973, 2.7).
 *
 * @param mean posterior mean of every unknown
 * @param factor of the posterior's precision
 * @param logEvidence ln of the marginal likelihood, up to what all models of the same readings and priors share
 */
record LinearFit(double[] mean, CholeskyDecomposition factor, double logEvidence) {
    /**
     * One reading.
     *
     * @param x what every unknown counts for in it
     * @param y reading
     */
    record Row(double[] x, double y) {
    }

    /**
     * Sums of readings: what a fit needs of them.
     *
     * @param xx sums of x x', lower half at least
     * @param xy sums of x y
     * @param yy sum of y y
     */
    record Sums(double[][] xx, double[] xy, double yy) {
        static Sums of(List<Row> rows, int n) {
            double[][] xx = new double[n][n];
            double[] xy = new double[n];
            double yy = 0.0;
            for (Row row : rows) {
                double[] x = row.x();
                for (int r = 0; r < n; r++) {
                    for (int c = 0; c <= r; c++) {
                        xx[r][c] += x[r] * x[c];
                    }
                    xy[r] += x[r] * row.y();
                }
                yy += row.y() * row.y();
            }
            return new Sums(xx, xy, yy);
        }
    }

    /**
     * Fits.
     *
     * @param rows readings
     * @param scatter standard deviation of a reading, positive
     * @param priorMean prior mean of every unknown
     * @param priorSd prior standard deviation of every unknown, positive
     * @return the posterior
     */
    static LinearFit of(List<Row> rows, double scatter, double[] priorMean, double[] priorSd) {
        return of(Sums.of(rows, priorSd.length), scatter, priorMean, priorSd);
    }

    /**
     * Fits.
     *
     * @param sums sums of the readings
     * @param scatter standard deviation of a reading, positive
     * @param priorMean prior mean of every unknown
     * @param priorSd prior standard deviation of every unknown, positive
     * @return the posterior
     */
    static LinearFit of(Sums sums, double scatter, double[] priorMean, double[] priorSd) {
        int n = priorSd.length;
        double[][] a = new double[n][n];
        double[] b = new double[n];
        double iv = 1.0 / (scatter * scatter);
        for (int r = 0; r < n; r++) {
            double prior = 1.0 / (priorSd[r] * priorSd[r]);
            for (int c = 0; c <= r; c++) {
                a[r][c] = iv * sums.xx()[r][c] + (r == c ? prior : 0.0);
                a[c][r] = a[r][c];
            }
            b[r] = priorMean[r] * prior + iv * sums.xy()[r];
        }
        CholeskyDecomposition l = Symmetric.factored(new Array2DRowRealMatrix(a, false),
                CholeskyDecomposition.DEFAULT_ABSOLUTE_POSITIVITY_THRESHOLD);
        ArrayRealVector right = new ArrayRealVector(b, false);
        double[] mean = l.getSolver().solve(right).toArray();
        double log = 0.5 * (right.dotProduct(new ArrayRealVector(mean, false)) - iv * sums.yy()
                - Math.log(l.getDeterminant()));
        return new LinearFit(mean, l, log);
    }

    /**
     * Standard deviation of an unknown.
     *
     * @param r which
     * @return posterior standard deviation
     */
    double sd(int r) {
        double[] one = new double[mean.length];
        one[r] = 1.0;
        return Math.sqrt(factor.getSolver().solve(new ArrayRealVector(one, false)).getEntry(r));
    }
}
