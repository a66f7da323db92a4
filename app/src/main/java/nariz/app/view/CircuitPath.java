package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.app.state.StopWords;
import nariz.app.state.Stops;
import nariz.diagnosis.Status;

/** Navigation: the circuits in the order of work, each with its state in words and shape. */
final class CircuitPath extends HBox {
    private final Session session;
    private final Map<Stop, ToggleButton> buttons = new LinkedHashMap<>();
    private final Map<Stop, Region> pipes = new LinkedHashMap<>();
    private final ToggleGroup group = new ToggleGroup();
    private final Label none = new Label(say("circuit-path.none"));

    CircuitPath(Session session) {
        this.session = session;
        setId("circuit-path");
        getStyleClass().add("circuit-path");
        setAlignment(Pos.CENTER);
        none.setId("path-none");
        none.getStyleClass().add("path-none");
        getChildren().add(none);
        for (Stop s : Stops.all()) {
            if (!buttons.isEmpty()) {
                Region pipe = new Region();
                pipe.getStyleClass().add("pipe");
                HBox.setHgrow(pipe, Priority.ALWAYS);
                getChildren().add(pipe);
                pipes.put(s, pipe);
            }
            ToggleButton b = new ToggleButton();
            b.setToggleGroup(group);
            b.getStyleClass().add("stop");
            b.setId("stop-" + s.id());
            b.setAccessibleRole(AccessibleRole.TAB_ITEM);
            b.setOnAction(e -> choose(s));
            buttons.put(s, b);
            getChildren().add(b);
        }
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> group.selectToggle(buttons.get(is)));
        refresh();
    }

    private void choose(Stop s) {
        session.goTo(s);
        // A toggle group would let a second click clear the choice; a path always has a place.
        group.selectToggle(buttons.get(s));
    }

    private void refresh() {
        Drive d = session.driveProperty().get();
        // Which circuits there are is the car's; before one is open there are none to show.
        show(none, d == null);
        List<Stop> there = d == null ? List.of() : Stops.of(d.sheet().carburetor().family());
        pipes.forEach((s, p) -> show(p, there.contains(s)));
        buttons.forEach((s, b) -> {
            show(b, there.contains(s));
            if (d == null || !there.contains(s)) {
                return;
            }
            StopWords w = s.words(d, session.comparisons().comparisonProperty().get());
            b.setGraphic(content(s, w.state(), w.brief()));
            b.setAccessibleText(s.label() + ", " + w.brief());
        });
        group.selectToggle(buttons.get(session.stopProperty().get()));
    }

    private static void show(Node n, boolean is) {
        n.setVisible(is);
        n.setManaged(is);
    }

    private static HBox content(Stop s, Status status, String words) {
        Label name = new Label(s.label());
        name.getStyleClass().add("stop-name");
        Label state = new Label(words);
        state.getStyleClass().add("stop-state");
        HBox box = new HBox(6, StateMark.of(status), new VBox(0, name, state));
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }
}
