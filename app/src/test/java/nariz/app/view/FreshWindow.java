package nariz.app.view;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import javafx.application.Platform;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.stage.Stage;
import nariz.app.Toolkit;
import nariz.app.WindowScene;
import nariz.app.state.Session;
import nariz.app.state.Settings;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;

/** A window of its own for every journey, with an empty garage. */
abstract class FreshWindow {
    Stage stage;
    Session session;
    MainWindow window;
    Hands hands;
    Path folder;
    /** What the next question for a file is answered with. */
    final Path[] picked = new Path[1];

    /** What somebody has chosen before; nothing by default. */
    String settings() {
        return "";
    }

    @BeforeMethod
    void open() throws IOException {
        Toolkit.start();
        folder = Files.createTempDirectory("nariz");
        Path settings = folder.resolve("window.properties");
        if (!settings().isEmpty()) {
            Files.writeString(settings, settings());
        }
        Hands.run(() -> {
            stage = new Stage();
            session = new Session(Platform::runLater, folder.resolve("garage.nariz"));
            window = new MainWindow(session, (owner, title, pattern) -> Optional.ofNullable(picked[0]), Settings.of(
                    settings));
            stage.setScene(WindowScene.of(window));
            stage.setX(0);
            stage.setY(0);
            stage.show();
        });
        hands = new Hands(stage);
        Hands.settle();
    }

    /** A box of choices by its name. */
    @SuppressWarnings("unchecked")
    ComboBox<String> box(String id) {
        return (ComboBox<String>) window.lookup("#" + id);
    }

    /** Writes into a field of the build sheet's form. */
    void fill(String field, String text) {
        Hands.run(() -> ((TextField) window.lookup("#sheet-" + field)).setText(text));
    }

    /** Fields of a set of stacks that was measured, but for its main jets. */
    static Map<String, String> measuredRoadster() {
        Map<String, String> all = new LinkedHashMap<>(Map.of("name", "roadster", "engine-displacement", "2.6",
                "engine-cylinders", "6", "engine-idleSpeed", "900", "engine-redline", "6500", "carburetor-count", "3",
                "carburetor-barrels", "2"));
        Map<String, String> sizes = Map.of("bore", "34", "venturi", "24", "airCorrector", "2.4", "idleJet", "0.4",
                "idleAir", "1.1", "mixtureScrew", "0.625", "progressionHoles-diameter", "0.9; 0.9; 0.7",
                "progressionHoles-height", "0.55; 1.25; 2.1");
        sizes.forEach((part, size) -> all.put("carburetor-primary-" + part, size));
        return all;
    }

    @AfterMethod
    void close() {
        Hands.run(() -> {
            session.close();
            stage.close();
        });
    }
}
