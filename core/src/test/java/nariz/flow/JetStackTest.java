package nariz.flow;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.PartChange;
import nariz.carburetor.ProgressionHole;
import nariz.carburetor.Stage;
import nariz.sim.Demo;
import nariz.units.Units;
import org.testng.annotations.Test;

/** Jet stacks and progression holes. */
public class JetStackTest {
    private static final BuildSheet SHEET = Demo.ROADSTER.sheet();

    private static double phi(BuildSheet sheet, Circuit.Role role, double rpm, double inHg) {
        DeliveryModel m = sheet.carburetor().family().model(sheet);
        Delivery d = m.newDelivery();
        m.evaluate(rpm, inHg * Units.INHG, d);
        return d.phi(sheet.carburetor().family().circuit(Stage.PRIMARY, role).orElseThrow());
    }

    private static BuildSheet with(String change) {
        return PartChange.parse(change, SHEET).orElseThrow().fit(SHEET);
    }

    @Test
    public void holesArePassedOneAfterTheOther() {
        Passages.Holes holes = new Passages.Holes(List.of(new ProgressionHole(1e-3, 0.6e-3), new ProgressionHole(0.8e-3,
                2e-3)), Passages.Holes.DRAWN);
        double first = Units.holeArea(1e-3);
        assertThat(holes.totalM2()).isCloseTo(first + Units.holeArea(0.8e-3), within(1e-12));
        assertThat(holes.belowM2(-1e-3)).isLessThan(0.01 * first);
        assertThat(holes.belowM2(0.6e-3)).isCloseTo(0.5 * first, within(0.02 * first));
        assertThat(holes.belowM2(1.3e-3)).isCloseTo(first, within(0.06 * first));
        assertThat(holes.belowM2(4e-3)).isCloseTo(holes.totalM2(), within(1e-9));
        assertThat(holes.belowM(1e-3)).isNaN();
        // A plate that sits lower than drawn passes them later.
        assertThat(new Passages.Holes(holes.holes(), 0.7 * Passages.Holes.DRAWN).belowM2(0.6e-3)).isLessThan(holes
                .belowM2(0.6e-3));
    }

    @Test
    public void sheetsHolesAreDrawnAndTheModelKnowsThePlatesEdge() {
        List<ProgressionHole> holes = SHEET.carburetor().family().holes(SHEET);
        assertThat(holes).hasSize(3);
        assertThat(holes.get(1).heightM()).isCloseTo(1.25e-3, within(1e-9));
        DeliveryModel m = SHEET.carburetor().family().model(SHEET);
        assertThat(m.edgeTravelM(0)).isZero();
        assertThat(m.edgeTravelM(0.2)).isGreaterThan(m.edgeTravelM(0.1));
        assertThat(m.stationAt(0.01)).isNaN();
    }

    @Test
    public void partsWorkWhereTheyShould() {
        assertThat(phi(with("main-jet=1.3"), Circuit.Role.METERING, 5000, 1)).isGreaterThan(1.1 * phi(SHEET,
                Circuit.Role.METERING, 5000, 1));
        assertThat(phi(with("idle-jet=0.45"), Circuit.Role.PROGRESSION, 2000, 17)).isGreaterThan(1.05 * phi(SHEET,
                Circuit.Role.PROGRESSION, 2000, 17));
        double low = phi(with("air-corrector=3.0"), Circuit.Role.METERING, 2500, 3) / phi(SHEET, Circuit.Role.METERING,
                2500, 3);
        double high = phi(with("air-corrector=3.0"), Circuit.Role.METERING, 6000, 1) / phi(SHEET, Circuit.Role.METERING,
                6000, 1);
        assertThat(high).isLessThan(low).isLessThan(1.0);
    }

    @Test
    public void rowsOfTheEmulsionTubeUncoverAndLeanWhatFlows() {
        BuildSheet few = BuildSheetReader.parse("few", Demo.ROADSTER.sheetJson().replace("\"idleJet\"",
                "\"emulsionTube\": [{\"depth\": \"25 mm\", \"diameter\": \"0.8 mm\", \"holes\": 1}], \"idleJet\""));
        assertThat(phi(few, Circuit.Role.METERING, 3000, 2)).isGreaterThan(phi(SHEET, Circuit.Role.METERING, 3000, 2));
    }

    @Test
    public void oneBarrelACylinderPulls() {
        BuildSheet plenum = BuildSheetReader.parse("plenum", Demo.ROADSTER.sheetJson().replace("\"count\": 3",
                "\"count\": 2"));
        // The same air through each barrel, once in pulses and once steadily.
        DeliveryModel alone = SHEET.carburetor().family().model(SHEET);
        DeliveryModel shared = plenum.carburetor().family().model(plenum);
        Delivery a = alone.newDelivery();
        Delivery b = shared.newDelivery();
        alone.evaluateAir(0.09, 0.09, 3e3, 1.0, a);
        shared.evaluateAir(0.06, 0.06, 3e3, 1.0, b);
        Circuit main = SHEET.carburetor().family().circuit(Stage.PRIMARY, Circuit.Role.METERING).orElseThrow();
        assertThat(a.phi(main)).isGreaterThan(1.1 * b.phi(main));
    }
}
