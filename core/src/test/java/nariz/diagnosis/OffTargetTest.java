package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.Test;

/** What is off is told with its side; what is lean here and rich there by how far it spreads. */
public class OffTargetTest {
    private static RegimeError error(Regime regime, double mean, double rms) {
        return new RegimeError(regime, 30.0, 0.9, 0.9 * (1.0 + mean), mean, rms, 0.01);
    }

    private static String words(RegimeError... errors) {
        return OffTarget.words(List.of(errors)).toString();
    }

    @Test
    public void theSideOfWhatIsFurthestOffForItsToleranceComesFirst() {
        assertThat(words(error(Regime.FULL, 0.06, 0.06), error(Regime.IDLE, -0.07, 0.07), error(Regime.CRUISE, 0.02,
                0.03), error(Regime.TRANSFER, -0.09, 0.09))).isEqualTo(
                "rich (7 % at idle, 9 % at transfer), lean (6 % at full load)");
    }

    @Test
    public void whatIsOffByItsSpreadAloneIsNotToldByItsMean() {
        RegimeError uneven = error(Regime.FULL, 0.01, 0.08);
        assertThat(words(uneven)).isEqualTo("lean in places and rich in others (8 % at full load)");
        assertThat(words(uneven, error(Regime.IDLE, 0.05, 0.05))).isEqualTo(
                "lean (5 % at idle), lean in places and rich in others (8 % at full load)");
        assertThat(OffTarget.inTheMean(List.of(uneven))).isEmpty();
    }

    @Test
    public void withinToleranceEverywhereTheFurthestIsNamed() {
        assertThat(words(error(Regime.CRUISE, 0.03, 0.04), error(Regime.IDLE, -0.03, 0.03))).isEqualTo(
                "rich (3 % at idle)");
        assertThat(OffTarget.worst(List.of(error(Regime.CRUISE, 0.08, 0.09), error(Regime.IDLE, 0.03, 0.03)))
                .toString()).isEqualTo("lean (8 % at cruise)");
    }
}
