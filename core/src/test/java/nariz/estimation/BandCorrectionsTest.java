package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.RealMatrix;
import org.testng.annotations.Test;

/** Corrections of bands of one profile, worked out by hand for three cells and two bands. */
public class BandCorrectionsTest {
    private static final double[][] SHEET = {{0.9, 0.0, 0.0}, {0.5, 0.5, 0.0}, {0.0, 1.0, 0.0}};
    private static final double[] WEIGHT = {10.0, 4.0, 10.0};

    /** A tenth rich in the first cell, a fifth in the one that both share, right in the last. */
    @Test
    public void allTheFuelOfAPlaceCountsByTheSheetsShares() {
        double[] mean = {7.0, 7.0, 7.0};
        double[] sd = new double[3];
        new BandCorrections(SHEET, WEIGHT, 0.01).of(new double[] {0.99, 1.2, 1.0}, MatrixUtils.createRealMatrix(3, 3),
                new double[3], mean, sd);
        assertThat(mean[0]).isEqualTo((10 * 0.99 + 4 * 0.6) / (10 * 0.9 + 4 * 0.5), within(1e-12));
        assertThat(mean[1]).isEqualTo((4 * 0.6 + 10 * 1.0) / (4 * 0.5 + 10 * 1.0), within(1e-12));
        assertThat(mean[2]).as("a band that the drive did not use is left as it is").isEqualTo(7.0);
        assertThat(sd[0]).as("what all cells share is never averaged out").isEqualTo(0.008 * mean[0], within(1e-12));
    }

    @Test
    public void errorsOfCellsAverageOutAndOverlapDoesNot() {
        RealMatrix own = MatrixUtils.createRealDiagonalMatrix(new double[] {1e-4, 1e-4, 1e-4});
        double[] mean = new double[3];
        double[] sd = new double[3];
        BandCorrections bands = new BandCorrections(SHEET, WEIGHT, 0.01);
        RealMatrix covariance = bands.of(new double[] {0.9, 1.0, 1.0}, own, new double[] {0.02, 0.02, 0.02}, mean, sd);
        double a = 10.0 / 11.0;
        double b = 2.0 / 11.0;
        double variance = 1e-4 * (a * a + b * b);
        assertThat(covariance.getEntry(0, 0)).isEqualTo(variance, within(1e-12));
        double shared = 0.02 * 0.02 * (a + b) * (a + b) + 0.008 * 0.008;
        assertThat(sd[0]).isEqualTo(Math.sqrt(variance + shared), within(1e-12));
        assertThat(covariance.getEntry(0, 1)).as("the cell that both share ties them").isPositive();
    }
}
