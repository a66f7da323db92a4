package nariz.flow;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.testing.Samples;
import nariz.units.Units;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class MeteredModelTest {
    private static final BuildSheet SHEET = BuildSheetReader.parse("six.json", Samples.sheet());
    private final Delivery flow = new Delivery(SHEET.carburetor().family().circuits().size());

    private double phi(BuildSheet s, double rpm, double inHg, Circuit... circuits) {
        s.carburetor().family().model(s).evaluate(rpm, inHg * Units.INHG, flow);
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
        assertThat(phi(SHEET, 820, 18, MeteredCircuits.IDLE, MeteredCircuits.TRANSFER) / phi(SHEET, 820,
                18)).isGreaterThan(0.85);
        assertThat(phi(SHEET, 1800, 18, MeteredCircuits.TRANSFER)).isGreaterThan(phi(SHEET, 1800, 18,
                MeteredCircuits.MAIN));
        assertThat(phi(SHEET, 2600, 8, MeteredCircuits.MAIN) / phi(SHEET, 2600, 8)).isGreaterThan(0.55);
        assertThat(phi(SHEET, 3000, 8, MeteredCircuits.POWER)).isZero();
        assertThat(phi(SHEET, 3000, 4, MeteredCircuits.POWER)).isGreaterThan(0.1);
        assertThat(phi(SHEET, 4000, 0.5, MeteredCircuits.SECONDARY_MAIN)).isGreaterThan(0.3);
    }

    @DataProvider
    Object[][] effects() {
        // part, to, rpm, inHg, least and greatest relative change of phi: a jet's area goes with diameter squared.
        return new Object[][] {
            {MeteredParts.MAIN_JET, 64, 2800, 7, 0.03, 0.12}, {MeteredParts.MAIN_JET, 64, 820, 18, -0.005, 0.005},
            {MeteredParts.IDLE_FEED_RESTRICTION, 37, 820, 18, 0.06, 0.20},
            {MeteredParts.IDLE_FEED_RESTRICTION, 37, 4500, 0.5, -0.01, 0.01},
            {MeteredParts.MIXTURE_SCREW, 3, 820, 18, 0.04, 0.30}, {MeteredParts.IDLE_AIR_BLEED, 88, 820, 18, -0.25,
            -0.03},
            {MeteredParts.HIGH_SPEED_AIR_BLEED, 40, 3000, 5, -0.12, -0.01},
            {MeteredParts.POWER_CHANNEL_RESTRICTION, 40, 3000, 4, 0.08, 0.30},
            {MeteredParts.POWER_CHANNEL_RESTRICTION, 40, 2600, 9, -1e-9, 1e-9},
        };
    }

    @Test(dataProvider = "effects")
    public void partMovesItsOwnCircuitByAboutItsArea(Part part, double to, double rpm, double inHg, double low,
            double high) {
        double was = phi(SHEET, rpm, inHg);
        double is = phi(part.fit(SHEET, Stage.PRIMARY, to), rpm, inHg);
        assertThat(is / was - 1).as("%s to %.0f", part, to).isBetween(low, high);
    }

    @Test
    public void plateAngleAndAirAreInverse() {
        DeliveryModel m = SHEET.carburetor().family().model(SHEET);
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
