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
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.log.UnreadColumn;

/** A column of the log that was not read, with one press to read it; without one that matters, what is not used. */
final class UnreadRow extends HBox {
    private final Label unread = new Label();
    private final Button read = new Button(say("verdict-panel.read-it"));
    private final Button leave = new Button(say("verdict-panel.leave-it"));
    /** Columns of this sitting that nobody wants to be asked about again. */
    private final Set<String> left = new HashSet<>();
    private UnreadColumn asked;

    UnreadRow(Session session) {
        super(8);
        unread.setId("unread-column");
        unread.getStyleClass().add("verdict-confidence");
        unread.setTextOverrun(OverrunStyle.ELLIPSIS);
        unread.setMinWidth(0);
        read.setId("read-column");
        read.setTooltip(new Tooltip(say("verdict-panel.read-it-tip")));
        read.setOnAction(e -> asked.as().ifPresent(session.open()::withColumn));
        leave.setId("leave-column");
        leave.setOnAction(e -> {
            left.add(asked.title());
            show(session.driveProperty().get());
        });
        for (Button b : List.of(read, leave)) {
            b.setMinWidth(USE_PREF_SIZE);
            b.managedProperty().bind(b.visibleProperty());
        }
        getChildren().addAll(unread, read, leave);
        setAlignment(Pos.CENTER_LEFT);
        managedProperty().bind(visibleProperty());
    }

    /** Shows what a drive leaves unread; nothing for null. */
    void show(Drive d) {
        List<UnreadColumn> all = d == null ? List.of() : d.log().unread().stream().filter(u -> !left.contains(
                u.title())).toList();
        asked = all.stream().filter(UnreadColumn::matters).findFirst().orElse(null);
        String rest = say("verdict-panel.not-used", String.join("; ", all.stream().map(u -> u.title() + " " + say(
                u.looksLike())).toList()));
        unread.setText(asked == null ? rest : say("verdict-panel.not-read", asked.title(), say(asked.looksLike())));
        unread.setTooltip(all.isEmpty() ? null : new Tooltip(rest));
        // The buttons belong to a question.
        read.setVisible(asked != null);
        leave.setVisible(asked != null);
        setVisible(!all.isEmpty());
    }
}
