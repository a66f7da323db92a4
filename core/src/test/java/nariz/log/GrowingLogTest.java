package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.atomic.AtomicBoolean;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.estimation.Flag;
import nariz.estimation.LiveRunning;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import org.testng.annotations.Test;

public class GrowingLogTest {
    private static final double HZ = 100.0;
    private static final double HOUR_S = 3600.0;

    /** An hour on the demo's engine at 100 Hz, as text. */
    private static String hour() throws IOException {
        DriveScript s = DriveScript.twelveMinutes();
        Random r = new Random(5);
        while (s.lengthS() < HOUR_S) {
            s = s.then(DriveScript.twelveMinutes().varied(r));
        }
        StringWriter w = new StringWriter();
        LogWriter.write(new EngineSimulator(DemoDrive.sheet(), 3, Map.of(), 4).drive(s, HZ, "hour").log(), w);
        return w.toString();
    }

    private static Recording batch(String name, String text) throws IOException {
        return LogReader.record(name, new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)), null,
                () -> false, n -> { });
    }

    private static void assertSame(Recording a, Recording b) {
        assertThat(a.size()).isEqualTo(b.size());
        assertThat(a.channels()).isEqualTo(b.channels());
        for (Channel c : a.channels()) {
            assertThat(a.chunks(c)).as(c.key()).usingElementComparator(java.util.Arrays::compare)
                    .isEqualTo(b.chunks(c));
        }
        assertThat(a.problems()).isEqualTo(b.problems());
        assertThat(a.problemCount()).isEqualTo(b.problemCount());
        assertThat(a.marks()).isEqualTo(b.marks());
        assertThat(a.plan()).isEqualTo(b.plan());
    }

    /**
     * An hour at 100 Hz, line by line with a look every ten minutes: recording, pyramids and answer equal those of the
     * same file read at once, and the live flags agree with the finished ones wherever both may know.
     */
    @Test
    public void anHourThatGrowsEqualsTheFile() throws IOException {
        String text = hour();
        GrowingLog log = new GrowingLog("hour.csv", null);
        BuildSheet sheet = DemoDrive.sheet();
        LiveRunning live = new LiveRunning(sheet, true);
        Channel[] traced = {Channel.AFR, Channel.VACUUM, Channel.RPM};
        GrowingPyramid[] pyramids = {new GrowingPyramid(), new GrowingPyramid(), new GrowingPyramid()};
        Flag[] flags = new Flag[500_000];
        Recording early = null;
        int earlySize = 0;
        int n = 0;
        for (String line : text.split("\n")) {
            log.add(line);
            if (log.size() == n + 1) {
                flags[n] = live.add(log.lastTimeS(), log.last(Channel.RPM), log.last(Channel.VACUUM),
                        log.last(Channel.AFR) / nariz.units.Units.PETROL_GAUGE_STOICH,
                        log.last(Channel.THROTTLE), Double.NaN);
                for (int k = 0; k < traced.length; k++) {
                    pyramids[k].add((float) log.last(traced[k]));
                }
            } else if (log.size() > n) {
                // The first lines are settled together; what came before the eighth is told by the snapshot.
                Recording first = log.snapshot();
                for (int k = 0; k < traced.length; k++) {
                    for (double v : first.si(traced[k])) {
                        pyramids[k].add((float) v);
                    }
                }
            }
            n = log.size();
            if (n == 100_000) {
                early = log.snapshot();
                earlySize = early.size();
            }
        }
        Recording whole = batch("hour.csv", text);
        assertThat(whole.size()).isGreaterThan(360_000);
        assertSame(log.snapshot(), whole);
        assertThat(early.size()).as("a look is not changed by what comes later").isEqualTo(earlySize);
        assertThat(early.si(Channel.TIME)).hasSize(earlySize);
        for (int k = 0; k < traced.length; k++) {
            double[] v = whole.si(traced[k]);
            float[] f = new float[v.length];
            for (int i = 0; i < v.length; i++) {
                f[i] = (float) v[i];
            }
            assertSamePyramid(pyramids[k].snapshot(), new Pyramid(f), f.length);
        }
        Analysis a = Analysis.of(sheet, LogReader.drive(log.finished(), sheet), Strategy.BALANCED);
        Analysis b = Analysis.of(sheet, LogReader.drive(whole, sheet), Strategy.BALANCED);
        assertThat(AdviceJson.write(a.advice())).isEqualTo(AdviceJson.write(b.advice()));
        int same = 0;
        int all = 0;
        for (int i = GrowingLog.FIRST_LINES; i < n; i++) {
            all++;
            same += (flags[i] == Flag.STEADY) == (b.observation().flag(i) == Flag.STEADY) ? 1 : 0;
        }
        // Alignment, film and spikes are known only at the end.
        assertThat((double) same / all).as("live flags like finished ones").isGreaterThan(0.9);
        assertThat(live.steadyS()).isBetween(0.8 * b.observation().steadyS(), 1.25 * b.observation().steadyS());
        assertThat(live.cells().getFirst().dwellS()).isPositive();
    }

    private static void assertSamePyramid(Pyramid a, Pyramid b, int n) {
        Random r = new Random(1);
        float[] x = new float[2];
        float[] y = new float[2];
        for (int k = 0; k < 500; k++) {
            int from = r.nextInt(n);
            int to = from + 1 + r.nextInt(n - from);
            a.range(from, to, x);
            b.range(from, to, y);
            assertThat(x).as("%d to %d", from, to).containsExactly(y);
        }
    }

    /** Rows that are short, out of order or no numbers are judged as in a file, with the same line numbers. */
    @Test
    public void badRowsAreJudgedAsInAFile() throws IOException {
        StringBuilder s = new StringBuilder("# a comment\ntime,rpm,vacuum,afr\ns,rpm,inHg,\n");
        for (int i = 0; i < 400; i++) {
            s.append(i % 50 == 7 ? "oops\n" : i % 60 == 9 ? "0.1,900,18,14.0\n" : i % 70 == 11
                    ? String.format("%.1f,x,18.0,99\n", 0.1 * i) : i % 90 == 13 ? "\n"
                    : String.format("%.1f,900,\"18.0\",14.%d\n", 0.1 * i, i % 10));
        }
        GrowingLog log = new GrowingLog("bad.csv", null);
        s.toString().lines().forEach(log::add);
        assertSame(log.finished(), batch("bad.csv", s.toString()));
        assertThat(log.durationS()).isGreaterThan(39.0);
    }

    @Test
    public void whatIsNoLogIsRefusedAtItsFirstLines() {
        GrowingLog log = new GrowingLog("x.csv", null);
        assertThatThrownBy(() -> {
            for (int i = 0; i < GrowingLog.FIRST_LINES; i++) {
                log.add("a,b,c,d");
            }
        }).isInstanceOf(InputProblem.class);
        GrowingLog empty = new GrowingLog("y.csv", null);
        assertThatThrownBy(empty::snapshot).isInstanceOf(InputProblem.class);
        GrowingLog clocks = new GrowingLog("z.csv", null);
        List<String> lines = new java.util.ArrayList<>(List.of("time,rpm,time,vacuum,time,afr"));
        for (int i = 0; i < 20; i++) {
            lines.add(String.format("%.2f,900,%.2f,18,%.2f,14.1", 0.1 * i, 0.11 * i, 0.12 * i));
        }
        assertThatThrownBy(() -> lines.forEach(clocks::add)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("clocks of their own");
    }

    /** A file that another thread writes in pieces that cut lines in two. */
    @Test
    public void fileIsFollowedToItsEnd() throws Exception {
        Path file = Files.createTempFile("nariz", ".csv");
        AtomicBoolean finished = new AtomicBoolean();
        StringBuilder text = new StringBuilder("time,rpm,vacuum_inHg,afr\r\n");
        for (int i = 0; i < 500; i++) {
            text.append(String.format("%.2f,%d,18.1,14.2\r\n", 0.1 * i, 800 + i % 7));
        }
        byte[] bytes = text.toString().getBytes(StandardCharsets.UTF_8);
        Thread writer = Thread.ofVirtual().start(() -> {
            try {
                for (int at = 0; at < bytes.length; at += 997) {
                    Files.write(file, java.util.Arrays.copyOfRange(bytes, at, Math.min(bytes.length, at + 997)),
                            StandardOpenOption.APPEND);
                }
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            } finally {
                finished.set(true);
            }
        });
        GrowingLog log = new GrowingLog("f.csv", null);
        try (FollowedFile source = new FollowedFile(file, finished::get)) {
            for (Optional<String> line = source.next(); line.isPresent(); line = source.next()) {
                log.add(line.get());
            }
        }
        writer.join();
        assertSame(log.finished(), LogReader.record("f.csv", Files.newInputStream(file), null, () -> false, n -> { }));
        assertThat(log.size()).isEqualTo(500);
        Files.delete(file);
    }
}
