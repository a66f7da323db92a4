package nariz.app;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import javafx.animation.AnimationTimer;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.event.Event;
import javafx.scene.Scene;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.StackPane;
import javafx.stage.Stage;
import nariz.app.chart.TraceView;
import nariz.app.state.Session;
import nariz.app.state.Strips;
import nariz.log.Pyramid;

/**
 * Drives the real trace with wheel and drag in a window of 1280x800, filling it and at its size in the main window, and
 * measures its frames: from the moment the event goes in to
 * the end of the pulse that drew it (layout and canvas commands on the interface thread) and, beside it, the time from
 * pulse to pulse with drawing on the render thread.
 */
public final class FramesApplication extends Application {
    private static final int WARM = 60;
    private static final int FRAMES = 600;

    private final double[] work = new double[FRAMES];
    private final double[] between = new double[FRAMES];

    @Override
    public void start(Stage stage) {
        int n = Integer.parseInt(getParameters().getRaw().getFirst());
        Session session = new Session(Platform::runLater);
        TraceView view = new TraceView(session);
        long built = System.nanoTime();
        view.show(strips(n));
        double buildMs = (System.nanoTime() - built) / 1e6;
        Scene scene = new Scene(new StackPane(view), 1280, 800);
        stage.setScene(scene);
        stage.show();
        new AnimationTimer() {
            private int k = -WARM;
            private long last;
            private double x = 640;

            @Override
            public void handle(long now) {
                long start = System.nanoTime();
                if (k >= 0 && k < FRAMES) {
                    between[k] = (start - last) / 1e6;
                }
                last = start;
                gesture();
                // The rest of this pulse: what the interface thread does for the picture.
                view.layout();
                if (k >= 0 && k < FRAMES) {
                    work[k] = (System.nanoTime() - start) / 1e6;
                }
                if (++k == FRAMES) {
                    report(n, view);
                    if (view.getMaxWidth() > 0) {
                        stop();
                        System.out.printf(Locale.ROOT, "pyramids and series made in %.0f ms%n", buildMs);
                        Platform.exit();
                    }
                    view.setMaxSize(942, 322);
                    k = -WARM;
                }
            }

            private void gesture() {
                int phase = Math.floorMod(k, 120);
                if (phase < 60) {
                    double turn = phase < 30 ? 40 : -40;
                    Event.fireEvent(view, new ScrollEvent(ScrollEvent.SCROLL, x, 300, x, 300, false, false, false,
                            false, false, false, 0, turn, 0, turn, ScrollEvent.HorizontalTextScrollUnits.NONE, 0,
                            ScrollEvent.VerticalTextScrollUnits.NONE, 0, 0, null));
                    if (phase == 20) {
                        x = 200 + Math.floorMod(k * 37, 700);
                    }
                } else {
                    double at = phase < 90 ? 640 - 9 * (phase - 60) : 370 + 9 * (phase - 90);
                    mouse(phase == 60 ? MouseEvent.MOUSE_PRESSED : phase == 119 ? MouseEvent.MOUSE_RELEASED
                            : MouseEvent.MOUSE_DRAGGED, at);
                    if (phase == 62) {
                        view.view(0.3 * n / 50.0, 0.55 * n / 50.0);
                    }
                }
            }

            private void mouse(javafx.event.EventType<MouseEvent> type, double at) {
                Event.fireEvent(view, new MouseEvent(type, at, 300, at, 300, MouseButton.PRIMARY, 1, false, false,
                        false, false, true, false, false, true, false, false, null));
            }
        }.start();
    }

    private static Strips strips(int n) {
        double[] t = new double[n];
        for (int i = 0; i < n; i++) {
            t[i] = i / 50.0;
        }
        return new Strips(t, List.of(
                new Strips.Strip("mixture", noise(n, 1, 0.05, 1), noise(n, 1, 0.06, 2),
                        noise(n, 1, 0.02, 3), 0.7, 1.3),
                new Strips.Strip("vacuum", noise(n, 47e3, 10e3, 4), null, null, 0, 85e3),
                new Strips.Strip("rpm", noise(n, 3000, 600, 5), null, null, 0, 6000)));
    }

    private static Pyramid noise(int n, double mean, double sd, long seed) {
        Random r = new Random(seed);
        float[] v = new float[n];
        double slow = 0;
        for (int i = 0; i < n; i++) {
            slow = 0.999 * slow + 0.045 * (r.nextDouble() - 0.5);
            v[i] = (float) (mean + sd * (3 * slow + 0.4 * (r.nextDouble() - 0.5)));
        }
        return new Pyramid(v);
    }

    private void report(int n, TraceView view) {
        Arrays.sort(work);
        Arrays.sort(between);
        System.out.printf(Locale.ROOT, "%d samples x 5 series, trace of %.0fx%.0f, %d frames of wheel and drag%n", n,
                view.getWidth(), view.getHeight(), FRAMES);
        System.out.printf(Locale.ROOT, "interface thread: median %.1f ms, 95th percentile %.1f ms, worst %.1f ms%n",
                work[FRAMES / 2], work[FRAMES * 95 / 100], work[FRAMES - 1]);
        System.out.printf(Locale.ROOT, "pulse to pulse:   median %.1f ms, 95th percentile %.1f ms, worst %.1f ms%n",
                between[FRAMES / 2], between[FRAMES * 95 / 100], between[FRAMES - 1]);
    }
}
