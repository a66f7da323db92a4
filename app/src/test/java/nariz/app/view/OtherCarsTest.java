package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import nariz.app.state.Drive;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.Verdict;
import nariz.log.LogWriter;
import nariz.sim.Demo;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Cars that are no four-barrel: their demos, and a set of stacks filled in from nothing, in a fresh window each. */
public class OtherCarsTest extends FreshWindow {
    @Override
    String settings() {
        return "toured = true\n";
    }

    @BeforeMethod
    void atTheGarage() {
        Hands.run(() -> window.showOpen(true));
        Hands.settle();
    }

    private void demo(Demo d) {
        hands.click(d == Demo.ESTATE ? "open-panel-demo" : "open-panel-demo-" + d.id());
        Hands.waitFor(d.id(), () -> session.driveProperty().get() != null && session.busyProperty().get().isEmpty()
                && Demo.of(session.driveProperty().get().sheet()).equals(Optional.of(d)));
        Hands.settle();
    }

    private boolean offered(String picture) {
        return Hands.onInterface(() -> window.lookup("#show-" + picture).isManaged());
    }

    private List<String> stops() {
        return Stops.of(session.driveProperty().get().sheet().carburetor().family()).stream().map(Stop::label).toList();
    }

    private double rms() {
        return session.driveProperty().get().analysis().advice().predicted().stream().map(RegimePrediction::before)
                .mapToDouble(e -> e.rms() * e.rms()).sum();
    }

    private void driveAgain() {
        Drive was = session.driveProperty().get();
        // Where the card stands that says what is to be fitted.
        assertThat(Stops.of(was.sheet().carburetor().family())).anyMatch(s -> {
            Hands.run(() -> session.goTo(s));
            Hands.settle();
            return Hands.onInterface(() -> window.lookup("#card-fitted")) != null;
        });
        Hands.run(() -> ((Button) window.lookup("#card-fitted")).fire());
        Hands.waitFor("the next drive", () -> session.busyProperty().get().isEmpty()
                && !session.driveProperty().get().log().name().equals(was.log().name())
                && session.comparisons().comparisonProperty().get() != null);
        Hands.settle();
    }

    @Test
    public void needleCarShowsItsStationsAndIsTunedInTwoRounds() throws IOException {
        demo(Demo.SMALL_FOUR);
        assertThat(stops()).containsExactly("Idle", "Cruise", "Pull", "Full lift", "Dampers", "Proof");
        assertThat(offered("needle")).isTrue();
        assertThat(offered("holes")).isFalse();
        assertThat(offered("enrichment")).isFalse();
        assertThat(session.stopProperty().get().label()).isIn("Cruise", "Pull");
        hands.click("show-needle");
        int before = session.cursorProperty().get();
        Hands.run(() -> window.lookup("#needle").requestFocus());
        hands.press(KeyCode.N);
        assertThat(session.cursorProperty().get()).isNotEqualTo(before);
        picked[0] = folder.resolve("needles.csv");
        Files.writeString(picked[0], "needle, 1 (thou), 2, 3, 4, 5, 6, 7, 8\nX1, 89.4, 86.7, 84.7, 82.8, 79.7, 76.4, "
                + "73.7, 70.9\n");
        hands.click("needle-chart");
        Hands.waitFor("the table", () -> session.needlesProperty().get().isPresent());
        assertThat(session.needlesProperty().get().orElseThrow().needles()).hasSize(1);
        Files.writeString(picked[0], "needle, 1 (thou), 2\nX1, 80, 89\n");
        hands.click("needle-chart");
        Hands.waitFor("the complaint", () -> !session.problemProperty().get().isEmpty());
        assertThat(session.problemProperty().get()).contains("needles.csv, line 2, column 3", "thinner");
        Hands.run(session::dismissProblem);
        double was = rms();
        driveAgain();
        assertThat(rms()).isLessThan(0.5 * was);
        assertThat(session.driveProperty().get().sheet().carburetor()).isNotEqualTo(Demo.SMALL_FOUR.sheet()
                .carburetor());
    }

    /** What is said is done, until nothing is said any more. */
    @Test
    public void everyDemoEndsProved() {
        for (Demo d : Demo.values()) {
            Hands.run(() -> window.showOpen(true));
            Hands.settle();
            demo(d);
            for (int round = 0; round < 3 && session.driveProperty().get().analysis().advice().verdict()
                    == Verdict.CHANGE; round++) {
                driveAgain();
            }
            hands.click("stop-proof");
            assertThat(Hands.onInterface(() -> ((Label) window.lookup("#verdict")).getText())).startsWith(
                    "Proved: every way of running");
        }
    }

    @Test
    public void jetStacksShowTheirHolesAndTheNextCarIsShownByItsOwnStops() {
        demo(Demo.ROADSTER);
        assertThat(stops()).containsExactly("Idle", "Transfer", "Main", "Pump", "Proof");
        assertThat(offered("holes")).isTrue();
        assertThat(offered("needle")).isFalse();
        hands.click("show-holes");
        Hands.run(() -> window.lookup("#holes").requestFocus());
        int before = session.cursorProperty().get();
        hands.press(KeyCode.P);
        assertThat(session.cursorProperty().get()).isNotEqualTo(before);
        double was = rms();
        driveAgain();
        assertThat(rms()).isLessThan(0.7 * was);
        Hands.run(() -> {
            session.goTo(Stops.MAIN);
            ((ToggleButton) window.lookup("#show-holes")).fire();
        });
        hands.choose("demo-small-four");
        Hands.waitFor("the small four", () -> session.driveProperty().get().sheet().name().startsWith("Small four"));
        Hands.settle();
        // The picture it has none of has given way, and the stop is one of its own.
        assertThat(Hands.onInterface(() -> window.lookup("#holes").isVisible())).isFalse();
        assertThat(stops()).contains(session.stopProperty().get().label());
    }

    /** From an empty form, with the least that has to be filled in, to a verdict on a log of the car. */
    @Test
    public void sheetOfASetOfStacksIsFilledInFromNothing() throws IOException {
        hands.openSheet();
        Hands.run(() -> {
            ComboBox<String> family = box("sheet-carburetor-family");
            family.setValue("constant-depression");
        });
        Hands.settle();
        assertThat(Hands.onInterface(() -> window.lookup("#sheet-carburetor-primary-needle-diameters"))).isNotNull();
        Hands.run(() -> box("sheet-carburetor-family").setValue("stack-jet"));
        Hands.settle();
        assertThat(Hands.onInterface(() -> window.lookup("#sheet-carburetor-primary-needle-diameters"))).isNull();
        measuredRoadster().forEach(this::fill);
        fill("carburetor-primary-mainJet", "1,15");
        tubesOfTheOwnTable();
        hands.click("sheet-keep");
        Hands.waitFor("the car", () -> session.garage().carsProperty().get().size() == 1);
        Path log = folder.resolve("roadster.csv");
        LogWriter.write(Demo.ROADSTER.drive().log(), log);
        Hands.run(() -> session.open().files(session.garage().carsProperty().get().getFirst(), log));
        Hands.waitFor("the drive", () -> session.driveProperty().get() != null && session.busyProperty().get()
                .isEmpty());
        assertThat(session.driveProperty().get().analysis().advice().changes().getFirst().part().key()).isEqualTo(
                "main-jet");
        assertThat(session.driveProperty().get().sheet().carburetor().each("primary.progressionHoles.height"))
                .hasSize(3);
        assertThat(session.driveProperty().get().sheet().carburetor().each("primary.emulsionTube.depth"))
                .containsExactly(4e-3);
    }

    /** What is stamped fills its rows in, whether it is written before the table is read or after. */
    private void tubesOfTheOwnTable() throws IOException {
        fill("carburetor-primary-emulsionTubeLetter", "k7");
        Hands.run(() -> ((ScrollPane) window.lookup("#sheet-form")).setVvalue(1));
        picked[0] = folder.resolve("tubes.csv");
        String table = "tube, depth (mm), diameter (mm), holes\nK2, 4, 1, 4\nK7, 6, 0.8, 4\nK7, 18, 0.9, %s\n";
        Files.writeString(picked[0], table.formatted("x"));
        hands.click("sheet-carburetor-primary-emulsionTubeLetter-table");
        Hands.waitFor("the complaint", () -> !session.problemProperty().get().isEmpty());
        assertThat(session.problemProperty().get()).contains("tubes.csv, line 4, column 4", "how many holes");
        Hands.run(session::dismissProblem);
        Files.writeString(picked[0], table.formatted("2"));
        hands.click("sheet-carburetor-primary-emulsionTubeLetter-table");
        Hands.waitFor("the table", () -> session.tubesProperty().get().isPresent());
        Hands.settle();
        assertThat(Hands.onInterface(() -> ((Label) window.lookup("#sheet-problem")).getText())).startsWith(
                "Tubes read: 2.").endsWith(": K2, K7");
        assertThat(written("depth")).isEqualTo("6 mm; 18 mm");
        fill("carburetor-primary-emulsionTubeLetter", "K2");
        assertThat(written("depth")).isEqualTo("4 mm");
        assertThat(written("holes")).isEqualTo("4");
    }

    private String written(String field) {
        return Hands.onInterface(() -> ((TextField) window.lookup("#sheet-carburetor-primary-emulsionTube-" + field))
                .getText());
    }
}
