package nariz.app.view;

import java.nio.file.Path;
import java.util.Optional;
import javafx.stage.Window;

/** Asks the user for a file; behind an interface because a platform without a display has no chooser. */
@FunctionalInterface
public interface FilePicker {
    /**
     * Asks.
     *
     * @param owner window
     * @param title what is wanted
     * @param pattern for example {@code *.json}
     * @return the file, or empty when the user thought better of it
     */
    Optional<Path> pick(Window owner, String title, String pattern);

    /** {@return the platform's own chooser} */
    static FilePicker ofPlatform() {
        return (owner, title, pattern) -> {
            javafx.stage.FileChooser chooser = new javafx.stage.FileChooser();
            chooser.setTitle(title);
            chooser.getExtensionFilters().addAll(
                    new javafx.stage.FileChooser.ExtensionFilter(title, pattern),
                    new javafx.stage.FileChooser.ExtensionFilter("All files", "*"));
            return Optional.ofNullable(chooser.showOpenDialog(owner)).map(java.io.File::toPath);
        };
    }
}
