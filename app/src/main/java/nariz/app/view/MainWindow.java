package nariz.app.view;

import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.ProgressIndicator;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.input.Clipboard;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import nariz.app.plot.EffectChart;
import nariz.app.plot.FuelStream;
import nariz.app.plot.Picture;
import nariz.app.plot.Plane;
import nariz.app.plot.Scrubber;
import nariz.app.plot.TraceView;
import nariz.advice.Candidate;
import nariz.app.session.Glossary;
import nariz.app.session.Library;
import nariz.app.session.MixtureUnit;
import nariz.app.session.Session;
import nariz.app.session.Stop;
import nariz.app.theme.Fonts;
import nariz.app.theme.Palette;
import nariz.build.Kit;
import nariz.store.Workbook;

/** The window: circuit path on top, the shown stop in the middle, the log along the bottom. */
public final class MainWindow extends StackPane {
    private static final double USUAL_PX = 14;

    private final Session session;
    private final List<Picture> pictures;
    private final OpenPanel openPanel;
    private final Find find;
    private final Choice picture;
    private final Choice side;
    private final String fonts;
    private double textPx = USUAL_PX;
    private boolean night;
    /** Set while the letter that led into a text field would be typed into it. */
    private boolean swallow;

    /**
     * Puts the window together.
     *
     * @param session what to show
     * @param picker asks for files
     */
    public MainWindow(Session session, FilePicker picker) {
        this.session = session;
        FuelStream stream = new FuelStream(session);
        Plane plane = new Plane(session);
        TraceView trace = new TraceView(session);
        Scrubber scrubber = new Scrubber(session);
        EffectChart effect = new EffectChart(session);
        stream.setId("fuel-stream");
        plane.setId("plane");
        trace.setId("trace");
        scrubber.setId("scrubber");
        effect.setId("effect");
        pictures = List.of(stream, plane, trace, scrubber, effect);
        openPanel = new OpenPanel(session, picker, () -> showOpen(false));
        openPanel.setMaxSize(620, Region.USE_PREF_SIZE);
        showOpen(false);

        HBox evidence = new HBox(10, stream, plane);
        HBox.setHgrow(stream, Priority.ALWAYS);
        HBox.setHgrow(plane, Priority.ALWAYS);
        stream.setPrefWidth(480);
        plane.setPrefWidth(440);
        Choice shown = new Choice("Picture");
        shown.add("Stream and plane", "show-stream", "Fuel at the cursor and where the engine ran (V)", evidence);
        shown.add("Trace", "show-trace", "The log in strips (V)", trace);
        picture = shown;
        VBox left = new VBox(8, new VerdictPanel(session), shown.bar(), shown);
        VBox.setVgrow(shown, Priority.ALWAYS);
        shown.bar().getChildren().add(strips(trace));
        HBox.setHgrow(left, Priority.ALWAYS);
        WorkCardPanel card = new WorkCardPanel(session, picker);
        side = new Choice("Side panel");
        side.add("Work card", "show-card", "What to do at this stop (K)", card);
        side.add("Try parts", "show-try", "Drag parts along their ladders (K)", new TryPanel(session));
        VBox right = new VBox(8, side.bar(), side, effect);
        VBox.setVgrow(side, Priority.ALWAYS);
        right.setMinWidth(300);
        right.setPrefWidth(330);
        right.setMaxWidth(420);
        HBox middle = new HBox(10, left, right);
        middle.getStyleClass().add("middle");

        find = new Find(this::things, scrubber::requestFocus);
        BorderPane page = new BorderPane(middle);
        page.setTop(new VBox(topBar(), message(), new CircuitPath(session)));
        VBox bottom = new VBox(4, new LogBar(session, picker), scrubber);
        bottom.getStyleClass().add("bottom");
        scrubber.prefHeightProperty().bind(javafx.beans.binding.Bindings.createDoubleBinding(() -> Math.clamp(
                0.34 * getHeight() - 108, 124, 220), heightProperty()));
        page.setBottom(bottom);
        ColumnsPanel columns = new ColumnsPanel(session);
        columns.setMaxSize(990, Region.USE_PREF_SIZE);
        StackPane.setAlignment(find.list(), Pos.TOP_RIGHT);
        StackPane.setMargin(find.list(), new Insets(46, 150, 0, 0));
        getChildren().addAll(page, openPanel, columns, find.list());
        session.questionProperty().addListener((o, was, is) -> showOpen(false));
        getStyleClass().addAll("nariz", "day");
        // By name read from the file: the style sheet need not know what the shipped face is called.
        fonts = "-fx-font-family: '" + Fonts.load() + "';";
        setStyle(fonts);
        addEventFilter(KeyEvent.KEY_PRESSED, this::shortcut);
        addEventFilter(KeyEvent.KEY_TYPED, e -> {
            if (swallow) {
                e.consume();
            }
        });
        addEventFilter(KeyEvent.KEY_RELEASED, e -> swallow = false);
        session.driveProperty().addListener((o, was, is) -> scrubber.requestFocus());
        setOnDragOver(this::dragOver);
        setOnDragDropped(this::dropped);
    }

    /** Everything the one field finds, in the order of work. */
    private List<Find.Thing> things() {
        List<Find.Thing> out = new ArrayList<>();
        Session.Drive d = session.driveProperty().get();
        if (d != null) {
            for (Stop s : Stop.values()) {
                out.add(new Find.Thing("Go to " + s.label(), Integer.toString(s.ordinal() + 1), () -> session.goTo(s)));
            }
        }
        out.add(new Find.Thing("Open a drive", "O", () -> showOpen(true)));
        out.add(new Find.Thing("Demo drive", "D", session::openDemo));
        out.add(new Find.Thing("Paste rows as a log", "Ctrl+V", () -> paste(Clipboard.getSystemClipboard()
                .getString())));
        out.add(new Find.Thing("AFR or lambda", "U", this::otherUnit));
        out.add(new Find.Thing("Night or day colours", "T", () -> setNight(!night)));
        out.add(new Find.Thing("Larger text", "Ctrl+Plus", () -> textSize(textPx + 1)));
        out.add(new Find.Thing("Smaller text", "Ctrl+Minus", () -> textSize(textPx - 1)));
        out.add(new Find.Thing("Stream and plane, or trace", "V", picture::next));
        out.add(new Find.Thing("Work card, or try parts", "K", side::next));
        out.add(new Find.Thing("Work card on paper", "Ctrl+P", () -> ((WorkCardPanel) lookup("#work-card")).print()));
        out.add(new Find.Thing("Note on this moment", "M", () -> lookup("#note").requestFocus()));
        out.add(new Find.Thing("Begin a stretch at the cursor, end it", "B, E", () -> lookup("#scrubber")
                .requestFocus()));
        out.add(new Find.Thing("Take the selected stretch out, or count it again", "X", () -> lookup("#scrubber")
                .requestFocus()));
        out.add(new Find.Thing("Next and previous mark of the plane", "N, P", () -> lookup("#plane").requestFocus()));
        out.add(new Find.Thing("Zoom and pan the trace, show all", "+ − PgUp PgDn 0", () -> {
            picture.show(1);
            lookup("#trace").requestFocus();
        }));
        session.historyProperty().get().stream().limit(1).forEach(t -> out.add(new Find.Thing("Undo: " + t, "Ctrl+Z",
                session::undo)));
        if (d != null && d.analysis().estimated()) {
            for (Candidate c : Candidate.of(d.sheet(), Kit.NONE)) {
                out.add(new Find.Thing("Try " + c.side().key() + " " + c.part().label() + ", now "
                        + c.part().text(c.fitted()), "", () -> {
                            session.goTo(Stop.of(c.circuit()));
                            side.show(1);
                            lookup("#try-" + c.side().key() + "-" + c.part().key()).requestFocus();
                        }));
            }
        }
        for (Workbook.Note n : session.notesProperty().get()) {
            out.add(new Find.Thing("Note: " + n.text(), "", () -> n.atS().ifPresent(t -> session.moveCursor(
                    session.driveProperty().get().log().indexAt(t)))));
        }
        for (Workbook.PartPlan p : session.plansProperty().get()) {
            out.add(new Find.Thing("Plan: " + p.name(), "", () -> {
                side.show(1);
                session.tryParts(p.changes());
            }));
        }
        // The line is the answer: choosing it only closes the list.
        Glossary.WORDS.forEach(w -> out.add(new Find.Thing(w, "word", () -> { })));
        for (Library.Entry e : session.keptProperty().get()) {
            out.add(new Find.Thing("Open " + e.vehicle() + ", " + e.name(), "", () -> session.openKept(e.run())));
        }
        return out;
    }

    private void otherUnit() {
        session.unitProperty().set(session.unitProperty().get() == MixtureUnit.AFR ? MixtureUnit.LAMBDA
                : MixtureUnit.AFR);
    }

    /**
     * Sets the size of text in controls; pictures keep theirs, since their places are made for it.
     *
     * @param px size of running text, 12 to 22
     */
    public void textSize(double px) {
        textPx = Math.clamp(px, 12, 22);
        setStyle(fonts + "-fx-font-size: " + textPx + "px;");
    }

    /** Which channels the trace shows. */
    private MenuButton strips(TraceView trace) {
        MenuButton menu = new MenuButton("Channels");
        menu.setId("trace-channels");
        menu.setAccessibleText("Channels of the trace");
        menu.visibleProperty().bind(trace.visibleProperty().and(session.driveProperty().isNotNull()));
        session.driveProperty().addListener((o, was, is) -> menu.getItems().setAll(is == null ? List.of()
                : is.strips().strips().stream().map(s -> {
                    CheckMenuItem item = new CheckMenuItem(s.label());
                    item.setSelected(trace.shows(s.key()));
                    item.setOnAction(e -> trace.strip(s.key(), item.isSelected()));
                    return item;
                }).toList()));
        HBox.setMargin(menu, new Insets(0, 0, 0, 10));
        return menu;
    }

    private HBox topBar() {
        Label name = new Label("Nariz");
        name.getStyleClass().add("product");
        Label car = new Label();
        car.getStyleClass().add("car");
        session.driveProperty().addListener((o, was, is) -> car.setText(is == null ? ""
                : is.sheet().name() + "  ·  " + is.log().name()));
        Region space = new Region();
        HBox.setHgrow(space, Priority.ALWAYS);
        Button demo = button("Demo drive", "open-demo", "Open the made-up estate car (D)", session::openDemo);
        Button open = button("Open…", "open", "Open a build sheet and a log (O)", () -> showOpen(true));
        ToggleButton unit = new ToggleButton("AFR");
        unit.setId("unit");
        unit.setAccessibleText("Show mixtures as AFR");
        unit.setTooltip(new Tooltip("AFR or lambda everywhere (U)"));
        unit.setOnAction(e -> session.unitProperty().set(unit.isSelected() ? MixtureUnit.AFR : MixtureUnit.LAMBDA));
        session.unitProperty().addListener((o, was, is) -> unit.setSelected(is == MixtureUnit.AFR));
        ToggleButton theme = new ToggleButton("Night");
        theme.setId("theme");
        theme.setAccessibleText("Dark colours");
        theme.setTooltip(new Tooltip("Dark colours (T)"));
        theme.setOnAction(e -> setNight(theme.isSelected()));
        HBox bar = new HBox(10, name, car, space, busy(session.busyProperty()), find.field(), demo, open, unit, theme);
        bar.setAlignment(Pos.CENTER_LEFT);
        bar.getStyleClass().add("top-bar");
        return bar;
    }

    private HBox busy(ReadOnlyStringProperty what) {
        ProgressIndicator turning = new ProgressIndicator();
        turning.setPrefSize(20, 20);
        turning.setMaxSize(20, 20);
        Label text = new Label();
        text.textProperty().bind(what);
        Button cancel = button("Cancel", "cancel", "Stop reading", session::cancel);
        HBox box = new HBox(8, turning, text, cancel);
        box.setAlignment(Pos.CENTER_LEFT);
        box.visibleProperty().bind(what.isNotEmpty());
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }

    private HBox message() {
        Label text = new Label();
        text.setId("problem");
        text.setWrapText(true);
        text.textProperty().bind(session.problemProperty());
        HBox.setHgrow(text, Priority.ALWAYS);
        text.setMaxWidth(Double.MAX_VALUE);
        Button away = button("Put away", "problem-away", "Put this message away", session::dismissProblem);
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

    static Button button(String text, String id, String help, Runnable action) {
        Button b = new Button(text);
        b.setId(id);
        b.setAccessibleText(text);
        b.setTooltip(new Tooltip(help));
        b.setOnAction(e -> action.run());
        return b;
    }

    /**
     * Shows or hides the panel on which a drive is chosen.
     *
     * @param show whether to show it
     */
    public void showOpen(boolean show) {
        openPanel.setVisible(show);
        openPanel.setManaged(show);
        if (show) {
            openPanel.lookup("#open-sheet").requestFocus();
        }
    }

    /**
     * Switches the colours.
     *
     * @param dark true for the night
     */
    public void setNight(boolean dark) {
        night = dark;
        getStyleClass().removeAll("day", "night");
        getStyleClass().add(dark ? "night" : "day");
        pictures.forEach(p -> p.paletteProperty().set(dark ? Palette.NIGHT : Palette.DAY));
        if (lookup("#theme") instanceof ToggleButton b) {
            b.setSelected(dark);
        }
    }

    /** What every platform does with these keys. */
    private void withShortcut(KeyEvent e) {
        if (e.getCode() == KeyCode.Y || (e.getCode() == KeyCode.Z && e.isShiftDown())) {
            session.redo();
        } else if (e.getCode() == KeyCode.Z) {
            session.undo();
        } else if (e.getCode() == KeyCode.O) {
            showOpen(true);
        } else if (e.getCode() == KeyCode.PLUS || e.getCode() == KeyCode.EQUALS || e.getCode() == KeyCode.ADD) {
            textSize(textPx + 1);
        } else if (e.getCode() == KeyCode.MINUS || e.getCode() == KeyCode.SUBTRACT) {
            textSize(textPx - 1);
        } else if (e.getCode() == KeyCode.P) {
            ((WorkCardPanel) lookup("#work-card")).print();
        } else if (e.getCode() == KeyCode.V) {
            paste(Clipboard.getSystemClipboard().getString());
        } else {
            return;
        }
        e.consume();
    }

    /**
     * Takes rows from the clipboard as a log.
     *
     * @param text rows, or null
     */
    void paste(String text) {
        if (text == null || text.isBlank()) {
            session.complain("There is no text to paste. Copy rows of readings first.");
            return;
        }
        try {
            Path file = java.nio.file.Files.createTempDirectory("nariz").resolve("pasted.csv");
            java.nio.file.Files.writeString(file, text);
            showOpen(true);
            openPanel.take(List.of(file));
        } catch (java.io.IOException e) {
            session.complain("The rows could not be set aside (" + e.getMessage() + "). Is the disk full?");
        }
    }

    /** Single letters, but not while typing a file name. */
    private void shortcut(KeyEvent e) {
        boolean typing = e.getTarget() instanceof javafx.scene.control.TextInputControl;
        if (!typing && e.isShortcutDown()) {
            withShortcut(e);
            return;
        }
        if (typing && e.getCode() == KeyCode.ESCAPE) {
            lookup("#scrubber").requestFocus();
            return;
        }
        if (typing || e.isAltDown()) {
            return;
        }
        if (e.getCode() == KeyCode.O) {
            showOpen(true);
        } else if (e.getCode() == KeyCode.D) {
            session.openDemo();
        } else if (e.getCode() == KeyCode.U) {
            otherUnit();
        } else if (e.getCode() == KeyCode.F) {
            enter(find.field());
        } else if (e.getCode() == KeyCode.V) {
            picture.next();
        } else if (e.getCode() == KeyCode.K) {
            side.next();
        } else if (e.getCode() == KeyCode.M) {
            enter(lookup("#note"));
        } else if (e.getCode() == KeyCode.T) {
            setNight(!night);
        } else if (e.getCode().isDigitKey() && e.getCode() != KeyCode.DIGIT0) {
            int i = e.getCode().getCode() - KeyCode.DIGIT1.getCode();
            if (i >= 0 && i < Stop.values().length && session.driveProperty().get() != null) {
                session.goTo(Stop.values()[i]);
            }
        } else {
            return;
        }
        e.consume();
    }

    private void enter(Node field) {
        swallow = true;
        field.requestFocus();
    }

    private void dragOver(DragEvent e) {
        if (e.getDragboard().hasFiles()) {
            e.acceptTransferModes(TransferMode.COPY);
        }
        e.consume();
    }

    private void dropped(DragEvent e) {
        if (e.getDragboard().hasFiles()) {
            List<Path> files = e.getDragboard().getFiles().stream().map(File::toPath).toList();
            showOpen(true);
            openPanel.take(files);
            e.setDropCompleted(true);
        }
        e.consume();
    }
}
