package nariz.app.view;

import static nariz.app.words.WindowWords.say;

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

    /**
     * Asks where to write a file; where nothing else is said, in the same way.
     *
     * @param owner window
     * @param title what is written
     * @param name proposed file name
     * @return the file, or empty when the user thought better of it
     */
    default Optional<Path> place(Window owner, String title, String name) {
        return pick(owner, title, "*" + name.substring(Math.max(0, name.lastIndexOf('.'))));
    }

    /**
     * Asks for a folder; where nothing else is said, in the same way.
     *
     * @param owner window
     * @param title what is wanted
     * @return the folder, or empty when the user thought better of it
     */
    default Optional<Path> folder(Window owner, String title) {
        return pick(owner, title, "");
    }

    /** {@return the platform's own chooser} */
    static FilePicker ofPlatform() {
        return new FilePicker() {
            @Override
            public Optional<Path> pick(Window owner, String title, String pattern) {
                return Optional.ofNullable(chooser(title, pattern).showOpenDialog(owner)).map(java.io.File::toPath);
            }

            @Override
            public Optional<Path> place(Window owner, String title, String name) {
                javafx.stage.FileChooser c = chooser(title, "*" + name.substring(name.lastIndexOf('.')));
                c.setInitialFileName(name);
                return Optional.ofNullable(c.showSaveDialog(owner)).map(java.io.File::toPath);
            }

            @Override
            public Optional<Path> folder(Window owner, String title) {
                javafx.stage.DirectoryChooser c = new javafx.stage.DirectoryChooser();
                c.setTitle(title);
                return Optional.ofNullable(c.showDialog(owner)).map(java.io.File::toPath);
            }
        };
    }

    private static javafx.stage.FileChooser chooser(String title, String pattern) {
        javafx.stage.FileChooser chooser = new javafx.stage.FileChooser();
        chooser.setTitle(title);
        chooser.getExtensionFilters().addAll(new javafx.stage.FileChooser.ExtensionFilter(title, pattern),
                new javafx.stage.FileChooser.ExtensionFilter(say("file-picker.all-files"), "*"));
        return chooser;
    }
}
