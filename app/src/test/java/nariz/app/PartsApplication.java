package nariz.app;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.control.ToggleButton;
import javafx.stage.Stage;
import nariz.app.state.Session;
import nariz.app.view.FilePicker;
import nariz.app.view.MainWindow;
import nariz.carburetor.PartChange;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.log.LogWriter;
import nariz.sim.DemoDrive;

/**
 * How long a part that is dragged along its ladder takes to be seen: from the new size to the end of the layout pulse
 * in which plane, effect, trace and verdict are drawn anew, in the whole window with the demo, or with a log that is
 * the demo's several times over. Started by {@link Frames}: {@code parts} or {@code parts 20}.
 */
public final class PartsApplication extends Application {
    private static final int WARM = 40;
    private static final int STEPS = 240;

    private final double[] tookMs = new double[STEPS];
    private int step = -WARM;
    private long from;
    private boolean reckoned;

    @Override
    public void start(Stage stage) {
        Session session = new Session(Platform::runLater);
        MainWindow window = new MainWindow(session, FilePicker.ofPlatform());
        Scene scene = NarizApplication.scene(window, 1280, 800);
        stage.setScene(scene);
        stage.show();
        session.driveProperty().addListener((o, was, is) -> Platform.runLater(() -> {
            ((ToggleButton) scene.lookup("#show-try")).fire();
            next(session);
        }));
        session.trials().effectProperty().addListener((o, was, is) -> reckoned = is != null && is.tried()
                && is.changes().equals(
                session.trials().triedProperty().get()));
        scene.addPostLayoutPulseListener(() -> {
            if (reckoned && from != 0) {
                if (step >= 0) {
                    tookMs[step] = (System.nanoTime() - from) / 1e6;
                }
                reckoned = false;
                from = 0;
                if (++step < STEPS) {
                    // Half the time with the trace in front, half with stream and plane.
                    if (step == STEPS / 2) {
                        ((ToggleButton) scene.lookup("#show-trace")).fire();
                    }
                    Platform.runLater(() -> next(session));
                } else {
                    report();
                    session.close();
                    Platform.exit();
                }
            }
        });
        List<String> args = getParameters().getUnnamed();
        if (args.size() < 2) {
            session.open().demo();
        } else {
            openRepeated(session, Integer.parseInt(args.get(1)));
        }
    }

    private static void openRepeated(Session session, int times) {
        DriveLog demo = DemoDrive.drive().log();
        int n = demo.size();
        double length = demo.timeS()[n - 1] + 0.05;
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        for (Channel c : demo.recorded()) {
            double[] v = new double[times * n];
            for (int i = 0; i < v.length; i++) {
                int round = i / n;
                v[i] = demo.values(c)[i % n] + (c == Channel.TIME ? length * round : 0);
            }
            channels.put(c, v);
        }
        try {
            Path folder = Files.createTempDirectory("nariz-parts");
            Path log = folder.resolve("long.csv");
            LogWriter.write(new DriveLog("long.csv", channels, List.of(), 0), log);
            session.open().files(Files.writeString(folder.resolve("estate.json"), DemoDrive.sheetJson()), log);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        System.out.printf(Locale.ROOT, "%d samples%n", times * n);
    }

    private void next(Session session) {
        double fitted = MeteredParts.MAIN_JET.of(session.driveProperty().get().sheet().carburetor(),
                nariz.carburetor.Stage.PRIMARY);
        from = System.nanoTime();
        session.trials().tryParts(List.of(new PartChange(MeteredParts.MAIN_JET, nariz.carburetor.Stage.PRIMARY, fitted,
                fitted - 5
                + Math.floorMod(step, 11))));
    }

    private void report() {
        for (int half = 0; half < 2; half++) {
            double[] t = Arrays.copyOfRange(tookMs, half * STEPS / 2, (half + 1) * STEPS / 2);
            Arrays.sort(t);
            System.out.printf(Locale.ROOT, "a part dragged, %s in front: median %.1f ms, 95th percentile %.1f ms, "
                    + "worst %.1f ms%n", half == 0 ? "stream and plane" : "trace", t[t.length / 2],
                    t[(int) (0.95 * t.length)], t[t.length - 1]);
        }
    }
}
