package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.beans.binding.Bindings;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.DriveRepository;
import nariz.app.state.Session;
import nariz.workbook.Workbook;

/** Two fields and a button: which build sheet, which log. Files dropped on the window land here too. */
final class OpenPanel extends VBox {
    private final Session session;
    private final FilePicker picker;
    private final TextField sheet = new TextField();
    private final TextField log = new TextField();
    private final Button read = new Button(say("open-panel.read-the-drive"));

    OpenPanel(Session session, FilePicker picker, Runnable close, Consumer<Path> form) {
        super(10);
        this.session = session;
        this.picker = picker;
        getStyleClass().add("open-panel");
        setId("open-panel");
        Label title = new Label(say("open-panel.open-a-drive"));
        title.getStyleClass().add("card-heading");
        Label hint = new Label(say("open-panel.choose-or-drop-a"));
        hint.setWrapText(true);
        hint.getStyleClass().add("small");
        read.setId("open-read");
        read.setDefaultButton(true);
        read.getStyleClass().add("primary");
        read.setOnAction(e -> start());
        Button cancel = new Button(say("open-panel.close"));
        cancel.setCancelButton(true);
        cancel.setOnAction(e -> close.run());
        Button demo = new Button(say("open-panel.look-at-the-demo"));
        demo.setId("open-panel-demo");
        demo.setOnAction(e -> session.openDemo());
        Button begin = MainWindow.button(say("open-panel.start-sheet"), "sheet-start",
                say("open-panel.start-sheet-help"), () -> {
                    Path there = sheet.getText().isBlank() ? null : usable(sheet, say("open-panel.build-sheet-2"));
                    if (there != null || sheet.getText().isBlank()) {
                        form.accept(there);
                    }
                });
        begin.textProperty().bind(Bindings.when(sheet.textProperty().isEmpty()).then(say("open-panel.start-sheet"))
                .otherwise(say("open-panel.change-sheet")));
        Button follow = MainWindow.button(say("open-panel.follow"), "open-follow", say("open-panel.follow-help"),
                () -> withFiles((s, l) -> {
                    session.follow(s, l);
                    close.run();
                }));
        // Two rows where one has no room, in whichever language.
        FlowPane buttons = new FlowPane(8, 8, read, follow, begin, demo, cancel);
        getChildren().addAll(title, hint, row(say("open-panel.build-sheet"), sheet, "open-sheet", "*.json"),
                row(say("open-panel.log"), log, "open-log", "*.csv"), buttons, kept(), workbook());
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> {
            // The same drive in other words or units is no reason.
            if (is != null && (was == null || !is.log().equals(was.log()))) {
                close.run();
            }
        });
    }

    /** Goes on with the files that were named in another language. */
    void goOn(OpenPanel before) {
        sheet.setText(before.sheet.getText());
        log.setText(before.log.getText());
    }

    /** A sheet has been kept: it is the one to read the drive with. */
    void began(Path file) {
        sheet.setText(file.toString());
        log.requestFocus();
    }

    /** What is in the workbook already: a double click or Enter opens it. */
    private VBox kept() {
        ListView<DriveRepository.Entry> list = new ListView<>();
        list.setId("open-kept");
        list.setPrefHeight(150);
        list.setAccessibleText(say("open-panel.kept-drives"));
        list.setCellFactory(v -> new ListCell<>() {
            @Override
            protected void updateItem(DriveRepository.Entry e, boolean empty) {
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
        Button open = MainWindow.button(say("open-panel.open-it"), "kept-open", say("open-panel.open-the-chosen-drive"),
                () -> openSelected(list));
        Button off = MainWindow.button(say("open-panel.take-it-off-the"), "kept-off",
                say("open-panel.the-drive-stays-in"), () -> takeOff(list));
        open.disableProperty().bind(list.getSelectionModel().selectedItemProperty().isNull());
        off.disableProperty().bind(open.disableProperty());
        Button back = MainWindow.button(say("open-panel.undo"), "kept-undo", say("open-panel.take-back-what-was"),
                session::undo);
        WeakListeners.attach(session.historyProperty(), this, (o, was, is) -> back.setDisable(is.isEmpty()));
        back.setDisable(true);
        Label title = new Label(say("open-panel.kept-drives"));
        title.getStyleClass().add("card-subheading");
        VBox box = new VBox(4, title, list, new HBox(8, open, off, back));
        WeakListeners.attach(session.garage().keptProperty(), this, (o, was, is) -> list.getItems().setAll(is));
        list.getItems().setAll(session.garage().keptProperty().get());
        // Stays for as long as something can be put back on it.
        box.visibleProperty().bind(Bindings.isNotEmpty(list.getItems()).or(back.disableProperty().not()));
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }

    /** Which workbook drives are kept in, and the ways into and out of it. */
    private VBox workbook() {
        Label name = new Label();
        name.setId("workbook-name");
        name.getStyleClass().add("card-subheading");
        name.textProperty().bind(Bindings.concat(say("open-panel.workbook"), session.garage().workbookProperty()));
        Button other = MainWindow.button(say("open-panel.another"), "workbook-open",
                say("open-panel.go-on-with-another"),
                () -> picker.pick(getScene().getWindow(), say("open-panel.workbook-2"), "*.nariz").ifPresent(p
                        -> take(List.of(p))));
        Button in = MainWindow.button(say("open-panel.from-a-folder"), "workbook-in",
                say("open-panel.begin-a-workbook-from"),
                () -> picker.folder(getScene().getWindow(), say("open-panel.folder-of-a-workbook")).ifPresent(p
                        -> take(List.of(p))));
        Button out = MainWindow.button(say("open-panel.write-it-all-out"), "workbook-out",
                say("open-panel.the-whole-workbook-as"),
                () -> picker.folder(getScene().getWindow(), say("open-panel.empty-folder")).ifPresent(
                        session.garage()::exportAll));
        VBox box = new VBox(4, name, new HBox(8, other, in, out));
        box.visibleProperty().bind(session.garage().workbookProperty().isNotEmpty());
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }

    private void openSelected(ListView<DriveRepository.Entry> list) {
        DriveRepository.Entry e = list.getSelectionModel().getSelectedItem();
        if (e != null) {
            session.openKept(e.run());
        }
    }

    private void takeOff(ListView<DriveRepository.Entry> list) {
        DriveRepository.Entry e = list.getSelectionModel().getSelectedItem();
        if (e != null) {
            session.garage().takeOff(e.run());
        }
    }

    private HBox row(String name, TextField field, String id, String pattern) {
        field.setId(id);
        field.setAccessibleText(say("open-panel.file", name));
        field.setPromptText(pattern);
        HBox.setHgrow(field, Priority.ALWAYS);
        Label label = new Label(name);
        label.setMinWidth(86);
        label.setLabelFor(field);
        Button browse = new Button(say("open-panel.choose"));
        browse.setAccessibleText(say("open-panel.choose-2", name));
        browse.setOnAction(e -> picker.pick(getScene().getWindow(), name, pattern)
                .ifPresent(p -> field.setText(p.toString())));
        HBox row = new HBox(8, label, field, browse);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    /**
     * Takes dropped files: a workbook, a folder of one and a data package open at once; JSON is a sheet, anything else
     * a log; with both it starts reading.
     */
    void take(List<Path> files) {
        for (Path p : files) {
            String name = p.toString().toLowerCase(Locale.ROOT);
            if (Files.isDirectory(p)) {
                picker.place(getScene().getWindow(), say("open-panel.workbook-to-begin"), p.getFileName()
                        + Workbook.EXTENSION)
                        .ifPresent(file -> session.openWorkbook(file, p));
                return;
            }
            if (name.endsWith(Workbook.EXTENSION)) {
                session.openWorkbook(p, null);
                return;
            }
            if (name.endsWith(".zip")) {
                session.openPackage(p);
                return;
            }
            (name.endsWith(".json") ? sheet : log).setText(p.toString());
        }
        if (!sheet.getText().isBlank() && !log.getText().isBlank()) {
            start();
        }
    }

    private void start() {
        if (log.getText() != null && log.getText().strip().toLowerCase(Locale.ROOT).endsWith(".zip")) {
            Path zip = usable(log, say("open-panel.data-package"));
            if (zip != null) {
                session.openPackage(zip);
            }
            return;
        }
        withFiles(session::open);
    }

    private void withFiles(BiConsumer<Path, Path> use) {
        Path s = usable(sheet, say("open-panel.build-sheet-2"));
        Path l = s == null ? null : usable(log, say("open-panel.log"));
        if (l != null) {
            use.accept(s, l);
        }
    }

    private Path usable(TextField field, String what) {
        String text = field.getText() == null ? "" : field.getText().trim();
        if (text.isEmpty()) {
            session.complain(say("open-panel.no-is-chosen-choose", what));
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
        session.complain(say("open-panel.there-is-no-file", text, what));
        field.requestFocus();
        return null;
    }
}
