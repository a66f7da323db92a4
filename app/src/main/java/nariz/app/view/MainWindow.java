package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import atlantafx.base.theme.PrimerDark;
import atlantafx.base.theme.PrimerLight;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.ProgressIndicator;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.input.DragEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import nariz.app.chart.DifferencePicture;
import nariz.app.chart.EffectChart;
import nariz.app.chart.EnrichmentPicture;
import nariz.app.chart.FuelStream;
import nariz.app.chart.Picture;
import nariz.app.chart.Plane;
import nariz.app.chart.PullPicture;
import nariz.app.chart.Scrubber;
import nariz.app.chart.SeriesPicture;
import nariz.app.chart.TipInPicture;
import nariz.app.chart.TraceView;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Drive;
import nariz.app.state.MixtureUnit;
import nariz.app.state.Session;
import nariz.app.state.Settings;
import nariz.app.state.Stop;
import nariz.app.theme.Fonts;
import nariz.app.theme.Palette;
import nariz.app.words.WindowWords;
import nariz.text.Language;

/** The window: circuit path on top, the shown stop in the middle, the log along the bottom. */
public final class MainWindow extends StackPane {
    private static final double USUAL_PX = 14;
    private static final double LEAST_WIDTH = 1024;
    private static final double LEAST_HEIGHT = 690;
    /** Places in the row of pictures and of side panels. */
    private static final int STREAM = 0;
    static final int TRACE = 1;
    static final int TIP_INS = 2;
    private static final int DIFFERENCE = 3;
    static final int ENRICHMENT = 4;
    static final int PULLS = 5;
    static final int TRIALS = 6;
    static final int TRY = 1;
    static final int COMPARE = 2;
    static final int RECORD = 3;

    private final Session session;
    private final List<Picture> pictures;
    private final OpenPanel openPanel;
    private final SheetPanel sheetPanel;
    private final Find find;
    private final Choice picture;
    private final Choice side;
    private final FilePicker picker;
    private final String fonts;
    private final Settings settings;
    private final Magnified page;
    private double textPx = USUAL_PX;
    private boolean night;

    /**
     * Puts the window together.
     *
     * @param session what to show
     * @param picker asks for files
     */
    public MainWindow(Session session, FilePicker picker) {
        this(session, picker, Settings.none());
    }

    /**
     * Puts the window together as somebody likes it.
     *
     * @param session what to show
     * @param picker asks for files
     * @param settings language, colours, size of text and units, and where changes to them are kept
     */
    public MainWindow(Session session, FilePicker picker, Settings settings) {
        this.session = session;
        this.picker = picker;
        this.settings = settings;
        FuelStream stream = new FuelStream(session);
        Plane plane = new Plane(session);
        TraceView trace = new TraceView(session);
        TipInPicture stabs = new TipInPicture(session);
        DifferencePicture difference = new DifferencePicture(session);
        EnrichmentPicture enrichment = new EnrichmentPicture(session);
        PullPicture pulls = new PullPicture(session);
        SeriesPicture trials = new SeriesPicture(session);
        Scrubber scrubber = new Scrubber(session);
        EffectChart effect = new EffectChart(session);
        stream.setId("fuel-stream");
        plane.setId("plane");
        trace.setId("trace");
        scrubber.setId("scrubber");
        effect.setId("effect");
        stabs.setId("stabs");
        difference.setId("difference");
        enrichment.setId("enrichment");
        pulls.setId("pulls");
        trials.setId("trials");
        pictures = List.of(stream, plane, trace, stabs, difference, enrichment, pulls, trials, scrubber,
                effect);
        sheetPanel = new SheetPanel(session, picker, this::sheetKept);
        openPanel = new OpenPanel(session, picker, () -> showOpen(false), sheetPanel::open);
        openPanel.setMaxSize(620, Region.USE_PREF_SIZE);
        showOpen(false);

        HBox evidence = new HBox(10, stream, plane);
        HBox.setHgrow(stream, Priority.ALWAYS);
        HBox.setHgrow(plane, Priority.ALWAYS);
        stream.setPrefWidth(480);
        plane.setPrefWidth(440);
        Choice shown = new Choice(say("main-window.picture"));
        shown.add(say("main-window.stream-and-plane"), "show-stream", say("main-window.fuel-at-the-cursor"), evidence);
        shown.add(say("main-window.trace"), "show-trace", say("main-window.the-log-in-strips"), trace);
        shown.add(say("main-window.tip-ins"), "show-stabs", say("main-window.the-mixture-after-the"), stabs);
        shown.add(say("main-window.difference"), "show-difference", say("main-window.this-drive-against-another"),
                difference);
        shown.add(say("main-window.enrichment"), "show-enrichment", say("main-window.enrichment-help"), enrichment);
        shown.add(say("main-window.pulls"), "show-pulls", say("main-window.pulls-help"), pulls);
        shown.add(say("main-window.trials"), "show-trials", say("main-window.trials-help"), trials);
        picture = shown;
        VBox left = new VBox(8, new VerdictPanel(session), shown.bar(), shown);
        VBox.setVgrow(shown, Priority.ALWAYS);
        shown.bar().getChildren().add(strips(trace));
        HBox.setHgrow(left, Priority.ALWAYS);
        WorkCardPanel card = new WorkCardPanel(session, picker);
        side = new Choice(say("main-window.side-panel"));
        side.add(say("main-window.card"), "show-card", say("main-window.what-to-do-at"), card);
        side.add(say("main-window.try-parts"), "show-try", say("main-window.drag-parts-along-their"), new TryPanel(
                session));
        side.add(say("main-window.compare"), "show-compare", say("main-window.against-another-drive-of"),
                new ComparePanel(session));
        PlanPanel plan = new PlanPanel(session);
        side.add(say("main-window.record"), "show-plan", say("main-window.readings-this-drive-lacks"), plan);
        plane.planShownProperty().bind(plan.visibleProperty());
        VBox right = new VBox(8, side.bar(), side, effect);
        VBox.setVgrow(side, Priority.ALWAYS);
        right.setMinWidth(300);
        right.setPrefWidth(330);
        right.setMaxWidth(420);
        HBox middle = new HBox(10, left, right);
        middle.getStyleClass().add("middle");

        find = new Find(new Commands(this, session, picture, side)::all, scrubber::requestFocus);
        new Shortcuts(this, session, picture, side, find.field());
        BorderPane paper = new BorderPane(middle);
        paper.setTop(new VBox(topBar(), message(), following(), new CircuitPath(session)));
        VBox bottom = new VBox(4, new LogBar(session, picker), scrubber);
        bottom.getStyleClass().add("bottom");
        scrubber.prefHeightProperty().bind(javafx.beans.binding.Bindings.createDoubleBinding(() -> Math.clamp(
                0.34 * getHeight() - 108, 124, 220), heightProperty()));
        paper.setBottom(bottom);
        ColumnsPanel columns = new ColumnsPanel(session);
        columns.setMaxSize(990, Region.USE_PREF_SIZE);
        StackPane.setAlignment(find.list(), Pos.TOP_RIGHT);
        StackPane.setMargin(find.list(), new Insets(46, 150, 0, 0));
        sheetPanel.setMaxSize(990, Region.USE_PREF_SIZE);
        StackPane.setMargin(sheetPanel, new Insets(10));
        StackPane layers = new StackPane(paper, openPanel, columns, sheetPanel, find.list());
        page = new Magnified(layers);
        getChildren().add(page);
        widthProperty().addListener((o, was, is) -> fit());
        heightProperty().addListener((o, was, is) -> fit());
        WeakListeners.attach(session.questionProperty(), this, (o, was, is) -> showOpen(false));
        getStyleClass().addAll("nariz", "day");
        // By name read from the file: the style sheet need not know what the shipped face is called.
        fonts = "-fx-font-family: '" + Fonts.load() + "';";
        setStyle(fonts);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> {
            if (is == null || was == null || !is.log().equals(was.log())) {
                scrubber.requestFocus();
            }
        });
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> follow(is));
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) ->
                follow(session.stopProperty().get()));
        WeakListeners.attach(session.comparisons().seriesProperty(), this, (o, was, is) -> {
            if (is != null) {
                picture.show(TRIALS);
                side.show(COMPARE);
            }
        });
        setOnDragOver(this::dragOver);
        setOnDragDropped(this::dropped);
        session.unitProperty().set(settings.mixture());
        WeakListeners.attach(session.unitProperty(), this, (o, was, is) -> settings.mixture(is));
        if (!settings.shown().equals(session.shownProperty().get())) {
            session.use(settings.shown());
        }
        WeakListeners.attach(session.shownProperty(), this, (o, was, is) -> settings.shown(is));
        settings.textPx().ifPresent(this::textSize);
        // Lists that pop up take their colours from the scene, which comes later.
        sceneProperty().addListener((o, was, is) -> setNight(settings.night()));
    }

    private void sheetKept(Path file) {
        openPanel.began(file);
    }

    /** Each stop's own evidence comes to the front; a trace the user chose stays. */
    private void follow(Stop stop) {
        int now = picture.shown();
        if (now == TRACE) {
            return;
        }
        picture.show(evidence(stop));
        if (stop == Stop.PROOF) {
            side.show(COMPARE);
        } else if (side.shown() == COMPARE && session.comparisons().comparisonProperty().get() == null) {
            side.show(0);
        }
    }

    private int evidence(Stop stop) {
        Drive d = session.driveProperty().get();
        return switch (stop) {
            case PUMP -> TIP_INS;
            case POWER -> d != null && d.analysis().advice().dynamics().enrichment().isPresent() ? ENRICHMENT : STREAM;
            case PROOF -> session.comparisons().comparisonProperty().get() != null ? DIFFERENCE : STREAM;
            default -> STREAM;
        };
    }

    /** Stops of the open drive's carburetor, in the order of work: the digit keys count along them. */
    List<Stop> stops() {
        Drive d = session.driveProperty().get();
        return d == null ? List.of(Stop.values()) : Stop.of(d.sheet().carburetor().family());
    }

    void otherUnit() {
        session.unitProperty().set(session.unitProperty().get() == MixtureUnit.AFR ? MixtureUnit.LAMBDA
                : MixtureUnit.AFR);
    }

    /**
     * Sets the size of text. Pictures and controls grow together as far as the window has room for a page of
     * {@value #LEAST_WIDTH} by {@value #LEAST_HEIGHT} px; beyond that the text of controls alone.
     *
     * @param px size of running text, 12 to 22
     */
    public void textSize(double px) {
        textPx = Math.clamp(px, 12, 22);
        settings.textPx(textPx);
        fit();
    }

    void largerText(int px) {
        textSize(textPx + px);
    }

    void otherColours() {
        setNight(!night);
    }

    /** The page is laid out as large as its magnified picture fills the window. */
    private void fit() {
        double room = Math.min(getWidth() / LEAST_WIDTH, getHeight() / LEAST_HEIGHT);
        double wanted = textPx / USUAL_PX;
        double by = wanted <= 1 || room <= 0 ? Math.min(1, wanted) : Math.clamp(wanted, 1, Math.max(1, room));
        pictures.forEach(p -> p.sharpnessProperty().set(by));
        page.magnify(by);
        setStyle(fonts + "-fx-font-size: " + textPx / by + "px;");
    }

    /** Which channels the trace shows. */
    private MenuButton strips(TraceView trace) {
        MenuButton menu = new MenuButton(say("main-window.channels"));
        menu.setId("trace-channels");
        menu.setAccessibleText(say("main-window.channels-of-the-trace"));
        menu.visibleProperty().bind(trace.visibleProperty().and(session.driveProperty().isNotNull()));
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> menu.getItems().setAll(is == null
                ? List.of()
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
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> car.setText(is == null ? ""
                : is.sheet().name() + "  ·  " + is.log().name()));
        Region space = new Region();
        HBox.setHgrow(space, Priority.ALWAYS);
        Button demo = button(say("main-window.demo-drive"), "open-demo", say("main-window.open-the-made-up"),
                session::openDemo);
        Button open = button(say("main-window.open-2"), "open", say("main-window.open-a-build-sheet"), () -> showOpen(
                true));
        UnitsMenu unit = new UnitsMenu(session);
        ToggleButton theme = new ToggleButton(say("main-window.night"));
        theme.setId("theme");
        theme.setAccessibleText(say("main-window.dark-colours"));
        theme.setTooltip(new Tooltip(say("main-window.dark-colours-t")));
        theme.setOnAction(e -> setNight(theme.isSelected()));
        Language next = other();
        Button language = button(next.own(), "language", next.own(), () -> speak(next));
        HBox bar = new HBox(10, name, car, space, busy(session.busyProperty()), find.field(), demo, open, unit, theme,
                language);
        // Because a narrow window takes from the name of the car and the field first.
        for (Region r : List.of(name, demo, open, unit, theme, language)) {
            r.setMinWidth(Region.USE_PREF_SIZE);
        }
        find.field().setMinWidth(90);
        car.setMinWidth(0);
        bar.setAlignment(Pos.CENTER_LEFT);
        bar.getStyleClass().add("top-bar");
        return bar;
    }

    static Language other() {
        Language[] all = Language.values();
        return all[(WindowWords.wording().language().ordinal() + 1) % all.length];
    }

    /**
     * Says everything in another language: a new window takes this one's place over the same session, and the answer is
     * put into words once more.
     *
     * @param language language
     */
    public void speak(Language language) {
        if (!session.busyProperty().get().isEmpty()) {
            session.complain(say("main-window.wait-for-it"));
            return;
        }
        WindowWords.use(WindowWords.wording().in(language));
        settings.language(language);
        MainWindow anew = new MainWindow(session, picker, settings);
        anew.openPanel.goOn(openPanel);
        anew.showOpen(openPanel.isVisible());
        anew.sheetPanel.goOn(sheetPanel);
        getScene().setRoot(anew);
        session.reword();
    }

    private HBox busy(ReadOnlyStringProperty what) {
        ProgressIndicator turning = new ProgressIndicator();
        turning.setPrefSize(20, 20);
        turning.setMaxSize(20, 20);
        Label text = new Label();
        text.textProperty().bind(what);
        Button cancel = button(say("main-window.cancel"), "cancel", say("main-window.stop-reading"), session::cancel);
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
        Button away = button(say("main-window.put-away"), "problem-away", say("main-window.put-this-message-away"),
                session::dismissProblem);
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

    /** What is followed while it is written, and the button that ends it. */
    private HBox following() {
        Label text = new Label();
        text.setId("following");
        text.textProperty().bind(session.following().progressProperty());
        Button finish = button(say("main-window.finish"), "follow-finish", say("main-window.finish-help"),
                session::finishFollowing);
        HBox box = new HBox(10, text, finish);
        box.setAlignment(Pos.CENTER_LEFT);
        box.getStyleClass().add("following");
        box.visibleProperty().bind(text.textProperty().isNotEmpty());
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
        settings.night(dark);
        getStyleClass().removeAll("day", "night");
        getStyleClass().add(dark ? "night" : "day");
        if (getScene() != null) {
            // Lists and menus that pop up have a window of their own and know only the theme library's colours.
            getScene().setUserAgentStylesheet((dark ? new PrimerDark() : new PrimerLight()).getUserAgentStylesheet());
        }
        pictures.forEach(p -> p.paletteProperty().set(dark ? Palette.NIGHT : Palette.DAY));
        if (lookup("#theme") instanceof ToggleButton b) {
            b.setSelected(dark);
        }
    }

    /**
     * Takes rows from the clipboard as a log.
     *
     * @param text rows, or null
     */
    void paste(String text) {
        if (text == null || text.isBlank()) {
            session.complain(say("main-window.there-is-no-text"));
            return;
        }
        try {
            Path file = java.nio.file.Files.createTempDirectory("nariz").resolve("pasted.csv");
            java.nio.file.Files.writeString(file, text);
            showOpen(true);
            openPanel.take(List.of(file));
        } catch (java.io.IOException e) {
            session.complain(say("main-window.the-rows-could-not", e.getMessage()));
        }
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
