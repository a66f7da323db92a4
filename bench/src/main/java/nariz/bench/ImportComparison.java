package nariz.bench;

import com.sun.management.OperatingSystemMXBean;
import java.io.BufferedWriter;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Locale;
import java.util.Random;
import nariz.log.LogReader;
import nariz.log.Recording;
import nariz.workbook.Workbook;

/**
 * Processor time to take a log into a workbook, the file itself kept as well, against the time a columnar engine needs
 * to load the same file into its own format on one thread; in one process, by turns. Processor time of the whole
 * process, compiler threads and garbage collection included.
 */
public final class ImportComparison {
    private static final int ROWS = 2_000_000;
    private static final int TURNS = 7;

    private ImportComparison() {
    }

    /**
     * Prints both and their ratio, turn by turn.
     *
     * @param args number of rows; two million without
     * @throws IOException when the disk is full
     * @throws SQLException when the engine cannot load the file
     */
    public static void main(String[] args) throws IOException, SQLException {
        int rows = args.length > 0 ? Integer.parseInt(args[0]) : ROWS;
        Path folder = Files.createTempDirectory("nariz");
        Path log = log(folder.resolve("drive.csv"), rows);
        double[] ratios = new double[TURNS];
        for (int i = 0; i < TURNS; i++) {
            Path own = folder.resolve("w" + i + ".nariz");
            Path other = folder.resolve("d" + i + ".duckdb");
            double read = seconds(() -> LogReader.record(log, null, () -> false, n -> { }));
            double ours = seconds(() -> taken(log, own));
            double theirs = seconds(() -> loaded(log, other));
            ratios[i] = ours / theirs;
            System.out.printf(Locale.ROOT, "turn %d: import %.2f s (of it reading about %.2f), columnar engine %.2f s, "
                    + "ratio %.2f%n", i + 1, ours, read, theirs, ratios[i]);
            Files.delete(own);
            Files.delete(other);
        }
        Arrays.sort(ratios);
        System.out.printf(Locale.ROOT, "%d rows, %d MB: median ratio %.2f%n", rows, Files.size(log) / 1_000_000,
                ratios[TURNS / 2]);
    }

    private interface Work {
        Object done() throws IOException, SQLException;
    }

    private static double seconds(Work w) throws IOException, SQLException {
        OperatingSystemMXBean os = ManagementFactory.getPlatformMXBean(OperatingSystemMXBean.class);
        System.gc();
        long before = os.getProcessCpuTime();
        w.done();
        return (os.getProcessCpuTime() - before) / 1e9;
    }

    private static Object taken(Path log, Path file) {
        Recording r = LogReader.record(log, null, () -> false, n -> { });
        try (Workbook w = Workbook.open(file)) {
            return w.addRun(w.addSheet(w.vehicle("six").id(), "{}"), r, log, () -> false);
        }
    }

    private static Object loaded(Path log, Path file) throws SQLException {
        try (Connection c = DriverManager.getConnection("jdbc:duckdb:" + file); Statement s = c.createStatement()) {
            s.execute("SET threads = 1");
            s.execute("CREATE TABLE drive AS SELECT * FROM read_csv('" + log + "')");
            return s.execute("CHECKPOINT");
        }
    }

    private static Path log(Path file, int rows) throws IOException {
        Random r = new Random(4);
        try (BufferedWriter w = Files.newBufferedWriter(file)) {
            w.write("time_s,rpm,vacuum_inHg,afr,tps_pct,speed_kmh,coolant_C\n");
            for (int i = 0; i < rows; i++) {
                double load = 0.5 + 0.5 * Math.sin(i / 900.0);
                w.write(fixed(i * 5, 2) + "," + (900 + (int) (3000 * load) + r.nextInt(20)) + ","
                        + fixed((int) (1800 - 1500 * load) + r.nextInt(30), 2) + "," + fixed(1380 + r.nextInt(60), 2)
                        + "," + fixed((int) (900 * load) + r.nextInt(5), 1) + "," + fixed((int) (1000 * load), 1) + ","
                        + fixed(858 + r.nextInt(4), 1) + "\n");
            }
        }
        return file;
    }

    private static String fixed(int v, int decimals) {
        int p = decimals == 2 ? 100 : 10;
        String rest = String.valueOf(v % p);
        return v / p + "." + "0".repeat(decimals - rest.length()) + rest;
    }
}
