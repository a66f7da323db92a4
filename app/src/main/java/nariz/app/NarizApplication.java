package nariz.app;

import atlantafx.base.theme.PrimerLight;
import java.nio.file.Path;
import java.util.List;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.stage.Stage;
import nariz.app.session.Session;
import nariz.app.session.Settings;
import nariz.app.view.FilePicker;
import nariz.app.view.MainWindow;
import nariz.words.Language;
import nariz.words.Words;

/** Puts the window together. Arguments: {@code --demo}, or {@code --build FILE --log FILE}, or none; with any,
 * {@code --workbook FILE}, {@code --language en|es}. */
public final class NarizApplication extends Application {
    private Session session;

    @Override
    public void start(Stage stage) {
        Settings settings = Settings.of(settings());
        Words.speak(language(getParameters().getRaw(), settings));
        session = new Session(Platform::runLater, workbook(getParameters().getRaw()));
        MainWindow window = new MainWindow(session, FilePicker.ofPlatform(), settings);
        stage.setScene(scene(window, 1280, 800));
        stage.setTitle("Nariz");
        stage.setMinWidth(1024);
        stage.setMinHeight(700);
        if (Boolean.getBoolean("nariz.measure")) {
            StartMeasure.on(session, stage);
        }
        stage.show();
        open(window, getParameters().getRaw());
    }

    /**
     * Where drives are kept: the workbook named after {@code --workbook} or in the system property
     * {@code nariz.workbook}, or a file in the user's home.
     */
    private static Path workbook(List<String> args) {
        int named = args.indexOf("--workbook");
        if (named >= 0 && named + 1 < args.size()) {
            return Path.of(args.get(named + 1));
        }
        return Path.of(System.getProperty("nariz.workbook", Path.of(System.getProperty("user.home"), "nariz",
                "garage.nariz").toString()));
    }

    /** Where it is kept how the window is liked: {@code nariz.settings}, or a file in the user's home. */
    private static Path settings() {
        return Path.of(System.getProperty("nariz.settings", Path.of(System.getProperty("user.home"), "nariz",
                "window.properties").toString()));
    }

    /** The language named after {@code --language}, or the one chosen last, or the platform's. */
    private static Language language(List<String> args, Settings settings) {
        int named = args.indexOf("--language");
        return named >= 0 && named + 1 < args.size() ? Language.of(args.get(named + 1))
                : settings.language().orElseGet(() -> Language.of(java.util.Locale.getDefault().toLanguageTag()));
    }

    private void open(MainWindow window, List<String> args) {
        int build = args.indexOf("--build");
        int log = args.indexOf("--log");
        if (build >= 0 && log >= 0 && Math.max(build, log) + 1 < args.size()) {
            session.open(Path.of(args.get(build + 1)), Path.of(args.get(log + 1)));
        } else if (args.contains("--demo")) {
            session.openDemo();
        } else {
            window.showOpen(true);
        }
    }

    @Override
    public void stop() {
        session.close();
    }

    /**
     * A scene with the product's look.
     *
     * @param window root
     * @param width px
     * @param height px
     * @return the scene
     */
    static Scene scene(MainWindow window, double width, double height) {
        Scene scene = new Scene(window, width, height);
        scene.setUserAgentStylesheet(new PrimerLight().getUserAgentStylesheet());
        scene.getStylesheets().add(NarizApplication.class.getResource("nariz.css").toExternalForm());
        return scene;
    }
}
