package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;

/**
 * One field for everything: stops, parts, actions, notes, and what a word means. Empty, it lists all there is with its
 * keys, and so is the map of the keyboard.
 */
final class Find {
    /**
     * Something that can be found.
     *
     * @param name what it is called
     * @param keys keys that do the same, or empty
     * @param run does it; does nothing for a word that is only explained
     */
    record Entry(String name, String keys, Runnable run) {
    }

    private static final double ROW = 36;
    private static final int SHOWN = 11;

    private final TextField field = new TextField();
    private final ListView<Entry> list = new ListView<>();
    private final Supplier<List<Entry>> all;
    private final Runnable home;

    /**
     * Sets up field and list.
     *
     * @param all what can be found now
     * @param home gives the keyboard back to the window
     */
    Find(Supplier<List<Entry>> all, Runnable home) {
        this.all = all;
        this.home = home;
        field.setId("find");
        field.setPromptText(say("find.find-anything-f"));
        field.setAccessibleText(say("find.find-a-stop-a"));
        field.setPrefColumnCount(16);
        list.setId("find-list");
        list.getStyleClass().add("find-list");
        list.setAccessibleText(say("find.what-was-found"));
        list.setFixedCellSize(ROW);
        list.setPlaceholder(new Label(say("find.nothing-of-that-name")));
        list.setMaxSize(560, SHOWN * ROW + 6);
        list.setCellFactory(v -> new Cell());
        list.setVisible(false);
        list.setManaged(false);
        field.textProperty().addListener((o, was, is) -> filter());
        field.focusedProperty().addListener((o, was, is) -> {
            if (Boolean.TRUE.equals(is)) {
                filter();
            } else {
                show(list.isFocused());
            }
        });
        field.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        field.setOnAction(e -> run());
        list.setOnMouseClicked(e -> run());
        list.focusedProperty().addListener((o, was, is) -> show(is || field.isFocused()));
    }

    /** {@return the field, for the bar} */
    TextField field() {
        return field;
    }

    /** {@return the list, to lie over the page} */
    ListView<Entry> list() {
        return list;
    }

    private void show(boolean on) {
        list.setVisible(on);
        list.setManaged(on);
    }

    private void filter() {
        String[] words = field.getText() == null ? new String[0] : field.getText().toLowerCase(Locale.ROOT).strip()
                .split("\\s+");
        List<Entry> found = all.get().stream().filter(t -> Arrays.stream(words).allMatch(w -> t.name()
                .toLowerCase(Locale.ROOT).contains(w))).toList();
        list.getItems().setAll(found);
        list.getSelectionModel().selectFirst();
        double high = Math.clamp(found.size(), 2, SHOWN) * ROW + 6;
        list.setPrefHeight(high);
        // A pane that stacks its children stretches them as far as they let it.
        list.setMaxHeight(high);
        show(field.isFocused());
    }

    private void key(KeyEvent e) {
        int at = list.getSelectionModel().getSelectedIndex();
        if (e.getCode() == KeyCode.DOWN || e.getCode() == KeyCode.UP) {
            int next = Math.clamp(at + (e.getCode() == KeyCode.DOWN ? 1 : -1), 0, Math.max(0, list.getItems().size()
                    - 1));
            list.getSelectionModel().select(next);
            list.scrollTo(Math.max(0, next - SHOWN / 2));
            e.consume();
        } else if (e.getCode() == KeyCode.ESCAPE) {
            leave();
            e.consume();
        }
    }

    private void run() {
        Entry t = list.getSelectionModel().getSelectedItem();
        if (t != null) {
            leave();
            t.run().run();
        }
    }

    private void leave() {
        field.clear();
        home.run();
        show(false);
    }

    private static final class Cell extends ListCell<Entry> {
        @Override
        protected void updateItem(Entry t, boolean empty) {
            super.updateItem(t, empty);
            setText(null);
            if (empty || t == null) {
                setGraphic(null);
                return;
            }
            Region space = new Region();
            HBox.setHgrow(space, Priority.ALWAYS);
            Label keys = new Label(t.keys());
            keys.getStyleClass().add("find-key");
            keys.setMinWidth(Region.USE_PREF_SIZE);
            HBox row = new HBox(8, new Label(t.name()), space, keys);
            row.setAlignment(Pos.CENTER_LEFT);
            row.setMaxWidth(530);
            setGraphic(row);
            setAccessibleText(t.name() + (t.keys().isEmpty() ? "" : say("find.key", t.keys())));
        }
    }
}
