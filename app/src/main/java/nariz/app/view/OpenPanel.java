package nariz.app.view;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.scene.input.KeyCode;
import nariz.app.session.Library;
import nariz.app.session.Session;

/** Two fields and a button: which build sheet, which log. Files dropped on the window land here too. */
final class OpenPanel extends VBox {
    private final Session session;
    private final FilePicker picker;
    private final TextField sheet = new TextField();
    private final TextField log = new TextField();
    private final Button read = new Button("Read the drive");

    OpenPanel(Session session, FilePicker picker, Runnable close) {
        super(10);
        this.session = session;
        this.picker = picker;
        getStyleClass().add("open-panel");
        setId("open-panel");
        Label title = new Label("Open a drive");
        title.getStyleClass().add("card-heading");
        Label hint = new Label("Choose or drop a build sheet (JSON) and a log (CSV, spreadsheet, noted "
                + "points), or type where they are. "
                + "docs/formats says what goes into them; the demo's own files are an example.");
        hint.setWrapText(true);
        hint.getStyleClass().add("small");
        read.setId("open-read");
        read.setDefaultButton(true);
        read.getStyleClass().add("primary");
        read.setOnAction(e -> start());
        Button cancel = new Button("Close");
        cancel.setCancelButton(true);
        cancel.setOnAction(e -> close.run());
        Button demo = new Button("Look at the demo");
        demo.setId("open-panel-demo");
        demo.setOnAction(e -> session.openDemo());
        HBox buttons = new HBox(8, read, demo, cancel);
        buttons.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(title, hint, row("Build sheet", sheet, "open-sheet", "*.json"),
                row("Log", log, "open-log", "*.csv"), buttons, kept());
        session.driveProperty().addListener((o, was, is) -> close.run());
    }

    /** What is in the workbook already: a double click or Enter opens it. */
    private VBox kept() {
        ListView<Library.Entry> list = new ListView<>();
        list.setId("open-kept");
        list.setPrefHeight(150);
        list.setAccessibleText("Kept drives");
        list.setCellFactory(v -> new ListCell<>() {
            @Override
            protected void updateItem(Library.Entry e, boolean empty) {
                super.updateItem(e, empty);
                setText(empty ? null : String.format(Locale.ROOT, "%s   %s   %s   %d:%02d",
                        e.imported().toString().substring(0, 10), e.vehicle(), e.name(), (int) e.durationS() / 60,
                        (int) e.durationS() % 60));
            }
        });
        list.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                openSelected(list);
            }
        });
        list.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) {
                openSelected(list);
                e.consume();
            } else if (e.getCode() == KeyCode.DELETE) {
                takeOff(list);
                e.consume();
            }
        });
        Button open = MainWindow.button("Open it", "kept-open", "Open the chosen drive (Enter)",
                () -> openSelected(list));
        Button off = MainWindow.button("Take it off the list", "kept-off",
                "The drive stays in the workbook; Undo puts it back on the list (Delete)", () -> takeOff(list));
        open.disableProperty().bind(list.getSelectionModel().selectedItemProperty().isNull());
        off.disableProperty().bind(open.disableProperty());
        Button back = MainWindow.button("Undo", "kept-undo", "Take back what was done last", session::undo);
        session.historyProperty().addListener((o, was, is) -> back.setDisable(is.isEmpty()));
        back.setDisable(true);
        Label title = new Label("Kept drives");
        title.getStyleClass().add("card-subheading");
        VBox box = new VBox(4, title, list, new HBox(8, open, off, back));
        session.keptProperty().addListener((o, was, is) -> list.getItems().setAll(is));
        list.getItems().setAll(session.keptProperty().get());
        // Stays for as long as something can be put back on it.
        box.visibleProperty().bind(Bindings.isNotEmpty(list.getItems()).or(back.disableProperty().not()));
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }

    private void openSelected(ListView<Library.Entry> list) {
        Library.Entry e = list.getSelectionModel().getSelectedItem();
        if (e != null) {
            session.openKept(e.run());
        }
    }

    private void takeOff(ListView<Library.Entry> list) {
        Library.Entry e = list.getSelectionModel().getSelectedItem();
        if (e != null) {
            session.takeOff(e.run());
        }
    }

    private HBox row(String name, TextField field, String id, String pattern) {
        field.setId(id);
        field.setAccessibleText(name + " file");
        field.setPromptText(pattern);
        HBox.setHgrow(field, Priority.ALWAYS);
        Label label = new Label(name);
        label.setMinWidth(86);
        label.setLabelFor(field);
        Button browse = new Button("Choose…");
        browse.setAccessibleText("Choose " + name);
        browse.setOnAction(e -> picker.pick(getScene().getWindow(), name, pattern)
                .ifPresent(p -> field.setText(p.toString())));
        HBox row = new HBox(8, label, field, browse);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    /** Takes dropped files: JSON is a sheet, anything else a log; with both it starts reading. */
    void take(List<Path> files) {
        for (Path p : files) {
            boolean json = p.toString().toLowerCase(Locale.ROOT).endsWith(".json");
            (json ? sheet : log).setText(p.toString());
        }
        if (!sheet.getText().isBlank() && !log.getText().isBlank()) {
            start();
        }
    }

    private void start() {
        Path s = usable(sheet, "build sheet");
        Path l = s == null ? null : usable(log, "log");
        if (l != null) {
            session.open(s, l);
        }
    }

    private Path usable(TextField field, String what) {
        String text = field.getText() == null ? "" : field.getText().trim();
        if (text.isEmpty()) {
            session.complain("No " + what + " is chosen. Choose one, or drop it on the window.");
            field.requestFocus();
            return null;
        }
        try {
            Path p = Path.of(text);
            if (Files.isRegularFile(p)) {
                return p;
            }
        } catch (java.nio.file.InvalidPathException e) {
            // Falls through to the message: a name that cannot be a path is a file that is not there.
        }
        session.complain("There is no file \"" + text + "\". Check the name of the " + what + ".");
        field.requestFocus();
        return null;
    }
}
