package nariz.estimation;

import java.util.Arrays;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * Corrections of circuits that are bands of one profile, such as a needle's stations.
 *
 * <p>K_c = sum_i w_i phi_i b_ic / sum_i w_i phi_ic(0) over cells i: all the fuel that was found there, phi_i, by the
 * share b_ic = phi_ic(0)/sum_c phi_ic(0) that the band has in the cell on the sheet. What a needle gives at an airflow
 * is well known; at which lift it does so, and so which band it comes from, is not, and nobody needs it: a band is
 * where the sheet's needle works. The interval is that of the weighted mean of phi, with what overlap leaves in doubt
 * and with {@value #COMMON_ERROR} that a sensor and the walls' share are off by in all cells alike.
 */
final class BandCorrections {
    /** No averaging takes this out; judgement. */
    private static final double COMMON_ERROR = 0.008;

    private final RealMatrix shares;
    private final boolean[] used;

    /**
     * Sets up the weights.
     *
     * @param standard phi of the standard carburetor with the sheet's parts, by cell and circuit
     * @param weight of each cell
     * @param least mean phi under which a circuit was hardly used and is left as it is
     */
    BandCorrections(double[][] standard, double[] weight, double least) {
        int circuits = standard[0].length;
        shares = MatrixUtils.createRealMatrix(circuits, weight.length);
        used = new boolean[circuits];
        SheetFuel fuel = new SheetFuel(standard, weight, least);
        for (int c = 0; c < circuits; c++) {
            used[c] = fuel.used(c);
            for (int i = 0; used[c] && i < weight.length; i++) {
                if (standard[i][c] <= 0.0) {
                    continue;
                }
                shares.setEntry(c, i, weight[i] * standard[i][c] / Arrays.stream(standard[i]).sum() / fuel.of(c));
            }
        }
    }

    /**
     * Works them out.
     *
     * @param phi found by cell
     * @param covariance of it
     * @param doubt what overlap may be off by in each cell, all one way
     * @param mean receives the corrections of the bands that were used
     * @param sd receives their standard deviations
     * @return covariance of the corrections, overlap and common error apart
     */
    RealMatrix of(double[] phi, RealMatrix covariance, double[] doubt, double[] mean, double[] sd) {
        RealMatrix out = shares.multiply(covariance).multiplyTransposed(shares);
        RealVector found = shares.operate(new ArrayRealVector(phi, false));
        RealVector off = shares.operate(new ArrayRealVector(doubt, false));
        for (int c = 0; c < used.length; c++) {
            if (used[c]) {
                mean[c] = found.getEntry(c);
                sd[c] = Math.hypot(Math.hypot(off.getEntry(c), COMMON_ERROR * mean[c]), Math.sqrt(out.getEntry(c, c)));
            }
        }
        return out;
    }
}
