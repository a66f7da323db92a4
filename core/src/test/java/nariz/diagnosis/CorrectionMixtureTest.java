package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.estimation.Estimate;
import org.testng.annotations.Test;

/** Corrections that may be a fault's doing. */
public class CorrectionMixtureTest {
    private static CorrectionMixture mixture(double k, double low, double high, CorrectionMixture.Fault... faults) {
        return new CorrectionMixture(k, 0.5 * (high - low) / Estimate.Z90, List.of(faults));
    }

    @Test
    public void withoutFaultsItIsTheEstimatesOwnInterval() {
        CorrectionMixture k = mixture(1.08, 1.00, 1.16);
        assertThat(k.value()).isEqualTo(1.08);
        assertThat(k.quantile(0.05)).isEqualTo(1.00, within(1e-4));
        assertThat(k.quantile(0.95)).isEqualTo(1.16, within(1e-4));
    }

    /** A leak that is likely, and a circuit that gives a tenth more beside it. */
    @Test
    public void aLikelyLeakMovesAndWidensIt() {
        CorrectionMixture k = mixture(0.90, 0.87, 0.93, new CorrectionMixture.Fault(0.8, 1.00, 0.018));
        assertThat(k.value()).isEqualTo(0.90 + 0.8 * 0.10, within(1e-9));
        assertThat(k.quantile(0.95)).isBetween(1.04, 1.06);
        assertThat(k.quantile(0.05)).isBetween(0.87, 0.90);
        assertThat(k.quantile(0.5)).isBetween(0.97, 1.00);
    }

    /** How large the fault is widens what it moves, and nothing else. */
    @Test
    public void theSizeOfAFaultWidensWhatItMoves() {
        double moved = width(mixture(0.90, 0.87, 0.93, new CorrectionMixture.Fault(1.0, 1.10, 0.018)));
        double still = width(mixture(0.90, 0.87, 0.93, new CorrectionMixture.Fault(1.0, 0.90, 0.018)));
        assertThat(moved).isEqualTo(2 * Estimate.Z90 * Math.hypot(0.018, 0.3 * 0.20), within(1e-3));
        assertThat(still).isEqualTo(2 * Estimate.Z90 * 0.018, within(1e-3));
    }

    private static double width(CorrectionMixture k) {
        return k.quantile(0.95) - k.quantile(0.05);
    }

    @Test
    public void anUnlikelyFaultHardlyMovesIt() {
        CorrectionMixture k = mixture(1.0, 0.95, 1.05, new CorrectionMixture.Fault(0.02, 0.95, 0.03));
        assertThat(k.quantile(0.05)).isEqualTo(0.95, within(0.004));
        assertThat(k.quantile(0.95)).isEqualTo(1.05, within(0.002));
    }

    @Test
    public void noCircuitTakesFuelAway() {
        CorrectionMixture k = mixture(0.1, 0.0, 0.2, new CorrectionMixture.Fault(0.5, 0.07, 0.06));
        assertThat(k.quantile(0.001)).isZero();
        assertThat(mixture(1.0, 1.0, 1.0).quantile(0.95)).isEqualTo(1.0, within(1e-4));
    }

    /** Explanations that are cut to the largest may sum to a hair over one. */
    @Test
    public void probabilitiesThatSumToMoreThanOneAreScaled() {
        CorrectionMixture k = mixture(1.0, 0.95, 1.05, new CorrectionMixture.Fault(0.7, 1.0, 0.05 / Estimate.Z90),
                new CorrectionMixture.Fault(0.4, 1.0, 0.05 / Estimate.Z90));
        assertThat(k.value()).isEqualTo(1.0, within(1e-9));
        assertThat(k.quantile(0.95)).isEqualTo(1.05, within(1e-3));
    }
}
