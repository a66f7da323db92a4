package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import atlantafx.base.theme.PrimerDark;
import atlantafx.base.theme.PrimerLight;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import javafx.application.Platform;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
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
import javafx.stage.WindowEvent;
import nariz.app.chart.Picture;
import nariz.app.chart.Scrubber;
import nariz.app.chart.WeakListeners;
import nariz.app.print.KeyCardPdf;
import nariz.app.state.Drive;
import nariz.app.state.MixtureUnit;
import nariz.app.state.Session;
import nariz.app.state.Settings;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.app.theme.Fonts;
import nariz.app.theme.Palette;
import nariz.app.words.WindowWords;
import nariz.text.Language;
import org.jspecify.annotations.Nullable;

/** The window: circuit path on top, the shown stop in the middle, the log along the bottom. */
public final class MainWindow extends StackPane {
    private static final double USUAL_PX = 14;
    private static final double LEAST_WIDTH = 1024;
    private static final double LEAST_HEIGHT = 690;
    /** Below this width of the page words are set smaller and closer, px. */
    private static final double NARROW = 1150;

    private final Session session;
    private final Pictures pictures;
    private final WorkColumn work;
    private final LogPane log;
    private final Actions actions;
    private final Shortcuts shortcuts;
    private final GaragePanel openPanel;
    private final SheetPanel sheetPanel;
    private final Find find;
    private final FilePicker picker;
    private final String fonts;
    private final Settings settings;
    private final Magnified page;
    private final GuidePanel guide;
    /** Made when it is first asked for: most starts do without. */
    private @Nullable LivePage livePage;
    private final StackPane layers;
    private final BorderPane paper;
    private final Tour tour;
    private double textPx = USUAL_PX;
    private boolean night;
    private boolean contrast;

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
        pictures = new Pictures(session, picker);
        work = new WorkColumn(session, picker, pictures.plane());
        log = new LogPane(session);
        Scrubber scrubber = log.scrubber();
        Choice picture = pictures.choice();
        Choice side = work.choice();
        sheetPanel = new SheetPanel(session, picker, this::sheetKept, this::carKept);
        openPanel = new GaragePanel(session, picker, () -> showOpen(false), () -> showLive(true), sheetPanel);
        openPanel.setMaxSize(900, Region.USE_PREF_SIZE);
        showOpen(false);

        actions = new Actions(this, session, pictures, work, log);
        find = new Find(new Findable(this, session, actions, side)::all, scrubber::requestFocus);
        shortcuts = new Shortcuts(this, actions);
        paper = new BorderPane();
        paper.setTop(new VBox(new TopBar(this, session, actions, find), MessageBars.problem(session, "problem"),
                MessageBars.following(session),
                new CircuitPath(session)));
        VBox left = new VBox(8, pictures, log);
        VBox.setVgrow(pictures, Priority.ALWAYS);
        HBox.setHgrow(left, Priority.ALWAYS);
        left.setMinWidth(0);
        HBox middle = new HBox(10, left, work);
        middle.getStyleClass().add("middle");
        // Before anything is open there is nothing behind the cars to look at.
        middle.visibleProperty().bind(session.driveProperty().isNotNull().or(openPanel.visibleProperty().not()
                .and(session.open().questionProperty().isNull())));
        paper.setCenter(middle);
        ColumnsPanel columns = new ColumnsPanel(session);
        columns.setMaxSize(990, Region.USE_PREF_SIZE);
        // Low, so that what is told of the file stays in sight above it in a low window.
        StackPane.setAlignment(columns, Pos.BOTTOM_CENTER);
        StackPane.setMargin(columns, new Insets(0, 0, 12, 0));
        StackPane.setAlignment(find.list(), Pos.TOP_RIGHT);
        StackPane.setMargin(find.list(), new Insets(46, 150, 0, 0));
        sheetPanel.setMaxSize(990, Region.USE_PREF_SIZE);
        StackPane.setMargin(sheetPanel, new Insets(10));
        guide = new GuidePanel(scrubber::requestFocus);
        guide.setMaxSize(900, Region.USE_PREF_SIZE);
        tour = new Tour(paper, () -> {
            settings.toured();
            scrubber.requestFocus();
        });
        layers = new StackPane(paper, openPanel, columns, sheetPanel, guide, tour, find.list());
        page = new Magnified(layers);
        getChildren().add(page);
        widthProperty().addListener((o, was, is) -> fit());
        heightProperty().addListener((o, was, is) -> fit());
        WeakListeners.attach(session.open().questionProperty(), this, (o, was, is) -> showOpen(false));
        getStyleClass().addAll("nariz", "day");
        // By name read from the file: the style sheet need not know what the shipped face is called.
        fonts = "-fx-font-family: '" + Fonts.load() + "';";
        setStyle(fonts);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> {
            if (is == null || was == null || !is.log().equals(was.log())) {
                scrubber.requestFocus();
            }
        });
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> {
            // The first demo somebody looks at is shown round once.
            if (was == null && session.open().practice() && settings.tourDue()) {
                Platform.runLater(tour::start);
            }
        });
        log.highProperty().set(settings.logHigh());
        log.highProperty().addListener((o, was, is) -> settings.logHigh(is));
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> follow(is));
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) ->
                follow(session.stopProperty().get()));
        WeakListeners.attach(session.comparisons().seriesProperty(), this, (o, was, is) -> {
            if (is != null) {
                picture.show(Pictures.TRIALS);
                side.show(WorkColumn.COMPARE);
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
        contrast = settings.contrast().orElseGet(MainWindow::platformContrast);
        // Lists that pop up take their colours from the scene, which comes later.
        sceneProperty().addListener((o, was, is) -> {
            setNight(settings.night());
            if (is != null && !openPanel.isVisible()) {
                scrubber.requestFocus();
            }
        });
    }

    private void sheetKept(Path file) {
        openPanel.began(file);
    }

    private void carKept(String name) {
        showOpen(true);
        openPanel.choose(name);
    }

    private void everyPicture(Consumer<Picture> what) {
        pictures.all().forEach(what);
        what.accept(log.scrubber());
        what.accept(work.effect());
        if (livePage != null) {
            livePage.pictures().forEach(what);
        }
    }

    /** Each stop's own evidence comes to the front; a trace the user chose stays. */
    private void follow(Stop stop) {
        Choice picture = pictures.choice();
        Choice side = work.choice();
        if (picture.shown().equals(Pictures.TRACE)) {
            return;
        }
        pictures.bring(stop.evidence(session.driveProperty().get(), session.comparisons().comparisonProperty().get()));
        if (stop.compares()) {
            side.show(WorkColumn.COMPARE);
        } else if (side.shown().equals(WorkColumn.COMPARE)
                && session.comparisons().comparisonProperty().get() == null) {
            side.show(WorkColumn.CARD);
        }
    }

    /**
     * Shows or hides what is beside the running engine; what runs goes on.
     *
     * @param show whether to show it
     */
    public void showLive(boolean show) {
        if (show && livePage == null) {
            livePage = new LivePage(session, () -> showLive(false));
            layers.getChildren().add(1, livePage);
            setNight(night);
            fit();
        }
        if (livePage != null) {
            livePage.setVisible(show);
            livePage.setManaged(show);
        }
        // What nobody sees is not drawn either.
        paper.setVisible(!show);
        if (show) {
            showOpen(false);
        } else if (getScene() != null) {
            log.scrubber().requestFocus();
        }
    }

    /** Stops of the open drive's carburetor, in the order of work: the digit keys count along them. */
    List<Stop> stops() {
        Drive d = session.driveProperty().get();
        return d == null ? Stops.all() : Stops.of(d.sheet().carburetor().family());
    }

    /** Gives the keyboard to a field; the letter that led there is not typed into it. */
    void enter(String id) {
        shortcuts.enter(lookup("#" + id));
    }

    /** Asks where to, and writes the selected stretch or all of the drive there. */
    void export() {
        picker.place(getScene().getWindow(), say("log-bar.drive"), "drive.csv").ifPresent(session::export);
    }

    void printCard() {
        work.card().print();
    }

    /** Every key on paper. */
    void printKeys() {
        picker.place(getScene().getWindow(), say("key-card.title"), "keys.pdf").ifPresent(file -> {
            List<KeyCardPdf.Group> groups = actions.keyCard();
            session.garage().write(file, out -> KeyCardPdf.write(groups, out), () -> { });
        });
    }

    /** As the platform's own button does. */
    void quit() {
        getScene().getWindow().fireEvent(new WindowEvent(getScene().getWindow(), WindowEvent.WINDOW_CLOSE_REQUEST));
    }

    /** Opens the newest build sheet of the open drive's car. */
    void openSheet() {
        session.garage().carOf(session.driveProperty().get()).ifPresent(c -> sheetPanel.open(c.sheet()));
    }

    /** Opens the guide at what is in front. */
    void openGuide() {
        String shown = pictures.choice().shown();
        String side = work.choice().shown();
        guide.open(livePage != null && livePage.isVisible() ? "live" : openPanel.isVisible() ? "garage"
                : !side.equals(WorkColumn.CARD)
                ? side : shown.equals(Pictures
                .STREAM) ? session.driveProperty().get() == null ? "start" : "plane" : shown.equals(Pictures.TRIALS)
                || shown.equals(Pictures.DIFFERENCE) ? "compare" : shown.equals(Pictures.HOLES) ? Pictures.NEEDLE
                : shown);
    }

    /**
     * Opens the guide.
     *
     * @param section name of the section, as in the guide's text
     */
    public void showHelp(String section) {
        guide.open(section);
    }

    /** Opens the guide at what the program is made of. */
    void openAbout() {
        guide.open(GuidePanel.ABOUT);
    }

    /** Shows round; where nothing is open there is nothing to show yet. */
    void startTour() {
        if (session.driveProperty().get() == null) {
            session.complain(say("tour.open-first"));
        } else {
            showOpen(false);
            tour.start();
        }
    }

    /** {@return everything that can be done here} */
    Actions actions() {
        return actions;
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

    /** Nothing faint, or as designed. */
    void otherContrast() {
        contrast = !contrast;
        settings.contrast(contrast);
        setNight(night);
    }

    /** Whether the platform is set to high contrast: a flag on one, the name of a theme on another. */
    private static boolean platformContrast() {
        Map<String, Object> p = Platform.getPreferences();
        return Boolean.TRUE.equals(p.get("Windows.SPI.HighContrast")) || String.valueOf(p.get("GTK.theme_name"))
                .startsWith("HighContrast");
    }

    void otherColours() {
        setNight(!night);
    }

    /** The page is laid out as large as its magnified picture fills the window. */
    private void fit() {
        double room = Math.min(getWidth() / LEAST_WIDTH, getHeight() / LEAST_HEIGHT);
        double wanted = textPx / USUAL_PX;
        double by = wanted <= 1 || room <= 0 ? Math.min(1, wanted) : Math.clamp(wanted, 1, Math.max(1, room));
        everyPicture(p -> p.sharpnessProperty().set(by));
        page.magnify(by);
        work.fit(getWidth() / by);
        // Large text is asked for: only a small window, not a magnified page, sets the verdict smaller.
        getStyleClass().removeAll("narrow", "small");
        if (getWidth() / by < NARROW) {
            getStyleClass().add("narrow");
        }
        if (getWidth() < NARROW) {
            getStyleClass().add("small");
        }
        setStyle(fonts + "-fx-font-size: " + textPx / by + "px;");
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
        if (livePage != null && livePage.isVisible()) {
            anew.showLive(true);
        }
        anew.sheetPanel.goOn(sheetPanel);
        getScene().setRoot(anew);
        session.reword();
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
            openPanel.takeFocus();
        } else if (getScene() != null) {
            log.scrubber().requestFocus();
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
        getStyleClass().remove("contrast");
        if (contrast) {
            getStyleClass().add("contrast");
        }
        if (getScene() != null) {
            // Lists and menus that pop up have a window of their own and know only the theme library's colours.
            getScene().setUserAgentStylesheet((dark ? new PrimerDark() : new PrimerLight()).getUserAgentStylesheet());
        }
        Palette palette = dark ? Palette.NIGHT : Palette.DAY;
        everyPicture(p -> p.paletteProperty().set(contrast ? palette.strong() : palette));
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
