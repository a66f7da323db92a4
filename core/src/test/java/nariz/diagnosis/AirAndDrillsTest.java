package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import nariz.carburetor.Ambient;
import org.testng.annotations.Test;

/** Arithmetic of holes and of the air beside them. */
public class AirAndDrillsTest {
    /** Heywood 1988, sect. 7.2.2, by hand: at 2000 m and 15 °C density is 0.785 of the sea's, lambda 0.886. */
    @Test
    public void altitudeEnrichesWithTheRootOfDensity() {
        Ambient sea = AirDensity.at(0, 15);
        Ambient high = AirDensity.at(2000, 15);
        assertThat(sea.pressurePa()).isEqualTo(101_325);
        assertThat(high.pressurePa()).isCloseTo(79_495, within(20.0));
        assertThat(AirDensity.lambdaRatio(sea, high)).isCloseTo(Math.sqrt(79_495.0 / 101_325), within(1e-3));
        double jet = AirDensity.jetM(1.5e-3, sea, high);
        assertThat(Orifice.area(jet) / Orifice.area(1.5e-3)).isCloseTo(0.8858, within(1e-3));
        assertThat(AirDensity.lambdaRatio(sea, AirDensity.at(0, 40))).isCloseTo(Math.sqrt(288.15 / 313.15),
                within(1e-9));
        assertThatThrownBy(() -> AirDensity.at(9000, 15)).hasMessage("altitude 9000.0 m, allowed -500 to 6000");
        assertThatThrownBy(() -> AirDensity.at(0, Double.NaN)).hasMessageContaining("temperature NaN");
    }

    @Test
    public void drillsGoUpFromTheHole() {
        assertThat(DrillLadder.above(1.50e-3, 3)).containsExactly(31 * 0.05e-3, 32 * 0.05e-3, 33 * 0.05e-3);
        assertThat(DrillLadder.above(1.495e-3, 1).getFirst()).isCloseTo(1.55e-3, within(1e-9));
        assertThat(DrillLadder.above(0.1e-3, 1).getFirst()).isCloseTo(0.20e-3, within(1e-9));
        assertThat(new Orifice(1.50e-3, 1.60e-3, 0).drills()).hasToString("drills on the way, mm: 1.55 (+7 %), "
                + "1.60 (+14 %)");
        assertThat(new Orifice(1.50e-3, 1.52e-3, 0).drills().toString()).contains("buy the size");
        assertThat(new Orifice(1.50e-3, 1.40e-3, 0).drills().isEmpty()).isTrue();
    }
}
