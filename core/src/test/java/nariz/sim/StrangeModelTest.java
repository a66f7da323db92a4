package nariz.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredParts;
import nariz.units.Units;
import org.testng.annotations.Test;

/** A carburetor of other laws. */
public class StrangeModelTest {
    private static final BuildSheet SHEET = DemoDrive.sheet();

    private static double phi(EngineSimulator car, double rpm, double inHg) {
        return Arrays.stream(car.steadyPhi(rpm, inHg * Units.INHG)).sum();
    }

    @Test
    public void jetDoesMoreOrLessThanItsAreaByEngine() {
        BuildSheet larger = MeteredParts.MAIN_JET.fit(SHEET, Stage.PRIMARY, 70);
        double least = Double.POSITIVE_INFINITY;
        double most = 0.0;
        for (long seed = 1; seed <= 8; seed++) {
            double plain = effect(new EngineSimulator(larger, seed, Map.of(), 1),
                    new EngineSimulator(SHEET, seed, Map.of(), 1));
            double strange = effect(EngineSimulator.stranger(larger, seed, Map.of(), 1),
                    EngineSimulator.stranger(SHEET, seed, Map.of(), 1));
            least = Math.min(least, strange / plain);
            most = Math.max(most, strange / plain);
        }
        // No coefficient can do this: the elasticity itself differs.
        assertThat(least).isLessThan(0.92);
        assertThat(most).isGreaterThan(1.05);
    }

    private static double effect(EngineSimulator with, EngineSimulator without) {
        return Math.log(phi(with, 2600, 10) / phi(without, 2600, 10));
    }

    @Test
    public void steadyStateDoesNotDependOnWhatWasAskedBefore() {
        EngineSimulator car = EngineSimulator.stranger(SHEET, 3, Map.of(), 1);
        double fresh = phi(car, 2600, 4);
        phi(car, 900, 18);
        assertThat(phi(car, 2600, 4)).isEqualTo(fresh, within(1e-12));
    }

    @Test
    public void estimatorsQuestionsAreRefused() {
        StrangeModel m = new StrangeModel(SHEET, SHEET.carburetor().family().standard(), 1, 0.006, 60e3, 0.15);
        assertThatThrownBy(() -> m.evaluate(2000, 30e3, m.newDelivery())).isInstanceOf(
                UnsupportedOperationException.class).hasMessageContaining("known air");
        assertThatThrownBy(() -> m.shiftEnrichment(1.0)).isInstanceOf(UnsupportedOperationException.class);
    }
}
