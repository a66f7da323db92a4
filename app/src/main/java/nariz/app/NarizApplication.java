package nariz.app;

import atlantafx.base.theme.PrimerLight;
import java.nio.file.Path;
import java.util.List;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.stage.Stage;
import nariz.app.session.Session;
import nariz.app.view.FilePicker;
import nariz.app.view.MainWindow;

/** Puts the window together. Arguments: {@code --demo}, or {@code --build FILE --log FILE}, or none. */
public final class NarizApplication extends Application {
    private Session session;

    @Override
    public void start(Stage stage) {
        session = new Session(Platform::runLater, workbook());
        MainWindow window = new MainWindow(session, FilePicker.ofPlatform());
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
     * Where drives are kept: a file in the user's home, unless the system property {@code nariz.workbook} names one.
     */
    private static Path workbook() {
        return Path.of(System.getProperty("nariz.workbook", Path.of(System.getProperty("user.home"), "nariz",
                "garage.nariz").toString()));
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
