package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.io.IOException;
import java.lang.ref.WeakReference;
import java.lang.reflect.Proxy;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.application.Platform;
import javafx.event.Event;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
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
import nariz.app.Toolkit;
import nariz.app.WindowScene;
import nariz.app.chart.TraceView;
import nariz.app.state.Drive;
import nariz.app.state.Effect;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.app.words.WindowWords;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.diagnosis.Hypothesis;
import nariz.family.metered.MeteredParts;
import nariz.flow.Barrels;
import nariz.log.LogWriter;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.testing.Bundles;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import nariz.text.Language;
import nariz.units.Shown;
import nariz.units.Units;
import org.testng.ITestResult;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
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
    void open() {
        Toolkit.start();
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
        hands.choose("demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get() != null);
        Hands.settle();
    }

    /** Language and units hold for the whole program: a test that failed half-way must not take others with it. */
    @AfterMethod
    void asAtFirst(ITestResult result) {
        if (result.isSuccess()) {
            return;
        }
        Hands.run(() -> {
            session.use(Shown.USUAL);
            if (WindowWords.wording().language() != Language.ENGLISH) {
                window.speak(Language.ENGLISH);
            }
            window = (MainWindow) stage.getScene().getRoot();
        });
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
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        Hands.settle();
        assertThat(verdict()).contains("transfer").contains("37 thou to");
        String card = Hands.onInterface(() -> Hands.text(stage.getScene().lookup("#work-card")));
        assertThat(card).contains("37 thou").contains("extinguisher").contains("Proved by");
    }

    @Test
    public void clickingAStopShowsItsVerdictAndTakesTheLogThere() {
        int before = Hands.onInterface(() -> session.cursorProperty().get());
        hands.click("stop-power");
        assertThat(session.stopProperty().get()).isEqualTo(Stops.POWER);
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
        assertThat(session.stopProperty().get()).isEqualTo(Stops.SECONDARY);
        hands.press(KeyCode.DIGIT1);
        assertThat(session.stopProperty().get()).isEqualTo(Stops.IDLE);
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
        assertThat(session.stopProperty().get()).isEqualTo(Stops.SECONDARY);
    }

    @Test
    public void unitSwitchChangesTheReadOut() {
        hands.click("scrubber", 0.3, 0.4);
        hands.press(KeyCode.U);
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#scrubber").getAccessibleHelp())).contains("AFR");
        hands.press(KeyCode.U);
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#scrubber").getAccessibleHelp()))
                .contains("lambda");
    }

    @Test
    public void unitsAreChosenOnceAndHoldInEverySentenceAndPicture() {
        Hands.run(() -> session.goTo(Stops.POWER));
        Hands.settle();
        assertThat(verdict()).contains("3.5 inHg to 6.5 inHg");
        int cursor = Hands.onInterface(() -> session.cursorProperty().get());
        pick("units-mbar");
        pick("units-mm");
        Hands.waitFor("the words in the new units", () -> ((Label) stage.getScene().lookup("#verdict")).getText()
                .contains("119 mbar to 220 mbar"));
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#scrubber").getAccessibleHelp())).contains("mbar");
        assertThat(Hands.onInterface(() -> session.cursorProperty().get())).isEqualTo(cursor);
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        Hands.settle();
        // 37 and 34 thousandths of an inch.
        assertThat(verdict()).contains("0.94 mm to 0.86 mm");
        assertThat(Hands.onInterface(() -> Hands.text(stage.getScene().lookup("#work-card")))).contains("0.86 mm")
                .doesNotContain("thou");
        pick("units-inhg");
        pick("units-thou");
        Hands.waitFor("the words in the old units", () -> ((Label) stage.getScene().lookup("#verdict")).getText()
                .contains("37 thou to 34 thou"));
        Hands.run(() -> session.goTo(Stops.IDLE));
    }

    /** A menu's list is a window of its own, which the headless platform does not give the mouse. */
    private void pick(String item) {
        Hands.run(() -> ((MenuButton) stage.getScene().lookup("#units")).getItems().stream().filter(i ->
                item.equals(i.getId())).forEach(MenuItem::fire));
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
        hands.choose("open");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-sheet")).setText(sheet.toString()));
        picked[0] = log;
        Hands.run(() -> choose("Choose Log").fire());
        hands.click("open-read");
        Hands.waitFor("own drive", () -> "test six".equals(session.driveProperty().get().sheet().name()));
        assertThat(verdict()).endsWith(".");
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#open-panel").isVisible())).isFalse();
        hands.choose("demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get().sheet().name().startsWith("Hill"));
        Files.delete(sheet);
        Files.delete(log);
    }

    /** Half of a log is shown while the other half is still to come; the button ends it and the whole is read. */
    @Test
    public void aDriveIsFollowedWhileItIsWritten() throws IOException {
        Path folder = folder();
        Path sheet = Files.writeString(folder.resolve("estate.json"), DemoDrive.sheetJson());
        Path log = folder.resolve("growing.csv");
        java.io.StringWriter w = new java.io.StringWriter();
        LogWriter.write(DemoDrive.drive().log(), w);
        int half = w.toString().indexOf('\n', w.toString().length() / 2) + 1;
        Files.writeString(log, w.toString().substring(0, half));
        hands.choose("open");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-sheet")).setText(sheet.toString()));
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-log")).setText(log.toString()));
        hands.click("open-follow");
        Hands.waitFor("half of it", () -> session.driveProperty().get().log().name().equals("growing.csv"));
        Hands.settle();
        int rows = session.driveProperty().get().log().size();
        assertThat(Hands.onInterface(() -> ((Label) stage.getScene().lookup("#following")).getText()))
                .startsWith("Following growing.csv: ");
        Files.writeString(log, w.toString().substring(half), java.nio.file.StandardOpenOption.APPEND);
        hands.click("follow-finish");
        int all = DemoDrive.drive().log().size();
        Hands.waitFor("all of it", () -> session.following().progressProperty().get().isEmpty()
                && session.busyProperty().get().isEmpty() && session.driveProperty().get().log().size() == all);
        Hands.settle();
        assertThat(all).isGreaterThan(rows);
        assertThat(verdict()).isNotEmpty();
        // As the other tests expect it: nothing in the fields, the demo open.
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-sheet")).clear());
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-log")).clear());
        hands.choose("demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get().sheet().name().startsWith("Hill")
                && !session.driveProperty().get().log().name().equals("growing.csv"));
        Hands.settle();
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
        Hands.run(() -> session.open().files(sheet, log));
        Hands.waitFor("leaking car", () -> session.driveProperty().get().sheet().name().startsWith("Leaking"));
        Hands.settle();
        assertThat(verdict()).startsWith("Check before you buy parts");
        Hands.run(() -> ((CheckBox) stage.getScene().lookup("#checked-vacuum-leak")).fire());
        Hands.waitFor("weighed again", () -> session.driveProperty().get()
                .decisions().checked().contains("vacuum-leak"));
        Hands.settle();
        assertThat(Hands.onInterface(() -> session.driveProperty().get().analysis().advice().hypotheses()))
                .extracting(Hypothesis::cause).doesNotContain("vacuum-leak");
        Hands.run(() -> ((CheckBox) stage.getScene().lookup("#ruled-out-vacuum-leak")).fire());
        Hands.waitFor("taken back", () -> session.driveProperty().get().decisions().checked().isEmpty());
        assertThat(verdict()).startsWith("Check before you buy parts");
        hands.choose("demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get().sheet().name().startsWith("Hill"));
        Files.delete(sheet);
        Files.delete(log);
        Files.delete(folder);
    }

    @Test
    public void schoolsStandOnThePowerCard() {
        Hands.run(() -> session.goTo(Stops.POWER));
        Hands.settle();
        assertThat(Hands.onInterface(() -> stage.getScene().getRoot().lookupAll(".label").stream()
                .map(n -> ((Label) n).getText()).toList())).anyMatch(s -> s.startsWith("half of idle vacuum: 9."))
                .anyMatch(s -> s.startsWith("Followed here: what the log shows"));
        Hands.run(() -> session.goTo(Stops.TRANSFER));
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
        Drive before = session.driveProperty().get();
        hands.choose("open");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-sheet")).setText(sheet.toString()));
        Hands.run(() -> ((TextField) stage.getScene().lookup("#open-log")).setText(log.toString()));
        hands.click("open-read");
        Hands.waitFor("the question", () -> session.open().questionProperty().get() != null);
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

    /** A column that was passed over is named under the verdict; one press reads the log again with it. */
    @Test
    public void columnThatWasNotReadIsNamedAndReadWithOnePress() throws IOException {
        Path folder = folder();
        Path sheet = Files.writeString(folder.resolve("six.json"), Samples.sheet());
        List<String> lines = Samples.log().lines().toList();
        Path log = Files.writeString(folder.resolve("pressure.csv"), lines.getFirst() + ",Fuel pressure,Gear\n" + lines
                .stream().skip(1).map(l -> l + ",5.8,3").collect(java.util.stream.Collectors.joining("\n", "", "\n")));
        Drive before = session.driveProperty().get();
        drop(sheet, log);
        Hands.waitFor("the drive", () -> !before.equals(session.driveProperty().get()) && session.driveProperty().get()
                .run().isPresent());
        Hands.settle();
        Drive first = session.driveProperty().get();
        assertThat(Hands.onInterface(() -> ((Label) stage.getScene().lookup("#unread-column")).getText())).isEqualTo(
                "Not read: Fuel pressure looks like fuel pressure in psi");
        assertThat(first.log().has(nariz.log.Channel.FUEL_PRESSURE)).isFalse();
        hands.click("read-column");
        Hands.waitFor("the drive read again", () -> !first.equals(session.driveProperty().get())
                && session.busyProperty().get().isEmpty());
        Hands.settle();
        Drive again = session.driveProperty().get();
        assertThat(again.log().has(nariz.log.Channel.FUEL_PRESSURE)).isTrue();
        assertThat(again.run()).isEqualTo(first.run());
        assertThat(Hands.onInterface(() -> ((Label) stage.getScene().lookup("#unread-column")).getText())).isEqualTo(
                "Columns of the log that are not used: Gear looks like the gear, which no computation here uses");
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#read-column").isVisible())).isFalse();
        // The next log of this kind needs no question, and the kept one stays as it was read.
        Path next = Files.writeString(folder.resolve("next.csv"), "# another day\n" + Files.readString(log));
        Hands.run(() -> session.open().files(sheet, next));
        Hands.waitFor("the next drive", () -> session.driveProperty().get().log().name().equals("next.csv"));
        Hands.settle();
        assertThat(session.driveProperty().get().log().has(nariz.log.Channel.FUEL_PRESSURE)).isTrue();
        Hands.run(() -> session.open().kept(first.run().orElseThrow()));
        Hands.waitFor("the kept drive", () -> session.driveProperty().get().log().name().equals("pressure.csv"));
        Hands.settle();
        assertThat(session.driveProperty().get().log().has(nariz.log.Channel.FUEL_PRESSURE)).isTrue();
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
        Files.writeString(log, s);
        Drive before = session.driveProperty().get();
        Hands.run(() -> session.open().files(sheet, log));
        // Volts look like no mixture and the header names none: what is missing is said, and can be put right here.
        Hands.waitFor("the question", () -> session.open().questionProperty().get() != null);
        Hands.settle();
        assertThat(problem()).contains("volts.csv");
        Hands.run(() -> combo("channel-3").setValue("lambda"));
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

    /** Nothing named but the mixture, which stands behind 130 columns of no use, and no time at all. */
    @Test
    public void wideFileWithoutNamesOrTimeGoesInOnceThePersonSaysWhatIsWhat() throws IOException {
        Path folder = folder();
        Path sheet = Files.writeString(folder.resolve("six.json"), Samples.sheet());
        String idle = ",0".repeat(130);
        StringBuilder rows = new StringBuilder("Ch1,Ch2");
        for (int i = 3; i < 133; i++) {
            rows.append(",Ch").append(i);
        }
        rows.append(",AFR\n");
        Samples.log().lines().skip(1).map(l -> l.split(",")).forEach(f -> rows.append(f[1]).append(',').append(f[2])
                .append(idle).append(',').append(f[3]).append('\n'));
        Path log = Files.writeString(folder.resolve("wide.csv"), rows);
        Drive before = session.driveProperty().get();
        Hands.run(() -> session.open().files(sheet, log));
        Hands.waitFor("the question", () -> session.open().questionProperty().get() != null);
        Hands.settle();
        assertThat(Hands.onInterface(() -> combo("channel-132").getValue())).isEqualTo("AFR");
        assertThat(Hands.onInterface(() -> Hands.text(stage.getScene().lookup("#columns-panel")))).contains(
                "13 more columns are not shown");
        Hands.run(() -> combo("channel-0").setValue("engine speed"));
        Hands.run(() -> combo("channel-1").setValue("manifold vacuum"));
        Hands.run(() -> combo("unit-1").setValue("inhg"));
        hands.click("columns-read");
        assertThat(problem()).isEqualTo("Not said yet which column is time (or a sample rate).");
        for (String none : List.of("often", "0", "-20")) {
            Hands.run(() -> ((TextField) stage.getScene().lookup("#columns-rate")).setText(none));
            hands.click("columns-read");
            assertThat(problem()).contains("\"" + none + "\" is not a number of readings a second");
        }
        Hands.run(() -> ((TextField) stage.getScene().lookup("#columns-rate")).setText("20"));
        hands.click("columns-read");
        Hands.waitFor("the drive", () -> !before.equals(session.driveProperty().get()));
        Hands.settle();
        assertThat(session.driveProperty().get().log().timeS()[1]).isEqualTo(0.05);
        backToTheDemo();
    }

    @SuppressWarnings("unchecked")
    private javafx.scene.control.ComboBox<String> combo(String id) {
        return (javafx.scene.control.ComboBox<String>) stage.getScene().lookup("#" + id);
    }

    private void backToTheDemo() {
        Drive now = session.driveProperty().get();
        hands.choose("demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get() != null && !session.driveProperty().get()
                .equals(now));
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

    private void drop(Path... files) {
        Dragboard board = Hands.onInterface(() -> board(java.util.Arrays.stream(files).map(Path::toFile).toList()));
        for (var type : List.of(DragEvent.DRAG_OVER, DragEvent.DRAG_DROPPED)) {
            DragEvent e = new DragEvent(type, board, 600, 400, 600, 400, TransferMode.COPY, null, null, null);
            Hands.run(() -> Event.fireEvent(window.lookup("#plane"), e));
        }
    }

    /** What a friend gets and brings back: the whole workbook as a folder, one drive as a package. */
    @Test
    public void workbookGoesOutAsAFolderAndComesBackByDroppingIt() throws IOException {
        Path folder = folder();
        Path sheet = Files.writeString(folder.resolve("kept.json"), Samples.sheet());
        Path log = Files.writeString(folder.resolve("kept.csv"), "# another day\n" + Samples.log());
        drop(sheet, log);
        Hands.waitFor("the drive", () -> session.driveProperty().get().log().name().equals("kept.csv")
                && session.driveProperty().get().run().isPresent());
        picked[0] = folder.resolve("package.zip");
        hands.choose("export");
        Hands.waitFor("the package", () -> Files.exists(picked[0]) && session.busyProperty().get().isEmpty());
        Hands.run(() -> window.showOpen(true));
        Hands.settle();
        picked[0] = folder.resolve("whole");
        hands.click("workbook-out");
        Hands.waitFor("the folder", () -> Files.exists(picked[0].resolve("workbook.json"))
                && session.busyProperty().get().isEmpty());
        picked[0] = folder.resolve("another.nariz");
        drop(folder.resolve("whole"));
        Hands.waitFor("the other workbook", () -> session.garage().workbookProperty().get().equals("another.nariz"));
        assertThat(session.garage().keptProperty().get()).anyMatch(e -> e.name().equals("kept.csv"));
        assertThat(Hands.onInterface(() -> window.lookup("#open-panel").isVisible())).isTrue();
        int before = session.garage().keptProperty().get().size();
        drop(folder.resolve("package.zip"));
        Hands.waitFor("the package's drive", () -> session.driveProperty().get() != null
                && session.garage().keptProperty().get().size() == before + 1);
        drop(workbook);
        Hands.waitFor("the first workbook", () -> session.garage().workbookProperty().get().equals("garage.nariz"));
        backToTheDemo();
    }

    /** The events are the toolkit's own; only the other program that files are dragged from is played here. */
    @Test
    public void sheetAndLogDroppedOnTheWindowOpen() throws IOException {
        Path folder = folder();
        Path sheet = folder.resolve("dropped.json");
        Path log = folder.resolve("dropped.csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log());
        Drive before = session.driveProperty().get();
        drop(sheet, log);
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
        Hands.waitFor("the note", () -> !session.notes().notesProperty().get().isEmpty());
        assertThat(session.notes().notesProperty().get().getFirst().atS())
                .contains(session.driveProperty().get().log().timeS()[at]);
        Hands.run(() -> ((Menu) ((MenuButton) stage.getScene().lookup("#notes")).getItems().getFirst()).getItems()
                .get(1).fire());
        assertThat(Hands.onInterface(() -> ((TextField) stage.getScene().lookup("#note")).getText())).isEqualTo(
                "coughs here");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#note")).setText("coughs at the bend"));
        hands.press(KeyCode.ENTER);
        Hands.waitFor("other words", () -> session.notes().notesProperty().get().stream().allMatch(n -> n.text().equals(
                "coughs at the bend")));
        assertThat(session.notes().notesProperty().get()).hasSize(1);
        assertThat(session.notes().notesProperty().get().getFirst().atS())
                .contains(session.driveProperty().get().log().timeS()[at]);
        hands.press(KeyCode.ESCAPE);
        hands.click("undo");
        Hands.waitFor("the first words", () -> session.notes().notesProperty()
                .get().getFirst().text().equals("coughs here"));
        hands.click("undo");
        Hands.waitFor("undo", () -> session.notes().notesProperty().get().isEmpty());
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
        Hands.run(() -> session.goTo(Stops.MAIN));
        hands.click("show-try");
        Effect advised = session.trials().effectProperty().get();
        Hands.run(() -> stage.getScene().lookup("#try-primary-main-jet").requestFocus());
        hands.press(KeyCode.RIGHT);
        hands.press(KeyCode.RIGHT);
        Hands.waitFor("the forecast", () -> session.trials().effectProperty().get().tried());
        assertThat(session.trials().triedProperty().get()).hasSize(1);
        assertThat(session.trials().triedProperty().get().getFirst().to() - session.trials()
                .triedProperty().get().getFirst().from())
                .isEqualTo(2.0);
        Hands.waitFor("both steps", () -> session.trials().effectProperty().get().changes().equals(session.trials()
                .triedProperty()
                .get()));
        assertThat(session.trials().effectProperty().get().phi()[0]).isGreaterThan(session.driveProperty().get()
                .analysis()
                .estimate().phi(0) * 0.99);
        String says = Hands.onInterface(() -> ((Label) stage.getScene().lookup("#try-verdict")).getText());
        assertThat(says).contains("%").endsWith(".");
        Hands.run(() -> ((Button) stage.getScene().lookup("#plan-keep")).fire());
        Hands.waitFor("the plan", () -> session.notes().plansProperty().get().size() == 1);
        Hands.run(() -> ((Button) stage.getScene().lookup("#try-none")).fire());
        assertThat(session.trials().effectProperty().get()).isSameAs(advised);
        Hands.settle();
        Hands.run(() -> ((Button) stage.getScene().lookup("#plan-try")).fire());
        Hands.waitFor("the plan's parts", () -> session.trials().effectProperty().get().tried());
        Hands.run(() -> ((Button) stage.getScene().lookup("#plan-drop")).fire());
        Hands.waitFor("no plan", () -> session.notes().plansProperty().get().isEmpty());
        Hands.run(() -> session.trials().tryParts(List.of()));
        hands.click("show-card");
        Hands.run(() -> session.goTo(Stops.TRANSFER));
    }

    /** From a file of one's own to the card on paper and the plan that is kept, without a mouse. */
    @Test
    public void wholeJobIsDoneByKeysAlone() throws IOException {
        Path folder = folder();
        Path sheet = Files.writeString(folder.resolve("estate.json"), DemoDrive.sheetJson().replace("Hill-climb",
                "Own"));
        Path log = folder.resolve("own-drive.csv");
        LogWriter.write(DemoDrive.drive().log(), log);
        Hands.run(() -> stage.getScene().lookup("#scrubber").requestFocus());
        hands.press(KeyCode.O);
        tabTo("open-sheet");
        type(sheet.toString());
        tabTo("open-log");
        type(log.toString());
        tabTo("open-read");
        hands.press(KeyCode.SPACE);
        Hands.waitFor("the own drive", () -> session.driveProperty().get().log().name().equals("own-drive.csv"));
        assertThat(session.driveProperty().get().sheet().name()).startsWith("Own estate");
        Hands.settle();
        // The verdict stands at the rich circuit at once; the digit of its stop leads back to it from anywhere.
        assertThat(session.stopProperty().get()).isEqualTo(Stops.TRANSFER);
        hands.press(KeyCode.DIGIT3);
        assertThat(verdict()).contains("Leave it alone");
        hands.press(KeyCode.DIGIT2);
        assertThat(verdict()).contains("The transfer circuit is rich");
        hands.press(KeyCode.F);
        type("primary idle feed");
        hands.press(KeyCode.ENTER);
        assertThat(focused()).isEqualTo("try-primary-idle-feed-restriction");
        double fitted = MeteredParts.IDLE_FEED_RESTRICTION.of(session.driveProperty().get().sheet().carburetor(),
                nariz.carburetor.Stage.PRIMARY);
        for (int i = 0; i < 3; i++) {
            hands.press(KeyCode.LEFT);
        }
        Hands.waitFor("three sizes down", () -> session.trials().effectProperty().get().tried()
                && session.trials().effectProperty()
                .get().changes().getFirst().to() == fitted - 3);
        tabTo("plan-name");
        type("smaller feeds");
        hands.press(KeyCode.ENTER);
        Hands.waitFor("the plan", () -> session.notes().plansProperty().get().size() == 1);
        assertThat(session.notes().plansProperty().get().getFirst().name()).isEqualTo("smaller feeds");
        Path card = folder.resolve("card.pdf");
        picked[0] = card;
        hands.press(KeyCode.ESCAPE);
        hands.press(KeyCode.F);
        type("work card on paper");
        hands.press(KeyCode.ENTER);
        Hands.waitFor("the card", () -> Files.exists(card) && session.busyProperty().get().isEmpty());
        assertThat(Files.size(card)).isGreaterThan(5000);
        Hands.run(() -> session.trials().tryParts(List.of()));
        hands.click("show-card");
        backToTheDemo();
    }

    private String focused() {
        return Hands.onInterface(() -> stage.getScene().getFocusOwner() == null ? "" : String.valueOf(stage.getScene()
                .getFocusOwner().getId()));
    }

    /** Letter by letter through the robot would test the robot. */
    private void type(String text) {
        Hands.run(() -> ((TextField) stage.getScene().getFocusOwner()).setText(text));
    }

    private void tabTo(String id) {
        for (int i = 0; i < 40 && !id.equals(focused()); i++) {
            hands.press(KeyCode.TAB);
        }
        assertThat(focused()).isEqualTo(id);
    }

    @Test
    public void workCardGoesOnPaper() throws IOException {
        Hands.run(() -> session.goTo(Stops.TRANSFER));
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
        Hands.run(() -> session.open().files(sheet, log));
        Hands.waitFor("the list", () -> kept("monday.csv"));
        Path stretch = folder.resolve("stretch.csv");
        picked[0] = stretch;
        Hands.run(() -> session.select(new nariz.log.Span(10, 20)));
        hands.choose("export");
        Hands.waitFor("the stretch", () -> session.busyProperty().get().isEmpty() && Files.exists(stretch));
        assertThat(Files.readAllLines(stretch)).hasSizeBetween(100, 105).startsWith("time,rpm,vacuum,afr");
        Path whole = folder.resolve("whole.zip");
        picked[0] = whole;
        hands.choose("export");
        Hands.waitFor("the package", () -> session.busyProperty().get().isEmpty() && Files.exists(whole));
        assertThat(nariz.workbook.Exchange.dataPackage(whole).recording().size()).isEqualTo(1000);
        Hands.run(() -> session.select(null));
        backToTheDemo();
        hands.choose("open");
        Hands.run(() -> {
            var list = (javafx.scene.control.ListView<?>) stage.getScene().lookup("#open-kept");
            list.getSelectionModel().select(line(list, "monday.csv"));
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
        assertThat(session.stopProperty().get()).isEqualTo(Stops.SECONDARY);
        assertThat(list.isVisible()).isFalse();
        hands.press(KeyCode.F);
        Hands.run(() -> ((TextField) stage.getScene().lookup("#find")).setText("primary main jets"));
        hands.press(KeyCode.ENTER);
        assertThat(session.stopProperty().get()).isEqualTo(Stops.MAIN);
        assertThat(Hands.onInterface(() -> stage.getScene().getFocusOwner().getId())).isEqualTo("try-primary-main-jet");
        hands.press(KeyCode.F);
        hands.click("find-list", 0.3, 0.125);
        assertThat(session.stopProperty().get()).as("the second row, by mouse").isEqualTo(Stops.TRANSFER);
        hands.press(KeyCode.F);
        Hands.run(() -> ((TextField) stage.getScene().lookup("#find")).setText("nowhere at all"));
        assertThat(Hands.onInterface(() -> list.getItems().size())).isZero();
        hands.press(KeyCode.ENTER);
        hands.press(KeyCode.ESCAPE);
        assertThat(list.isVisible()).isFalse();
        hands.click("show-card");
        Hands.run(() -> {
            session.goTo(Stops.TRANSFER);
            window.textSize(18);
        });
        Hands.settle();
        double large = shownSize();
        Hands.run(() -> window.textSize(14));
        Hands.settle();
        double usual = shownSize();
        assertThat(large / usual).isEqualTo(18.0 / 14, org.assertj.core.api.Assertions.within(0.02));
    }

    /** Size of the verdict as it is seen: its font, magnified with the page. */
    private double shownSize() {
        return Hands.onInterface(() -> ((Label) stage.getScene().lookup("#verdict")).getFont().getSize()
                * window.lookup("#verdict").getLocalToSceneTransform().getMxx());
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
            Drive before = session.driveProperty().get();
            Hands.run(() -> session.open().files(sheet, log));
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

    /** Place of the line about a drive in the logbook. */
    private static int line(javafx.scene.control.ListView<?> list, String drive) {
        return list.getItems().stream().map(Object::toString).filter(l -> l.contains(drive)).map(l -> list.getItems()
                .stream().map(Object::toString).toList().indexOf(l)).findFirst().orElseThrow();
    }

    private boolean kept(String name) {
        return session.garage().keptProperty().get().stream().anyMatch(e -> e.name().equals(name));
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
        Drive before = session.driveProperty().get();
        Hands.run(() -> session.open().files(sheet, log));
        Hands.waitFor("the drive", () -> !before.equals(session.driveProperty().get()));
        Hands.waitFor("the list", () -> session.garage().keptProperty().get().stream()
                .anyMatch(e -> e.name().equals("sunday.csv")));
        backToTheDemo();
        Drive demo = session.driveProperty().get();
        hands.choose("open");
        Hands.settle();
        Hands.run(() -> {
            var list = (javafx.scene.control.ListView<?>) stage.getScene().lookup("#open-kept");
            list.requestFocus();
            list.getSelectionModel().select(line(list, "sunday.csv"));
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
            Hands.run(() -> session.open().files(sheet, log));
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
        hands.choose("open");
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
        Hands.run(() -> stage.getScene().getRoot().lookupAll(".button, .toggle-button, .picture, .text-field, "
                + ".combo-box, .slider, .menu-button, .split-menu-button, .check-box, .list-view").forEach(n -> {
            boolean text = n instanceof javafx.scene.control.Labeled l && l.getText() != null
                    && !l.getText().isEmpty();
            boolean arrow = n.getStyleClass().contains("increment-button") || n.getStyleClass()
                    .contains("decrement-button");
            assertThat(arrow || text || n.getAccessibleText() != null).as(n.toString()).isTrue();
        }));
    }

    /** The whole round in the window: the cleaner compared, the advice driven again, the proof read. */
    @Test
    public void proofIsReachedByComparingAndDrivingAgain() {
        hands.click("stop-proof");
        assertThat(verdict()).contains("drive the same road again");
        assertThat(Hands.onInterface(() -> Hands.text(window.lookup("#work-card")))).contains("the same road");
        hands.click("compare-go");
        Hands.waitFor("the comparison", () -> session.comparisons().comparisonProperty().get() != null);
        Hands.settle();
        assertThat(verdict()).contains("leaner at full load");
        assertThat(Hands.onInterface(() -> window.lookup("#difference").isVisible())).isTrue();
        int before = Hands.onInterface(() -> session.cursorProperty().get());
        hands.click("difference", 0.926, 0.37);
        assertThat(session.cursorProperty().get()).isNotEqualTo(before);
        hands.click("show-stream");
        hands.click("compare-end");
        assertThat(session.comparisons().comparisonProperty().get()).isNull();
        hands.click("drive-again");
        Hands.waitFor("the next round", () -> session.comparisons().comparisonProperty().get() != null);
        Hands.settle();
        assertThat(verdict()).contains("Proved");
        String side = Hands.onInterface(() -> Hands.text(window.lookup("#compare-panel")));
        assertThat(side).contains("predicted").contains("Between the two");
        // A circuit that is left alone shows what the last change promised beside what came of it.
        hands.click("stop-main");
        hands.click("show-card");
        assertThat(Hands.onInterface(() -> Hands.text(window.lookup("#work-card"))))
                .contains("the last change promised").contains("as promised");
        backToTheDemo();
        hands.click("stop-transfer");
        hands.click("show-card");
    }

    @Test
    public void tipInsAreSteppedThroughAtThePumpsStop() {
        hands.click("stop-pump");
        assertThat(verdict()).contains("tip-ins");
        assertThat(Hands.onInterface(() -> window.lookup("#stabs").isVisible())).isTrue();
        int first = Hands.onInterface(() -> session.driveProperty().get().tipIns().events().getFirst().sample());
        int second = Hands.onInterface(() -> session.driveProperty().get().tipIns().events().get(1).sample());
        Hands.run(() -> {
            session.moveCursor(first);
            window.lookup("#stabs").requestFocus();
        });
        hands.press(KeyCode.N);
        assertThat(session.cursorProperty().get()).isEqualTo(second);
        hands.press(KeyCode.P);
        assertThat(session.cursorProperty().get()).isEqualTo(first);
        hands.click("stabs", 0.3, 0.9);
        hands.click("stop-main");
        assertThat(Hands.onInterface(() -> window.lookup("#fuel-stream").isVisible())).isTrue();
    }

    /** The power stop shows where the enrichment opens; a mark and the keys take the log to the moment. */
    @Test
    public void theEnrichmentsLineIsShownAtThePowerStop() {
        hands.click("stop-power");
        assertThat(Hands.onInterface(() -> window.lookup("#enrichment").isVisible())).isTrue();
        assertThat(Hands.onInterface(() -> Hands.text(window.lookup("#work-card")))).contains("Seen of the enrichment")
                .contains("seen to open at");
        Hands.run(() -> {
            session.moveCursor(0);
            window.lookup("#enrichment").requestFocus();
        });
        hands.press(KeyCode.N);
        int first = session.cursorProperty().get();
        assertThat(first).isPositive();
        assertThat(session.driveProperty().get().log().vacuumPa()[first]).isLessThan(5 * Units.INHG);
        hands.press(KeyCode.N);
        assertThat(session.cursorProperty().get()).isGreaterThan(first);
        hands.press(KeyCode.P);
        assertThat(session.cursorProperty().get()).isEqualTo(first);
        hands.click("stop-main");
        assertThat(Hands.onInterface(() -> window.lookup("#fuel-stream").isVisible())).isTrue();
    }

    @Test
    public void pullsAreSteppedThroughAndTheirTrendsSaidAtTheLastStage() {
        hands.click("stop-secondary");
        assertThat(Hands.onInterface(() -> Hands.text(window.lookup("#work-card")))).contains("Seen in the pulls")
                .contains("1000 rpm");
        hands.click("show-pulls");
        Hands.run(() -> {
            session.moveCursor(0);
            window.lookup("#pulls").requestFocus();
        });
        hands.press(KeyCode.N);
        int first = session.cursorProperty().get();
        assertThat(first).isPositive();
        hands.press(KeyCode.N);
        assertThat(session.cursorProperty().get()).isGreaterThan(first);
        hands.click("pulls", 0.3, 0.45);
        hands.click("show-stream");
        hands.click("stop-transfer");
    }

    /** The demo with four power valves: the picture comes up, the sentence names the best, and it can be put away. */
    @Test
    public void trialsOfOnePartAreLaidTogether() {
        hands.click("show-compare");
        Hands.run(() -> ((Button) window.lookup("#series-go")).fire());
        Hands.waitFor("the trials", () -> session.comparisons().seriesProperty().get() != null);
        Hands.settle();
        assertThat(Hands.onInterface(() -> window.lookup("#trials").isVisible())).isTrue();
        String said = Hands.onInterface(() -> Hands.text(window.lookup("#compare-panel")));
        assertThat(said).contains("power valve").contains("3.5 inHg").contains("10.5 inHg").contains("1 is just tuned");
        assertThat(session.comparisons().seriesProperty().get().trials()).hasSize(4);
        Hands.run(() -> ((Button) window.lookup("#compare-end")).fire());
        assertThat(session.comparisons().seriesProperty().get()).isNull();
        hands.click("show-card");
        hands.click("show-stream");
    }

    @Test
    public void planTicksOffWhatTheDriveHolds() {
        hands.click("show-plan");
        String plan = Hands.onInterface(() -> Hands.text(window.lookup("#plan-panel")));
        assertThat(plan).contains("On this drive already").contains("idle, warm");
        hands.click("show-card");
    }

    @Test
    public void altitudeSaysWhichJetRestoresTheMixture() {
        hands.click("show-try");
        Hands.run(() -> {
            ((TextField) window.lookup("#air-altitude")).setText("2000");
            ((TextField) window.lookup("#air-temperature")).setText("15");
        });
        Hands.settle();
        String answer = Hands.onInterface(() -> ((Label) window.lookup("#air-answer")).getText());
        assertThat(answer).contains("% richer with the same parts").contains("would restore it");
        Hands.run(() -> ((TextField) window.lookup("#air-altitude")).setText("high"));
        assertThat(Hands.onInterface(() -> ((Label) window.lookup("#air-answer")).getText())).contains("as numbers");
        Hands.run(() -> ((TextField) window.lookup("#air-altitude")).setText("20000"));
        assertThat(Hands.onInterface(() -> ((Label) window.lookup("#air-answer")).getText())).contains("-500 to 6000");
        hands.click("show-card");
    }

    /** Everything grows with the text as long as a whole page has room. */
    @Test
    public void picturesGrowWithTheText() {
        double before = Hands.onInterface(() -> window.lookup("#scrubber").getLocalToSceneTransform().getMxx());
        Hands.run(() -> window.textSize(16));
        Hands.settle();
        double after = Hands.onInterface(() -> window.lookup("#scrubber").getLocalToSceneTransform().getMxx());
        assertThat(after / before).isEqualTo(16.0 / 14, org.assertj.core.api.Assertions.within(0.01));
        hands.click("stop-power");
        assertThat(session.stopProperty().get()).isEqualTo(Stops.POWER);
        Hands.run(() -> window.textSize(14));
        Hands.settle();
    }

    /** The same drive, the same undo, other words; and back. */
    @Test
    public void windowSpeaksSpanishAndGoesBackToEnglish() {
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        hands.choose("language");
        turned("Español became English");
        Hands.waitFor("the words", () -> ((Label) stage.getScene().lookup("#verdict")).getText().startsWith("El "));
        assertThat(verdict()).contains("El circuito de progresión").contains("37 thou a 34 thou");
        String card = Hands.onInterface(() -> Hands.text(stage.getScene().lookup("#work-card")));
        assertThat(card).contains("Motor frío").contains("Lo prueba");
        assertThat(Hands.onInterface(() -> ((ToggleButton) stage.getScene().lookup("#stop-transfer"))
                .getAccessibleText())).startsWith("Progresión, ");
        hands.click("stop-pump");
        assertThat(verdict()).contains("aceleradas");
        hands.press(KeyCode.F);
        hands.click("find");
        Hands.run(() -> ((TextField) stage.getScene().lookup("#find")).setText("chiclé principal:"));
        Hands.settle();
        @SuppressWarnings("unchecked")
        var found = (javafx.scene.control.ListView<Find.Entry>) stage.getScene().lookup("#find-list");
        assertThat(Hands.onInterface(() -> found.getItems().size())).isEqualTo(1);
        hands.press(KeyCode.ESCAPE);
        hands.choose("language");
        turned("and back");
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        Hands.waitFor("the words", () -> ((Label) stage.getScene().lookup("#verdict")).getText().startsWith("The "));
        assertThat(verdict()).contains("The transfer circuit");
    }

    /** A window that another has taken the place of draws no more, or every change of language would cost for ever. */
    @Test
    public void windowOfTheOtherLanguageIsLetGo() throws InterruptedException {
        WeakReference<MainWindow> english = new WeakReference<>(window);
        for (String turn : List.of("Spanish", "and back")) {
            hands.choose("language");
            turned(turn);
        }
        for (int i = 0; i < 100 && english.get() != null; i++) {
            System.gc();
            Thread.sleep(100);
            // A press moves the focus and whatever else the toolkit still holds of the old window.
            hands.press(KeyCode.F6);
        }
        assertThat(english.get()).isNull();
    }

    /** Every stop, picture and panel in Spanish: what can be read, or is read out, has no English in it. */
    @Test
    public void spanishWindowSaysNothingInEnglish() {
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        hands.choose("language");
        turned("Spanish");
        Hands.waitFor("the words", () -> ((Label) stage.getScene().lookup("#verdict")).getText().startsWith("El "));
        for (String shown : List.of("show-card", "show-try", "show-plan", "show-compare", "show-trace", "show-stabs",
                "show-difference")) {
            for (Stop s : Stops.of(session.driveProperty().get().sheet().carburetor().family())) {
                Hands.run(() -> {
                    session.goTo(s);
                    ToggleButton b = (ToggleButton) stage.getScene().lookup("#" + shown);
                    if (!b.isSelected()) {
                        b.fire();
                    }
                });
                Hands.settle();
                String all = Hands.onInterface(() -> everything(window));
                assertThat(all).as("%s, %s", shown, s).hasSizeGreaterThan(400).doesNotContainPattern(Bundles.ENGLISH);
            }
        }
        Hands.run(() -> {
            window.showOpen(true);
            session.dismissProblem();
        });
        assertThat(Hands.onInterface(() -> everything(window.lookup("#open-panel")))).doesNotContainPattern(
                Bundles.ENGLISH);
        Hands.run(() -> window.showOpen(false));
        Hands.run(() -> window.lookup("#scrubber").requestFocus());
        hands.press(KeyCode.F);
        @SuppressWarnings("unchecked")
        var found = (javafx.scene.control.ListView<Find.Entry>) stage.getScene().lookup("#find-list");
        for (Find.Entry t : Hands.onInterface(() -> List.copyOf(found.getItems()))) {
            assertThat(t.name()).doesNotContainPattern(Bundles.ENGLISH);
        }
        hands.press(KeyCode.ESCAPE);
        hands.choose("language");
        turned("and back");
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        Hands.waitFor("the words", () -> ((Label) stage.getScene().lookup("#verdict")).getText().startsWith("The "));
        hands.click("show-card");
        hands.click("show-stream");
    }

    /** Texts, prompts, tooltips and what a screen reader is told; names of cars and files left out. */
    private static String everything(Node n) {
        StringBuilder s = new StringBuilder();
        if (!n.isVisible() || n.getStyleClass().contains("car") || "language".equals(n.getId())) {
            return "";
        }
        if (n instanceof javafx.scene.control.Labeled l) {
            s.append(l.getText()).append('\n');
        }
        if (n instanceof javafx.scene.control.TextInputControl t) {
            s.append(t.getPromptText()).append('\n');
        }
        if (n instanceof javafx.scene.control.Control c && c.getTooltip() != null) {
            s.append(c.getTooltip().getText()).append('\n');
        }
        if (n instanceof MenuButton m) {
            m.getItems().forEach(i -> s.append(i.getText()).append('\n'));
        }
        s.append(n.getAccessibleText()).append('\n').append(n.getAccessibleHelp()).append('\n');
        if (n instanceof Parent p) {
            p.getChildrenUnmodifiable().forEach(c -> s.append(everything(c)));
        }
        return s.toString().replace("null\n", "");
    }

    /** Another language means another window over the same session, and the drive weighed anew. */
    private void turned(String what) {
        MainWindow before = window;
        Hands.waitFor(what, () -> stage.getScene().getRoot() instanceof MainWindow w && !w.equals(before)
                && session.busyProperty().get().isEmpty());
        Hands.run(() -> window = (MainWindow) stage.getScene().getRoot());
        Hands.settle();
    }

    /** A form is for typing: no letter typed in one of its controls opens something else. */
    @Test
    public void lettersStayInTheControlThatHasTheFocus() {
        Drive open = session.driveProperty().get();
        Hands.run(() -> {
            window.showOpen(true);
            ((TextField) window.lookup("#open-sheet")).clear();
        });
        Hands.settle();
        hands.openSheet();
        for (String control : List.of("engine-cam", "carburetor-family", "engine-displacement")) {
            Hands.run(() -> stage.getScene().lookup("#sheet-" + control).requestFocus());
            Hands.settle();
            assertThat(Hands.onInterface(() -> stage.getScene().getFocusOwner().getId())).isEqualTo("sheet-" + control);
            for (KeyCode k : List.of(KeyCode.D, KeyCode.T, KeyCode.U, KeyCode.DIGIT2)) {
                hands.press(k);
                assertThat(Hands.onInterface(() -> stage.getScene().lookup("#sheet-panel").isVisible())).as("%s in %s",
                        k,
                        control).isTrue();
            }
        }
        assertThat(session.driveProperty().get()).isSameAs(open);
        assertThat(session.busyProperty().get()).isEmpty();
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#sheet-panel").isVisible())).isTrue();
        hands.click("sheet-close");
        Hands.run(() -> window.showOpen(false));
        Hands.settle();
    }

    /** Where the sheet cannot be written the form stays, with everything in it. */
    @Test
    public void sheetThatCannotBeWrittenStaysInTheForm() throws IOException {
        Hands.run(() -> {
            window.showOpen(true);
            ((TextField) window.lookup("#open-sheet")).clear();
        });
        Hands.settle();
        hands.openSheet();
        fill("engine-displacement", "3.1");
        fill("engine-cylinders", "6");
        picked[0] = folder().resolve("no such folder").resolve("my-car.json");
        hands.click("sheet-write");
        Hands.waitFor("the complaint", () -> !session.problemProperty().get().isEmpty());
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#sheet-panel").isVisible())).isTrue();
        assertThat(Hands.onInterface(() -> input("engine-displacement").getText())).isEqualTo("3.1 L");
        Files.createDirectories(picked[0].getParent());
        hands.click("sheet-write");
        Hands.waitFor("the sheet", () -> Files.exists(picked[0]) && session.busyProperty().get().isEmpty());
        Hands.run(() -> {
            session.dismissProblem();
            window.showOpen(false);
        });
        Hands.settle();
    }

    /** What was begun with B in one drive does not end with E in the next. */
    @Test
    public void selectionEndsWithTheDriveItWasBegunIn() {
        hands.click("scrubber", 0.3, 0.5);
        hands.press(KeyCode.B);
        Drive before = session.driveProperty().get();
        Hands.run(session.open()::demo);
        Hands.waitFor("the demo", () -> session.driveProperty().get().opening() != before.opening()
                && session.busyProperty().get()
                .isEmpty());
        Hands.run(() -> {
            session.moveCursor(session.driveProperty().get().log().size() / 2);
            window.lookup("#scrubber").requestFocus();
        });
        Hands.settle();
        hands.press(KeyCode.E);
        assertThat(session.selectionProperty().get()).isNull();
    }

    /** A newcomer without a file fills in a form, is told what is missing, and has a sheet that can be read. */
    @Test
    public void buildSheetIsFilledInAsAForm() throws IOException {
        Hands.run(() -> window.showOpen(true));
        Hands.settle();
        hands.openSheet();
        hands.click("sheet-write");
        assertThat(sheetProblem()).startsWith("Not yet, displacement: found nothing.");
        fill("engine-displacement", "3,8");
        fill("engine-cylinders", "6");
        assertThat(Hands.onInterface(() -> input("engine-displacement").getText())).isEqualTo("3.8 L");
        assertThat(Hands.onInterface(() -> input("carburetor-primary-mainJet").getPromptText())).endsWith("thou");
        fill("carburetor-primary-idleFeedRestriction", "37");
        fill("engine-redline", "fast");
        picked[0] = folder().resolve("my-car.json");
        hands.click("sheet-write");
        assertThat(sheetProblem()).startsWith("Not yet, highest speed: found \"fast\".");
        assertThat(Files.exists(picked[0])).isFalse();
        fill("engine-redline", "5600");
        // The other family has other parts; what both have stays.
        Hands.run(() -> combo("sheet-carburetor-family").setValue("rod-metered-4"));
        Hands.settle();
        assertThat(stage.getScene().lookup("#sheet-carburetor-primary-powerValve")).isNull();
        fill("carburetor-primary-stepUpSpring", "7");
        // Put away and opened again, nothing is lost.
        hands.click("sheet-close");
        hands.openSheet();
        assertThat(Hands.onInterface(() -> input("carburetor-primary-stepUpSpring").getText())).isEqualTo("7 inHg");
        hands.choose("language");
        turned("Spanish");
        assertThat(Hands.onInterface(() -> Hands.text(stage.getScene().lookup("#sheet-panel")))).contains(
                "¿Qué lleva montado?").contains("chiclés principales");
        assertThat(Hands.onInterface(() -> input("carburetor-primary-stepUpSpring").getText())).isEqualTo("7 inHg");
        hands.choose("language");
        turned("and back");
        hands.click("sheet-write");
        Hands.waitFor("the sheet", () -> Files.exists(picked[0]) && session.busyProperty().get().isEmpty());
        BuildSheet sheet = BuildSheetReader.read(picked[0]);
        assertThat(sheet.carburetor().family().key()).isEqualTo("rod-metered-4");
        assertThat(Barrels.of(sheet.carburetor(), nariz.carburetor.Stage.PRIMARY)
                .idle().feedM()).isEqualTo(37 * nariz.units.Units.THOU);
        assertThat(Hands.onInterface(() -> ((TextField) window.lookup("#open-sheet")).getText()))
                .isEqualTo(picked[0].toString());
        // A sheet that is there is changed.
        hands.openSheet();
        assertThat(Hands.onInterface(() -> stage.getScene().lookup("#sheet-panel").isVisible())).isTrue();
        assertThat(Hands.onInterface(() -> input("engine-redline").getText())).isEqualTo("5600 rpm");
        hands.click("sheet-close");
        Files.writeString(picked[0], "[]");
        hands.openSheet();
        assertThat(problem()).contains("my-car.json, line 1, column 1");
        Hands.run(() -> {
            ((TextField) window.lookup("#open-sheet")).clear();
            window.showOpen(false);
        });
    }

    private TextField input(String field) {
        return (TextField) stage.getScene().lookup("#sheet-" + field);
    }

    private void fill(String field, String text) {
        Hands.run(() -> {
            input(field).requestFocus();
            input(field).setText(text);
        });
        Hands.run(() -> stage.getScene().lookup("#sheet-name").requestFocus());
        Hands.settle();
    }

    private String sheetProblem() {
        return Hands.onInterface(() -> ((Label) stage.getScene().lookup("#sheet-problem")).getText());
    }
}
