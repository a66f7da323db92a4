package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.IntStream;
import javafx.beans.property.BooleanProperty;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SplitMenuButton;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Decisions;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.log.Quality;
import nariz.log.Span;
import nariz.workbook.VehicleNotes;

/** Over the log: what is odd in it, the selected stretch, and the buttons that take a stretch out or back. */
final class LogBar extends HBox {
    private final Session session;
    private final Label notes = new Label();
    private final TextField note = new TextField();
    private final MenuButton noted;
    private final Button exclude;
    private final Button restore;
    private final SplitMenuButton undo = new SplitMenuButton();
    /** The note whose words are being changed in the field, or null. */
    private VehicleNotes.Note rewording;

    LogBar(Session session, BooleanProperty high) {
        super(8);
        this.session = session;
        getStyleClass().add("log-bar");
        setAlignment(Pos.CENTER_LEFT);
        notes.setId("log-notes");
        notes.getStyleClass().add("small");
        Region space = new Region();
        HBox.setHgrow(space, Priority.ALWAYS);
        exclude = MainWindow.button(say("log-bar.take-the-stretch-out"), "exclude",
                say("log-bar.the-selected-stretch-no"), session::exclude);
        restore = MainWindow.button(say("log-bar.count-it-again"), "restore", say("log-bar.the-stretch-under-the"),
                session::restore);
        undo.setText(say("log-bar.undo"));
        undo.setId("undo");
        undo.setAccessibleText(say("log-bar.undo-its-list-goes"));
        undo.setTooltip(new Tooltip());
        undo.setOnAction(e -> session.undo());
        note.setId("note");
        note.setPromptText(say("log-bar.note-on-this-moment"));
        note.setAccessibleText(say("log-bar.note-on-the-moment"));
        note.setPrefColumnCount(18);
        note.setOnAction(e -> {
            if (rewording == null) {
                session.note(note.getText());
            } else {
                session.notes().reword(rewording, note.getText());
            }
            rewording = null;
            note.clear();
        });
        note.focusedProperty().addListener((o, was, is) -> {
            if (!is && rewording != null) {
                rewording = null;
                note.clear();
            }
        });
        noted = new MenuButton(say("log-bar.notes"));
        noted.setId("notes");
        noted.setAccessibleText(say("log-bar.notes-on-this-drive"));
        ToggleButton taller = new ToggleButton(say("log-bar.high"));
        taller.setId("log-high");
        taller.setAccessibleText(say("log-bar.high-help"));
        taller.setTooltip(new Tooltip(say("log-bar.high-help")));
        taller.selectedProperty().bindBidirectional(high);
        for (Region r : List.of(taller, noted, exclude, restore, undo)) {
            r.setMinWidth(Region.USE_PREF_SIZE);
        }
        notes.setMinWidth(0);
        getChildren().addAll(taller, notes, space, noted, note, exclude, restore, undo);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.selectionProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.decisions().valueProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.cursorProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.historyProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.notes().notesProperty(), this, (o, was, is) -> refresh());
        refresh();
    }

    private void refresh() {
        Drive d = session.driveProperty().get();
        Span s = session.selectionProperty().get();
        boolean out = d != null && session.decisions().valueProperty().get().excluded().stream().anyMatch(x -> x.holds(
                d.log().timeS()[session.cursorProperty().get()]));
        note.setDisable(d == null);
        noted.setVisible(!session.notes().notesProperty().get().isEmpty());
        noted.setManaged(noted.isVisible());
        noted.setText(say("log-bar.notes-2", session.notes().notesProperty().get().size()));
        noted.getItems().setAll(session.notes().notesProperty().get().stream().map(this::item).toList());
        show(exclude, s != null);
        show(restore, out && s == null);
        undo.setDisable(session.historyProperty().get().isEmpty());
        List<String> done = session.historyProperty().get();
        undo.getItems().setAll(IntStream.range(0, done.size()).mapToObj(i -> {
            MenuItem back = new MenuItem(i + 1 + ".  " + done.get(i));
            back.setOnAction(e -> session.undo(i + 1));
            return back;
        }).toList());
        undo.getTooltip().setText(session.historyProperty().get().isEmpty() ? say("log-bar.nothing-to-take-back")
                : say("log-bar.take-back", session.historyProperty().get().getFirst()));
        notes.setText(d == null ? "" : s == null ? words(d, session.decisions().valueProperty().get())
                : say("log-bar.selected-to-s-s", s.fromS(), s.toS(),
                s.toS() - s.fromS()));
    }

    /** Where there is nothing to do with a stretch, its buttons take no room. */
    private static void show(Button b, boolean is) {
        b.setVisible(is);
        b.setManaged(is);
    }

    /** Going to its moment, other words for it, or away with it. */
    private MenuItem item(VehicleNotes.Note n) {
        Menu m = new Menu(n.atS().map(at -> String.format(Locale.ROOT, "%d:%04.1f", (int) (at / 60), at % 60))
                .orElseGet(() -> say("log-bar.whole-drive")) + "  " + n.text());
        MenuItem go = new MenuItem(say("log-bar.go-there"));
        go.setDisable(n.atS().isEmpty());
        go.setOnAction(e -> n.atS().ifPresent(at -> session.moveCursor(session.driveProperty().get().log().indexAt(
                at))));
        MenuItem reword = new MenuItem(say("log-bar.other-words"));
        reword.setOnAction(e -> {
            note.requestFocus();
            rewording = n;
            note.setText(n.text());
            note.selectAll();
        });
        MenuItem away = new MenuItem(say("log-bar.take-the-note-away"));
        away.setOnAction(e -> session.notes().remove(n));
        m.getItems().addAll(go, reword, away);
        return m;
    }

    private static String words(Drive d, Decisions decided) {
        Map<Quality.Kind, Integer> n = new EnumMap<>(Quality.Kind.class);
        d.odd().forEach(f -> n.merge(f.kind(), 1, Integer::sum));
        List<String> out = new java.util.ArrayList<>();
        n.forEach((k, v) -> out.add(switch (k) {
            case GAP -> say("log-bar.gaps", v);
            case SPIKE -> say("log-bar.jumps", v);
            case STUCK -> say("log-bar.stuck-stretches", v);
            case RAIL -> say("log-bar.clipped-stretches", v);
            case THIN -> say("log-bar.thin-channels", v);
        }));
        if (d.log().problemCount() > 0) {
            out.add(say("log-bar.cells-or-rows-kept", d.log().problemCount(), d.log().problems().getFirst().text()));
        }
        if (!decided.excluded().isEmpty()) {
            out.add(say("log-bar.taken-out-by-you", decided.excluded().size()));
        }
        return String.join("  ·  ", out);
    }
}
