package nariz.app.chart;

import java.util.List;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;

/**
 * Something a picture does by key while it has the focus.
 *
 * @param title what it does, for people
 * @param keys keys that do it, the usual one first
 * @param run does it
 */
public record PictureKey(String title, List<KeyCombination> keys, Runnable run) {
    /** Copies the list. */
    public PictureKey {
        keys = List.copyOf(keys);
    }

    /** Plain keys. */
    static PictureKey of(String title, Runnable run, KeyCode... codes) {
        return new PictureKey(title, java.util.Arrays.stream(codes).<KeyCombination>map(
                KeyCodeCombination::new).toList(),
                run);
    }

    /** Signs that need Shift on some keyboards and none on others. */
    static PictureKey sign(String title, Runnable run, KeyCode... codes) {
        return new PictureKey(title, java.util.Arrays.stream(codes).<KeyCombination>map(c -> new KeyCodeCombination(c,
                KeyCombination.SHIFT_ANY)).toList(), run);
    }

    /** A key held down with Shift. */
    static PictureKey shifted(String title, Runnable run, KeyCode code) {
        return new PictureKey(title, List.of(new KeyCodeCombination(code, KeyCombination.SHIFT_DOWN)), run);
    }
}
