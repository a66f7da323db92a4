package nariz.flow;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Needle;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.sim.Demo;
import nariz.units.Units;
import org.testng.annotations.Test;

/** A piston, a needle and a jet. */
public class NeedleModelTest {
    private static final BuildSheet SHEET = Demo.SMALL_FOUR.sheet();

    private static Delivery at(BuildSheet sheet, double rpm, double inHg) {
        DeliveryModel m = sheet.carburetor().family().model(sheet);
        Delivery d = m.newDelivery();
        m.evaluate(rpm, inHg * Units.INHG, d);
        return d;
    }

    private static BuildSheet with(String change) {
        return PartChange.parse(change, SHEET).orElseThrow().fit(SHEET);
    }

    @Test
    public void needleIsStraightBetweenStationsAndGoesOnBeyondThem() {
        Needle n = new Needle(2e-3, List.of(2.2e-3, 2.1e-3, 1.9e-3));
        assertThat(n.diameterM(0)).isEqualTo(2.2e-3);
        assertThat(n.diameterM(3e-3)).isCloseTo(2.0e-3, within(1e-12));
        assertThat(n.diameterM(5e-3)).isCloseTo(1.8e-3, within(1e-12));
        assertThat(n.diameterM(-1e-3)).isCloseTo(2.25e-3, within(1e-12));
        assertThat(n.lengthM()).isEqualTo(4e-3);
        assertThatThrownBy(() -> new Needle(2e-3, List.of(2e-3))).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    public void moreAirLiftsThePistonAndTheNeedleMetersFurtherDown() {
        DeliveryModel m = SHEET.carburetor().family().model(SHEET);
        double last = -1;
        for (double air = 0.002; air < 0.06; air += 0.004) {
            double at = m.stationAt(air);
            assertThat(at).isGreaterThanOrEqualTo(last);
            last = at;
        }
        assertThat(last).isGreaterThan(5);
        assertThat(m.stationAt(0.0)).isLessThan(1);
    }

    @Test
    public void bandsShareTheFuelOfOneAnnulus() {
        Delivery idle = at(SHEET, 850, 19);
        Delivery pull = at(SHEET, 4500, 1);
        Circuit first = SHEET.carburetor().family().circuits().getFirst();
        assertThat(idle.phi(first)).isCloseTo(idle.total(), within(0.05 * idle.total()));
        assertThat(pull.phi(first)).isZero();
        for (Delivery d : new Delivery[] {idle, pull}) {
            assertThat(SHEET.carburetor().family().circuits().stream().mapToDouble(d::phi).sum()).isCloseTo(d.total(),
                    within(1e-12));
        }
    }

    @Test
    public void lowerJetAndThinnerNeedleAreRicherWhereTheyWork() {
        assertThat(at(with("jet-height=1.25"), 850, 19).total()).isGreaterThan(1.05 * at(SHEET, 850, 19).total());
        assertThat(at(with("needle-pull=75.9"), 4000, 3).total()).isGreaterThan(1.05 * at(SHEET, 4000, 3).total());
        assertThat(at(with("needle-pull=75.9"), 850, 19).total()).isEqualTo(at(SHEET, 850, 19).total());
        // A turn of the jet does much more at idle, where the gap is narrow, than with the piston up.
        double atIdle = at(with("jet-height=1.25"), 850, 19).total() / at(SHEET, 850, 19).total();
        double up = at(with("jet-height=1.25"), 4500, 1).total() / at(SHEET, 4500, 1).total();
        assertThat(atIdle - 1).isGreaterThan(2 * (up - 1));
    }

    @Test
    public void stifferSpringHoldsThePistonLower() {
        BuildSheet stiff = SHEET.withCarburetor(SHEET.carburetor().with("primary.pistonSpring", "stiff"));
        DeliveryModel m = stiff.carburetor().family().model(stiff);
        assertThat(m.stationAt(0.02)).isLessThan(SHEET.carburetor().family().model(SHEET).stationAt(0.02));
    }

    @Test
    public void needleNeverGrowsThickerTowardsItsTip() {
        Part pull = SHEET.carburetor().family().parts().stream().filter(p -> "needle-pull".equals(p.key())).findFirst()
                .orElseThrow();
        BuildSheet thick = pull.fit(SHEET, Stage.PRIMARY, 88);
        var d = thick.carburetor().each("primary.needle.diameters");
        for (int i = 1; i < d.size(); i++) {
            assertThat(d.get(i)).isLessThanOrEqualTo(d.get(i - 1));
        }
    }

    @Test
    public void plateFindsTheAngleOfItsAir() {
        DeliveryModel m = SHEET.carburetor().family().model(SHEET);
        double last = -1;
        for (double air = 0.003; air < 0.03; air += 0.003) {
            double theta = m.angleFor(air, 10 * Units.INHG);
            assertThat(theta).isGreaterThan(last);
            last = theta;
        }
    }
}
