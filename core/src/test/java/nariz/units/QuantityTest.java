package nariz.units;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class QuantityTest {
    @DataProvider
    Object[][] known() {
        // Factors: NIST SP 811 (2008), appendix B.8.
        return new Object[][] {
            {"59 thou", Dimension.LENGTH, 1.4986e-3}, {"38.1mm", Dimension.LENGTH, 0.0381},
            {"1 in", Dimension.LENGTH, 0.0254}, {"6.5 inHg", Dimension.PRESSURE, 22011.53},
            {"29.92 INHG", Dimension.PRESSURE, 101320.8}, {"98.6 kPa", Dimension.PRESSURE, 98600.0},
            {"1 psi", Dimension.PRESSURE, 6894.757}, {"20 C", Dimension.TEMPERATURE, 293.15},
            {"68 F", Dimension.TEMPERATURE, 293.15}, {"30 cc", Dimension.VOLUME, 30e-6},
            {"250 cuin", Dimension.VOLUME, 4.0967e-3}, {"180 deg", Dimension.ANGLE, Math.PI},
            {"745 kg/m3", Dimension.DENSITY, 745.0}, {"0.745 kg/L", Dimension.DENSITY, 745.0},
            {".5 turns", Dimension.TURNS, 0.5},
        };
    }

    @Test(dataProvider = "known")
    public void markedQuantityIsReadInSi(String text, Dimension dimension, double si) {
        assertThat(Quantity.parse(text, dimension).orElseThrow().si()).isCloseTo(si, within(Math.abs(si) * 2e-5));
    }

    @DataProvider
    Object[][] wrong() {
        return new Object[][] {{"59"}, {"thou"}, {"59 furlong"}, {""}, {"59 inHg"}, {"5 9 thou"}, {"1e999 thou"}};
    }

    @Test(dataProvider = "wrong")
    public void whatIsNotALengthIsRefused(String text) {
        assertThat(Quantity.parse(text, Dimension.LENGTH)).isEmpty();
    }

    @Test
    public void trailingZerosAreTrimmed() {
        assertThat(Quantity.trim(6.5, 3)).isEqualTo("6.5");
        assertThat(Quantity.trim(80.99999999, 1)).isEqualTo("81");
        assertThat(Quantity.trim(-0.0001, 2)).isEqualTo("0");
        assertThat(Quantity.trim(100, 0)).isEqualTo("100");
    }
}
