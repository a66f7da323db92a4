package nariz.bench;

import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import nariz.log.LogReader;
import nariz.log.Recording;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.TearDown;
import org.openjdk.jmh.annotations.Warmup;

/** Reading a log of 8 channels, against what the CSV library alone needs to split it and parse its numbers. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.SingleShotTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Fork(value = 1, jvmArgs = "-Xmx300m")
@Warmup(iterations = 6)
@Measurement(iterations = 6)
public class ImportBenchmark {
    /** Rows: one hour at 50 Hz, and ten million. */
    @Param({"180000", "10000000"})
    public int rows;

    private Path file;

    /**
     * Writes the log.
     *
     * @throws IOException when the disk is full
     */
    @Setup
    public void make() throws IOException {
        file = Files.createTempFile("nariz", ".csv");
        Random r = new Random(4);
        try (BufferedWriter w = Files.newBufferedWriter(file)) {
            w.write("time_s,rpm,vacuum_inHg,afr,tps_pct,speed_kmh,coolant_C,airflow_gs\n");
            for (int i = 0; i < rows; i++) {
                double load = 0.5 + 0.5 * Math.sin(i / 900.0);
                w.write(fixed(i * 2, 2) + "," + (900 + (int) (3000 * load) + r.nextInt(20)) + ","
                        + fixed((int) (1800 - 1500 * load) + r.nextInt(30), 2) + "," + fixed(1380 + r.nextInt(60), 2)
                        + "," + fixed((int) (900 * load) + r.nextInt(5), 1) + "," + fixed((int) (1000 * load), 1) + ","
                        + fixed(858 + r.nextInt(4), 1) + "," + fixed((int) (9000 * load) + 500, 2) + "\n");
            }
        }
    }

    private static String fixed(int v, int decimals) {
        int p = decimals == 2 ? 100 : 10;
        String rest = String.valueOf(v % p);
        return v / p + "." + "0".repeat(decimals - rest.length()) + rest;
    }

    /**
     * Clears up.
     *
     * @throws IOException when it cannot
     */
    @TearDown
    public void clear() throws IOException {
        Files.delete(file);
    }

    /** {@return the recording} */
    @Benchmark
    public Recording recording() {
        return LogReader.record(file, null, () -> false, n -> { });
    }

    /**
     * The library alone.
     *
     * @return sum of all numbers
     * @throws IOException when the file is gone
     */
    @Benchmark
    public double libraryAlone() throws IOException {
        double sum = 0;
        try (CsvReader<CsvRecord> csv = CsvReader.builder().commentStrategy(CommentStrategy.SKIP)
                .ofCsvRecord(Files.newBufferedReader(file, StandardCharsets.UTF_8))) {
            boolean header = true;
            for (CsvRecord row : csv) {
                for (int i = 0; i < row.getFieldCount() && !header; i++) {
                    sum += Double.parseDouble(row.getField(i));
                }
                header = false;
            }
        }
        return sum;
    }
}
