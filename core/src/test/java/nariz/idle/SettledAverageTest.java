package nariz.idle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import org.testng.annotations.Test;

public class SettledAverageTest {
    private static final double HZ = 20;

    /** Second by second what is left, until it is done; the last entry is how long it took. */
    private static double[] told(double rpmScatter, double phiScatter, SettledAverage a) {
        Random r = new Random(7);
        double[] still = new double[80];
        for (int s = 0; s < still.length; s++) {
            // An engine lopes: what a second shows differs from the next by more than readings within it do.
            double lope = r.nextGaussian();
            double rich = r.nextGaussian();
            for (int k = 0; k < HZ; k++) {
                a.add(s + k / HZ, 800 + rpmScatter * lope, 45e3, 0.95 + phiScatter * rich, Double.NaN);
            }
            still[s] = a.stillS();
            if (a.reading().isPresent()) {
                double[] out = Arrays.copyOf(still, s + 2);
                out[s + 1] = s + 1;
                return out;
            }
        }
        throw new AssertionError("it never settled");
    }

    @Test
    public void aSteadyEngineIsReadInTheShortestTimeAndSaysSo() {
        double[] told = told(0.2, 0.0005, new SettledAverage());
        double took = told[told.length - 1];
        assertThat(took).isBetween(11.0, 14.0);
        for (int s = 2; s < told.length - 2; s++) {
            assertThat(s + 1 + told[s]).as("second %d", s).isCloseTo(took, within(3.0));
        }
    }

    @Test
    public void anEngineThatLopesIsReadLongerAndTheTimeLeftIsNotAlwaysASecond() {
        double[] told = told(3.0, 0.015, new SettledAverage());
        double took = told[told.length - 1];
        assertThat(took).isGreaterThan(22.0);
        for (int s = 10; s < told.length - 2; s++) {
            assertThat(s + 1 + told[s]).as("second %d of %.0f", s, took).isCloseTo(took, within(0.45 * took));
        }
        assertThat(told[12]).isGreaterThan(6.0);
    }

    /** A big cam's average is worth another half minute; one that is known well enough after half a minute is not. */
    @Test
    public void whatIsStillPoorAfterHalfAMinuteIsReadForAMinute() {
        double[] big = told(14.0, 0.002, new SettledAverage());
        assertThat(big[big.length - 1]).isBetween(60.0, 70.0);
        assertThat(big[40]).as("it says so on the way").isGreaterThan(15.0);
        double[] medium = told(4.0, 0.002, new SettledAverage());
        assertThat(medium[medium.length - 1]).isLessThan(40.0);
    }

    @Test
    public void withASensorInEachBankTheMixtureIsTheMeanOfBoth() {
        SettledAverage a = new SettledAverage();
        for (double t = 0; t < 40 && a.reading().isEmpty(); t += 0.05) {
            a.add(t, 800, 60e3, 1.0 / 1.10, 1.0 / 1.06);
        }
        IdleReading r = a.reading().orElseThrow();
        assertThat(r.phi()).isCloseTo(1.08, within(1e-9));
        assertThat(r.bankPhi()).isCloseTo(-0.04, within(1e-9));
    }

    @Test
    public void whereOneOfTwoSensorsIsSilentTheOtherIsRead() {
        SettledAverage a = new SettledAverage();
        for (double t = 0; t < 40 && a.reading().isEmpty(); t += 0.05) {
            a.add(t, 800, 60e3, Double.NaN, 1.0 / 1.06);
        }
        assertThat(a.reading().orElseThrow().phi()).isCloseTo(1.06, within(1e-9));
    }

    @Test
    public void nothingIsLeftWhenItIsDoneAndNothingIsKnownBeforeItBegan() {
        SettledAverage a = new SettledAverage();
        assertThat(a.stillS()).isNaN();
        told(0.2, 0.0005, a);
        assertThat(a.stillS()).isZero();
        a.restart();
        assertThat(a.stillS()).isNaN();
    }
}
