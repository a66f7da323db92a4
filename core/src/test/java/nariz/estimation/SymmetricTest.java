package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.hipparchus.exception.MathIllegalArgumentException;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.RealMatrix;
import org.testng.annotations.Test;

public class SymmetricTest {
    @Test
    public void halvesThatDifferInWhatIsLeftOfCancelledTermsAreOneMatrix() {
        RealMatrix m = MatrixUtils.createRealMatrix(new double[][] {{2.0, 3e-19, 0.5}, {-1e-19, 1.0, 0.0},
            {0.5, 0.0, 3.0}});
        double[] x = Symmetric.factored(m, 1e-14).getSolver().solve(new ArrayRealVector(new double[] {2.5, 1.0, 3.5}))
                .toArray();
        assertThat(x).containsExactly(new double[] {1.0, 1.0, 1.0}, within(1e-12));
        assertThat(m.getEntry(0, 1)).isEqualTo(m.getEntry(1, 0));
    }

    @Test
    public void whatIsNoCovarianceIsRefused() {
        RealMatrix m = MatrixUtils.createRealMatrix(new double[][] {{1.0, 2.0}, {2.0, 1.0}});
        assertThatThrownBy(() -> Symmetric.factored(m, 1e-14)).isInstanceOf(MathIllegalArgumentException.class);
    }
}
