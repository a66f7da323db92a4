package nariz.estimation;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * Corrections of circuits with a level each: the fuel a circuit delivers over what the standard carburetor with the
 * sheet's parts would, K_c = sum_i w_i (k_c phi_ic(z) + its share of g_i) / sum_i w_i phi_ic(0), and their derivatives
 * by the unknowns. The slope of the metering circuit is read the same way.
 */
final class LevelCorrections {
    /** Part of phi below which a circuit counts as not used. */
    static final double TINY = 0.004;
    private static final double LN2 = Math.log(2.0);
    /** A slope is read where main gives this share of the fuel, over this many doublings of airflow. */
    private static final double LEAST_MAIN = 1.0 / 3.0;
    private static final double LEAST_SPAN = 0.7;

    private final Unknowns places;
    private final List<Cell> cells;
    private final double[][] standard;
    private final double[] weight;
    private final SheetFuel fuel;
    private final double[] lnAir;
    private final double[][] base;
    private final double[][][] bend;
    private final double[] level;

    /**
     * Sets up what is read from.
     *
     * @param places of the unknowns
     * @param cells m cells
     * @param standard phi of the standard carburetor with the sheet's parts, by cell and circuit
     * @param weight of each cell
     * @param lnAir logarithm of each cell's airflow over that at which the slope is nought
     * @param base phi of the carburetor the equations are linearised around, by cell and circuit
     * @param bend its derivatives, by coefficient, cell and circuit
     * @param level of each circuit there
     */
    LevelCorrections(Unknowns places, List<Cell> cells, double[][] standard, double[] weight, double[] lnAir,
            double[][] base, double[][][] bend, double[] level) {
        this.places = places;
        this.cells = cells;
        this.standard = standard;
        this.weight = weight;
        this.base = base;
        this.bend = bend;
        this.level = level;
        this.lnAir = lnAir;
        fuel = new SheetFuel(standard, weight, TINY);
    }

    /** What a circuit delivers in a cell. */
    private double delivered(int i, int c, double[][] phi, RealVector u, double[] rest) {
        double factor = u.getEntry(c) + (c == places.metering() ? u.getEntry(places.slope()) * lnAir[i] : 0.0);
        return phi[i][c] * (factor + rest[i] / Math.max(Arrays.stream(phi[i]).sum(), 1e-6));
    }

    /**
     * A circuit's correction.
     *
     * @param c circuit
     * @param phi of the found carburetor, by cell and circuit
     * @param u the unknowns
     * @param rest what it leaves in every cell
     * @return delivered over the sheet's
     */
    double mean(int c, double[][] phi, RealVector u, double[] rest) {
        if (!fuel.used(c)) {
            return u.getEntry(c);
        }
        double sum = 0.0;
        for (int i = 0; i < weight.length; i++) {
            sum += weight[i] * delivered(i, c, phi, u, rest);
        }
        return sum / fuel.of(c);
    }

    /** {@return derivatives of every circuit's correction by every unknown} */
    RealMatrix gradients() {
        RealMatrix g = MatrixUtils.createRealMatrix(places.circuits(), places.count());
        for (int c = 0; c < places.circuits(); c++) {
            if (!fuel.used(c)) {
                // Nothing but its level can be told.
                g.setEntry(c, c, 1.0);
                continue;
            }
            for (int i = 0; i < weight.length; i++) {
                double w = weight[i] / fuel.of(c);
                g.addToEntry(c, c, w * base[i][c]);
                for (int j = 0; j < places.bends(); j++) {
                    g.addToEntry(c, places.firstBend() + j, w * level[c] * bend[j][i][c]);
                }
                if (c == places.metering()) {
                    g.addToEntry(c, places.slope(), w * base[i][c] * lnAir[i]);
                }
            }
        }
        return g;
    }

    /**
     * Slope of the metering circuit: weighted straight line through r_i = delivered/sheet over x_i = log2 airflow, in
     * cells where the sheet gives it a third of the fuel. It is a linear function sum_i v_i r_i of the unknowns, so
     * that its variance follows from theirs; half of the model error's prior variance is left, as for the levels.
     *
     * @param phi of the found carburetor, by cell and circuit
     * @param u the unknowns
     * @param rest what it leaves in every cell
     * @param posterior covariance of the unknowns
     * @param sigma the model's error, as a share of phi
     * @param ambientPa ambient pressure, Pa
     * @return the slope, or empty where the airflow spans too little
     */
    Optional<Slope> slope(double[][] phi, RealVector u, double[] rest, RealMatrix posterior, double sigma,
            double ambientPa) {
        int c = places.metering();
        double[] v = slopeWeights(c);
        if (v.length == 0) {
            return Optional.empty();
        }
        RealVector g = new ArrayRealVector(places.count());
        double b = 0.0;
        double left = 0.0;
        for (int i = 0; i < weight.length; i++) {
            double share = v[i] / Math.max(standard[i][c], 1e-9);
            b += share * delivered(i, c, phi, u, rest);
            g.addToEntry(c, share * base[i][c]);
            g.addToEntry(places.slope(), share * base[i][c] * lnAir[i]);
            for (int j = 0; j < places.bends(); j++) {
                g.addToEntry(places.firstBend() + j, share * level[c] * bend[j][i][c]);
            }
            for (int k = 0; k < weight.length; k++) {
                left += v[i] * v[k] * cells.get(i).kinship(cells.get(k), ambientPa);
            }
        }
        double sd = Math.sqrt(Math.max(0.0, g.dotProduct(posterior.operate(g))) + 0.25 * sigma * sigma * left);
        return Optional.of(new Slope(b, b - Estimate.Z90 * sd, b + Estimate.Z90 * sd));
    }

    /** v_i = w_i (x_i - mean x)/sum w (x - mean x)^2; empty when the airflow spans less than a factor of 1.6. */
    private double[] slopeWeights(int circuit) {
        double[] v = new double[weight.length];
        double sum = 0.0;
        double mean = 0.0;
        double least = Double.POSITIVE_INFINITY;
        double most = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < v.length; i++) {
            if (standard[i][circuit] > LEAST_MAIN * Arrays.stream(standard[i]).sum()) {
                double x = lnAir[i] / LN2;
                v[i] = weight[i];
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
        for (int i = 0; i < v.length; i++) {
            double d = lnAir[i] / LN2 - mean / sum;
            square += v[i] * d * d;
            v[i] *= d;
        }
        for (int i = 0; i < v.length; i++) {
            v[i] /= square;
        }
        return v;
    }
}
