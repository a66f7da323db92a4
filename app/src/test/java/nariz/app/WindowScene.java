package nariz.app;

import javafx.scene.Scene;
import nariz.app.view.MainWindow;

/** Opens the package-private way to the product's scene for tests in other packages. */
public final class WindowScene {
    private WindowScene() {
    }

    /**
     * The scene as the application makes it, 1280x800.
     *
     * @param window root
     * @return scene
     */
    public static Scene of(MainWindow window) {
        return NarizApplication.scene(window, 1280, 800);
    }
}
