package nariz.flow;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Kit;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.diagnosis.Candidate;
import nariz.exam.PracticeCase;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import nariz.testing.Samples;
import nariz.units.Units;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * What must hold for any carburetor of either family, whatever its coefficients: tried on engines and carburetors drawn
 * at random, over the whole range of running. No expected number stands here; the signs follow from orifices in series
 * and in parallel (more fuel area, more fuel; more air into a well, less suction left for the fuel).
 */
public class CarburetorPropertiesTest {
    private static final double[] RPM = {0.16, 0.3, 0.5, 0.75, 0.97};
    private static final double[] VACUUM_INHG = {0.6, 3, 6, 9, 12, 16, 20};
    /** Rounding of the root searches, and suction that one circuit takes from its neighbour in the same well. */
    private static final double SLACK = 2e-3;

    /** Drawing an engine sets it up first, which takes seconds: once for all tests. */
    private static final Object[][] CARBURETORS = drawn();

    @DataProvider
    Object[][] carburetors() {
        return CARBURETORS;
    }

    /** Two sheets that are shipped and four engines, each with the standard and with drawn coefficients. */
    private static Object[][] drawn() {
        List<Object[]> out = new ArrayList<>();
        List<BuildSheet> sheets = new ArrayList<>(List.of(DemoDrive.sheet(), BuildSheetReader.parse("six.json",
                Samples.sheet())));
        for (long seed = 71; seed < 75; seed++) {
            sheets.add(PracticeCase.of(seed).fitted());
        }
        for (int i = 0; i < sheets.size(); i++) {
            out.add(new Object[] {i + " standard", sheets.get(i), FlowCoefficient.STANDARD});
            out.add(new Object[] {i + " drawn", sheets.get(i), FlowCoefficient.STANDARD.drawn(
                    List.of(FlowCoefficient.values()), new Random(500 + i), 1.0)});
        }
        return out.toArray(Object[][]::new);
    }

    @FunctionalInterface
    private interface State {
        void at(double rpm, double vacuumPa, String name);
    }

    private static void everywhere(BuildSheet sheet, State s) {
        for (double share : RPM) {
            double rpm = share * sheet.engine().redlineRpm();
            for (double v : VACUUM_INHG) {
                s.at(rpm, v * Units.INHG, String.format(java.util.Locale.ROOT, "%.0f rpm, %.1f inHg", rpm, v));
            }
        }
    }

    private static DeliveryModel model(BuildSheet sheet, double levelM, Coefficients k) {
        return sheet.carburetor().family().model(sheet, levelM, k);
    }

    private static Delivery flow(DeliveryModel m, double rpm, double vacuumPa) {
        Delivery f = new Delivery(7);
        m.evaluate(rpm, vacuumPa, f);
        return f;
    }

    @Test(dataProvider = "carburetors")
    public void fuelIsFiniteNeverNegativeAndTheSumOfItsCircuits(String name, BuildSheet sheet, Coefficients k) {
        DeliveryModel m = sheet.carburetor().family().model(sheet, 0.0, k);
        everywhere(sheet, (rpm, v, where) -> {
            Delivery f = flow(m, rpm, v);
            double sum = 0;
            for (Circuit c : sheet.carburetor().family().circuits()) {
                assertThat(f.phi(c)).as("%s %s %s", name, c, where).isGreaterThanOrEqualTo(0).isFinite();
                sum += f.phi(c);
            }
            assertThat(f.total()).as(name + where).isEqualTo(sum, within(1e-12));
            assertThat(f.enrichment()).isBetween(0.0, 1.0);
            assertThat(f.airKgPerS()).isPositive();
            assertThat(f.thetaPrimaryRad()).isBetween(0.0, Math.PI / 2);
        });
    }

    @Test(dataProvider = "carburetors")
    public void opensFurtherForMoreAirAtTheSameSpeed(String name, BuildSheet sheet, Coefficients k) {
        DeliveryModel m = sheet.carburetor().family().model(sheet, 0.0, k);
        for (double share : RPM) {
            double last = Double.POSITIVE_INFINITY;
            for (double v : VACUUM_INHG) {
                double theta = flow(m, share * sheet.engine().redlineRpm(), v * Units.INHG).thetaPrimaryRad();
                assertThat(theta).as("%s, %.2f of the redline, %.1f inHg", name, share, v)
                        .isLessThanOrEqualTo(last + 1e-3);
                last = theta;
            }
        }
    }

    @Test(dataProvider = "carburetors")
    public void everyPartMovesTheMixtureOneWayOnly(String name, BuildSheet sheet, Coefficients k) {
        DeliveryModel today = sheet.carburetor().family().model(sheet, 0.0, k);
        for (Candidate c : Candidate.of(sheet, Kit.NONE)) {
            int sign = richer(c.part());
            if (sign == 0 || c.sizes().getLast() <= c.fitted()) {
                continue;
            }
            DeliveryModel larger = model(c.part().fit(sheet, c.side(), c.sizes().getLast()), 0.0, k);
            everywhere(sheet, (rpm, v, where) -> {
                double moved = flow(larger, rpm, v).total() / flow(today, rpm, v).total() - 1;
                assertThat(sign * moved).as("%s, %s from %s to %s, %s", name, c.part().named(c.side()), c.fitted(),
                        c.sizes().getLast(), where).isGreaterThan(-SLACK);
            });
        }
    }

    /** What a larger size of a part does: 1 richer, -1 leaner, 0 depends on where. */
    private static int richer(Part p) {
        return switch (p.role()) {
            // A way round the front plates is no trim: what it does hangs on where the plates then stand.
            case FUEL_LEVEL, IDLE_STOP, IDLE_BYPASS -> 0;
            default -> p.richerUp() ? 1 : -1;
        };
    }

    @Test(dataProvider = "carburetors")
    public void secondaryJetsSayNothingWhileTheSecondarySideIsShut(String name, BuildSheet sheet, Coefficients k) {
        double jet = MeteredParts.MAIN_JET.of(sheet.carburetor(), Stage.SECONDARY);
        DeliveryModel larger = model(MeteredParts.MAIN_JET.fit(sheet, Stage.SECONDARY, jet + 10), 0.0, k);
        DeliveryModel today = sheet.carburetor().family().model(sheet, 0.0, k);
        everywhere(sheet, (rpm, v, where) -> {
            if (flow(today, rpm, v).phi(MeteredCircuits.SECONDARY_MAIN) == 0) {
                assertThat(flow(larger, rpm, v).total()).as(name + where).isEqualTo(flow(today, rpm, v).total(),
                        within(1e-9));
            }
        });
    }

    @Test(dataProvider = "carburetors")
    public void enrichmentIsShutWellAboveItsRatingAndOpenWellBelow(String name, BuildSheet sheet, Coefficients k) {
        double rating = Barrels.of(sheet.carburetor(), Stage.PRIMARY).enrichment().opensPa();
        if (rating <= 0) {
            return;
        }
        DeliveryModel m = sheet.carburetor().family().model(sheet, 0.0, k);
        everywhere(sheet, (rpm, v, where) -> {
            double open = flow(m, rpm, v).enrichment();
            if (v > 1.6 * rating) {
                assertThat(open).as(name + where).isLessThan(0.02);
            }
            if (v < 0.3 * rating) {
                assertThat(open).as(name + where).isGreaterThan(0.98);
            }
        });
    }

    @Test(dataProvider = "carburetors")
    public void higherFuelLevelNeverLeans(String name, BuildSheet sheet, Coefficients k) {
        DeliveryModel today = sheet.carburetor().family().model(sheet, 0.0, k);
        DeliveryModel high = model(sheet, 2e-3, k);
        everywhere(sheet, (rpm, v, where) -> assertThat(flow(high, rpm, v).total() / flow(today, rpm, v).total())
                .as(name + where).isGreaterThan(1 - SLACK));
    }

    @Test(dataProvider = "carburetors")
    public void theSameStateGivesTheSameFuelWhateverWasAskedBefore(String name, BuildSheet sheet, Coefficients k) {
        DeliveryModel used = sheet.carburetor().family().model(sheet, 0.0, k);
        everywhere(sheet, (rpm, v, where) -> flow(used, rpm, v));
        double rpm = 0.4 * sheet.engine().redlineRpm();
        double v = 10 * Units.INHG;
        assertThat(flow(used, rpm, v).total()).as(name).isEqualTo(flow(sheet.carburetor().family().model(sheet, 0.0,
                k), rpm, v).total(),
                within(1e-6));
    }
}
