package nariz.sim;

import java.io.Closeable;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Supplier;
import nariz.live.DeviceAddress;
import nariz.live.DeviceConnection;
import nariz.live.LineFilter;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.units.Units;
import org.jspecify.annotations.Nullable;

/**
 * A stand-in for a data logger: prints an engine's readings line by line, at the pace of a clock, over TCP on this
 * machine alone or over a serial port. It has the manners of real ones, bad ones included.
 */
public final class StandInDevice implements Closeable {
    private static final long HEADER_EVERY_S = 5;
    private static final int GARBAGE_BYTES = 40;

    private final Supplier<String> rows;
    private final String header;
    private final Manners manners;
    private final Random random;
    private final CopyOnWriteArrayList<OutputStream> listeners = new CopyOnWriteArrayList<>();
    private final Thread pacer = new Thread(this::pace, "nariz-device");
    private @Nullable ServerSocket server;
    private @Nullable DeviceConnection port;
    private volatile boolean closed;
    private volatile boolean quiet;
    private volatile long printed;

    /**
     * How it behaves.
     *
     * @param hz lines in a second of the engine, 1 to 200
     * @param speed how many seconds of the engine pass in one of the clock, 0.1 to 1000
     * @param dropouts share of lines that are lost, 0 to 1
     * @param garbage share of lines that are garbage, 0 to 1
     * @param sums whether lines carry a checksum
     * @param clock whether it has a clock of its own
     * @param seed draws what goes wrong
     */
    public record Manners(double hz, double speed, double dropouts, double garbage, boolean sums, boolean clock,
            long seed) {
        /** Twenty lines a second, nothing wrong. */
        public static final Manners GOOD = new Manners(20, 1, 0, 0, false, true, 1);
    }

    private StandInDevice(String header, Supplier<String> rows, Manners manners) {
        this.header = header;
        this.rows = rows;
        this.manners = manners;
        random = new Random(manners.seed());
        pacer.setDaemon(true);
    }

    /**
     * A device on an engine that runs on the stand.
     *
     * @param engine the engine
     * @param m its manners
     * @return the device, not listening yet
     */
    public static StandInDevice on(RunningEngine engine, Manners m) {
        double step = 1.0 / m.hz();
        String time = m.clock() ? "time (s)," : "";
        return new StandInDevice(time + "rpm (1/min),vacuum (inHg),lambda,lambda 2,throttle (%),coolant (C)", () -> {
            engine.run(step);
            RunningEngine.Reading r = engine.read();
            return String.format(Locale.ROOT, "%s%.0f,%.2f,%.3f,%.3f,%.1f,%.1f", m.clock() ? String.format(
                    Locale.ROOT, "%.3f,", r.timeS()) : "", r.rpm(), r.vacuumPa() / Units.INHG, r.lambda(), r.lambda2(),
                    100 * r.throttle(), r.coolantK() - Units.ZERO_CELSIUS_K);
        }, m);
    }

    /**
     * A device in a car on the road: a drive played again and again.
     *
     * @param drive the drive
     * @param m its manners; its rate is that of the drive
     * @return the device, not listening yet
     */
    public static StandInDevice on(DriveLog drive, Manners m) {
        int[] at = {0};
        double length = drive.timeS()[drive.size() - 1] + 0.05;
        String header = (m.clock() ? "time (s)," : "") + "rpm (1/min),vacuum (inHg),lambda,throttle (%),coolant (C)";
        return new StandInDevice(header, () -> {
            int i = at[0] % drive.size();
            int times = at[0] / drive.size();
            double t = drive.timeS()[i] + length * times;
            at[0]++;
            double lambda = drive.values(Channel.LAMBDA)[i];
            return String.format(Locale.ROOT, "%s%.0f,%.2f,%s,%.1f,%.1f", m.clock() ? String.format(Locale.ROOT,
                    "%.3f,", t) : "", drive.rpm()[i], drive.vacuumPa()[i] / Units.INHG, Double.isNaN(lambda) ? ""
                            : String.format(Locale.ROOT, "%.3f", lambda), 100 * drive.values(Channel.THROTTLE)[i],
                    drive.values(Channel.COOLANT)[i] - Units.ZERO_CELSIUS_K);
        }, m);
    }

    /**
     * Listens on a port of this machine's loopback.
     *
     * @param tcpPort port; 0 takes a free one
     * @return its address
     * @throws IOException when another program has it
     */
    public DeviceAddress listen(int tcpPort) throws IOException {
        ServerSocket s = new ServerSocket(tcpPort, 4, InetAddress.getLoopbackAddress());
        server = s;
        Thread door = new Thread(() -> {
            while (!closed) {
                try {
                    Socket c = s.accept();
                    c.setTcpNoDelay(true);
                    OutputStream out = c.getOutputStream();
                    send(out, header);
                    listeners.add(out);
                } catch (IOException e) {
                    // Somebody left while coming, or the door is shut.
                }
            }
        }, "nariz-device-door");
        door.setDaemon(true);
        door.start();
        pacer.start();
        return new DeviceAddress(false, "127.0.0.1", s.getLocalPort());
    }

    /**
     * Prints to a serial port.
     *
     * @param a the port
     * @throws IOException when it cannot be opened
     */
    public void print(DeviceAddress a) throws IOException {
        DeviceConnection p = DeviceConnection.open(a);
        port = p;
        OutputStream out = p.out();
        send(out, header);
        listeners.add(out);
        pacer.start();
    }

    private void pace() {
        long began = System.nanoTime();
        double aHeader = HEADER_EVERY_S * manners.hz();
        for (long n = 1; !closed; n++) {
            long due = began + Math.round(n * 1e9 / (manners.hz() * manners.speed()));
            long ahead = due - System.nanoTime();
            if (ahead > 1_000_000) {
                try {
                    Thread.sleep(ahead / 1_000_000, (int) (ahead % 1_000_000));
                } catch (InterruptedException e) {
                    return;
                }
            }
            String row = rows.get();
            if (quiet || random.nextDouble() < manners.dropouts()) {
                continue;
            }
            boolean garbage = random.nextDouble() < manners.garbage();
            for (OutputStream out : List.copyOf(listeners)) {
                try {
                    if (n % (long) Math.max(1, aHeader) == 0) {
                        send(out, header);
                    }
                    if (garbage) {
                        byte[] b = new byte[GARBAGE_BYTES];
                        random.nextBytes(b);
                        out.write(b);
                        out.write('\n');
                        out.flush();
                    } else {
                        send(out, row);
                    }
                } catch (IOException e) {
                    listeners.remove(out);
                }
            }
            printed = n;
        }
    }

    private void send(OutputStream out, String line) throws IOException {
        String whole = manners.sums() ? String.format(Locale.ROOT, "%s*%02X", line, LineFilter.sum(line)) : line;
        out.write((whole + "\r\n").getBytes(StandardCharsets.UTF_8));
        out.flush();
    }

    /** Pulls the plug of everybody who listens; they may come again. */
    public void unplug() {
        for (OutputStream out : List.copyOf(listeners)) {
            listeners.remove(out);
            try {
                out.close();
            } catch (IOException e) {
                // It is pulled either way.
            }
        }
    }

    /**
     * Goes on or says nothing, the way left open.
     *
     * @param is whether it says nothing
     */
    public void quiet(boolean is) {
        quiet = is;
    }

    /** {@return lines printed so far} */
    public long printed() {
        return printed;
    }

    @Override
    public void close() throws IOException {
        closed = true;
        pacer.interrupt();
        unplug();
        ServerSocket s = server;
        if (s != null) {
            s.close();
        }
        DeviceConnection p = port;
        if (p != null) {
            p.close();
        }
    }
}
