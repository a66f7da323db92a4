package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.Symmetric;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.RealMatrix;

/**
 * How much of a fault's shape is in what the carburetor on the sheet does not explain.
 *
 * <p>q_i = ln(phi_i/model_i) over cells, model the sheet's carburetor as estimated. A wrong part that stands on the
 * sheet is in the model and leaves nothing in q; a leak is not. Levels say little, since every circuit's level is
 * estimated from the same readings, but the shape within a way of running does. q is normal with covariance
 *
 * <p>K_ij = sum_c circuit² s_ic s_jc + level_g² + bend² v_i v_j + smooth² k_ij + own²,
 *
 * <p>s the share of circuit c, g the way of running if both cells are of one, v the model's own ln(phi/target) less its
 * mean there, k and own as in {@link SoundScatter}. A fault of size gamma adds gamma f; by generalised least squares
 * gamma = f'K⁻¹q / f'K⁻¹f with variance 1/(f'K⁻¹f) (Rao, Linear Statistical Inference, 1973, section 4a).
 *
 * <p>Over engines without a fault, gamma of a vacuum leak over its standard deviation has a root mean square of 0.7 on
 * an independent simulator's drives, 0.9 on sets with a barrel a cylinder and 0.6 on strangers: it claims rather too
 * little. On three sets of that simulator with a barrel a cylinder, driven with their healthy parts, a leak into the
 * exhaust has 1.5, since what their holes leave along the slot is no shape of this model: where what sound ones leave
 * was not measured ({@link nariz.carburetor.Family#incurableShape}) the standard deviation is {@value #UNMEASURED}
 * times that.
 */
final class Unexplained {
    /** How far a circuit's share may be off beyond what was estimated. */
    private static final double CIRCUIT_SD = 0.2;
    /** Level of a way of running; of idle, whose port follows no slot and no hole. */
    private static final double LEVEL_SD = 0.02;
    private static final double IDLE_SD = 0.12;
    /** How far the shape of the model is too pronounced or too flat. */
    private static final double BEND_SD = 0.4;
    private static final double SMOOTH_SD = 0.015;
    private static final double UNMEASURED = 1.5;

    /** A drive that says nothing of a fault. */
    static final Size NOTHING = new Size(0.0, Double.POSITIVE_INFINITY);

    private final DecompositionSolver solver;
    private final double[] solvedQ;
    private final double doubt;

    /**
     * Size of a fault.
     *
     * @param gamma in units of its shape
     * @param sd standard deviation
     */
    record Size(double gamma, double sd) {
    }

    Unexplained(BuildSheet sheet, Scorer scorer, Estimate estimate) {
        List<Cell> cells = estimate.cells();
        int m = cells.size();
        doubt = sheet.carburetor().family().incurableShape() > 0.0 ? UNMEASURED : 1.0;
        double[][] phi = estimate.carburetor().phi(sheet, cells);
        double[] total = Arrays.stream(phi).mapToDouble(p -> Arrays.stream(p).sum()).toArray();
        double[] q = new double[m];
        for (int i = 0; i < m; i++) {
            q[i] = Math.log(cells.get(i).phi() / total[i]);
        }
        List<double[]> free = directions(scorer, phi, total);
        RealMatrix k = new Array2DRowRealMatrix(m, m);
        double ambient = sheet.ambient().pressurePa();
        for (int i = 0; i < m; i++) {
            Cell a = cells.get(i);
            for (int j = 0; j <= i; j++) {
                double v = SMOOTH_SD * SMOOTH_SD * SoundScatter.kinship(a, cells.get(j), ambient);
                for (double[] f : free) {
                    v += f[i] * f[j];
                }
                k.setEntry(i, j, v);
                k.setEntry(j, i, v);
            }
            k.addToEntry(i, i, SoundScatter.own(a));
        }
        solver = Symmetric.factored(k, 1e-14).getSolver();
        solvedQ = solver.solve(new ArrayRealVector(q, false)).toArray();
    }

    /** Directions in which the model may be off, each scaled to its standard deviation. */
    private static List<double[]> directions(Scorer scorer, double[][] phi, double[] total) {
        int m = total.length;
        List<double[]> out = new ArrayList<>();
        for (int c = 0; c < phi[0].length; c++) {
            double[] share = new double[m];
            for (int i = 0; i < m; i++) {
                share[i] = CIRCUIT_SD * phi[i][c] / total[i];
            }
            out.add(share);
        }
        for (Regime g : Regime.values()) {
            double[] level = new double[m];
            for (int i = 0; i < m; i++) {
                level[i] = scorer.regime(i) != g ? 0.0 : g == Regime.IDLE ? IDLE_SD : LEVEL_SD;
            }
            out.add(level);
            out.add(Arrays.stream(scorer.shape(total, g)).map(v -> BEND_SD * v).toArray());
        }
        return out;
    }

    /**
     * Reads the size of a fault.
     *
     * @param shape relative change of phi by cell at gamma = 1
     * @return its size; without limits where it has no shape on this drive
     */
    Size of(double[] shape) {
        double[] solved = solver.solve(new ArrayRealVector(shape, false)).toArray();
        double square = 0.0;
        double along = 0.0;
        for (int i = 0; i < shape.length; i++) {
            square += shape[i] * solved[i];
            along += shape[i] * solvedQ[i];
        }
        return square > 0.0 ? new Size(along / square, doubt / Math.sqrt(square)) : NOTHING;
    }
}
