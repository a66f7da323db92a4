package nariz.units;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import nariz.carburetor.Part;
import nariz.family.metered.MeteredParts;
import nariz.text.Language;
import nariz.text.Wording;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Expected numbers from the factors of NIST SP 811, appendix B.8, by hand. */
public class ShownTest {
    private static final double RATING_PA = 6.5 * Units.INHG;

    private Shown shown = Shown.USUAL;

    @BeforeMethod
    void usual() {
        shown = Shown.USUAL;
    }

    private void use(Shown.Pressure p, Shown.Size s) {
        shown = new Shown(p, s, Shown.Road.METRIC);
    }

    private String words(Part part, double value) {
        return new Wording(Language.ENGLISH, shown).text(part.text(value));
    }

    @Test
    public void oneVacuumInEveryUnit() {
        assertThat(shown.vacuum(RATING_PA)).isEqualTo("6.5 inHg");
        use(Shown.Pressure.KPA, Shown.Size.MM);
        assertThat(shown.vacuum(RATING_PA)).isEqualTo("22.0 kPa");
        assertThat(shown.spread(270)).isEqualTo("0.27 kPa");
        use(Shown.Pressure.MBAR, Shown.Size.MM);
        assertThat(shown.vacuum(RATING_PA)).isEqualTo("220 mbar");
        use(Shown.Pressure.PSI, Shown.Size.MM);
        assertThat(shown.vacuum(RATING_PA)).isEqualTo("3.2 psi");
    }

    @Test
    public void readingsToAimAtAreRoundAndStayInsideTheirBounds() {
        assertThat(shown.atLeast(15.2 * Units.INHG)).isEqualTo("16");
        assertThat(shown.atMost(15.2 * Units.INHG)).isEqualTo("15");
        assertThat(shown.atLeast(16 * Units.INHG)).isEqualTo("16");
        use(Shown.Pressure.MBAR, Shown.Size.THOU);
        assertThat(shown.atLeast(51_470)).isEqualTo("520");
        assertThat(shown.atMost(51_470)).isEqualTo("510");
        use(Shown.Pressure.PSI, Shown.Size.THOU);
        assertThat(shown.atLeast(51_470)).isEqualTo("7.5");
    }

    @Test
    public void aPartIsNamedInTheUnitsOfItsUser() {
        assertThat(words(MeteredParts.MAIN_JET, 59)).isEqualTo("59 thou");
        assertThat(words(MeteredParts.POWER_VALVE_RATING, 6.5)).isEqualTo("6.5 inHg");
        assertThat(words(MeteredParts.POWER_VALVE_RATING, 5)).isEqualTo("5 inHg");
        use(Shown.Pressure.KPA, Shown.Size.MM);
        assertThat(words(MeteredParts.MAIN_JET, 59)).isEqualTo("1.50 mm");
        assertThat(words(MeteredParts.POWER_VALVE_RATING, 6.5)).isEqualTo("22.0 kPa");
        assertThat(words(MeteredParts.POWER_VALVE_RATING, 0)).isEqualTo("plugged");
        assertThat(words(MeteredParts.MIXTURE_SCREW, 1.25)).isEqualTo("1.25 turns");
    }

    @Test
    public void neighboursOnALadderOfThousandthsStayTwoSizesInMillimetres() {
        use(Shown.Pressure.INHG, Shown.Size.MM);
        for (double thou = 20; thou < 120; thou++) {
            assertThat(shown.sizeOf(thou * Units.THOU)).isNotEqualTo(shown.sizeOf((thou + 1) * Units.THOU));
        }
    }

    @Test
    public void temperaturesGoThereAndBack() {
        assertThat(Shown.Road.IMPERIAL.degrees(373.15)).isEqualTo(212, within(1e-9));
        assertThat(Shown.Road.METRIC.degrees(273.15)).isEqualTo(0, within(1e-9));
        assertThat(Shown.Road.IMPERIAL.kelvin(Shown.Road.IMPERIAL.degrees(300))).isEqualTo(300, within(1e-9));
        assertThat(Shown.Road.IMPERIAL.kelvin(32)).isEqualTo(273.15, within(1e-9));
    }
}
