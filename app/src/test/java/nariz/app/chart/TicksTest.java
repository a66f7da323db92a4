package nariz.app.chart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.testng.annotations.Test;

public class TicksTest {
    @Test
    public void stepsAreOneTwoOrFiveTimesAPowerOfTen() {
        assertThat(Ticks.step(0.6, 6)).isEqualTo(0.1, within(1e-12));
        assertThat(Ticks.step(25, 2)).isEqualTo(20, within(1e-9));
        assertThat(Ticks.step(5500, 2)).isEqualTo(5000, within(1e-9));
        assertThat(Ticks.step(8.82, 6)).isEqualTo(2, within(1e-9));
        assertThat(Ticks.step(100, 10)).isEqualTo(10, within(1e-9));
    }

    @Test
    public void thereAreNeverMorePiecesThanAskedForNorFarFewer() {
        Random r = new Random(4);
        for (int i = 0; i < 2000; i++) {
            double range = Math.pow(10, 8 * r.nextDouble() - 4);
            int most = 1 + r.nextInt(12);
            double step = Ticks.step(range, most);
            assertThat(range / step).as("%g in %d", range, most).isLessThanOrEqualTo(most + 1e-6)
                    .isGreaterThan(most / 2.51);
            double lead = step / Math.pow(10, Math.floor(Math.log10(step) + 1e-9));
            assertThat(Math.min(Math.min(Math.abs(lead - 1), Math.abs(lead - 2)), Math.abs(lead - 5)))
                    .isLessThan(1e-6);
        }
    }

    @Test
    public void numbersHaveTheDigitsOfTheirStep() {
        assertThat(Ticks.text(0.8, 0.1)).isEqualTo("0.8");
        assertThat(Ticks.text(1, 0.1)).isEqualTo("1.0");
        assertThat(Ticks.text(0.85, 0.05)).isEqualTo("0.85");
        assertThat(Ticks.text(5000, 5000)).isEqualTo("5000");
        assertThat(Ticks.text(20, 20)).isEqualTo("20");
        assertThat(Ticks.text(-0.0, 10)).isEqualTo("0");
        assertThat(Ticks.text(-0.01, 0.5)).isEqualTo("0.0");
        assertThat(Ticks.text(-5, 5)).isEqualTo("-5");
    }
}
