package nariz.app;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.Predicate;
import javafx.animation.AnimationTimer;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.MenuBar;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.stage.Stage;
import nariz.app.chart.TraceView;
import nariz.app.state.LiveDrive;
import nariz.app.state.Session;
import nariz.app.state.Settings;
import nariz.app.state.Stops;
import nariz.app.view.FilePicker;
import nariz.app.view.MainWindow;
import nariz.app.words.WindowWords;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.NeedleChart;
import nariz.carburetor.PartChange;
import nariz.family.metered.MeteredParts;
import nariz.log.LogWriter;
import nariz.log.Span;
import nariz.sim.Demo;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.text.Language;

/**
 * Arranges and takes the pictures; started by {@link Shots}. Arguments: the folder, and for a look at another size or
 * in the other colours, width and height in px and {@code swapped}, which exchanges day and night, or
 * {@code contrast}, and preferences as the file of them has them ({@code mixture=AFR}, {@code language=es}); further
 * words are the names of the only pictures wanted.
 */
public final class ShotsApplication extends Application {
    private static final int MOVES = 13;
    /** Readings and turns of a balance before its picture. */
    private static final int TURNS = 1;
    private static final int LIVE_ROWS = 700;

    private record Shot(String name, Runnable arrange, BooleanSupplier ready) {
        Shot(String name, Runnable arrange) {
            this(name, arrange, () -> true);
        }
    }

    private final List<Shot> todo = new ArrayList<>();

    /** Views that are looked at, and not kept among the pictures of the documents; taken by name, or with "all". */
    private static final List<String> UNKEPT = List.of("first-start", "tour", "find", "main", "live-start", "spanish",
            "pump-look");

    private static final String NEEDLES = """
            needle, spacing, 1 (thou), 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13
            K1, 2.1 mm, 89.4, 86.7, 84.6, 82.7, 79.9, 76.6, 73.9, 71.4, 68.6, 65.4, 62.5, 59.8, 56.8
            K2, 2.1 mm, 89.4, 86.9, 84.9, 83.0, 80.4, 77.3, 74.8, 71.9, 68.8, 65.7, 62.8, 60.1, 57.1
            K3, 2.1 mm, 89.4, 86.2, 83.6, 81.0, 78.0, 74.5, 71.9, 69.4, 66.6, 63.4, 60.5, 57.8, 54.8
            """;

    @Override
    public void start(Stage stage) throws IOException {
        // Half a minute of a practice engine in a second and a half; read before the first session.
        System.setProperty("nariz.practice.pace", "20");
        List<String> args = getParameters().getRaw();
        Path folder = Path.of(args.getFirst());
        boolean swapped = args.contains("swapped");
        Files.createDirectories(folder);
        Settings liked = liked(args);
        liked.language().ifPresent(l -> WindowWords.use(WindowWords.wording().in(l)));
        Session session = new Session(Platform::runLater, Files.createTempDirectory("nariz").resolve("garage.nariz"));
        MainWindow window = new MainWindow(session, FilePicker.ofPlatform(), liked);
        Scene scene = NarizApplication.scene(window, size(args, 1, 1280), size(args, 2, 800));
        stage.setScene(scene);
        stage.show();
        window.setNight(swapped);
        todo.add(new Shot("first-start", () -> window.showOpen(true)));
        todo.add(new Shot("tour", () -> {
            session.goTo(Stops.IDLE);
            ((MenuBar) scene.lookup("#menus")).getMenus().stream().flatMap(m -> m.getItems().stream())
                    .filter(i -> "menu-tour".equals(i.getId())).forEach(MenuItem::fire);
        }));
        todo.add(new Shot("find", () -> {
            ((Button) scene.lookup("#tour-skip")).fire();
            scene.lookup("#find").requestFocus();
            ((TextField) scene.lookup("#find")).setText("power");
        }));
        todo.add(new Shot("main", () -> {
            ((TextField) scene.lookup("#find")).clear();
            scene.lookup("#scrubber").requestFocus();
            session.goTo(Stops.MAIN);
        }));
        todo.add(new Shot("transfer", () -> session.goTo(Stops.TRANSFER)));
        todo.add(new Shot("", () -> {
            if (!((ToggleButton) scene.lookup("#show-trace")).isSelected()) {
                ((ToggleButton) scene.lookup("#show-trace")).fire();
            }
            session.select(new Span(470, 500));
            session.note("pulls flat here");
        }));
        todo.add(new Shot("try-parts", () -> {
            session.select(null);
            ((ToggleButton) scene.lookup("#show-stream")).fire();
            ((ToggleButton) scene.lookup("#show-try")).fire();
            session.trials().tryParts(List.of(new PartChange(MeteredParts.MAIN_JET, nariz.carburetor.Stage.PRIMARY,
                    MeteredParts.MAIN_JET.of(
                    session.driveProperty().get().sheet().carburetor(), nariz.carburetor.Stage.PRIMARY), 64)));
            session.notes().keepPlan("larger jets");
        }));
        todo.add(new Shot("trace-night", () -> {
            ((ToggleButton) scene.lookup("#show-trace")).fire();
            window.setNight(!swapped);
            ((TraceView) scene.lookup("#trace")).view(440, 520);
        }));
        todo.add(new Shot("", () -> {
            window.setNight(swapped);
            ((ToggleButton) scene.lookup("#show-stream")).fire();
            scene.lookup("#find").requestFocus();
        }));
        todo.add(new Shot("power", () -> {
            window.setNight(swapped);
            session.trials().tryParts(List.of());
            scene.lookup("#scrubber").requestFocus();
            ((ToggleButton) scene.lookup("#show-stream")).fire();
            ((ToggleButton) scene.lookup("#show-card")).fire();
            session.goTo(Stops.POWER);
        }));
        todo.add(new Shot("pulls", () -> {
            session.goTo(Stops.SECONDARY);
            ((ToggleButton) scene.lookup("#show-pulls")).fire();
            session.moveCursor(session.driveProperty().get().log().indexAt(610));
        }));
        todo.add(new Shot("to-record", () -> {
            session.select(new Span(200, 748));
            session.exclude();
            session.goTo(Stops.MAIN);
            ((ToggleButton) scene.lookup("#show-plan")).fire();
        }));
        todo.add(new Shot("", session::undo));
        todo.add(new Shot("trials", () -> {
            session.comparisons().endComparison();
            session.comparisons().layTogether();
        }));
        todo.add(new Shot("proof", () -> {
            session.comparisons().endComparison();
            session.open().again();
        }));
        todo.add(new Shot("", () -> ((ToggleButton) scene.lookup("#show-stream")).fire()));
        todo.add(new Shot("", () -> {
            window.setNight(swapped);
            session.open().demo();
            ((ToggleButton) scene.lookup("#show-card")).fire();
        }));
        todo.add(new Shot("", () -> session.goTo(Stops.MAIN)));
        todo.add(new Shot("guide", () -> window.showHelp("plane")));
        todo.add(new Shot("", () -> {
            ((Button) scene.lookup("#guide-close")).fire();
            window.setNight(swapped);
            session.goTo(Stops.TRANSFER);
            session.complain("drive.csv, line 1, column 3 (vacuum): found no unit for manifold vacuum. Put the unit in "
                    + "the header, for example vacuum_inHg (units: inhg, kpa, mbar, hpa, psi).");
        }));
        Path plain = Files.createTempDirectory("nariz").resolve("hillclimb-estate.json");
        Path unclear = plain.resolveSibling("logger.csv");
        Files.writeString(plain, DemoDrive.sheetJson());
        LogWriter.write(DemoDrive.drive().log(), unclear);
        Files.writeString(unclear, Files.readString(unclear).replaceFirst("[^\n]*\n",
                "Time,Engine speed,Vac,Wideband,Pedal,Speed,Coolant\n"));
        todo.add(new Shot("build-sheet", () -> {
            session.dismissProblem();
            window.showOpen(true);
            ((Button) scene.lookup("#sheet-start")).fire();
            ((Button) scene.lookup("#sheet-example")).fire();
            // Some of it left out, as a tuner would who has not measured everything.
            for (String unknown : List.of("venturi", "idleAirBleed", "highSpeedAirBleed")) {
                ((TextField) scene.lookup("#sheet-carburetor-secondary-" + unknown)).clear();
            }
            scene.lookup("#sheet-carburetor-primary-mainJet").requestFocus();
            ((ScrollPane) scene.lookup("#sheet-form")).setVvalue(1);
        }));
        todo.add(new Shot("columns", () -> {
            ((Button) scene.lookup("#sheet-close")).fire();
            window.showOpen(false);
            session.open().files(plain, unclear);
        }));
        todo.add(new Shot("", () -> {
            session.open().dismissQuestion();
            session.dismissProblem();
        }));
        Path sheet = Files.createTempDirectory("nariz").resolve("leaking-estate.json");
        Path log = sheet.resolveSibling("leaking-estate.csv");
        Files.writeString(sheet, DemoDrive.sheetJson().replace("37 thou", "34 thou").replace("3.5 inHg", "6.5 inHg"));
        LogWriter.write(new EngineSimulator(BuildSheetReader.read(sheet), DemoDrive.SEED,
                Map.of(Fault.VACUUM_LEAK, 1.2), 5).drive(DriveScript.twelveMinutes(), 20, "leak").log(), log);
        // One column more, under a name that leaves its unit open.
        List<String> lines = Files.readAllLines(log);
        Files.writeString(log, lines.getFirst() + ",Fuel pressure\n" + String.join("\n", lines.subList(1, lines.size())
                .stream().map(l -> l + ",5.8").toList()) + "\n");
        todo.add(new Shot("check-first", () -> {
            session.dismissProblem();
            session.open().files(sheet, log);
        }));
        Path weak = sheet.resolveSibling("small-nozzles.json");
        Path stabs = sheet.resolveSibling("small-nozzles.csv");
        Files.writeString(weak, Files.readString(sheet).replace("\"nozzle\": \"35 thou\"", "\"nozzle\": \"20 thou\""));
        BuildSheet fitted = BuildSheetReader.read(weak);
        LogWriter.write(new EngineSimulator(fitted, DemoDrive.SEED, Map.of(), 3).withPump(fitted.carburetor().family()
                .pumpSetting(fitted).orElseThrow()).drive(DriveScript.twelveMinutes().then(DriveScript.openings()), 20,
                "stabs").log(), stabs);
        todo.add(new Shot("", () -> {
            session.dismissProblem();
            session.open().files(weak, stabs);
        }));
        todo.add(new Shot("pump", () -> session.goTo(Stops.PUMP)));
        Path loose = sheet.resolveSibling("loose-arm.csv");
        LogWriter.write(LooseArm.log(BuildSheetReader.read(sheet)), loose);
        todo.add(new Shot("", () -> {
            session.dismissProblem();
            session.open().files(sheet, loose);
        }));
        todo.add(new Shot("pump-look", () -> session.goTo(Stops.PUMP)));
        todo.add(new Shot("", () -> {
            session.dismissProblem();
            session.open().demo();
        }));
        Path monday = Files.createTempDirectory("nariz").resolve("monday.csv");
        LogWriter.write(DemoDrive.drive().log(), monday);
        todo.add(new Shot("", () -> session.open().files(plain, monday)));
        todo.add(new Shot("", () -> ((Button) scene.lookup("#card-fitted")).fire()));
        todo.add(new Shot("garage", () -> window.showOpen(true)));
        todo.add(new Shot("", () -> {
            window.showOpen(false);
            session.open().demo();
        }));
        todo.add(new Shot("", () -> session.open().demo(Demo.ROADSTER)));
        todo.add(new Shot("", () -> {
            ((ToggleButton) scene.lookup("#show-card")).fire();
            ((ToggleButton) scene.lookup("#show-stream")).fire();
            session.goTo(Stops.MAIN);
        }));
        todo.add(new Shot("holes", () -> {
            session.goTo(Stops.TRANSFER);
            ((ToggleButton) scene.lookup("#show-holes")).fire();
        }));
        todo.add(new Shot("", () -> session.open().demo(Demo.SMALL_FOUR)));
        todo.add(new Shot("", () -> {
            ((ToggleButton) scene.lookup("#show-stream")).fire();
            session.goTo(Stops.all().stream().filter(s -> "needle-pull".equals(s.id())).findFirst().orElseThrow());
        }));
        todo.add(new Shot("needle", () -> {
            session.needlesProperty().set(Optional.of(NeedleChart.parse("needles.csv", NEEDLES)));
            ((ToggleButton) scene.lookup("#show-needle")).fire();
        }));
        live(window, scene, session);
        todo.add(new Shot("", session.open()::demo));
        todo.add(new Shot("spanish", () -> window.speak(Language.SPANISH)));
        List<String> only = args.stream().skip(1).filter(a -> !a.matches("[0-9]+|swapped|contrast|.*=.*")).toList();
        dropUnwanted(only);
        new Taker(session, scene, folder).start();
    }

    /** The demo's car on the road, then the idle of a practice engine, set as the guide says. */
    private void live(MainWindow window, Scene scene, Session session) {
        LiveDrive live = session.live();
        BooleanSupplier runs = () -> live.nowProperty().get() != null && live.nowProperty().get().rows() > LIVE_ROWS;
        BooleanSupplier settled = () -> live.idle().stepProperty().get() != null && !live.idle().stepProperty().get()
                .waiting();
        todo.add(new Shot("live-start", () -> window.showLive(true)));
        todo.add(new Shot("live", () -> {
            ((Button) scene.lookup("#live-road")).fire();
        }, runs));
        todo.add(new Shot("", live::end));
        todo.add(new Shot("", () -> ((Button) scene.lookup("#live-practice-1")).fire(), runs));
        todo.add(new Shot("", () -> ((Button) scene.lookup("#idle-begin")).fire(), settled));
        for (int i = 0; i < MOVES; i++) {
            todo.add(new Shot("", live.idle()::moved, settled));
        }
        todo.add(new Shot("idle", () -> { }, () -> live.idle().hand().saysProperty().get().contains("100")));
        todo.add(new Shot("", live::end));
        todo.add(new Shot("", () -> {
            ((ComboBox<?>) scene.lookup("#live-demo")).getSelectionModel().select(1);
            ((Button) scene.lookup("#live-practice-balance")).fire();
        }, runs));
        BooleanSupplier read = () -> live.balance().stepProperty().get() != null && !live.balance().stepProperty().get()
                .measuring();
        for (int i = 0; i < TURNS; i++) {
            todo.add(new Shot("", live.balance()::measure, read));
            todo.add(new Shot("", live.balance()::turned, read));
        }
        todo.add(new Shot("balance", live.balance()::measure, read));
        todo.add(new Shot("", () -> {
            session.live().end();
            window.showLive(false);
        }));
    }

    private static Settings liked(List<String> args) throws IOException {
        List<String> liked = new ArrayList<>(args.stream().filter(a -> a.contains("=")).toList());
        if (args.contains("contrast")) {
            liked.add("contrast=true");
        }
        return liked.isEmpty() ? Settings.none() : Settings.of(Files.writeString(Files.createTempDirectory("nariz")
                .resolve("window.properties"), "toured=true\n" + String.join("\n", liked) + "\n"));
    }

    /** What comes after the last picture wanted need not be arranged. */
    private void dropUnwanted(List<String> only) {
        Predicate<Shot> wanted = s -> !s.name().isEmpty() && (only.contains("all") || (only.isEmpty()
                ? !UNKEPT.contains(s.name()) : only.contains(s.name())));
        while (!todo.isEmpty() && !wanted.test(todo.getLast())) {
            todo.removeLast();
        }
        todo.replaceAll(s -> wanted.test(s) ? s : new Shot("", s.arrange(), s.ready()));
    }

    private static double size(List<String> args, int place, double usual) {
        return args.size() >= 3 && args.get(place).matches("[0-9]+") ? Double.parseDouble(args.get(place)) : usual;
    }

    /** Arranges a view, lets three pulses pass, takes it. */
    private final class Taker extends AnimationTimer {
        private final Session session;
        private final Scene scene;
        private final Path folder;
        private int pulses;
        private boolean arranged;

        Taker(Session session, Scene scene, Path folder) {
            this.session = session;
            this.scene = scene;
            this.folder = folder;
        }

        @Override
        public void handle(long now) {
            Shot shot = todo.isEmpty() ? null : todo.getFirst();
            if (shot == null) {
                stop();
                session.close();
                Platform.exit();
                return;
            }
            if (!arranged) {
                shot.arrange().run();
                arranged = true;
                pulses = 0;
            } else if (session.busyProperty().get().isEmpty() && shot.ready().getAsBoolean()
                    && ++pulses > 24) {
                if (!shot.name().isEmpty()) {
                    save(shot.name());
                }
                todo.removeFirst();
                arranged = false;
                if (session.driveProperty().get() == null) {
                    session.open().demo();
                    waitForDemo();
                }
            }
        }

        private void waitForDemo() {
            stop();
            session.driveProperty().addListener((o, was, is) -> start());
        }

        private void save(String name) {
            try {
                write(scene.snapshot(null), folder.resolve(name + ".png"));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    private static void write(WritableImage image, Path file) throws IOException {
        int w = (int) image.getWidth();
        int h = (int) image.getHeight();
        int[] pixels = new int[w * h];
        image.getPixelReader().getPixels(0, 0, w, h, PixelFormat.getIntArgbInstance(), pixels, 0, w);
        Png.write(file, w, h, pixels);
    }
}
