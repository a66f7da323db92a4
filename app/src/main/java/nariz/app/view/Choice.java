package nariz.app.view;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;

/** One of several views in one place, with a row of buttons that says which. Only the shown one takes part. */
final class Choice extends StackPane {
    private final HBox bar = new HBox(0);
    private final ToggleGroup group = new ToggleGroup();
    private final List<ToggleButton> buttons = new ArrayList<>();
    private int shown;

    Choice(String name) {
        bar.getStyleClass().add("choice");
        bar.setAccessibleText(name);
        bar.setAccessibleRole(AccessibleRole.TOOL_BAR);
        // Because in a low window the pictures would rather lie over it than shrink.
        bar.setMinHeight(HBox.USE_PREF_SIZE);
        setMinSize(0, 0);
    }

    HBox bar() {
        return bar;
    }

    void add(String label, String id, String help, Node view) {
        ToggleButton b = new ToggleButton(label);
        int mine = buttons.size();
        b.setId(id);
        b.setToggleGroup(group);
        b.setAccessibleText(label);
        b.setTooltip(new Tooltip(help));
        b.setOnAction(e -> show(mine));
        buttons.add(b);
        bar.getChildren().add(b);
        getChildren().add(view);
        show(shown);
    }

    void show(int index) {
        shown = index;
        // A second click would let a toggle go; something is always shown.
        group.selectToggle(buttons.get(index));
        for (int i = 0; i < buttons.size(); i++) {
            getChildren().get(i).setVisible(i == index);
            getChildren().get(i).setManaged(i == index);
        }
    }

    int shown() {
        return shown;
    }

    void next() {
        show((shown + 1) % buttons.size());
    }
}
