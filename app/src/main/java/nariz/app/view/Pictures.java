package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Optional;
import javafx.beans.binding.Bindings;
import javafx.geometry.Insets;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.MenuButton;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import nariz.app.chart.DifferencePicture;
import nariz.app.chart.EnrichmentPicture;
import nariz.app.chart.FuelStream;
import nariz.app.chart.NeedlePicture;
import nariz.app.chart.Picture;
import nariz.app.chart.Plane;
import nariz.app.chart.ProgressionPicture;
import nariz.app.chart.PullPicture;
import nariz.app.chart.SeriesPicture;
import nariz.app.chart.TipInPicture;
import nariz.app.chart.TraceView;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;
import org.jspecify.annotations.Nullable;

/** The verdict of the shown stop and, below it, its evidence: one picture at a time, or stream and plane together. */
final class Pictures extends VBox {
    static final String STREAM = "stream";
    static final String TRACE = "trace";
    static final String TIP_INS = "stabs";
    static final String ENRICHMENT = "enrichment";
    static final String DIFFERENCE = "difference";
    static final String PULLS = "pulls";
    static final String TRIALS = "trials";
    static final String NEEDLE = "needle";
    static final String HOLES = "holes";

    private final Session session;
    private final Choice choice = new Choice(say("main-window.picture"));
    private final Plane plane;
    private final List<Picture> all;

    Pictures(Session session, FilePicker picker) {
        super(8);
        this.session = session;
        FuelStream stream = named(new FuelStream(session), "fuel-stream");
        plane = named(new Plane(session), "plane");
        TraceView trace = named(new TraceView(session), "trace");
        TipInPicture stabs = named(new TipInPicture(session), "stabs");
        DifferencePicture difference = named(new DifferencePicture(session), "difference");
        EnrichmentPicture enrichment = named(new EnrichmentPicture(session), "enrichment");
        PullPicture pulls = named(new PullPicture(session), "pulls");
        SeriesPicture trials = named(new SeriesPicture(session), "trials");
        NeedlePicture needle = named(new NeedlePicture(session), "needle");
        ProgressionPicture holes = named(new ProgressionPicture(session), "holes");
        all = List.of(stream, plane, needle, holes, trace, stabs, difference, enrichment, pulls, trials);
        HBox evidence = new HBox(8, stream, plane);
        HBox.setHgrow(stream, Priority.ALWAYS);
        HBox.setHgrow(plane, Priority.ALWAYS);
        stream.setPrefWidth(420);
        plane.setPrefWidth(380);
        choice.add(say("main-window.stream-and-plane"), STREAM, say("main-window.fuel-at-the-cursor"), evidence);
        choice.add(say("main-window.needle"), NEEDLE, say("main-window.needle-help"), needle);
        choice.add(say("main-window.holes"), HOLES, say("main-window.holes-help"), holes);
        choice.add(say("main-window.trace"), TRACE, say("main-window.the-log-in-strips"), trace);
        choice.add(say("main-window.tip-ins"), TIP_INS, say("main-window.the-mixture-after-the"), stabs);
        choice.add(say("main-window.difference"), DIFFERENCE, say("main-window.this-drive-against-another"),
                difference);
        choice.add(say("main-window.enrichment"), ENRICHMENT, say("main-window.enrichment-help"), enrichment);
        choice.add(say("main-window.pulls"), PULLS, say("main-window.pulls-help"), pulls);
        choice.add(say("main-window.trials"), TRIALS, say("main-window.trials-help"), trials);
        choice.bar().getChildren().addAll(strips(trace), planeShows(), chart(needle, picker));
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> offer(is));
        offer(session.driveProperty().get());
        VBox.setVgrow(choice, Priority.ALWAYS);
        choice.setId("pictures");
        getChildren().addAll(new VerdictPanel(session), choice.bar(), choice);
    }

    private static <P extends Picture> P named(P p, String id) {
        p.setId(id);
        return p;
    }

    /** Only what the carburetor has; the estate's pictures before anything is open. */
    private void offer(@Nullable Drive d) {
        Optional<BuildSheet> sheet = Optional.ofNullable(d).map(Drive::sheet);
        choice.offer(NEEDLE, sheet.flatMap(s -> s.carburetor().family().needle(s)).isPresent());
        choice.offer(HOLES, sheet.filter(s -> !s.carburetor().family().holes(s).isEmpty()).isPresent());
        choice.offer(ENRICHMENT, sheet.map(s -> s.carburetor().family().circuit(Stage.PRIMARY, Circuit.Role.ENRICHMENT)
                .isPresent()).orElse(true));
    }

    /** Where the user's own table of needles is read. */
    private Button chart(NeedlePicture needle, FilePicker picker) {
        Button b = MainWindow.button(say("needle-picture.chart"), "needle-chart", say("needle-picture.chart-help"),
                () ->
                picker.pick(getScene().getWindow(), say("needle-picture.chart"), "*.csv").ifPresent(
                        session::readNeedles));
        b.managedProperty().bind(b.visibleProperty());
        b.visibleProperty().bind(needle.visibleProperty().and(session.driveProperty().isNotNull()));
        HBox.setMargin(b, new Insets(0, 0, 0, 10));
        return b;
    }

    Choice choice() {
        return choice;
    }

    /** Brings a stop's evidence to the front. */
    void bring(Stop.Evidence what) {
        choice.show(switch (what) {
            case STREAM -> STREAM;
            case TIP_INS -> TIP_INS;
            case ENRICHMENT -> ENRICHMENT;
            case DIFFERENCE -> DIFFERENCE;
        });
    }

    Plane plane() {
        return plane;
    }

    List<Picture> all() {
        return all;
    }

    /** What the marks of the plane say. */
    private MenuButton planeShows() {
        MenuButton menu = new MenuButton();
        menu.setId("plane-shows");
        menu.setAccessibleText(say("plane.shows"));
        menu.setTooltip(new Tooltip(say("plane.shows")));
        menu.managedProperty().bind(menu.visibleProperty());
        menu.visibleProperty().bind(plane.getParent().visibleProperty().and(session.driveProperty().isNotNull()));
        ToggleGroup one = new ToggleGroup();
        for (Plane.Shows s : Plane.Shows.values()) {
            RadioMenuItem item = new RadioMenuItem(say("plane.shows-" + s.id()));
            item.setId("plane-" + s.id());
            item.setToggleGroup(one);
            item.setSelected(s == plane.showsProperty().get());
            item.setOnAction(e -> plane.showsProperty().set(s));
            menu.getItems().add(item);
        }
        menu.textProperty().bind(Bindings.createStringBinding(() -> say("plane.shows-" + plane.showsProperty().get()
                .id()), plane.showsProperty()));
        plane.showsProperty().addListener((o, was, is) -> one.selectToggle((RadioMenuItem) menu.getItems().get(is
                .ordinal())));
        HBox.setMargin(menu, new Insets(0, 0, 0, 10));
        return menu;
    }

    /** Which channels the trace shows. */
    private MenuButton strips(TraceView trace) {
        MenuButton menu = new MenuButton(say("main-window.channels"));
        menu.setId("trace-channels");
        menu.setAccessibleText(say("main-window.channels-of-the-trace"));
        menu.managedProperty().bind(menu.visibleProperty());
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
}
