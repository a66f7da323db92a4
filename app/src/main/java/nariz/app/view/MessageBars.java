package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import nariz.app.state.Session;

/** What is told over the page: what went wrong, and what is followed while it is written. */
final class MessageBars {
    private MessageBars() {
    }

    static HBox problem(Session session, String id) {
        Label text = new Label();
        text.setId(id);
        text.setWrapText(true);
        text.textProperty().bind(session.problemProperty());
        HBox.setHgrow(text, Priority.ALWAYS);
        text.setMaxWidth(Double.MAX_VALUE);
        Button away = MainWindow.button(say("main-window.put-away"), id + "-away", say(
                "main-window.put-this-message-away"), session::dismissProblem);
        // Because a long message takes the room of the button first.
        away.setMinWidth(Region.USE_PREF_SIZE);
        Label sign = new Label("!");
        sign.getStyleClass().add("problem-sign");
        HBox box = new HBox(10, sign, text, away);
        box.setAlignment(Pos.CENTER_LEFT);
        box.getStyleClass().add("problem");
        box.visibleProperty().bind(session.problemProperty().isNotEmpty());
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }

    /** What is followed while it is written, and the button that ends it. */
    static HBox following(Session session) {
        Label text = new Label();
        text.setId("following");
        text.textProperty().bind(session.following().progressProperty());
        Button finish = MainWindow.button(say("main-window.finish"), "follow-finish", say("main-window.finish-help"),
                session::finishFollowing);
        HBox box = new HBox(10, text, finish);
        box.setAlignment(Pos.CENTER_LEFT);
        box.getStyleClass().add("following");
        box.visibleProperty().bind(text.textProperty().isNotEmpty());
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }
}
