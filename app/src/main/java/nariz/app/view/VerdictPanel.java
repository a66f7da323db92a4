package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import javafx.scene.control.Label;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.state.StopWords;
import nariz.diagnosis.Status;

/** The verdict of the shown stop: one plain sentence and how sure it is. */
final class VerdictPanel extends VBox {
    private final Session session;
    private final Label sentence = new Label();
    private final Label confidence = new Label();
    private final UnreadRow unread;

    VerdictPanel(Session session) {
        super(3);
        this.session = session;
        unread = new UnreadRow(session);
        setId("verdict-panel");
        getStyleClass().add("verdict");
        sentence.setId("verdict");
        sentence.getStyleClass().add("verdict-sentence");
        sentence.setWrapText(true);
        confidence.getStyleClass().add("verdict-confidence");
        confidence.setWrapText(true);
        // Because a small window would rather cut the sentence than shrink a picture.
        sentence.setMinHeight(USE_PREF_SIZE);
        confidence.setMinHeight(USE_PREF_SIZE);
        getChildren().addAll(sentence, confidence, unread);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) -> refresh());
        refresh();
    }

    private void refresh() {
        Drive d = session.driveProperty().get();
        unread.show(d);
        if (d == null) {
            sentence.setText(say("verdict-panel.open-a-log-to"));
            confidence.setText("");
            return;
        }
        StopWords w = session.stopProperty().get().words(d, session.comparisons().comparisonProperty().get());
        sentence.setText(w.sentence());
        confidence.setText(w.state() == Status.NOT_READ && !w.toRead().isEmpty() ? say("verdict-panel.to-read-it",
                w.toRead())
                : w.confidence());
        confidence.setVisible(!confidence.getText().isEmpty());
        confidence.setManaged(confidence.isVisible());
    }
}
