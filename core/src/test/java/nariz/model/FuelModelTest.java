package nariz.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import nariz.build.BuildSheet;
import nariz.build.BuildSheetReader;
import nariz.build.Part;
import nariz.build.SideName;
import nariz.testing.Samples;
import nariz.units.Units;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class FuelModelTest {
    private static final BuildSheet SHEET = BuildSheetReader.parse("six.json", Samples.sheet());
    private final FuelModel.Flow flow = new FuelModel.Flow();

    private double phi(BuildSheet s, double rpm, double inHg, Circuit... circuits) {
        new FuelModel(s).evaluate(rpm, inHg * Units.INHG, flow);
        double sum = 0;
        for (Circuit c : circuits) {
            sum += flow.phi(c);
        }
        return circuits.length == 0 ? flow.total() : sum;
    }

    @Test
    public void mixtureIsCombustibleWhereverTheEngineRuns() {
        for (double rpm = 800; rpm <= 5600; rpm += 200) {
            for (double v = rpm < 1000 ? 16 : 1; v <= 20; v += 0.5) {
                assertThat(phi(SHEET, rpm, v)).as("%.0f rpm, %.1f inHg", rpm, v).isBetween(0.7, 1.6);
            }
        }
    }

    @Test
    public void nothingJumpsFromOneStateToTheNext() {
        for (double rpm : new double[] {1200, 2400, 4000}) {
            double last = phi(SHEET, rpm, 19);
            for (double v = 19; v >= 0.5; v -= 0.05) {
                double now = phi(SHEET, rpm, v);
                assertThat(now).as("%.0f rpm, %.2f inHg", rpm, v).isCloseTo(last, within(0.035));
                last = now;
            }
        }
    }

    @Test
    public void circuitsSpeakInTheOrderOfWork() {
        assertThat(phi(SHEET, 820, 18, Circuit.IDLE, Circuit.TRANSFER) / phi(SHEET, 820, 18)).isGreaterThan(0.85);
        assertThat(phi(SHEET, 1800, 18, Circuit.TRANSFER)).isGreaterThan(phi(SHEET, 1800, 18, Circuit.MAIN));
        assertThat(phi(SHEET, 2600, 8, Circuit.MAIN) / phi(SHEET, 2600, 8)).isGreaterThan(0.55);
        assertThat(phi(SHEET, 3000, 8, Circuit.POWER)).isZero();
        assertThat(phi(SHEET, 3000, 4, Circuit.POWER)).isGreaterThan(0.1);
        assertThat(phi(SHEET, 4000, 0.5, Circuit.SECONDARY_MAIN)).isGreaterThan(0.3);
    }

    @DataProvider
    Object[][] effects() {
        // part, to, rpm, inHg, least and greatest relative change of phi: a jet's area goes with diameter squared.
        return new Object[][] {
            {Part.MAIN_JET, 64, 2800, 7, 0.03, 0.12}, {Part.MAIN_JET, 64, 820, 18, -0.005, 0.005},
            {Part.IDLE_FEED_RESTRICTION, 37, 820, 18, 0.06, 0.20},
            {Part.IDLE_FEED_RESTRICTION, 37, 4500, 0.5, -0.01, 0.01},
            {Part.MIXTURE_SCREW, 3, 820, 18, 0.04, 0.30}, {Part.IDLE_AIR_BLEED, 88, 820, 18, -0.25, -0.03},
            {Part.HIGH_SPEED_AIR_BLEED, 40, 3000, 5, -0.12, -0.01},
            {Part.POWER_CHANNEL_RESTRICTION, 40, 3000, 4, 0.08, 0.30},
            {Part.POWER_CHANNEL_RESTRICTION, 40, 2600, 9, -1e-9, 1e-9},
        };
    }

    @Test(dataProvider = "effects")
    public void partMovesItsOwnCircuitByAboutItsArea(Part part, double to, double rpm, double inHg, double low,
            double high) {
        double was = phi(SHEET, rpm, inHg);
        double is = phi(part.fit(SHEET, SideName.PRIMARY, to), rpm, inHg);
        assertThat(is / was - 1).as("%s to %.0f", part, to).isBetween(low, high);
    }

    @Test
    public void plateAngleAndAirAreInverse() {
        FuelModel m = new FuelModel(SHEET);
        for (double deg = 2; deg < 70; deg += 4) {
            double v = 8 * Units.INHG;
            double air = m.plateArea(deg * Units.DEG, 0.05) * CompressibleFlow.flux(98600, 290.15, 98600 - v);
            double back = m.angleFor(air, v);
            assertThat(m.plateArea(back, air)).isEqualTo(m.plateArea(deg * Units.DEG, 0.05), within(2e-6));
        }
    }

    @Test
    public void thinnerAirRichens() {
        BuildSheet high = BuildSheetReader.parse("high.json", Samples.sheet().replace("98.6 kPa", "80 kPa"));
        // Rule of the trade: mixture goes rich with the square root of falling density, here sqrt(98.6/80) = 1.11.
        double low = phi(SHEET, 4000, 0.5);
        assertThat(phi(high, 4000, 0.5) / low).isBetween(1.05, 1.14);
    }
}
