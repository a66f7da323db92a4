package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import nariz.units.Units;
import org.testng.annotations.Test;

/** Lift of a pump over the travel of the plates. */
public class PumpSettingTest {
    private static final PumpSetting STRAIGHT = new PumpSetting(2e-3, 2e-3, 50.0 * Units.DEG, 5.0 * Units.DEG, 0.15,
            PumpSetting.STRAIGHT);

    @Test
    public void straightCamLiftsInProportionOnceTheSlackIsTakenUp() {
        assertThat(STRAIGHT.lift(0.0)).isZero();
        assertThat(STRAIGHT.lift(5.0 * Units.DEG)).isZero();
        assertThat(STRAIGHT.lift(30.0 * Units.DEG)).isCloseTo(0.5, within(1e-12));
        assertThat(STRAIGHT.lift(55.0 * Units.DEG)).isCloseTo(1.0, within(1e-12));
        assertThat(STRAIGHT.lift(80.0 * Units.DEG)).isEqualTo(1.0);
    }

    /** 0.5^1.25 = 0.420; both ends stay where they are. */
    @Test
    public void camThatBeginsGentlyGivesTheSameStrokeLater() {
        PumpSetting gentle = STRAIGHT.shaped(1.25);
        assertThat(gentle.lift(30.0 * Units.DEG)).isCloseTo(0.4204, within(1e-4));
        assertThat(gentle.lift(5.0 * Units.DEG)).isZero();
        assertThat(gentle.lift(55.0 * Units.DEG)).isCloseTo(1.0, within(1e-12));
        assertThat(gentle.strokeKg()).isEqualTo(STRAIGHT.strokeKg());
    }

    @Test
    public void scaledKeepsTheShape() {
        PumpSetting s = STRAIGHT.shaped(1.25).scaled(0.5, 2.0, 3.0 * Units.DEG, 0.3);
        assertThat(s).isEqualTo(new PumpSetting(1e-3, 4e-3, 50.0 * Units.DEG, 8.0 * Units.DEG, 0.3, 1.25));
    }
}
