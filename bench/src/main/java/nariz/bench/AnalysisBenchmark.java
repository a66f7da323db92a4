package nariz.bench;

import java.util.concurrent.TimeUnit;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
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
import org.openjdk.jmh.annotations.Warmup;

/** From log to advice; 36 000 samples are twelve minutes at 50 Hz. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.SingleShotTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Fork(1)
@Warmup(iterations = 3)
@Measurement(iterations = 5)
public class AnalysisBenchmark {
    /** Length of the log. */
    @Param({"36000", "360000", "3600000", "10000000"})
    public int samples;

    private DriveLog log;

    /** Makes the log. */
    @Setup
    public void make() {
        log = Logs.ofSamples(samples);
    }

    /** {@return the whole analysis} */
    @Benchmark
    public Analysis analysis() {
        return Analysis.of(DemoDrive.sheet(), log, Strategy.BALANCED);
    }
}
