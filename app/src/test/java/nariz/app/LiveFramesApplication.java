package nariz.app;

import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.locks.LockSupport;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.stage.Stage;
import nariz.app.state.Session;
import nariz.app.state.Settings;
import nariz.app.view.FilePicker;
import nariz.app.view.MainWindow;
import nariz.live.LiveReadings;
import nariz.sim.Demo;

/**
 * How soon a reading is drawn: a device prints a hundred lines a second, each with the moment it was sent as its time,
 * and every pulse that lays out a new one is timed against it, for twenty seconds.
 */
public final class LiveFramesApplication extends Application {
    private static final long EVERY_NS = 10_000_000L;
    private static final int WARM = 500;
    private static final int MEASURED = 1200;

    private final List<Double> delaysMs = new ArrayList<>();
    private double lastS;
    private double firstS;

    @Override
    public void start(Stage stage) throws IOException {
        ServerSocket door = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
        Thread.ofPlatform().daemon().start(() -> print(door));
        Session session = new Session(Platform::runLater, Files.createTempDirectory("nariz").resolve("garage.nariz"));
        MainWindow window = new MainWindow(session, FilePicker.ofPlatform(), Settings.none());
        Scene scene = NarizApplication.scene(window, 1280, 800);
        stage.setScene(scene);
        stage.show();
        window.showLive(true);
        session.garage().carsProperty().addListener((o, was, is) -> {
            if (!is.isEmpty() && session.live().sheetProperty().get() == null) {
                session.live().connect("tcp:127.0.0.1:" + door.getLocalPort(), is.getFirst());
            }
        });
        session.garage().keepSheet(Demo.ESTATE.sheetJson());
        scene.addPostLayoutPulseListener(() -> drawn(session));
    }

    private static void print(ServerSocket door) {
        try (Socket c = door.accept()) {
            c.setTcpNoDelay(true);
            OutputStream out = c.getOutputStream();
            out.write("time (s),rpm (1/min),vacuum (inHg),lambda,throttle (%),coolant (C)\n".getBytes(
                    StandardCharsets.UTF_8));
            for (long due = System.nanoTime(), n = 0;; n++) {
                due += EVERY_NS;
                LockSupport.parkNanos(due - System.nanoTime());
                out.write(String.format(Locale.ROOT, "%.6f,%d,%.2f,%.3f,0,85%n", System.nanoTime() * 1e-9, 800 + n % 20,
                        17 + n % 11 / 11.0, 0.9 + n % 7 / 100.0).getBytes(StandardCharsets.UTF_8));
                out.flush();
            }
        } catch (IOException e) {
            // The window went away.
        }
    }

    private void drawn(Session session) {
        LiveReadings.Now now = session.live().nowProperty().get();
        if (now == null || now.rows() < WARM || now.timeS() == lastS) {
            return;
        }
        double s = System.nanoTime() * 1e-9;
        lastS = now.timeS();
        firstS = delaysMs.isEmpty() ? s : firstS;
        delaysMs.add(1e3 * (s - lastS));
        if (delaysMs.size() == MEASURED) {
            double[] sorted = delaysMs.stream().mapToDouble(d -> d).sorted().toArray();
            System.out.printf(Locale.ROOT, "sent to laid out, ms: median %.1f, 95th percentile %.1f, 99th %.1f, most "
                    + "%.1f; %.0f pulses a second%n", sorted[MEASURED / 2], sorted[MEASURED * 95 / 100],
                    sorted[MEASURED * 99 / 100], sorted[MEASURED - 1], (MEASURED - 1) / (s - firstS));
            session.close();
            Platform.exit();
        }
    }
}
