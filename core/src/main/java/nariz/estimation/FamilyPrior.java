package nariz.estimation;

import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.units.Units;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/** What is known of a carburetor before it was driven: how far those of its family lie from what the sheet promises. */
final class FamilyPrior {
    private static final double IDLE_TRANSFER_CORRELATION = 0.5;
    private static final double SLOPE_SD = 0.03;
    private static final double SHIFT_SD = 0.8 * Units.INHG;
    /** An earlier posterior counts with its covariance times the one plus the family's times the other. */
    private static final double CARRIED_LOOSER = 1.0;
    private static final double CARRIED_FRESH = 0.03;
    private static final double USUAL_STRAIN = 13.0;

    private final BuildSheet sheet;
    private final Unknowns places;
    private final RealMatrix covariance;

    FamilyPrior(BuildSheet sheet, Unknowns places) {
        this.sheet = sheet;
        this.places = places;
        covariance = spreads();
    }

    private RealMatrix spreads() {
        RealMatrix p = MatrixUtils.createRealMatrix(places.count(), places.count());
        double[] sd = new double[places.circuits()];
        for (Circuit c : sheet.carburetor().family().circuits()) {
            int k = c.index();
            sd[k] = Math.hypot(c.levelSd(), Estimator.ASSUMED_SD * Math.sqrt(sheet.assumedSizes(c).size()));
            p.setEntry(k, k, sd[k] * sd[k]);
        }
        for (Circuit a : sheet.carburetor().family().circuits()) {
            for (Circuit b : sheet.carburetor().family().circuits()) {
                if (!a.equals(b) && a.sharesFeed(b)) {
                    p.setEntry(a.index(), b.index(), IDLE_TRANSFER_CORRELATION * sd[a.index()] * sd[b.index()]);
                }
            }
        }
        p.setEntry(places.slope(), places.slope(), SLOPE_SD * SLOPE_SD);
        for (int j = 0; j < places.bends(); j++) {
            p.setEntry(places.firstBend() + j, places.firstBend() + j, 1.0);
        }
        return p;
    }

    /** {@return covariance of the unknowns} */
    RealMatrix covariance() {
        return covariance;
    }

    /** {@return everything as the family has it} */
    RealVector mean() {
        RealVector mean = new ArrayRealVector(places.count());
        for (int c = 0; c < places.circuits(); c++) {
            mean.setEntry(c, 1.0);
        }
        return mean;
    }

    /** {@return how far the enrichment may open from its rating, Pa; one that was only assumed may be two steps off} */
    double shiftSdPa() {
        Carburetor c = sheet.carburetor();
        boolean known = c.family().part(c, Stage.PRIMARY, Part.Role.ENRICHMENT_OPENING).stream().noneMatch(p ->
                sheet.assumed().stream().anyMatch(a -> a.startsWith("carburetor.primary." + p.field() + " ")));
        return known ? SHIFT_SD : 2.0 * SHIFT_SD;
    }

    /**
     * A carburetor that has been opened is not quite the one that was read before.
     *
     * @param before covariance that an earlier drive left
     * @return what it is worth now
     */
    RealMatrix loosened(double[][] before) {
        return new Array2DRowRealMatrix(before).scalarMultiply(CARRIED_LOOSER)
                .add(covariance.scalarMultiply(CARRIED_FRESH));
    }

    /**
     * How far the unknowns had to move, in log probability, beyond what carburetors of a family need: half the sum of
     * squares in prior spreads, less {@value #USUAL_STRAIN}. At 9 three of 28 practice engines with a true sheet were
     * above it.
     *
     * @param u the unknowns
     * @return from 0 up
     */
    double strain(RealVector u) {
        RealVector moved = u.subtract(mean());
        RealVector solved = Symmetric.factored(covariance.copy(), 1e-15).getSolver().solve(moved);
        return Math.max(0.0, 0.5 * moved.dotProduct(solved) - USUAL_STRAIN);
    }
}
