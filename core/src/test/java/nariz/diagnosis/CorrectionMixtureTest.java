package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.testng.annotations.Test;

/** Corrections that may be a fault's doing. */
public class CorrectionMixtureTest {
    private static CorrectionMixture mixture(double k, double low, double high, CorrectionMixture.Fault... faults) {
        return new CorrectionMixture(k, low, high, List.of(faults));
    }

    @Test
    public void withoutFaultsItIsTheEstimatesOwnInterval() {
        CorrectionMixture k = mixture(1.08, 1.00, 1.16);
        assertThat(k.value()).isEqualTo(1.08);
        assertThat(k.quantile(0.05)).isEqualTo(1.00, within(1e-4));
        assertThat(k.quantile(0.95)).isEqualTo(1.16, within(1e-4));
    }

    /** A leak that is likely and makes phi a tenth too low: the circuit may give all of that more. */
    @Test
    public void aLikelyLeakMovesAndWidensIt() {
        CorrectionMixture k = mixture(0.90, 0.87, 0.93, new CorrectionMixture.Fault(0.8, -0.10));
        double d = 0.90 * (Math.exp(0.10) - 1.0);
        assertThat(k.value()).isEqualTo(0.90 + 0.8 * 0.5 * d, within(1e-9));
        assertThat(k.quantile(0.95)).isBetween(0.98, 1.02);
        assertThat(k.quantile(0.05)).isBetween(0.87, 0.91);
        assertThat(k.quantile(0.5)).isGreaterThan(0.92);
    }

    @Test
    public void anUnlikelyFaultHardlyMovesIt() {
        CorrectionMixture k = mixture(1.0, 0.95, 1.05, new CorrectionMixture.Fault(0.02, 0.10));
        assertThat(k.quantile(0.05)).isEqualTo(0.95, within(0.004));
        assertThat(k.quantile(0.95)).isEqualTo(1.05, within(0.002));
    }

    @Test
    public void noCircuitTakesFuelAway() {
        CorrectionMixture k = mixture(0.1, 0.0, 0.2, new CorrectionMixture.Fault(0.5, 0.4));
        assertThat(k.quantile(0.001)).isZero();
        assertThat(mixture(1.0, 1.0, 1.0).quantile(0.95)).isEqualTo(1.0, within(1e-4));
    }

    /** Explanations that are cut to the largest may sum to a hair over one. */
    @Test
    public void probabilitiesThatSumToMoreThanOneAreScaled() {
        CorrectionMixture k = mixture(1.0, 0.95, 1.05, new CorrectionMixture.Fault(0.7, 0.0),
                new CorrectionMixture.Fault(0.4, 0.0));
        assertThat(k.value()).isEqualTo(1.0, within(1e-9));
        assertThat(k.quantile(0.95)).isEqualTo(1.05, within(1e-3));
    }
}
