package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;
import nariz.app.state.Drive;
import nariz.app.state.Session;

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

    /** Keys that move the cursor of a log. */
    static List<PictureKey> ofCursor(Session session) {
        return List.of(of(say("keys.sample-back"), () -> by(session, -1), KeyCode.LEFT),
                of(say("keys.sample-on"), () -> by(session, 1), KeyCode.RIGHT),
                shifted(say("keys.second-back"), () -> bySecond(session, -1), KeyCode.LEFT),
                shifted(say("keys.second-on"), () -> bySecond(session, 1), KeyCode.RIGHT),
                of(say("keys.log-start"), () -> session.moveCursor(0), KeyCode.HOME),
                of(say("keys.log-end"), () -> session.moveCursor(Integer.MAX_VALUE), KeyCode.END));
    }

    private static void by(Session session, int samples) {
        session.moveCursor(session.cursorProperty().get() + samples);
    }

    private static void bySecond(Session session, int seconds) {
        Drive d = session.driveProperty().get();
        if (d != null) {
            session.moveCursor(d.log().indexAt(d.log().timeS()[session.cursorProperty().get()] + seconds));
        }
    }
}
