package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import javafx.scene.input.KeyCode;
import nariz.app.state.Session;

/** A picture of moments of the drive: N and P step through them, a click takes the log to the nearest. */
abstract class SteppedPicture extends Picture {
    private final Session session;

    SteppedPicture(Session session, String name, String help) {
        super(name, help);
        this.session = session;
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.cursorProperty(), this, (o, was, is) -> redraw());
        setOnMouseClicked(e -> {
            requestFocus();
            pick(e.getX(), e.getY());
        });
        on(PictureKey.of(say("keys.next-moment"), () -> step(true), KeyCode.N));
        on(PictureKey.of(say("keys.previous-moment"), () -> step(false), KeyCode.P));
        setMinSize(350, 185);
    }

    final Session session() {
        return session;
    }

    /** To the next moment after the cursor, or to the one before it. */
    abstract void step(boolean next);

    /** To the moment nearest a place of the picture, if one is near. */
    abstract void pick(double px, double py);
}
