package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.state.StopWords;
import nariz.diagnosis.Status;
import nariz.log.UnreadColumn;

/** The verdict of the shown stop: one plain sentence and how sure it is. */
final class VerdictPanel extends VBox {
    private final Session session;
    private final Label sentence = new Label();
    private final Label confidence = new Label();
    private final Label unread = new Label();
    private final Button read = new Button(say("verdict-panel.read-it"));
    private final Button leave = new Button(say("verdict-panel.leave-it"));
    private final HBox unreadRow = new HBox(8);
    /** Columns of this sitting that nobody wants to be asked about again. */
    private final Set<String> left = new HashSet<>();
    private UnreadColumn asked;

    VerdictPanel(Session session) {
        super(3);
        this.session = session;
        getStyleClass().add("verdict");
        sentence.setId("verdict");
        sentence.getStyleClass().add("verdict-sentence");
        sentence.setWrapText(true);
        confidence.getStyleClass().add("verdict-confidence");
        confidence.setWrapText(true);
        // Because a small window would rather cut the sentence than shrink a picture.
        sentence.setMinHeight(USE_PREF_SIZE);
        confidence.setMinHeight(USE_PREF_SIZE);
        unread.setId("unread-column");
        unread.getStyleClass().add("verdict-confidence");
        unread.setTextOverrun(OverrunStyle.ELLIPSIS);
        unread.setMinWidth(0);
        read.setId("read-column");
        read.setTooltip(new Tooltip(say("verdict-panel.read-it-tip")));
        read.setMinWidth(USE_PREF_SIZE);
        leave.setId("leave-column");
        leave.setMinWidth(USE_PREF_SIZE);
        leave.setOnAction(e -> {
            left.add(asked == null ? "" : asked.title());
            refresh();
        });
        read.setOnAction(e -> {
            if (asked != null) {
                asked.as().ifPresent(session::readColumn);
            }
        });
        unreadRow.getChildren().addAll(unread, read, leave);
        unreadRow.setAlignment(Pos.CENTER_LEFT);
        unreadRow.managedProperty().bind(unreadRow.visibleProperty());
        getChildren().addAll(sentence, confidence, unreadRow);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) -> refresh());
        refresh();
    }

    /** The next column that could change the answer, with one press to read it; without one, what is not used. */
    private void showUnread(Drive d) {
        List<UnreadColumn> all = d == null ? List.of() : d.log().unread().stream().filter(u -> !left.contains(
                u.title())).toList();
        asked = all.stream().filter(UnreadColumn::matters).findFirst().orElse(null);
        String rest = String.join("; ", all.stream().map(u -> u.title() + " " + say(u.looksLike())).toList());
        unread.setText(asked != null ? say("verdict-panel.not-read", asked.title(), say(asked.looksLike())) : say(
                "verdict-panel.not-used", rest));
        unread.setTooltip(all.isEmpty() ? null : new Tooltip(say("verdict-panel.not-used", rest)));
        read.setVisible(asked != null);
        read.setManaged(asked != null);
        leave.setVisible(asked != null);
        leave.setManaged(asked != null);
        unreadRow.setVisible(!all.isEmpty());
    }

    private void refresh() {
        Drive d = session.driveProperty().get();
        showUnread(d);
        if (d == null) {
            sentence.setText(say("verdict-panel.open-a-log-to"));
            confidence.setText("");
            return;
        }
        StopWords w = StopWords.of(d, session.stopProperty().get(), session.comparisons().comparisonProperty().get());
        sentence.setText(w.sentence());
        confidence.setText(w.state() == Status.NOT_READ && !w.toRead().isEmpty() ? say("verdict-panel.to-read-it",
                w.toRead())
                : w.confidence());
        confidence.setVisible(!confidence.getText().isEmpty());
        confidence.setManaged(confidence.isVisible());
    }
}
