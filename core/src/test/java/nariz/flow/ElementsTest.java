package nariz.flow;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredParts;
import nariz.sim.Demo;
import nariz.testing.Samples;
import nariz.units.Units;
import org.testng.annotations.Test;

/** Each element against values worked by hand or printed in the cited source. */
public class ElementsTest {
    private static final BuildSheet SHEET = BuildSheetReader.parse("six.json", Samples.sheet());
    private static final Barrels PRIMARY = Barrels.of(SHEET.carburetor(), Stage.PRIMARY);
    private static final double AIR = SHEET.ambient().densityKgPerM3();

    @Test
    public void airThroughAnOrificeMatchesTheGasTables() {
        // gamma = 1.4: choked sqrt(1.4) (2/2.4)^3 = 0.68473; at r = 0.8 sqrt(7 (0.8^(10/7) - 0.8^(12/7))) = 0.5607;
        // at r = 0.95 sqrt(7 (0.95^(10/7) - 0.95^(12/7))) = 0.3075.
        assertThat(CompressibleFlow.psi(0.3)).isEqualTo(0.68473, within(1e-5));
        assertThat(CompressibleFlow.psi(0.8)).isEqualTo(0.56066, within(2e-4));
        assertThat(CompressibleFlow.psi(0.95)).isEqualTo(0.30735, within(3e-4));
        assertThat(CompressibleFlow.psi(1.0)).isZero();
        // 1 mm² at 101.3 kPa and 293.15 K, choked: 101300 / sqrt(287 * 293.15) * 0.68473 e-6 = 0.2391 g/s.
        assertThat(1e-6 * CompressibleFlow.flux(101300, 293.15, 40e3)).isEqualTo(2.391e-4, within(2e-7));
    }

    @Test
    public void chokingBeginsWithoutAJump() {
        assertThat(CompressibleFlow.psi(0.5281)).isEqualTo(CompressibleFlow.psi(0.5279), within(1e-5));
    }

    @Test
    public void fillingFallsWithThrottlingAndPeaksInTheMiddle() {
        VolumetricEfficiency v = new VolumetricEfficiency(SHEET.engine(), SHEET.ambient(), FlowCoefficient.STANDARD);
        // Hand value at the peak speed, p_e/p_i = 1.03/1: 0.83 (9.4/8.4 - (1.03 + 0.35)/(1.35 * 8.4)) = 0.8278.
        assertThat(v.at(0.66 * 5600, 98600)).isEqualTo(0.8278, within(5e-4));
        assertThat(v.at(800, 38e3)).isBetween(0.5, 0.62);
        assertThat(v.at(2500, 40e3)).isLessThan(v.at(2500, 90e3));
        // 3.8 L at 3696 rpm, wide open: 0.8278 * 0.0038 * 3696/120 * 98600/(287 * 300.15) = 0.1109 kg/s.
        assertThat(v.airKgPerS(3696, 98600)).isEqualTo(0.1109, within(2e-4));
    }

    @Test
    public void plateAreaRunsFromClearanceToTheVenturisShare() {
        ThrottlePlate p = new ThrottlePlate(PRIMARY, FlowCoefficient.STANDARD);
        double bore = Units.holeArea(0.0395);
        assertThat(p.effectiveArea(0)).isEqualTo(0.8 * 0.003 * bore, within(1e-9));
        // Wide open: plate 0.8 * 1.003 bore, venturi 28.5 mm over sqrt(0.35), in series: 7.25e-4 m².
        double plate = 0.8 * 1.003 * bore;
        double venturi = Units.holeArea(0.0285) / Math.sqrt(0.35);
        assertThat(p.effectiveArea(ThrottlePlate.WIDE_OPEN))
                .isEqualTo(1 / Math.sqrt(1 / (plate * plate) + 1 / (venturi * venturi)), within(1e-8));
        // Edge travel at 5°: 19.75 mm (sin 15° - sin 10°) = 1.682 mm.
        assertThat(p.edgeTravel(5 * Units.DEG)).isEqualTo(1.682e-3, within(1e-6));
    }

    @Test
    public void enrichmentOpensOverItsBandAroundTheRating() {
        Enrichment e = new Enrichment(PRIMARY, FlowCoefficient.STANDARD);
        assertThat(e.opening(8.0 * Units.INHG, 0)).isZero();
        assertThat(e.opening(6.5 * Units.INHG, 0)).isEqualTo(0.5, within(1e-9));
        assertThat(e.opening(5.0 * Units.INHG, 0)).isEqualTo(1.0);
        assertThat(e.opening(6.5 * Units.INHG, 0.75 * Units.INHG)).isEqualTo(1.0);
        assertThat(e.extraM2()).isEqualTo(Units.holeArea(28 * Units.THOU));
    }

    @Test
    public void rodsGiveTheAreaOfTheirStep() {
        String rods = Samples.sheet().replace("block-metered-4", "rod-metered-4")
                .replace("\"powerValve\": \"6.5 inHg\",", "\"rodCruise\": \"40 thou\", \"rodPower\": \"30 thou\",")
                .replace("\"powerChannelRestriction\": \"28 thou\"", "\"stepUpSpring\": \"5 inHg\"");
        Enrichment e = new Enrichment(Barrels.of(BuildSheetReader.parse("rods.json", rods).carburetor(), Stage.PRIMARY),
                FlowCoefficient.STANDARD);
        double thou2 = Math.PI / 4 * 25.4e-6 * 25.4e-6;
        assertThat(e.closedM2()).isEqualTo(thou2 * (61 * 61 - 40 * 40), within(1e-12));
        assertThat(e.extraM2()).isEqualTo(thou2 * (40 * 40 - 30 * 30), within(1e-12));
    }

    @Test
    public void mainWellGivesNothingBelowTheSpillPointAndFollowsAirAboveIt() {
        MainWell w = new MainWell(PRIMARY, SHEET.fuel(), AIR, 0, FlowCoefficient.STANDARD);
        double jet = Units.holeArea(PRIMARY.main().jetM());
        assertThat(w.solve(0.002, jet, 0)).isLessThan(2e-5);
        double at20 = w.solve(0.020, jet, 0);
        double at40 = w.solve(0.040, jet, 0);
        // A jet under a venturi's pull gives fuel in proportion to air once the spill height is small against it.
        assertThat(at40 / at20).isBetween(1.9, 2.6);
        // 20 g/s through 28.5 mm: q = 395 Pa, P = 613 Pa, less 124 Pa of lift; the jet's own flow under at most that
        // pull is 1e-3 kg/s at C = 0.8, the nozzle takes its part: between half and all of it.
        assertThat(at20).isBetween(0.6e-3, 1.25e-3);
    }

    @Test
    public void biggerBleedLeansMoreTheMoreAirFlows() {
        BuildSheet big = MeteredParts.HIGH_SPEED_AIR_BLEED.fit(SHEET, Stage.PRIMARY, 42);
        MainWell a = new MainWell(PRIMARY, SHEET.fuel(), AIR, 0, FlowCoefficient.STANDARD);
        MainWell b = new MainWell(Barrels.of(big.carburetor(), Stage.PRIMARY), SHEET.fuel(), AIR, 0,
                FlowCoefficient.STANDARD);
        double jet = Units.holeArea(PRIMARY.main().jetM());
        double low = b.solve(0.015, jet, 0) / a.solve(0.015, jet, 0);
        double high = b.solve(0.035, jet, 0) / a.solve(0.035, jet, 0);
        assertThat(low).isLessThan(1.0);
        assertThat(high).isLessThan(1.0);
    }

    /** The mean of a pulsing flow's square is more than the square of its mean, and losses go with the square. */
    @Test
    public void venturiThatFeedsOneCylinderLosesMoreThanOneWithAnEvenFlow() {
        Barrels.Throat t = PRIMARY.throat();
        Barrels alone = new Barrels(PRIMARY.bores(), new Barrels.Throat(t.boreM(), t.venturiM(), t.booster(),
                t.plateHoleM(), true), PRIMARY.main(), PRIMARY.idle(), PRIMARY.enrichment());
        double even = new ThrottlePlate(PRIMARY, FlowCoefficient.STANDARD).effectiveArea(ThrottlePlate.WIDE_OPEN);
        double pulsing = new ThrottlePlate(alone, FlowCoefficient.STANDARD).effectiveArea(ThrottlePlate.WIDE_OPEN);
        // In series: 1/A² differs by (1.47 - 1) 0.35 over the square of a venturi of 28.5 mm, 6.379e-4 m².
        assertThat(1 / (pulsing * pulsing) - 1 / (even * even)).isEqualTo(0.47 * 0.35 / (6.379e-4 * 6.379e-4),
                within(500.0));
    }

    /** Two engines of another simulator draw through 0.71 of their venturis' area with the plates wide open. */
    @Test
    public void barrelOfAStackPassesWideOpenWhatOtherEnginesShow() {
        BuildSheet s = Demo.ROADSTER.sheet();
        double venturis = 6 * Units.holeArea(s.carburetor().number("primary.venturi"));
        assertThat(s.carburetor().family().model(s).plateArea(ThrottlePlate.WIDE_OPEN, 0.1) / venturis)
                .isBetween(0.64, 0.78);
    }

    @Test
    public void idleWellBalances() {
        ThrottlePlate p = new ThrottlePlate(PRIMARY, FlowCoefficient.STANDARD);
        IdleNetwork n = new IdleNetwork(PRIMARY, p, SHEET.fuel(), 98600,
                AIR, 0, FlowCoefficient.STANDARD);
        double idle = n.solve(3 * Units.DEG, 38e3, 0);
        // Two bores of such a network feed 6.5 g/s of idle air at phi 1: 2.2e-4 kg/s each.
        assertThat(idle).isBetween(1.2e-4, 3.4e-4);
        assertThat(n.portShare()).isBetween(0.4, 0.99);
        assertThat(n.solve(3 * Units.DEG, 38e3, 300)).isLessThan(idle);
        assertThat(n.solve(9 * Units.DEG, 38e3, 0)).isGreaterThan(1.5 * idle);
        assertThat(n.solve(60 * Units.DEG, 98.4e3, 1500)).isZero();
    }

    @Test
    public void shutScrewsAndShutSlotGiveNoFuel() {
        Barrels shut = Barrels.of(MeteredParts.MIXTURE_SCREW.fit(SHEET, Stage.PRIMARY, 0).carburetor(), Stage.PRIMARY);
        IdleNetwork n = new IdleNetwork(shut, new ThrottlePlate(shut, FlowCoefficient.STANDARD), SHEET.fuel(), 98600,
                AIR, 0, FlowCoefficient.STANDARD);
        assertThat(n.solve(0, 38e3, 0)).isLessThan(2e-5);
    }

    @Test
    public void secondariesFollowTheLinkage() {
        SecondaryOpening s = new SecondaryOpening(SHEET.carburetor(), FlowCoefficient.STANDARD);
        assertThat(s.angle(30 * Units.DEG, 0.05, AIR)).isEqualTo(0.5 * Units.DEG, within(1e-9));
        assertThat(s.angle(60 * Units.DEG, 0.05, AIR)).isEqualTo((0.5 + 79.5 * 0.5) * Units.DEG, within(1e-9));
        assertThat(s.angle(80 * Units.DEG, 0.05, AIR)).isEqualTo(80 * Units.DEG, within(1e-9));
    }

    @Test
    public void pumpGivesBackWhatItDisplacedNoFasterThanItsNozzles() {
        AcceleratorPump pump = new AcceleratorPump(SHEET.carburetor(), 745, AcceleratorPump.USUAL_PLAY);
        double given = 0;
        double most = 0;
        for (int i = 0; i < 400; i++) {
            double rate = pump.step(55 * Units.DEG * Math.min(1.0, i / 20.0), 0.01);
            given += rate * 0.01;
            most = Math.max(most, rate);
        }
        // One stroke of 3 cc at 745 kg/m³ is 2.235 g.
        assertThat(given).isEqualTo(2.235e-3, within(3e-5));
        double nozzle = 2 * 0.7 * Units.holeArea(Pump.of(SHEET.carburetor()).nozzleM()) * Math.sqrt(2 * 745 * 25e3);
        assertThat(most).isLessThanOrEqualTo(nozzle * 1.0001);
        assertThat(pump.step(55 * Units.DEG, 0.01)).isZero();
    }
}
