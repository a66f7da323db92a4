package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.coverage.DrivePlan;

/** What to record next: steady points and pulls, those the open drive covers ticked off. */
final class PlanPanel extends ScrollPane {
    private final VBox content = new VBox(4);

    PlanPanel(Session session) {
        getStyleClass().add("work-card");
        setId("plan-panel");
        setFitToWidth(true);
        setHbarPolicy(ScrollBarPolicy.NEVER);
        setAccessibleText(say("plan-panel.readings-to-record"));
        content.getStyleClass().add("work-card-content");
        setContent(content);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> show(is));
        show(null);
    }

    private void show(Drive d) {
        content.getChildren().clear();
        content.getChildren().add(text(say("plan-panel.to-record"), "card-heading"));
        if (d == null) {
            content.getChildren().add(text(say("plan-panel.open-a-drive-to"), "card-line"));
            return;
        }
        long missing = d.plan().missing().size();
        content.getChildren().add(text(missing == 0 ? say("plan-panel.this-drive-holds-a")
                : say("plan-panel.of-readings-are-still", missing, d.plan().items().size()),
                "card-line"));
        if (missing > 0) {
            content.getChildren().add(text(say("plan-panel.nobody-reads-the-screen"),
                    "caution"));
        }
        d.plan().missing().forEach(i -> item(i, false));
        if (missing < d.plan().items().size()) {
            content.getChildren().add(text(say("plan-panel.on-this-drive-already"), "card-subheading"));
        }
        d.plan().items().stream().filter(DrivePlan.Item::done).forEach(i -> item(i, true));
    }

    private void item(DrivePlan.Item i, boolean done) {
        Label mark = text(done ? "✓" : "○", done ? "small" : "card-line");
        mark.setMinWidth(16);
        Label what = text(say(i.circuit().label()) + ": " + say(i.text()), done ? "small" : "card-line");
        String had = say("plan-panel.of", Math.min(i.read(), 9999), i.wanted(), i.unit());
        Label sum = text(had, "small");
        VBox box = new VBox(1, what, sum);
        if (!done && !i.caution().isEmpty()) {
            box.getChildren().add(text(say(i.caution()), "caution"));
        }
        HBox.setHgrow(box, Priority.ALWAYS);
        HBox row = new HBox(4, mark, box);
        row.setAccessibleText((done ? say("plan-panel.done") : say("plan-panel.to-record-2")) + what.getText()
                + ", " + had);
        content.getChildren().add(row);
    }

    private static Label text(String s, String style) {
        Label l = new Label(s);
        l.getStyleClass().add(style);
        l.setWrapText(true);
        return l;
    }
}
