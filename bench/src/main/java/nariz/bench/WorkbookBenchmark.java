package nariz.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import nariz.log.LogReader;
import nariz.log.LogWriter;
import nariz.log.Recording;
import nariz.sim.DemoDrive;
import nariz.workbook.Workbook;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.TearDown;
import org.openjdk.jmh.annotations.Warmup;

/** Opening a workbook with 200 runs of twelve minutes and listing them; {@code Warmup} 0 shows a cold start. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.SingleShotTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Fork(value = 3, jvmArgs = "--enable-native-access=ALL-UNNAMED")
@Warmup(iterations = 0)
@Measurement(iterations = 5)
public class WorkbookBenchmark {
    private static final int RUNS = 200;
    private Path folder;
    private Path file;

    /**
     * Fills a workbook, without the code under test being warm for opening.
     *
     * @throws IOException when the disk is full
     */
    @Setup
    public void fill() throws IOException {
        folder = Files.createTempDirectory("nariz");
        file = folder.resolve("garage.nariz");
        Path log = folder.resolve("drive.csv");
        LogWriter.write(DemoDrive.drive().log(), log);
        Recording r = LogReader.record(log, null, () -> false, n -> { });
        try (Workbook w = Workbook.open(file)) {
            Workbook.Sheet s = w.addSheet(w.vehicle("estate").id(), DemoDrive.sheetJson());
            for (int i = 0; i < RUNS; i++) {
                w.addRun(s, r, log, () -> false);
            }
        }
    }

    /**
     * Clears up.
     *
     * @throws IOException when it cannot
     */
    @TearDown
    public void clear() throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path p : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(p);
            }
        }
    }

    /** {@return the list} */
    @Benchmark
    public List<Workbook.Run> openAndList() {
        try (Workbook w = Workbook.open(file)) {
            return w.runs();
        }
    }
}
