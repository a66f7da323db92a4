package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.flow.FlowCoefficient;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

public class EarlierEstimateTest {
    private static final Observation FIRST = Observation.of(DemoDrive.drive().log(), DemoDrive.sheet(), () -> false);
    private static final Estimate KNOWN = Estimator.of(FIRST);

    @Test
    public void secondDriveOnOtherPartsStartsFromTheFirstAndKnowsMore() {
        BuildSheet after = MeteredParts.MAIN_JET.fit(DemoDrive.sheet(), Stage.PRIMARY, 64);
        Observation second = Observation.of(DemoDrive.drive(after, 77).log(), after, () -> false);
        Estimate fresh = Estimator.of(second);
        Estimate carried = Estimator.of(second, Optional.of(KNOWN.carried()));
        double before = 0;
        double now = 0;
        for (Circuit c : new Circuit[] {MeteredCircuits.IDLE, MeteredCircuits.TRANSFER, MeteredCircuits.MAIN,
                MeteredCircuits.POWER}) {
            before += fresh.high(c) - fresh.low(c);
            now += carried.high(c) - carried.low(c);
        }
        assertThat(now).isLessThan(0.95 * before);
        assertThat(carried.carried().mean()).hasSameSizeAs(KNOWN.carried().names().toArray());
    }

    @Test
    public void everyUnknownHasANameAndAVariance() {
        EarlierEstimate c = KNOWN.carried();
        assertThat(KNOWN.carried().names()).doesNotHaveDuplicates().contains("main slope", "plate position",
                "slot start");
        for (int i = 0; i < c.mean().length; i++) {
            assertThat(c.covariance()[i][i]).as(KNOWN.carried().names().get(i)).isPositive();
            for (int j = 0; j < i; j++) {
                assertThat(c.covariance()[i][j]).isCloseTo(c.covariance()[j][i], within(1e-9));
            }
        }
    }

    @Test
    public void sizesThatAreOnlyAssumedWidenTheInterval() {
        String json = DemoDrive.sheetJson();
        BuildSheet without = BuildSheetReader.parse("guess.json", json
                .replaceFirst("\"idleFeedRestriction\": \"37 thou\",", "")
                .replaceFirst("\"idleAirBleed\": \"78 thou\",", "")
                .replaceFirst("\"mixtureScrew\": \"2.375 turns\",", ""));
        assertThat(without.assumed()).anyMatch(a -> a.startsWith("carburetor.primary.idleFeedRestriction "));
        Estimate guess = Estimator.of(Observation.of(DemoDrive.drive().log(), without, () -> false));
        assertThat(width(guess)).isGreaterThan(1.05 * width(KNOWN));
    }

    private static double width(Estimate e) {
        return (e.high(MeteredCircuits.IDLE) - e.low(MeteredCircuits.IDLE)) / e.correction(MeteredCircuits.IDLE);
    }

    @Test
    public void carburetorFoundExplainsTheCellsBetterThanTheStandardOne() {
        double found = 0;
        double standard = 0;
        double[][] plain = Calibrated.standard(DemoDrive.sheet()).phi(DemoDrive.sheet(), KNOWN.cells());
        double[] with = KNOWN.phiWith(DemoDrive.sheet());
        for (int i = 0; i < with.length; i++) {
            double y = KNOWN.cells().get(i).phi();
            double sum = 0;
            for (double p : plain[i]) {
                sum += p;
            }
            found += Math.abs(with[i] / y - 1);
            standard += Math.abs(sum / y - 1);
        }
        assertThat(found).isLessThan(0.5 * standard);
    }

    @Test
    public void coefficientsAreDrawnAroundTheStandardWithinTwoSpreads() {
        java.util.Random r = new java.util.Random(3);
        for (int n = 0; n < 50; n++) {
            Coefficients k = FlowCoefficient.STANDARD.drawn(List.of(FlowCoefficient.values()), r, 1.0);
            for (FlowCoefficient c : FlowCoefficient.values()) {
                double log = Math.log(k.of(c) / c.standard());
                assertThat(Math.abs(log)).as(c.name()).isLessThanOrEqualTo(2 * c.spread() + 1e-9);
            }
        }
        assertThat(FlowCoefficient.STANDARD.scaled(FlowCoefficient.SPILL,
                Math.log(2)).of(FlowCoefficient.SPILL))
                .isEqualTo(2 * FlowCoefficient.SPILL.standard(), within(1e-12));
    }
}
