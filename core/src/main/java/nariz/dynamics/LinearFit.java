package nariz.dynamics;

import java.util.List;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.CholeskyDecomposition;

/**
 * Unknowns of a straight model, y = x a + e, from readings of equal scatter and normal priors of their own (Box &amp;
 * Tiao, Bayesian Inference in Statistical Analysis, 1973, 2.7).
 *
 * @param mean posterior mean of every unknown
 * @param sd posterior standard deviation of every unknown
 * @param logEvidence ln of the marginal likelihood, up to what all models of the same readings and priors share
 */
record LinearFit(double[] mean, double[] sd, double logEvidence) {
    /**
     * One reading.
     *
     * @param x what every unknown counts for in it
     * @param y reading
     */
    record Row(double[] x, double y) {
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
        int n = priorSd.length;
        double[][] a = new double[n][n];
        double[] b = new double[n];
        for (int r = 0; r < n; r++) {
            a[r][r] = 1.0 / (priorSd[r] * priorSd[r]);
            b[r] = priorMean[r] * a[r][r];
        }
        double yy = 0.0;
        double iv = 1.0 / (scatter * scatter);
        for (Row row : rows) {
            double[] x = row.x();
            for (int r = 0; r < n; r++) {
                for (int c = 0; c <= r; c++) {
                    a[r][c] += iv * x[r] * x[c];
                }
                b[r] += iv * x[r] * row.y();
            }
            yy += iv * row.y() * row.y();
        }
        for (int r = 0; r < n; r++) {
            for (int c = r + 1; c < n; c++) {
                a[r][c] = a[c][r];
            }
        }
        CholeskyDecomposition l = new CholeskyDecomposition(new Array2DRowRealMatrix(a, false));
        ArrayRealVector right = new ArrayRealVector(b, false);
        double[] mean = l.getSolver().solve(right).toArray();
        double[] sd = new double[n];
        var covariance = l.getSolver().getInverse();
        for (int r = 0; r < n; r++) {
            sd[r] = Math.sqrt(covariance.getEntry(r, r));
        }
        return new LinearFit(mean, sd, 0.5 * (right.dotProduct(new ArrayRealVector(mean, false)) - yy
                - Math.log(l.getDeterminant())));
    }
}
