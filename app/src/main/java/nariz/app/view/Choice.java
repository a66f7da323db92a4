package nariz.app.view;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
    private final List<String> names = new ArrayList<>();
    private Runnable changed = () -> { };
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

    /**
     * One more view.
     *
     * @param label words of its button
     * @param name name in the program; the button's id is {@code show-} and this
     * @param help what it shows
     * @param view the view
     */
    void add(String label, String name, String help, Node view) {
        ToggleButton b = new ToggleButton(label);
        b.setId("show-" + name);
        b.setToggleGroup(group);
        b.setAccessibleText(label);
        b.setTooltip(new Tooltip(help));
        b.setOnAction(e -> show(name));
        buttons.add(b);
        names.add(name);
        bar.getChildren().add(b);
        getChildren().add(view);
        show(names.get(shown));
    }

    /**
     * Takes a view out of the choice, or puts it back; what is out and shown gives way to the first.
     *
     * @param name its name
     * @param offered whether it can be chosen
     */
    void offer(String name, boolean offered) {
        ToggleButton b = buttons.get(names.indexOf(name));
        b.setVisible(offered);
        b.setManaged(offered);
        if (!offered && shown().equals(name)) {
            show(names.getFirst());
        }
    }

    void show(String name) {
        shown = names.indexOf(name);
        if (shown < 0) {
            throw new IllegalArgumentException("no view " + name + " in " + names);
        }
        // A second click would let a toggle go; something is always shown.
        group.selectToggle(buttons.get(shown));
        for (int i = 0; i < buttons.size(); i++) {
            getChildren().get(i).setVisible(i == shown);
            getChildren().get(i).setManaged(i == shown);
        }
        changed.run();
    }

    /** What to do whenever another view is shown. */
    void onChange(Runnable what) {
        changed = what;
    }

    /** {@return what each view shows, by name, in order} */
    Map<String, String> titles() {
        Map<String, String> out = new LinkedHashMap<>();
        for (int i = 0; i < names.size(); i++) {
            out.put(names.get(i), buttons.get(i).getTooltip().getText());
        }
        return out;
    }

    String shown() {
        return names.get(shown);
    }

    void next() {
        int to = shown;
        do {
            to = (to + 1) % names.size();
        } while (!buttons.get(to).isManaged());
        show(names.get(to));
    }
}
