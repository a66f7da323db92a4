package nariz.app.view;

import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import nariz.app.session.Session;
import nariz.log.Quality;
import nariz.log.Span;
import nariz.store.Workbook;

/** Over the log: what is odd in it, the selected stretch, and the buttons that take a stretch out or back. */
final class LogBar extends HBox {
    private final Session session;
    private final Label notes = new Label();
    private final TextField note = new TextField();
    private final MenuButton noted;
    private final Button exclude;
    private final Button restore;
    private final Button export;
    private final Button undo;

    LogBar(Session session, FilePicker picker) {
        super(8);
        this.session = session;
        getStyleClass().add("log-bar");
        setAlignment(Pos.CENTER_LEFT);
        notes.setId("log-notes");
        notes.getStyleClass().add("small");
        Region space = new Region();
        HBox.setHgrow(space, Priority.ALWAYS);
        exclude = MainWindow.button("Take the stretch out", "exclude",
                "The selected stretch no longer counts (X). Select with Shift and "
                + "drag, or B and E at the cursor", session::exclude);
        restore = MainWindow.button("Count it again", "restore", "The stretch under the cursor counts again (X)",
                session::restore);
        undo = MainWindow.button("Undo", "undo", "Take back the latest decision about this drive", session::undo);
        note.setId("note");
        note.setPromptText("Note on this moment (M)");
        note.setAccessibleText("Note on the moment under the cursor; Enter keeps it");
        note.setPrefColumnCount(18);
        note.setOnAction(e -> {
            session.note(note.getText());
            note.clear();
        });
        noted = new MenuButton("Notes");
        noted.setId("notes");
        noted.setAccessibleText("Notes on this drive");
        export = MainWindow.button("Write out…", "export",
                "The selected stretch, or all of it, as CSV; as a whole data "
                + "package where the name ends in .zip", () -> picker.place(getScene().getWindow(), "Drive",
                "drive.csv")
                .ifPresent(session::export));
        getChildren().addAll(notes, space, noted, note, exclude, restore, export, undo);
        session.driveProperty().addListener((o, was, is) -> refresh());
        session.selectionProperty().addListener((o, was, is) -> refresh());
        session.cursorProperty().addListener((o, was, is) -> refresh());
        session.historyProperty().addListener((o, was, is) -> refresh());
        session.notesProperty().addListener((o, was, is) -> refresh());
        refresh();
    }

    private void refresh() {
        Session.Drive d = session.driveProperty().get();
        Span s = session.selectionProperty().get();
        boolean out = d != null && d.log().excluded(session.cursorProperty().get());
        note.setDisable(d == null);
        noted.setVisible(!session.notesProperty().get().isEmpty());
        noted.setManaged(noted.isVisible());
        noted.setText(session.notesProperty().get().size() == 1 ? "1 note" : session.notesProperty().get().size()
                + " notes");
        noted.getItems().setAll(session.notesProperty().get().stream().map(this::item).toList());
        export.setDisable(d == null || d.run().isEmpty());
        exclude.setDisable(s == null);
        restore.setDisable(!out);
        undo.setDisable(session.historyProperty().get().isEmpty());
        undo.getTooltip().setText(session.historyProperty().get().isEmpty() ? "Nothing to take back"
                : "Take back: " + session.historyProperty().get().getFirst());
        notes.setText(d == null ? "" : s == null ? words(d)
                : String.format(Locale.ROOT, "Selected: %.1f to %.1f s, %.1f s", s.fromS(), s.toS(),
                s.toS() - s.fromS()));
    }

    /** Going to its moment, or away with it. */
    private MenuItem item(Workbook.Note n) {
        double at = n.atS().orElse(0.0);
        Menu m = new Menu(String.format(Locale.ROOT, "%d:%04.1f  %s", (int) at / 60, at % 60, n.text()));
        MenuItem go = new MenuItem("Go there");
        go.setOnAction(e -> session.moveCursor(session.driveProperty().get().log().indexAt(at)));
        MenuItem away = new MenuItem("Take the note away");
        away.setOnAction(e -> session.removeNote(n));
        m.getItems().addAll(go, away);
        return m;
    }

    private static String words(Session.Drive d) {
        Map<Quality.Kind, Integer> n = new EnumMap<>(Quality.Kind.class);
        d.odd().forEach(f -> n.merge(f.kind(), 1, Integer::sum));
        List<String> out = new java.util.ArrayList<>();
        n.forEach((k, v) -> out.add(v + " " + switch (k) {
            case GAP -> v == 1 ? "gap" : "gaps";
            case SPIKE -> v == 1 ? "jump" : "jumps";
            case STUCK -> v == 1 ? "stuck stretch" : "stuck stretches";
            case RAIL -> "at the end of the scale";
            case THIN -> v == 1 ? "thin channel" : "thin channels";
        }));
        if (d.log().problemCount() > 0) {
            out.add(d.log().problemCount() + " cells or rows kept out, the first: "
                    + d.log().problems().getFirst().text());
        }
        if (!d.log().excluded().isEmpty()) {
            out.add(d.log().excluded().size() + " taken out by you");
        }
        return String.join("  ·  ", out);
    }
}
