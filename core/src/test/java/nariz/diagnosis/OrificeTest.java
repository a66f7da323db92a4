package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Kit;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredParts;
import nariz.testing.Samples;
import org.testng.annotations.Test;

public class OrificeTest {
    private static final BuildSheet SHEET = BuildSheetReader.parse("six.json", Samples.sheet());

    /**
     * By hand: (63/61)^2 = 1.0667; with a channel of 28: (63^2 + 28^2)/(61^2 + 28^2) = 4753/4505; sqrt(4753) = 68.94.
     */
    @Test
    public void jetBesideItsChannelIsCountedTogether() {
        Orifice o = Orifice.of(SHEET, new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, 61, 63)).orElseThrow();
        assertThat(o.gain()).isEqualTo(63.0 * 63 / 61 / 61 - 1, within(1e-12));
        assertThat(o.gainTogether()).isEqualTo(4753.0 / 4505 - 1, within(1e-12));
        assertThat(o.text()).hasToString(
                "area 1.885 → 2.011 mm², +6.7 %; jet and channel together +5.5 %, as one jet of "
                + "68.9 thou");
    }

    @Test
    public void pluggedSideHasNoSecondHoleAndAValveIsNoHole() {
        assertThat(Orifice.of(SHEET, new PartChange(MeteredParts.MAIN_JET, Stage.SECONDARY, 74,
                72)).orElseThrow().text())
                .hasToString("area 2.775 → 2.627 mm², -5.3 %");
        assertThat(Orifice.of(SHEET, new PartChange(MeteredParts.POWER_VALVE_RATING, Stage.PRIMARY, 6.5,
                5.5))).isEmpty();
        assertThat(Orifice.of(SHEET, new PartChange(MeteredParts.MIXTURE_SCREW, Stage.PRIMARY, 2, 3))).isEmpty();
    }

    @Test
    public void candidatesHoldTheFittedSizeAmongRisingOnes() {
        for (Candidate c : Candidate.of(SHEET, Kit.NONE)) {
            assertThat(c.sizes()).isSorted().doesNotHaveDuplicates().contains(c.fitted());
            assertThat(c.sizes().get(c.fittedAt())).isEqualTo(c.fitted());
            assertThat(c.to(c.fitted()).fit(SHEET)).isEqualTo(SHEET);
        }
    }
}
