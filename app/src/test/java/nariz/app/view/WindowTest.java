package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.io.IOException;
import java.lang.reflect.Proxy;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import javafx.application.Platform;
import javafx.event.Event;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.image.WritableImage;
import javafx.scene.input.DataFormat;
import javafx.scene.input.DragEvent;
import javafx.scene.input.Dragboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.paint.Color;
import javafx.stage.Stage;
import nariz.advice.Hypothesis;
import nariz.app.WindowScene;
import nariz.app.plot.TraceView;
import nariz.app.session.Effect;
import nariz.app.session.Session;
import nariz.app.session.Stop;
import nariz.build.BuildSheet;
import nariz.build.BuildSheetReader;
import nariz.log.LogWriter;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Journeys through the real window with mouse and keys. Each test starts from the demo, opened by its button. */
public class WindowTest {
    private Stage stage;
    private Session session;
    private MainWindow window;
    private Hands hands;
    private final Path[] picked = new Path[1];
    private Path workbook;

    @BeforeClass
    void open() throws InterruptedException {
        CountDownLatch started = new CountDownLatch(1);
        try {
            Platform.startup(started::countDown);
        } catch (IllegalStateException e) {
            started.countDown();
        }
        assertThat(started.await(60, TimeUnit.SECONDS)).isTrue();
        Platform.setImplicitExit(false);
        workbook = folder().resolve("garage.nariz");
        Hands.run(() -> {
            stage = new Stage();
            session = new Session(Platform::runLater, workbook);
            window = new MainWindow(session, (owner, title, pattern) -> Optional.ofNullable(picked[0]));
            Scene scene = WindowScene.of(window);
            stage.setScene(scene);
            stage.setX(0);
            stage.setY(0);
            stage.show();
        });
        hands = new Hands(stage);
        Hands.settle();
        hands.click("open-demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get() != null);
        Hands.settle();
    }

    private static Path folder() {
        try {
            return Files.createTempDirectory("nariz");
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    @AfterClass
    void close() {
        Hands.run(() -> {
            session.close();
            stage.close();
        });
    }

    private String verdict() {
        return Hands.onInterface(() -> ((Label) stage.getScene().lookup("#verdict")).getText());
    }

    private String problem() {
        return Hands.onInterface(() -> session.problemProperty().get());
    }

    @Test
    public void demoShowsTheBlamedCircuitWhatToChangeAndTheCautions() {
        Hands.run(() -> session.goTo(Stop.TRANSFER));
        Hands.settle();
        assertThat(verdict()).contains("transfer").contains("37 thou to");
        String card = Hands.onInterface(() -> text(stage.getScene().lookup("#work-card")));
        assertThat(card).contains("37 thou").contains("extinguisher").contains("Proved by");
    }

    @Test
    public void clickingAStopShowsItsVerdictAndTakesTheLogThere() {
        int before = Hands.onInterface(() -> session.cursorProperty().get());
        hands.click("stop-power");
        assertThat(session.stopProperty().get()).isEqualTo(Stop.POWER);
        assertThat(verdict()).contains("power valve");
        assertThat(session.cursorProperty().get()).isNotEqualTo(before);
        hands.click("stop-power");
        assertThat(Hands.onInterface(() -> ((ToggleButton) stage.getScene().lookup("#stop-power")).isSelected()))
                .isTrue();
        hands.click("stop-main");
        assertThat(verdict()).contains("Leave it alone");
    }

    @Test
    public void digitsGoToStops() {
        hands.click("scrubber", 0.5, 0.4);
        hands.press(KeyCode.DIGIT6);
        assertThat(session.stopProperty().get()).isEqualTo(Stop.SECONDARY);
        hands.press(KeyCode.DIGIT1);
        assertThat(session.stopProperty().get()).isEqualTo(Stop.IDLE);
    }

    @Test
    public void draggingTheScrubberMovesTheCursorAndArrowsStepIt() {
        int n = session.driveProperty().get().log().size();
        hands.drag("scrubber", 0.2, 0.5, 0.8, 0.5);
        int at = session.cursorProperty().get();
        assertThat(at).isBetween((int) (0.70 * n), (int) (0.88 * n));
        hands.press(KeyCode.RIGHT);
        assertThat(session.cursorProperty().get()).isEqualTo(at + 1);
        hands.press(KeyCode.LEFT);
        hands.press(KeyCode.LEFT);
        assertThat(session.cursorProperty().get()).isEqualTo(at - 1);
        hands.press(KeyCode.HOME);
        assertThat(session.cursorProperty().get()).isZero();
    }

    @Test
    public void clickingThePlaneTakesTheLogToThatMoment() {
        hands.click("scrubber", 0.06, 0.4);
        hands.click("plane", 0.55, 0.75);
        int at = session.cursorProperty().get();
        double vacuum = session.driveProperty().get().log().vacuumPa()[at] / 3386.389;
        double rpm = session.driveProperty().get().log().rpm()[at];
        assertThat(vacuum).isBetween(13.0, 20.0);
        assertThat(rpm).isBetween(2000.0, 4200.0);
        hands.press(KeyCode.N);
        assertThat(session.cursorProperty().get()).isGreaterThan(at);
    }

    @Test
    public void clickingABranchOfTheStreamGoesToItsStop() {
        hands.click("stop-idle");
        hands.click("fuel-stream", 0.4, 0.95);
        assertThat(session.stopProperty().get()).isEqualTo(Stop.SECONDARY);
    }

    @Test
    public void unitSwitchChangesTheReadOut() {
        hands.click("unit");
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#scrubber").getAccessibleHelp())).contains("AFR");
        hands.click("unit");
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#scrubber").getAccessibleHelp()))
                .contains("lambda");
    }

    @Test
    public void nightColoursReachThePictures() {
        hands.click("theme");
        Color night = paper();
        hands.press(KeyCode.T);
        Color day = paper();
        assertThat(day.getBrightness()).isGreaterThan(0.8);
        assertThat(night.getBrightness()).isLessThan(0.3);
    }

    private Color paper() {
        Hands.settle();
        return Hands.onInterface(() -> {
            WritableImage i = stage.getScene().lookup("#plane").snapshot(null, null);
            return i.getPixelReader().getColor(20, (int) i.getHeight() / 2);
        });
    }

    @Test
    public void ownSheetAndLogOpenFromThePanel() throws IOException {
        Path sheet = Files.createTempFile("nariz", ".json");
        Path log = Files.createTempFile("nariz", ".csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log());
        hands.click("open");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-sheet")).setText(sheet.toString()));
        picked[0] = log;
        Hands.run(() -> choose("Choose Log").fire());
        hands.click("open-read");
        Hands.waitFor("own drive", () -> "test six".equals(session.driveProperty().get().sheet().name()));
        assertThat(verdict()).endsWith(".");
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#open-panel").isVisible())).isFalse();
        hands.click("open-demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get().sheet().name().startsWith("Hill"));
        Files.delete(sheet);
        Files.delete(log);
    }

    @Test
    public void whatTheTunerHasLookedForIsTickedAndWeighedAgain() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("leak.json");
        Path log = folder.resolve("leak.csv");
        Files.writeString(sheet, DemoDrive.sheetJson().replace("37 thou", "34 thou").replace("3.5 inHg", "6.5 inHg")
                .replace("Hill-climb estate", "Leaking estate"));
        BuildSheet healthy = BuildSheetReader.read(sheet);
        LogWriter.write(new EngineSimulator(healthy, DemoDrive.SEED, Map.of(Fault.VACUUM_LEAK, 1.2), 5)
                .drive(DriveScript.twelveMinutes(), 20, "leak.csv").log(), log);
        Hands.run(() -> session.open(sheet, log));
        Hands.waitFor("leaking car", () -> session.driveProperty().get().sheet().name().startsWith("Leaking"));
        Hands.settle();
        assertThat(verdict()).startsWith("Check before you buy parts");
        Hands.run(() -> ((CheckBox) stage.getScene().lookup("#checked-vacuum-leak")).fire());
        Hands.waitFor("weighed again", () -> session.driveProperty().get().checked().contains("vacuum-leak"));
        Hands.settle();
        assertThat(Hands.onInterface(() -> session.driveProperty().get().analysis().advice().hypotheses()))
                .extracting(Hypothesis::cause).doesNotContain("vacuum-leak");
        Hands.run(() -> ((CheckBox) stage.getScene().lookup("#ruled-out-vacuum-leak")).fire());
        Hands.waitFor("taken back", () -> session.driveProperty().get().checked().isEmpty());
        assertThat(verdict()).startsWith("Check before you buy parts");
        hands.click("open-demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get().sheet().name().startsWith("Hill"));
        Files.delete(sheet);
        Files.delete(log);
        Files.delete(folder);
    }

    @Test
    public void schoolsStandOnThePowerCard() {
        Hands.run(() -> session.goTo(Stop.POWER));
        Hands.settle();
        assertThat(Hands.onInterface(() -> stage.getScene().getRoot().lookupAll(".label").stream()
                .map(n -> ((Label) n).getText()).toList())).anyMatch(s -> s.startsWith("half of idle vacuum: 9."))
                .anyMatch(s -> s.startsWith("Followed here: what the log shows"));
        Hands.run(() -> session.goTo(Stop.TRANSFER));
    }

    private Button choose(String name) {
        return stage.getScene().getRoot().lookupAll(".button").stream().map(Button.class::cast)
                .filter(b -> name.equals(b.getAccessibleText())).findFirst().orElseThrow();
    }

    @Test
    public void columnsThatAreNotClearAreShownAndReadAsTheUserSays() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("logger.csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log("Time,RPM,Suction,Wideband\n", ','));
        Session.Drive before = session.driveProperty().get();
        hands.click("open");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-sheet")).setText(sheet.toString()));
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-log")).setText(log.toString()));
        hands.click("open-read");
        Hands.waitFor("the question", () -> session.questionProperty().get() != null);
        Hands.settle();
        Hands.run(() -> combo("channel-2").setValue("not used"));
        hands.click("columns-read");
        assertThat(problem()).isEqualTo("Not said yet which column is manifold vacuum or pressure.");
        Hands.run(() -> combo("channel-2").setValue("manifold vacuum"));
        Hands.run(() -> combo("unit-2").setValue("inhg"));
        hands.click("columns-read");
        Hands.waitFor("the drive", () -> !before.equals(session.driveProperty().get()));
        Hands.settle();
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#columns-panel").isVisible())).isFalse();
        assertThat(session.driveProperty().get().sheet().name()).isEqualTo("test six");
        backToTheDemo();
    }

    @Test
    public void sensorVoltsAreReadByALineOfTwoPoints() throws IOException {
        Path folder = folder();
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("volts.csv");
        Files.writeString(sheet, Samples.sheet());
        StringBuilder s = new StringBuilder("Time,RPM,vacuum_inHg,Out\n");
        Samples.log().lines().skip(1).map(l -> l.split(",")).forEach(f -> s.append(f[0]).append(',').append(f[1])
                .append(',').append(f[2]).append(',').append((Double.parseDouble(f[3]) / 14.7 - 0.68) / 0.68 * 5)
                .append('\n'));
        Files.writeString(log, s.toString().replaceFirst("vacuum_inHg", "vacuum"));
        Session.Drive before = session.driveProperty().get();
        Hands.run(() -> session.open(sheet, log));
        Hands.waitFor("an answer", () -> session.busyProperty().get().isEmpty());
        // Volts look like no mixture: the log lacks one and is refused, with what is missing.
        assertThat(problem()).contains("volts.csv");
        Files.writeString(log, s.toString().replaceFirst("vacuum_inHg,Out", "vacuum,lambda"));
        Hands.run(() -> session.open(sheet, log));
        Hands.waitFor("the question", () -> session.questionProperty().get() != null);
        Hands.settle();
        Hands.run(() -> combo("unit-3").setValue("volts"));
        Hands.run(() -> ((TextField) stage.getScene().lookup("#line-3")).setText("0 = , 5"));
        hands.click("columns-read");
        assertThat(problem()).contains("is not like 0 = 0.68, 5 = 1.36");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#line-3")).setText("0 = 0.68, 5 = 1.36"));
        hands.click("columns-read");
        Hands.waitFor("the drive", () -> !before.equals(session.driveProperty().get()));
        Hands.settle();
        assertThat(session.driveProperty().get().log().lambda()[0]).isBetween(0.9, 1.0);
        backToTheDemo();
    }

    @SuppressWarnings("unchecked")
    private javafx.scene.control.ComboBox<String> combo(String id) {
        return (javafx.scene.control.ComboBox<String>) stage.getScene().lookup("#" + id);
    }

    private void backToTheDemo() {
        Session.Drive now = session.driveProperty().get();
        hands.click("open-demo");
        Hands.waitFor("the demo", () -> !now.equals(session.driveProperty().get()));
        Hands.settle();
    }

    @Test
    public void stretchIsTakenOutWithKeysAndComesBackWithUndo() {
        hands.click("scrubber", 0.4, 0.5);
        hands.press(KeyCode.B);
        hands.click("scrubber", 0.4, 0.5);
        hands.press(KeyCode.B);
        for (int i = 0; i < 40; i++) {
            Hands.run(() -> session.moveCursor(session.cursorProperty().get() + 10));
        }
        hands.press(KeyCode.E);
        assertThat(session.selectionProperty().get().toS() - session.selectionProperty().get().fromS())
                .isBetween(15.0, 25.0);
        hands.click("exclude");
        Hands.waitFor("weighing", () -> session.driveProperty().get().log().excluded().size() == 1);
        Hands.settle();
        String notes = Hands.onInterface(() -> ((Label) stage.getScene().lookup("#log-notes")).getText());
        assertThat(notes).contains("1 taken out by you");
        hands.click("undo");
        Hands.waitFor("undo", () -> session.driveProperty().get().log().excluded().isEmpty());
        Hands.settle();
    }

    @SuppressWarnings("unchecked")
    private static Dragboard board(List<File> files) {
        try {
            Class<?> inner = Class.forName("com.sun.javafx.tk.TKClipboard");
            Object clipboard = Proxy.newProxyInstance(inner.getClassLoader(), new Class<?>[] {inner}, (p, m, a) ->
                    switch (m.getName()) {
                        case "hasContent" -> DataFormat.FILES.equals(a[0]);
                        case "getContent" -> files;
                        case "getContentTypes" -> Set.of(DataFormat.FILES);
                        case "getTransferModes" -> Set.of(TransferMode.COPY);
                        default -> m.getReturnType() == boolean.class ? (Object) true : null;
                    });
            var made = Dragboard.class.getDeclaredConstructor(inner);
            made.setAccessible(true);
            return made.newInstance(clipboard);
        } catch (ReflectiveOperationException e) {
            throw new LinkageError("the toolkit's inner door has moved", e);
        }
    }

    /** The events are the toolkit's own; only the other program that files are dragged from is played here. */
    @Test
    public void sheetAndLogDroppedOnTheWindowOpen() throws IOException {
        Path folder = folder();
        Path sheet = folder.resolve("dropped.json");
        Path log = folder.resolve("dropped.csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log());
        Session.Drive before = session.driveProperty().get();
        Dragboard board = Hands.onInterface(() -> board(List.of(sheet.toFile(), log.toFile())));
        for (var type : List.of(DragEvent.DRAG_OVER, DragEvent.DRAG_DROPPED)) {
            DragEvent e = new DragEvent(type, board, 600, 400, 600, 400, TransferMode.COPY, null, null, null);
            Hands.run(() -> Event.fireEvent(window.lookup("#plane"), e));
        }
        Hands.waitFor("the dropped drive", () -> !before.equals(session.driveProperty().get()));
        assertThat(session.driveProperty().get().log().name()).isEqualTo("dropped.csv");
        backToTheDemo();
    }

    @Test
    public void noteIsWrittenOnTheMomentAndGoesWithUndo() {
        hands.click("scrubber", 0.5, 0.4);
        int at = session.cursorProperty().get();
        hands.press(KeyCode.M);
        assertThat(Hands.onInterface(() -> ((TextField) stage.getScene().lookup("#note")).getText())).isEmpty();
        Hands.run(() -> ((TextField) stage.getScene().lookup("#note")).setText("coughs here"));
        hands.press(KeyCode.ENTER);
        Hands.waitFor("the note", () -> !session.notesProperty().get().isEmpty());
        assertThat(session.notesProperty().get().getFirst().atS())
                .contains(session.driveProperty().get().log().timeS()[at]);
        hands.press(KeyCode.ESCAPE);
        hands.click("undo");
        Hands.waitFor("undo", () -> session.notesProperty().get().isEmpty());
    }

    @Test
    public void traceZoomsPansMeasuresAndTakesTheLogAlong() {
        hands.click("show-trace");
        TraceView trace = (TraceView) stage.getScene().lookup("#trace");
        double whole = trace.toS() - trace.fromS();
        hands.click("trace", 0.4, 0.4);
        hands.press(KeyCode.EQUALS);
        hands.press(KeyCode.EQUALS);
        double span = trace.toS() - trace.fromS();
        assertThat(span).isBetween(0.45 * whole, 0.55 * whole);
        double from = trace.fromS();
        hands.drag("trace", 0.5, 0.4, 0.3, 0.4);
        assertThat(trace.fromS()).isGreaterThan(from + 0.1 * span);
        assertThat(trace.toS() - trace.fromS()).isEqualTo(span, org.assertj.core.api.Assertions.within(1e-6));
        hands.click("trace", 0.3, 0.4);
        double clicked = session.driveProperty().get().log().timeS()[session.cursorProperty().get()];
        assertThat(clicked).isBetween(trace.fromS(), trace.toS());
        hands.press(KeyCode.B);
        Hands.run(() -> session.moveCursor(session.cursorProperty().get() + 200));
        hands.press(KeyCode.E);
        assertThat(session.selectionProperty().get().toS() - session.selectionProperty().get().fromS())
                .isBetween(8.0, 12.0);
        hands.press(KeyCode.DIGIT0);
        assertThat(trace.toS() - trace.fromS()).isEqualTo(whole);
        Hands.run(() -> {
            session.select(null);
            session.moveCursor(100);
            trace.strip("throttle", true);
            trace.strip("rpm", false);
        });
        assertThat(trace.shows("throttle")).isTrue();
        hands.click("show-stream");
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#plane").isVisible())).isTrue();
    }

    @Test
    public void partTriedWithKeysChangesTheForecastAndIsKeptAsAPlan() {
        Hands.run(() -> session.goTo(Stop.MAIN));
        hands.click("show-try");
        Effect advised = session.effectProperty().get();
        Hands.run(() -> stage.getScene().lookup("#try-primary-main-jet").requestFocus());
        hands.press(KeyCode.RIGHT);
        hands.press(KeyCode.RIGHT);
        Hands.waitFor("the forecast", () -> session.effectProperty().get().tried());
        assertThat(session.triedProperty().get()).hasSize(1);
        assertThat(session.triedProperty().get().getFirst().to() - session.triedProperty().get().getFirst().from())
                .isEqualTo(2.0);
        Hands.waitFor("both steps", () -> session.effectProperty().get().changes().equals(session.triedProperty()
                .get()));
        assertThat(session.effectProperty().get().phi()[0]).isGreaterThan(session.driveProperty().get().analysis()
                .estimate().phi(0) * 0.99);
        String says = Hands.onInterface(() -> ((Label) stage.getScene().lookup("#try-verdict")).getText());
        assertThat(says).contains("%").endsWith(".");
        Hands.run(() -> ((Button) stage.getScene().lookup("#plan-keep")).fire());
        Hands.waitFor("the plan", () -> session.plansProperty().get().size() == 1);
        Hands.run(() -> ((Button) stage.getScene().lookup("#try-none")).fire());
        assertThat(session.effectProperty().get()).isSameAs(advised);
        Hands.settle();
        Hands.run(() -> ((Button) stage.getScene().lookup("#plan-try")).fire());
        Hands.waitFor("the plan's parts", () -> session.effectProperty().get().tried());
        Hands.run(() -> ((Button) stage.getScene().lookup("#plan-drop")).fire());
        Hands.waitFor("no plan", () -> session.plansProperty().get().isEmpty());
        Hands.run(() -> session.tryParts(List.of()));
        hands.click("show-card");
        Hands.run(() -> session.goTo(Stop.TRANSFER));
    }

    @Test
    public void workCardGoesOnPaper() throws IOException {
        Hands.run(() -> session.goTo(Stop.TRANSFER));
        Path file = folder().resolve("card.pdf");
        picked[0] = file;
        Hands.run(() -> ((Button) stage.getScene().lookup("#card-print")).fire());
        Hands.waitFor("the card", () -> session.busyProperty().get().isEmpty());
        try (var pdf = org.apache.pdfbox.Loader.loadPDF(file.toFile())) {
            String text = new org.apache.pdfbox.text.PDFTextStripper().getText(pdf).replace("\n", " ");
            assertThat(text).contains("37 thou to").contains("extinguisher").contains("Proved by").contains("lambda")
                    .contains("What the next drive should show");
        }
        picked[0] = Path.of("/proc/card.pdf");
        Hands.run(() -> ((Button) stage.getScene().lookup("#card-print")).fire());
        Hands.waitFor("the complaint", () -> !session.problemProperty().get().isEmpty());
        assertThat(problem()).startsWith("card.pdf: found a place that cannot be written");
        Hands.run(() -> session.dismissProblem());
    }

    @Test
    public void keptDriveGoesOffTheListAndComesBack() throws IOException {
        Path folder = folder();
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("monday.csv");
        Files.writeString(sheet, Samples.sheet());
        // The same bytes would be the same drive.
        Files.writeString(log, "# monday\n" + Samples.log());
        Hands.run(() -> session.open(sheet, log));
        Hands.waitFor("the list", () -> kept("monday.csv"));
        Path stretch = folder.resolve("stretch.csv");
        picked[0] = stretch;
        Hands.run(() -> session.select(new nariz.log.Span(10, 20)));
        hands.click("export");
        Hands.waitFor("the stretch", () -> session.busyProperty().get().isEmpty() && Files.exists(stretch));
        assertThat(Files.readAllLines(stretch)).hasSizeBetween(100, 105).startsWith("time,rpm,vacuum,afr");
        Path whole = folder.resolve("whole.zip");
        picked[0] = whole;
        hands.click("export");
        Hands.waitFor("the package", () -> session.busyProperty().get().isEmpty() && Files.exists(whole));
        assertThat(nariz.store.Exchange.dataPackage(whole).recording().size()).isEqualTo(1000);
        Hands.run(() -> session.select(null));
        backToTheDemo();
        hands.click("open");
        Hands.run(() -> {
            var list = (javafx.scene.control.ListView<?>) stage.getScene().lookup("#open-kept");
            list.getSelectionModel().select(session.keptProperty().get().stream().map(e -> e.name()).toList()
                    .indexOf("monday.csv"));
        });
        hands.click("kept-off");
        Hands.waitFor("off the list", () -> !kept("monday.csv"));
        hands.click("kept-undo");
        Hands.waitFor("on the list again", () -> kept("monday.csv"));
        Hands.run(() -> window.showOpen(false));
    }

    @Test
    public void oneFieldFindsStopsPartsActionsAndShowsTheKeys() {
        hands.click("scrubber", 0.5, 0.4);
        hands.press(KeyCode.F);
        var list = (javafx.scene.control.ListView<?>) stage.getScene().lookup("#find-list");
        assertThat(list.isVisible()).isTrue();
        assertThat(Hands.onInterface(() -> ((TextField) stage.getScene().lookup("#find")).getText())).isEmpty();
        assertThat(list.getItems().stream().map(Object::toString).toList()).anyMatch(s -> s.contains("keys=Ctrl+P"));
        Hands.run(() -> ((TextField) stage.getScene().lookup("#find")).setText("secondary go"));
        hands.press(KeyCode.ENTER);
        assertThat(session.stopProperty().get()).isEqualTo(Stop.SECONDARY);
        assertThat(list.isVisible()).isFalse();
        hands.press(KeyCode.F);
        Hands.run(() -> ((TextField) stage.getScene().lookup("#find")).setText("primary main jets"));
        hands.press(KeyCode.ENTER);
        assertThat(session.stopProperty().get()).isEqualTo(Stop.MAIN);
        assertThat(Hands.onInterface(() -> stage.getScene().getFocusOwner().getId())).isEqualTo("try-primary-main-jet");
        hands.press(KeyCode.F);
        hands.click("find-list", 0.3, 0.125);
        assertThat(session.stopProperty().get()).as("the second row, by mouse").isEqualTo(Stop.TRANSFER);
        hands.press(KeyCode.F);
        Hands.run(() -> ((TextField) stage.getScene().lookup("#find")).setText("nowhere at all"));
        assertThat(Hands.onInterface(() -> list.getItems().size())).isZero();
        hands.press(KeyCode.ENTER);
        hands.press(KeyCode.ESCAPE);
        assertThat(list.isVisible()).isFalse();
        hands.click("show-card");
        Hands.run(() -> {
            session.goTo(Stop.TRANSFER);
            window.textSize(18);
        });
        Hands.settle();
        double large = Hands.onInterface(() -> ((Label) stage.getScene().lookup("#verdict")).getFont().getSize());
        Hands.run(() -> window.textSize(14));
        Hands.settle();
        double usual = Hands.onInterface(() -> ((Label) stage.getScene().lookup("#verdict")).getFont().getSize());
        assertThat(large / usual).isEqualTo(18.0 / 14, org.assertj.core.api.Assertions.within(0.02));
    }

    /** A few noted points and half a minute of idle: too little for an estimate, and still to be looked at. */
    @Test
    public void thinLogsAreDrawnToo() throws IOException {
        Path folder = folder();
        Path sheet = folder.resolve("six.json");
        Files.writeString(sheet, Samples.sheet());
        Path points = folder.resolve("points.txt");
        Files.writeString(points, "820 18 14.0\n1700 18.5 15\n2300 16 14.9\n2900 12 14.6\n3400 1.2 12.9\n");
        Path idle = folder.resolve("idle.csv");
        Files.writeString(idle, String.join("\n", Samples.log().lines().limit(120).toList()) + "\n");
        TraceView trace = (TraceView) stage.getScene().lookup("#trace");
        for (Path log : List.of(points, idle)) {
            Session.Drive before = session.driveProperty().get();
            Hands.run(() -> session.open(sheet, log));
            Hands.waitFor(log.toString(), () -> !before.equals(session.driveProperty().get()));
            hands.click("show-trace");
            hands.click("show-try");
            Hands.run(() -> {
                session.moveCursor(3);
                double[] t = session.driveProperty().get().log().timeS();
                session.select(new nariz.log.Span(t[0], t[4]));
                trace.view(t[0], t[1]);
                trace.layout();
                trace.whole();
                List.of("mixture", "vacuum", "rpm").forEach(k -> trace.strip(k, false));
                trace.layout();
                List.of("mixture", "vacuum", "rpm").forEach(k -> trace.strip(k, true));
                trace.layout();
                session.select(null);
            });
            assertThat(problem()).isEmpty();
            hands.click("show-stream");
            hands.click("show-card");
        }
        backToTheDemo();
    }

    private boolean kept(String name) {
        return session.keptProperty().get().stream().anyMatch(e -> e.name().equals(name));
    }

    @Test
    public void pastedRowsGoWhereADroppedLogGoes() {
        Hands.run(() -> window.paste("800 17.5 13.9\n1800 18.2 14.1\n2400 15 13.8\n"));
        assertThat(Hands.onInterface(() -> ((TextField) stage.getScene().lookup("#open-log")).getText()))
                .endsWith("pasted.csv");
        Hands.run(() -> window.paste(" "));
        assertThat(problem()).startsWith("There is no text to paste.");
        Hands.run(() -> {
            session.dismissProblem();
            window.showOpen(false);
        });
    }

    @Test
    public void driveThatWasOpenedBeforeIsListedAndOpensWithEnter() throws IOException {
        Path folder = folder();
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("sunday.csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log());
        Session.Drive before = session.driveProperty().get();
        Hands.run(() -> session.open(sheet, log));
        Hands.waitFor("the drive", () -> !before.equals(session.driveProperty().get()));
        Hands.waitFor("the list", () -> session.keptProperty().get().stream()
                .anyMatch(e -> e.name().equals("sunday.csv")));
        backToTheDemo();
        Session.Drive demo = session.driveProperty().get();
        hands.click("open");
        Hands.settle();
        Hands.run(() -> {
            var list = (javafx.scene.control.ListView<?>) stage.getScene().lookup("#open-kept");
            list.requestFocus();
            list.getSelectionModel().select(session.keptProperty().get().stream().map(e -> e.name()).toList()
                    .indexOf("sunday.csv"));
        });
        hands.press(KeyCode.ENTER);
        Hands.waitFor("the kept drive", () -> !demo.equals(session.driveProperty().get()));
        Hands.settle();
        assertThat(session.driveProperty().get().log().name()).isEqualTo("sunday.csv");
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#open-panel").isVisible())).isFalse();
        backToTheDemo();
    }

    @Test
    public void badFilesAreNamedAndTheWindowStaysUsable() throws IOException {
        Path sheet = Files.createTempFile("nariz", ".json");
        Path log = Files.createTempFile("nariz", ".csv");
        for (Malformed.Case c : Malformed.all().stream().filter(x -> x.name().hashCode() % 6 == 0).toList()) {
            Files.write(sheet, c.sheet() ? c.content() : Samples.sheet().getBytes(StandardCharsets.UTF_8));
            Files.write(log, c.sheet() ? Samples.log().getBytes(StandardCharsets.UTF_8) : c.content());
            Hands.run(() -> session.open(sheet, log));
            Hands.waitFor(c.toString(), () -> !session.problemProperty().get().isEmpty());
            assertThat(problem()).contains(": found ");
            hands.click("problem-away");
            Hands.waitFor("the message put away", () -> session.problemProperty().get().isEmpty());
        }
        hands.click("stop-transfer");
        assertThat(verdict()).contains("37 thou to");
        Files.delete(sheet);
        Files.delete(log);
    }

    @Test
    public void fileThatIsNotThereIsSaidBeforeAnythingStarts() {
        hands.click("open");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-sheet")).setText("/no/such.json"));
        hands.click("open-read");
        assertThat(problem()).contains("There is no file");
        Hands.run(() -> session.dismissProblem());
        Hands.run(() -> window.showOpen(false));
    }

    @Test
    public void windowIsWholeFromTheSmallestToALargeSize() {
        for (double[] size : new double[][] {{1024, 700}, {1590, 940}, {1280, 800}}) {
            Hands.run(() -> {
                stage.setWidth(size[0]);
                stage.setHeight(size[1]);
            });
            Hands.settle();
            for (String id : new String[] {"fuel-stream", "plane", "scrubber", "effect", "work-card"}) {
                Hands.run(() -> {
                    Node n = stage.getScene().lookup("#" + id);
                    var b = n.localToScene(n.getBoundsInLocal());
                    assertThat(b.getMinX()).as(id).isGreaterThanOrEqualTo(-1);
                    assertThat(b.getMaxX()).as(id).isLessThanOrEqualTo(stage.getScene().getWidth() + 1);
                    assertThat(b.getMaxY()).as(id).isLessThanOrEqualTo(stage.getScene().getHeight() + 1);
                    assertThat(b.getWidth()).as(id).isGreaterThan(200);
                    assertThat(b.getHeight()).as(id).isGreaterThan(80);
                });
            }
        }
    }

    @Test
    public void everyControlHasANameForScreenReaders() {
        Hands.run(() -> stage.getScene().getRoot().lookupAll(".button, .toggle-button, .picture").forEach(n -> {
            boolean text = n instanceof javafx.scene.control.Labeled l && l.getText() != null
                    && !l.getText().isEmpty();
            boolean arrow = n.getStyleClass().contains("increment-button") || n.getStyleClass()
                    .contains("decrement-button");
            assertThat(arrow || text || n.getAccessibleText() != null).as(n.toString()).isTrue();
        }));
    }

    private static String text(Node n) {
        StringBuilder s = new StringBuilder();
        if (n instanceof Label l) {
            s.append(l.getText()).append('\n');
        }
        if (n instanceof Parent p) {
            p.getChildrenUnmodifiable().forEach(c -> s.append(text(c)));
        }
        return s.toString();
    }
}
