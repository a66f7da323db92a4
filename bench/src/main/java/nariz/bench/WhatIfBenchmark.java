package nariz.bench;

import java.util.concurrent.TimeUnit;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.Strategy;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/** Another part on a twelve-minute 50 Hz drive: what a dragged slider asks for. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 5, time = 2)
public class WhatIfBenchmark {
    private Analysis analysis;
    private BuildSheet parts;

    /** Analyses once. */
    @Setup
    public void analyse() {
        analysis = Analysis.of(DemoDrive.sheet(), Logs.ofSamples(36_000), Strategy.BALANCED);
        parts = MeteredParts.MAIN_JET.fit(DemoDrive.sheet(), Stage.PRIMARY, 64);
    }

    /** {@return every sample with the new part} */
    @Benchmark
    public double[] samples() {
        return analysis.whatIf().lambda(parts);
    }

    /** {@return ways of running with the new part} */
    @Benchmark
    public java.util.List<RegimePrediction> regimes() {
        return analysis.predict(parts);
    }
}
