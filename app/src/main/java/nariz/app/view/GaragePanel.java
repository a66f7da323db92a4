package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.BiConsumer;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.BooleanBinding;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Car;
import nariz.app.state.Drive;
import nariz.app.state.DriveRepository;
import nariz.app.state.Session;
import nariz.sim.Demo;
import nariz.workbook.Workbook;

/**
 * The garage: the cars that are kept, each with its logbook and what is next; choosing one and dropping a log opens a
 * drive. Below, the way in for a car that is not kept yet: a build sheet and a log.
 */
final class GaragePanel extends VBox {
    private final Session session;
    private final FilePicker picker;
    private static final double LISTS = 200;
    private static final double CELL = 385;

    private final SheetPanel form;
    private final ListView<Car> cars = new ListView<>();
    private final ListView<Line> drives = new ListView<>();
    /** Name of a car that is to be chosen once it is on the list. */
    private String wanted;
    private final TextField sheet = new TextField();
    private final TextField log = new TextField();
    private final Button read = new Button(say("open-panel.read-the-drive"));
    private final Button newLog = new Button(say("garage.new-log"));

    GaragePanel(Session session, FilePicker picker, Runnable close, Runnable live, SheetPanel form) {
        super(8);
        this.session = session;
        this.picker = picker;
        this.form = form;
        getStyleClass().add("open-panel");
        setId("open-panel");
        read.setId("open-read");
        read.setDefaultButton(true);
        read.setOnAction(e -> start());
        Button cancel = new Button(say("open-panel.close"));
        cancel.setCancelButton(true);
        cancel.setOnAction(e -> close.run());
        FlowPane demos = new FlowPane(8, 8, text(say("garage.demos"), "card-line"));
        for (Demo d : Demo.values()) {
            demos.getChildren().add(MainWindow.button(say("demo." + d.id()), d == Demo.ESTATE ? "open-panel-demo"
                    : "open-panel-demo-" + d.id(), say("demo.help-" + d.id()), () -> session.open().demo(d)));
        }
        Button beside = MainWindow.button(say("live-page.title"), "open-live", say("live-page.open"), live);
        Button begin = MainWindow.button(say("open-panel.start-sheet"), "sheet-start",
                say("open-panel.start-sheet-help"), this::begin);
        begin.textProperty().bind(Bindings.when(sheet.textProperty().isEmpty()).then(say("open-panel.start-sheet"))
                .otherwise(say("open-panel.change-sheet")));
        // Where nothing is kept the way to begin stands above, once.
        begin.visibleProperty().bind(Bindings.isNotEmpty(cars.getItems()).or(sheet.textProperty().isNotEmpty()));
        begin.managedProperty().bind(begin.visibleProperty());
        Button follow = MainWindow.button(say("open-panel.follow"), "open-follow", say("open-panel.follow-help"),
                () -> withFiles((s, l) -> {
                    session.follow(s, l);
                    close.run();
                }));
        // Two rows where one has no room, in whichever language.
        FlowPane buttons = new FlowPane(8, 8, begin, read, follow);
        Region space = new Region();
        HBox.setHgrow(space, Priority.ALWAYS);
        HBox top = new HBox(8, text(say("garage.cars"), "card-heading"), space, beside, cancel);
        top.setAlignment(Pos.CENTER_LEFT);
        Label another = text("", "card-heading");
        another.textProperty().bind(Bindings.when(Bindings.isEmpty(cars.getItems())).then(say("garage.from-files"))
                .otherwise(say("garage.another")));
        getChildren().addAll(top, hint(), kept(), demos, another, text(say("open-panel.choose-or-drop-a"), "small"),
                row(say("open-panel.build-sheet"), sheet, "open-sheet", "*.json"),
                row(say("open-panel.log"), log, "open-log", "*.csv"), buttons, workbook());
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> {
            // The same drive in other words or units is no reason.
            if (is != null && (was == null || !is.log().equals(was.log()))) {
                close.run();
            }
            chooseCarOf(is);
        });
        WeakListeners.attach(session.garage().carsProperty(), this, (o, was, is) -> show(is));
        show(session.garage().carsProperty().get());
    }

    private static Label text(String s, String style) {
        Label l = new Label(s);
        l.setWrapText(true);
        l.getStyleClass().add(style);
        return l;
    }

    /** What to begin with where nothing is kept. */
    private HBox hint() {
        Label l = text(say("garage.empty"), "card-line");
        l.setId("garage-empty");
        HBox.setHgrow(l, Priority.ALWAYS);
        l.setMaxWidth(Double.MAX_VALUE);
        Button first = MainWindow.button(say("garage.first-car"), "garage-first", say("open-panel.start-sheet-help"),
                this::begin);
        first.getStyleClass().add("primary");
        first.setMinWidth(USE_PREF_SIZE);
        HBox box = new HBox(10, first, l);
        box.setAlignment(Pos.CENTER_LEFT);
        box.visibleProperty().bind(Bindings.isEmpty(cars.getItems()));
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }

    private void begin() {
        Path there = sheet.getText().isBlank() ? null : usable(sheet, say("open-panel.build-sheet-2"));
        if (there != null || sheet.getText().isBlank()) {
            form.open(there);
        }
    }

    private void show(List<Car> all) {
        Car chosen = chosen();
        cars.getItems().setAll(all);
        String name = wanted != null ? wanted : chosen == null ? "" : chosen.name();
        all.stream().filter(c -> c.name().equals(name)).findFirst().ifPresentOrElse(c -> {
            cars.getSelectionModel().select(c);
            if (wanted != null && c.logbook().isEmpty()) {
                // A car that was begun this moment wants its first log.
                newLog.requestFocus();
            }
            wanted = null;
        }, () -> chooseCarOf(session.driveProperty().get()));
        logbook();
    }

    /** A kept drive brings its car to the front; with any other drive none is chosen. */
    private void chooseCarOf(Drive d) {
        if (d != null) {
            session.garage().carOf(d).ifPresentOrElse(c -> cars.getSelectionModel().select(c), cars
                    .getSelectionModel()::clearSelection);
        }
    }

    /**
     * Chooses a car, now or once it is on the list.
     *
     * @param name its name
     */
    void choose(String name) {
        wanted = name;
        show(session.garage().carsProperty().get());
    }

    /** The list of cars has the keyboard, or the first field where there is none. */
    void takeFocus() {
        if (cars.getItems().isEmpty()) {
            sheet.requestFocus();
        } else {
            // None is chosen by itself: a log dropped now must not go to a car nobody named.
            cars.requestFocus();
        }
    }

    private Car chosen() {
        return cars.getSelectionModel().getSelectedItem();
    }

    /** The drives of the chosen car, or of all. */
    private void logbook() {
        Car c = chosen();
        List<Line> lines = new ArrayList<>();
        if (c == null) {
            session.garage().keptProperty().get().forEach(e -> lines.add(new Line(e, String.format(Locale.ROOT,
                    "%s   %s   %s   %d:%02d", day(e.imported()), e.vehicle(), e.name(), (int) e.durationS() / 60,
                    (int) e.durationS() % 60))));
        } else {
            c.logbook().forEach(e -> lines.add(new Line(e instanceof Car.Event.Driven d ? d.entry() : null, day(e.at())
                    + "   " + e.words())));
        }
        drives.getItems().setAll(lines);
    }

    private static String day(Instant at) {
        return at.toString().substring(0, 10);
    }

    /** A line of the logbook: a drive that can be opened, or something that was fitted. */
    private record Line(DriveRepository.Entry drive, String words) {
        @Override
        public String toString() {
            return words;
        }
    }

    /** Goes on with the files that were named in another language. */
    void goOn(GaragePanel before) {
        sheet.setText(before.sheet.getText());
        log.setText(before.log.getText());
    }

    /** A sheet has been kept: it is the one to read the drive with. */
    void began(Path file) {
        sheet.setText(file.toString());
        log.requestFocus();
    }

    /** The cars, and beside them the logbook of the chosen one: a double click or Enter opens a drive. */
    private VBox kept() {
        cars.setId("cars");
        cars.setAccessibleText(say("garage.cars"));
        cars.setPrefSize(430, LISTS);
        cars.setCellFactory(v -> new CarCell());
        cars.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> logbook());
        opens(cars, this::openLast);
        drives.setId("open-kept");
        drives.setPrefSize(400, LISTS);
        drives.setAccessibleText(say("open-panel.kept-drives"));
        drives.setCellFactory(v -> new ListCell<>() {
            @Override
            protected void updateItem(Line e, boolean empty) {
                super.updateItem(e, empty);
                Label l = text(empty ? "" : e.words(), "card-line");
                l.setMinHeight(USE_PREF_SIZE);
                l.setPrefWidth(CELL);
                setGraphic(empty ? null : l);
                setAccessibleText(l.getText());
            }
        });
        opens(drives, this::openSelected);
        drives.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.DELETE) {
                takeOff();
                e.consume();
            }
        });
        BooleanBinding none = cars.getSelectionModel().selectedItemProperty().isNull();
        newLog.setId("car-log");
        newLog.setTooltip(new Tooltip(say("garage.new-log-help")));
        newLog.setAccessibleText(newLog.getText());
        newLog.setOnAction(e -> newLog());
        newLog.getStyleClass().add("primary");
        Button last = MainWindow.button(say("garage.last-drive"), "car-last", say("garage.last-drive-help"),
                this::openLast);
        Button itsSheet = MainWindow.button(say("garage.its-sheet"), "car-sheet", say("garage.its-sheet-help"),
                () -> form.open(chosen().sheet()));
        List.of(newLog, itsSheet).forEach(b -> b.disableProperty().bind(none));
        last.disableProperty().bind(Bindings.createBooleanBinding(() -> chosen() == null || chosen().lastDrive()
                .isEmpty(), cars.getSelectionModel().selectedItemProperty()));
        BooleanBinding noDrive = Bindings.createBooleanBinding(() -> drive() == null, drives.getSelectionModel()
                .selectedItemProperty());
        Button open = MainWindow.button(say("open-panel.open-it"), "kept-open", say("open-panel.open-the-chosen-drive"),
                this::openSelected);
        Button off = MainWindow.button(say("open-panel.take-it-off-the"), "kept-off",
                say("open-panel.the-drive-stays-in"), this::takeOff);
        open.disableProperty().bind(noDrive);
        off.disableProperty().bind(noDrive);
        Button back = MainWindow.button(say("open-panel.undo"), "kept-undo", say("open-panel.take-back-what-was"),
                session::undo);
        WeakListeners.attach(session.historyProperty(), this, (o, was, is) -> back.setDisable(is.isEmpty()));
        back.setDisable(true);
        VBox left = new VBox(4, cars, new FlowPane(8, 8, newLog, last, itsSheet));
        VBox right = new VBox(4, drives, new FlowPane(8, 8, open, off, back));
        HBox.setHgrow(right, Priority.ALWAYS);
        VBox box = new VBox(4, new HBox(10, left, right));
        WeakListeners.attach(session.garage().keptProperty(), this, (o, was, is) -> logbook());
        // Stays for as long as something can be put back on it.
        box.visibleProperty().bind(Bindings.isNotEmpty(cars.getItems()).or(back.disableProperty().not()));
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }

    /** A double click or Enter opens what is chosen. */
    private static void opens(ListView<?> list, Runnable open) {
        list.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                open.run();
            }
        });
        list.addEventHandler(KeyEvent.KEY_PRESSED, e -> {
            if (e.getCode() == KeyCode.ENTER) {
                open.run();
                e.consume();
            }
        });
    }

    /** A car: its name, its last drive and how far the tune is, and what is next. */
    private static final class CarCell extends ListCell<Car> {
        @Override
        protected void updateItem(Car c, boolean empty) {
            super.updateItem(c, empty);
            setText(null);
            if (empty || c == null) {
                setGraphic(null);
                setAccessibleText("");
                return;
            }
            String last = c.lastDrive().map(d -> say("garage.last", d.entry().name(), day(d.at()), c.state()))
                    .orElseGet(c::state);
            VBox box = new VBox(1, text(c.name(), "stop-name"), text(last, "small"), text(c.next(), "card-line"));
            box.getChildren().forEach(l -> ((Label) l).setMinHeight(USE_PREF_SIZE));
            box.setPrefWidth(CELL);
            box.setMaxWidth(CELL);
            setGraphic(box);
            setAccessibleText(c.name() + ". " + last + ". " + c.next());
        }
    }

    private void newLog() {
        Car c = chosen();
        if (c != null) {
            picker.pick(getScene().getWindow(), say("open-panel.log"), "*.csv").ifPresent(
                    p -> session.open().files(c, p));
        }
    }

    private void openLast() {
        Car c = chosen();
        if (c != null) {
            c.lastDrive().ifPresentOrElse(d -> session.open().kept(d.entry().run()), this::newLog);
        }
    }

    private DriveRepository.Entry drive() {
        Line l = drives.getSelectionModel().getSelectedItem();
        return l == null ? null : l.drive();
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

    private void openSelected() {
        if (drive() != null) {
            session.open().kept(drive().run());
        }
    }

    private void takeOff() {
        if (drive() != null) {
            session.garage().takeOff(drive().run());
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
                session.open().dataPackage(p);
                return;
            }
            (name.endsWith(".json") ? sheet : log).setText(p.toString());
        }
        if (!sheet.getText().isBlank() && !log.getText().isBlank()) {
            start();
        } else if (sheet.getText().isBlank() && chosen() != null && !log.getText().isBlank()) {
            // Choosing the car and dropping the log is all there is to it.
            Path l = usable(log, say("open-panel.log"));
            log.clear();
            if (l != null) {
                session.open().files(chosen(), l);
            }
        }
    }

    private void start() {
        if (log.getText() != null && log.getText().strip().toLowerCase(Locale.ROOT).endsWith(".zip")) {
            Path zip = usable(log, say("open-panel.data-package"));
            if (zip != null) {
                session.open().dataPackage(zip);
            }
            return;
        }
        withFiles(session.open()::files);
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
