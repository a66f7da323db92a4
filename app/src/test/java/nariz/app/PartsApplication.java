package nariz.app;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.control.ToggleButton;
import javafx.stage.Stage;
import nariz.app.session.Session;
import nariz.app.view.FilePicker;
import nariz.app.view.MainWindow;
import nariz.build.Part;
import nariz.build.PartChange;
import nariz.build.SideName;

/**
 * How long a part that is dragged along its ladder takes to be seen: from the new size to the end of the layout pulse
 * in which plane, effect, trace and verdict are drawn anew, in the whole window with the demo. Started by
 * {@link Frames}.
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
        session.effectProperty().addListener((o, was, is) -> reckoned = is != null && is.tried() && is.changes().equals(
                session.triedProperty().get()));
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
        session.openDemo();
    }

    private void next(Session session) {
        double fitted = Part.MAIN_JET.of(session.driveProperty().get().sheet().carburetor(), SideName.PRIMARY);
        from = System.nanoTime();
        session.tryParts(List.of(new PartChange(Part.MAIN_JET, SideName.PRIMARY, fitted, fitted - 5
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
