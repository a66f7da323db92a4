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
 *
 * <p>With a number of hours: how the window and its memory stand a long recording. The device prints so many hours of
 * twenty lines a second, a hundred times as fast as they would come; after each hour the heap in use once it was
 * collected, and the pulses of that hour: how far apart they were.
 */
public final class LiveFramesApplication extends Application {
    private static final long EVERY_NS = 10_000_000L;
    private static final int WARM = 500;
    private static final int MEASURED = 1200;
    private static final int HZ = 20;
    private static final int FASTER = 100;
    private static final double HOUR_S = 3600.0;

    private final List<Double> delaysMs = new ArrayList<>();
    private double lastS;
    private double firstS;
    private int hours;
    private int hour;
    private double pulseS = Double.NaN;
    private final List<Double> gapsMs = new ArrayList<>();

    @Override
    public void start(Stage stage) throws IOException {
        List<String> args = getParameters().getRaw();
        hours = args.size() > 1 ? Integer.parseInt(args.get(1)) : 0;
        ServerSocket door = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
        Thread.ofPlatform().daemon().start(() -> print(door, hours > 0));
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
        scene.addPostLayoutPulseListener(() -> {
            if (hours > 0) {
                recorded(session);
            } else {
                drawn(session);
            }
        });
    }

    private static void print(ServerSocket door, boolean fast) {
        try (Socket c = door.accept()) {
            c.setTcpNoDelay(true);
            OutputStream out = c.getOutputStream();
            out.write("time (s),rpm (1/min),vacuum (inHg),lambda,throttle (%),coolant (C)\n".getBytes(
                    StandardCharsets.UTF_8));
            long every = fast ? 1_000_000_000L / (HZ * FASTER) : EVERY_NS;
            for (long due = System.nanoTime(), n = 0;; n++) {
                due += every;
                LockSupport.parkNanos(due - System.nanoTime());
                double s = fast ? (double) n / HZ : System.nanoTime() * 1e-9;
                out.write(String.format(Locale.ROOT, "%.6f,%d,%.2f,%.3f,0,85%n", s, 800 + n % 20,
                        17 + n % 11 / 11.0, 0.9 + n % 7 / 100.0).getBytes(StandardCharsets.UTF_8));
                out.flush();
            }
        } catch (IOException e) {
            // The window went away.
        }
    }

    private void recorded(Session session) {
        double s = System.nanoTime() * 1e-9;
        if (!Double.isNaN(pulseS)) {
            gapsMs.add(1e3 * (s - pulseS));
        }
        pulseS = s;
        LiveReadings.Now now = session.live().nowProperty().get();
        if (now == null || hour == hours || now.timeS() < (hour + 1) * HOUR_S) {
            return;
        }
        hour++;
        double[] gaps = gapsMs.stream().mapToDouble(d -> d).sorted().toArray();
        gapsMs.clear();
        System.gc();
        Runtime r = Runtime.getRuntime();
        System.out.printf(Locale.ROOT, "%d h, %d readings: heap in use %.1f MB; pulses apart, ms: median %.1f, 95th "
                + "percentile %.1f, 99th %.1f%n", hour, now.rows(), (r.totalMemory() - r.freeMemory()) / 1e6,
                gaps[gaps.length / 2], gaps[gaps.length * 95 / 100], gaps[gaps.length * 99 / 100]);
        // The collection is not the window's.
        pulseS = Double.NaN;
        if (hour == hours) {
            session.close();
            Platform.exit();
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
