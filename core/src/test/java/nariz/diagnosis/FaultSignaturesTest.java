package nariz.diagnosis;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.util.stream.Stream;
import nariz.carburetor.BuildSheet;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.Observation;
import nariz.log.DriveLog;
import nariz.sim.Demo;
import nariz.sim.DemoDrive;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class FaultSignaturesTest {
    /** Scale of a worn cleaner's drop, kPa, as FaultSignatures has it. */
    private static final double SCALE = 2.5;

    @DataProvider
    Object[][] readings() {
        return new Object[][] {{-1.8, 2.0}, {0.0, 0.4}, {0.0, 2.0}, {1.0, 0.4}, {3.0, 1.5}, {6.0, 1.0}};
    }

    @Test(dataProvider = "readings")
    public void evidenceOfAnAirCleanerIsTheRatioOfTwoIntegrals(double read, double sd) {
        // Integrated by the trapezoidal rule: drop half normal against a drop of nought.
        double with = 0.0;
        int n = 200_000;
        double step = 12.0 * SCALE / n;
        for (int i = 0; i <= n; i++) {
            double x = i * step;
            double half = 2.0 * normal(x, SCALE) * normal(read - x, sd);
            with += (i == 0 || i == n ? 0.5 : 1.0) * step * half;
        }
        assertEquals(FaultSignatures.cleanerMark(read, sd), Math.log(with / normal(read, sd)), 1e-4);
    }

    @Test
    public void noDropWideOpenSpeaksAgainstAnAirCleanerAndASteepOneForIt() {
        assertTrue(FaultSignatures.cleanerMark(0.0, 0.5) < -1.5);
        assertTrue(FaultSignatures.cleanerMark(-1.0, 0.5) < FaultSignatures.cleanerMark(0.0, 0.5));
        assertTrue(FaultSignatures.cleanerMark(3.0, 0.5) > 10.0);
    }

    @Test
    public void aThrottleThatWasNeverWideOpenSaysNothingOfTheAirCleaner() {
        assertEquals(FaultSignatures.cleanerMark(0.0, Double.POSITIVE_INFINITY), 0.0);
    }

    /** A leak of any size is in the bands of a needle that were found, and what is left of it says nothing. */
    @Test
    public void whatANeedleFoundLeavesUnexplainedSaysNothingOfALeak() {
        assertTrue(leaks(Demo.SMALL_FOUR.sheet(), Demo.SMALL_FOUR.drive().log()).allMatch(f -> Double.isInfinite(
                f.gammaSd())));
        assertTrue(leaks(DemoDrive.sheet(), DemoDrive.drive().log()).allMatch(f -> f.gammaSd() < 10.0));
    }

    private static Stream<FaultSignature> leaks(BuildSheet sheet, DriveLog log) {
        Observation o = Observation.of(log, sheet, () -> false);
        Estimate e = Estimator.of(o);
        return FaultSignatures.of(new Scorer(sheet, Strategy.BALANCED, e), e, o).stream().filter(FaultSignature::leak);
    }

    private static double normal(double x, double sd) {
        return Math.exp(-0.5 * x * x / (sd * sd)) / (sd * Math.sqrt(2.0 * Math.PI));
    }
}
