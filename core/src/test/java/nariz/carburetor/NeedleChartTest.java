package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.units.Units;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A user's own table of needles. */
public class NeedleChartTest {
    private static final String TABLE = """
            needle, spacing, 1 (thou), 2, 3, 4
            A1, 3.175 mm, 89, 85, 81, 76
            A2, 3.175 mm, 89, 84.5, 80, 75

            A3, , 89, 85.2, 81.1
            """;

    @Test
    public void needlesAreReadAndTheNearestIsNamedFirst() {
        NeedleChart c = NeedleChart.parse("chart.csv", TABLE);
        assertThat(c.needles()).extracting(NeedleChart.Entry::name).containsExactly("A1", "A2", "A3");
        assertThat(c.needles().getFirst().diametersM()).hasSize(4);
        List<Double> wanted = List.of(89 * Units.THOU, 84.6 * Units.THOU, 80.1 * Units.THOU, Double.NaN);
        List<NeedleChart.Near> near = c.nearest(wanted, 3.175e-3);
        assertThat(near.getFirst().needle().name()).isEqualTo("A2");
        assertThat(near.getFirst().offM() / Units.THOU).isCloseTo(Math.sqrt(0.02 / 3), within(1e-6));
        assertThat(near).hasSize(3);
    }

    @Test
    public void stationsOfAnotherSpacingAreInterpolated() {
        NeedleChart c = NeedleChart.parse("chart.csv", TABLE);
        List<Double> d = c.needles().getFirst().at(6, 3.175e-3 / 2);
        assertThat(d.get(1) / Units.THOU).isCloseTo(87, within(1e-9));
        assertThat(d.get(4) / Units.THOU).isCloseTo(81, within(1e-9));
        // A needle that ends before the last station that matters is no choice.
        assertThat(c.nearest(List.of(89e-5, 85e-5, 81e-5, 76e-5), 3.175e-3)).extracting(n -> n.needle().name())
                .doesNotContain("A3");
    }

    @DataProvider
    Object[][] bad() {
        return new Object[][] {{"", 1, 1}, {"name,1,2\nA,89,85\n", 1, 1}, {"needle,1,2\nA,89,85\n", 1, 1},
            {"needle,1 (thou),2\nA,89,x\n", 2, 3}, {"needle,1 (thou),2\nA,85,89\n", 2, 3},
            {"needle,1 (pints),2\nA,89,85\n", 1, 1}};
    }

    @Test(dataProvider = "bad")
    public void whatIsWrongIsSaidWithItsPlace(String table, int line, int column) {
        assertThatThrownBy(() -> NeedleChart.parse("chart.csv", table)).isInstanceOfSatisfying(InputProblem.class, e ->
                {
            assertThat(e.line()).isEqualTo(line);
            assertThat(e.column()).isEqualTo(column);
        });
    }
}
