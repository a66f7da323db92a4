package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import nariz.app.LooseArm;
import nariz.app.state.Stops;
import nariz.carburetor.BuildSheetReader;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Verdict;
import nariz.log.LogWriter;
import org.testng.annotations.Test;

/** Slack at the pump's arm that is likely and not sure: the window asks for a look, and believes who found none. */
public class PumpLookTest extends FreshWindow {
    private void looseArm() throws IOException {
        Path json = folder.resolve("estate.json");
        Path csv = folder.resolve("loose-arm.csv");
        Files.writeString(json, LooseArm.sheetJson());
        LogWriter.write(LooseArm.log(BuildSheetReader.read(json)), csv);
        Hands.run(() -> session.open().files(json, csv));
        Hands.waitFor("the drive", () -> session.driveProperty().get() != null);
        Hands.settle();
    }

    @Test
    public void whoLooksAndFindsNothingTicksItAndMayTakeItBack() throws IOException {
        looseArm();
        assertThat(session.driveProperty().get().analysis().advice().verdict()).isEqualTo(Verdict.CHECK_FIRST);
        hands.click("stop-pump");
        String verdict = Hands.onInterface(() -> ((Label) stage.getScene().lookup("#verdict")).getText());
        assertThat(verdict).startsWith("Look at the pump's arm first: ").contains(" % likely");
        String card = Hands.onInterface(() -> Hands.text(window.lookup("#work-card")));
        assertThat(card).contains("Check first").contains("slack at the accelerator pump's arm").contains("no flame")
                .contains("feeler gauge").contains("Look at the pump").doesNotContain("vacuum leak,");
        hands.click("checked-" + Hypothesis.PUMP_SLACK);
        Hands.waitFor("nothing to look for", () -> session.driveProperty().get().analysis().advice().verdict()
                == Verdict.LEAVE);
        Hands.settle();
        assertThat(Hands.onInterface(() -> ((Label) stage.getScene().lookup("#verdict")).getText())).startsWith(
                "Leave the pump alone");
        assertThat(Hands.onInterface(() -> window.lookup("#checked-" + Hypothesis.PUMP_SLACK))).isNull();
        // The tick stays on the card, and clearing it asks again.
        Hands.run(() -> ((CheckBox) window.lookup("#ruled-out-" + Hypothesis.PUMP_SLACK)).fire());
        Hands.waitFor("asked again", () -> session.driveProperty().get().analysis().advice().looksAtPump());
        // The mixture's own stops say what they would say without it.
        Hands.run(() -> session.goTo(Stops.MAIN));
        Hands.settle();
        assertThat(Hands.onInterface(() -> ((Label) stage.getScene().lookup("#verdict")).getText())).doesNotContain(
                " arm ");
    }
}
