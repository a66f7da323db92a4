package nariz.estimation;

import org.hipparchus.linear.CholeskyDecomposition;
import org.hipparchus.linear.RealMatrix;

/**
 * Cholesky factors of covariances and precisions that are symmetric but for rounding.
 *
 * <p>The library compares the two halves relative to their entries: where large terms cancel to nearly nothing the
 * halves agree to the rounding of the terms and to no digit of what is left, and a sound matrix would be refused.
 */
public final class Symmetric {
    private static final double ANY = 1e300;

    private Symmetric() {
    }

    /**
     * Factors the lower half of a matrix, as though the upper were its mirror.
     *
     * @param m symmetric but for rounding; its upper half is set to the mirror of the lower
     * @param least least pivot, in units of the matrix
     * @return the factor
     * @throws org.hipparchus.exception.MathIllegalArgumentException when it is not positive definite
     */
    public static CholeskyDecomposition factored(RealMatrix m, double least) {
        for (int i = 0; i < m.getRowDimension(); i++) {
            for (int j = 0; j < i; j++) {
                m.setEntry(j, i, m.getEntry(i, j));
            }
        }
        return new CholeskyDecomposition(m, ANY, least);
    }
}
