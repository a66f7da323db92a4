package nariz.app;

import atlantafx.base.theme.PrimerLight;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.stage.Screen;
import javafx.stage.Stage;
import nariz.app.state.Session;
import nariz.app.state.Settings;
import nariz.app.task.FaultLog;
import nariz.app.view.FilePicker;
import nariz.app.view.MainWindow;
import nariz.app.words.WindowWords;
import nariz.sim.Demo;
import nariz.text.Language;

/** Puts the window together. Arguments: {@code --demo [NAME]}, or {@code --build FILE --log FILE}, or none; with any,
 * {@code --workbook FILE}, {@code --language en|es}. */
public final class NarizApplication extends Application {
    private Session session;
    private FaultLog faults = FaultLog.none();

    @Override
    public void start(Stage stage) {
        faults = FaultLog.in(Folders.logs());
        Settings settings = Settings.of(settings());
        WindowWords.use(WindowWords.wording().in(language(getParameters().getRaw(), settings)));
        session = new Session(Platform::runLater, workbook(getParameters().getRaw()), faults);
        // Whatever nobody expected is told in plain words and written down; the window goes on.
        Thread.setDefaultUncaughtExceptionHandler((thread, fault) -> Platform.runLater(() -> session.unexpected(
                fault)));
        MainWindow window = new MainWindow(session, FilePicker.ofPlatform(), settings);
        stage.setScene(scene(window, 1280, 800));
        stage.setTitle("Nariz");
        stage.setMinWidth(1024);
        stage.setMinHeight(700);
        settings.place().filter(NarizApplication::onAScreen).ifPresent(p -> {
            stage.setX(p[0]);
            stage.setY(p[1]);
            stage.setWidth(p[2]);
            stage.setHeight(p[3]);
        });
        stage.setOnHiding(e -> {
            if (!stage.isMaximized() && !stage.isIconified()) {
                settings.place(stage.getX(), stage.getY(), stage.getWidth(), stage.getHeight());
            }
        });
        if (Boolean.getBoolean("nariz.measure")) {
            StartMeasure.on(session, stage);
        }
        stage.show();
        open(window, getParameters().getRaw());
    }

    /** A screen that was unplugged since does not keep the window. */
    private static boolean onAScreen(double[] place) {
        return !Screen.getScreensForRectangle(place[0] + 40, place[1] + 10, Math.max(1, place[2] - 80), 20).isEmpty();
    }

    /**
     * Where drives are kept: the workbook named after {@code --workbook} or in the system property
     * {@code nariz.workbook}, or where the platform keeps the data of programs.
     */
    private static Path workbook(List<String> args) {
        int named = args.indexOf("--workbook");
        if (named >= 0 && named + 1 < args.size()) {
            return Path.of(args.get(named + 1));
        }
        return Optional.ofNullable(System.getProperty("nariz.workbook")).map(Path::of).orElseGet(Folders::workbook);
    }

    /** Path of the preferences file: {@code nariz.settings}, or where the platform keeps preferences. */
    private static Path settings() {
        return Optional.ofNullable(System.getProperty("nariz.settings")).map(Path::of).orElseGet(Folders::preferences);
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
            session.open().files(Path.of(args.get(build + 1)), Path.of(args.get(log + 1)));
        } else if (args.contains("--demo")) {
            int demo = args.indexOf("--demo") + 1;
            session.open().demo(demo < args.size() ? Demo.ofId(args.get(demo)).orElse(Demo.ESTATE) : Demo.ESTATE);
        } else {
            window.showOpen(true);
        }
    }

    @Override
    public void stop() {
        session.close();
        faults.close();
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
