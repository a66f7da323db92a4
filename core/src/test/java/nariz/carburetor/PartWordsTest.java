package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;

import nariz.family.metered.MeteredParts;
import org.testng.annotations.Test;

public class PartWordsTest {
    /** Nobody is told to go from 0 mm to 0 mm: no sheet knows of the slack. */
    @Test
    public void slackThatNoSheetKnowsIsTakenUp() {
        Part arm = MeteredParts.PUMP_CLEARANCE;
        assertThat(arm.fromTo(0.0, 0.0).toString()).isEqualTo("take up the slack");
        assertThat(arm.fromTo(0.4, 0.0).toString()).matches("0\\.4 mm {2}→ {2}0 mm");
        assertThat(arm.reached(0.4, 0.0).toString()).isEqualTo("no slack");
        assertThat(arm.title(Stage.PRIMARY, 0.4, 0.0).toString()).endsWith("none, take up what there is");
    }

    @Test
    public void sizesGoFromOneToTheOther() {
        Part jet = MeteredParts.MAIN_JET;
        assertThat(jet.fromTo(59, 62).toString()).isEqualTo("59 thou  →  62 thou");
        assertThat(jet.reached(59, 62).toString()).isEqualTo("62 thou");
    }
}
