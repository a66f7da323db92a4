package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.IntPredicate;
import java.util.function.IntToDoubleFunction;
import nariz.carburetor.Circuit;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.family.metered.MeteredCircuits;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

/**
 * The same drive recorded otherwise is the same drive: what must not depend on how a logger writes does not. No
 * expected number stands here; each answer is held against the one of the drive as it was.
 */
public class SameDriveTest {
    private static final DriveLog LOG = DemoDrive.drive().log();
    private static final Analysis BEFORE = analysis(LOG);
    private static final List<Circuit> READ = List.of(MeteredCircuits.IDLE, MeteredCircuits.TRANSFER,
            MeteredCircuits.MAIN, MeteredCircuits.POWER,
            MeteredCircuits.SECONDARY_MAIN);

    private static Analysis analysis(DriveLog log) {
        return Analysis.of(DemoDrive.sheet(), log, Strategy.BALANCED);
    }

    private static DriveLog log(Map<Channel, double[]> channels) {
        return new DriveLog("again", channels, List.of(), 0);
    }

    private static Map<Channel, double[]> channels(IntPredicate keep) {
        Map<Channel, double[]> out = new EnumMap<>(Channel.class);
        for (Channel c : LOG.recorded()) {
            double[] v = LOG.values(c);
            out.put(c, java.util.stream.IntStream.range(0, v.length).filter(keep).mapToDouble(i -> v[i]).toArray());
        }
        out.put(Channel.TIME, java.util.stream.IntStream.range(0, LOG.size()).filter(keep).mapToDouble(i ->
                LOG.timeS()[i]).toArray());
        return out;
    }

    private static DriveLog changed(Channel c, IntToDoubleFunction value) {
        Map<Channel, double[]> all = channels(i -> true);
        double[] v = new double[LOG.size()];
        for (int i = 0; i < v.length; i++) {
            v[i] = value.applyAsDouble(i);
        }
        all.put(c, v);
        return log(all);
    }

    private static List<String> titles(Advice a) {
        return a.changes().stream().map(c -> c.title().toString()).toList();
    }

    private static double width(Analysis a, Circuit c) {
        return a.estimate().high(c) - a.estimate().low(c);
    }

    /** Corrections agree to a share of their own interval. */
    private static void assertSame(Analysis a, double share) {
        for (Circuit c : READ) {
            assertThat(a.estimate().correction(c)).as("%s", c).isEqualTo(BEFORE.estimate().correction(c), within(share
                    * width(BEFORE, c)));
        }
    }

    /** The same parts; neighbouring sizes that cost nearly the same may change places. */
    private static void assertSameParts(Analysis a) {
        assertThat(a.advice().changes()).zipSatisfy(BEFORE.advice().changes(), (x, y) -> {
            assertThat(x.part()).isEqualTo(y.part());
            assertThat(x.to()).isEqualTo(y.to(), within(1.01));
        });
    }

    @Test
    public void clockThatStartsElsewhereChangesNothing() {
        Analysis a = analysis(changed(Channel.TIME, i -> LOG.timeS()[i] + 86_000));
        assertThat(titles(a.advice())).isEqualTo(titles(BEFORE.advice()));
        // Rounding moves a sample over the edge of a cell here and there.
        assertSame(a, 0.02);
    }

    @Test
    public void halfTheSamplesGiveTheSameAnswerAndIntervalsOfTheSameWidth() {
        Analysis a = analysis(log(channels(i -> i % 2 == 0)));
        assertSameParts(a);
        assertSame(a, 0.25);
        // Samples are no votes: with independent ones the interval would grow by the root of two. How far the solution
        // is from settled, which is part of it, differs a little from one reading of the drive to another.
        for (Circuit c : READ) {
            assertThat(width(a, c) / width(BEFORE, c)).as("%s", c).isBetween(0.85, 1.20);
        }
    }

    @Test
    public void theSameMinutesTwiceAreNotTwiceTheKnowledge() {
        Map<Channel, double[]> once = channels(i -> true);
        Map<Channel, double[]> twice = new EnumMap<>(Channel.class);
        once.forEach((c, v) -> {
            double[] both = java.util.Arrays.copyOf(v, 2 * v.length);
            for (int i = 0; i < v.length; i++) {
                both[v.length + i] = c == Channel.TIME ? v[i] + v[v.length - 1] + 1.0 : v[i];
            }
            twice.put(c, both);
        });
        Analysis a = analysis(log(twice));
        assertSameParts(a);
        assertSame(a, 0.25);
        for (Circuit c : READ) {
            // Full load is read for seconds only: there the second pull is knowledge.
            if (!c.equals(MeteredCircuits.SECONDARY_MAIN)) {
                assertThat(width(a, c) / width(BEFORE, c)).as("%s", c).isGreaterThan(0.8);
            }
        }
    }

    @Test
    public void roundingOfACommonLoggerChangesNoVerdict() {
        Map<Channel, double[]> all = channels(i -> true);
        all.put(Channel.RPM, rounded(LOG.rpm(), 10));
        all.put(Channel.VACUUM, rounded(LOG.vacuumPa(), 338.6389));
        all.put(Channel.LAMBDA, rounded(LOG.lambda(), 0.1 / 14.7));
        Analysis a = analysis(log(all));
        assertSameParts(a);
        assertSame(a, 0.3);
    }

    private static double[] rounded(double[] v, double step) {
        return java.util.Arrays.stream(v).map(x -> step * Math.rint(x / step)).toArray();
    }

    @Test
    public void readingsThatDropOutAreMissedButNotFelt() {
        Random r = new Random(6);
        boolean[] out = new boolean[LOG.size()];
        for (int i = 0; i < out.length; i++) {
            out[i] = r.nextInt(100) < 4;
        }
        Analysis a = analysis(changed(Channel.LAMBDA, i -> out[i] ? Double.NaN : LOG.lambda()[i]));
        assertThat(titles(a.advice())).isEqualTo(titles(BEFORE.advice()));
        assertSame(a, 0.3);
    }

    @Test
    public void aHandfulOfWildReadingsMovesNothingByItsInterval() {
        Random r = new Random(7);
        Analysis a = analysis(changed(Channel.LAMBDA, i -> i % 211 == 0 ? 0.6 + 0.9 * r.nextDouble()
                : LOG.lambda()[i]));
        assertThat(a.advice().blamed()).isEqualTo(BEFORE.advice().blamed());
        assertSame(a, 0.5);
    }

    @Test
    public void aSensorThatReadsTwoPerCentLeanMovesEveryCircuitByAboutThat() {
        Analysis a = analysis(changed(Channel.LAMBDA, i -> 1.02 * LOG.lambda()[i]));
        List<Double> moved = new ArrayList<>();
        for (int i = 0; i < a.estimate().cells().size() && i < BEFORE.estimate().cells().size(); i++) {
            Cell c = a.estimate().cells().get(i);
            Cell b = BEFORE.estimate().cells().get(i);
            if (Math.abs(c.rpm() - b.rpm()) < 1 && c.dwellS() > 3) {
                moved.add(BEFORE.estimate().phi(i) / a.estimate().phi(i) - 1);
            }
        }
        assertThat(moved).hasSizeGreaterThan(10);
        assertThat(moved.stream().mapToDouble(x -> x).average().orElseThrow()).isEqualTo(0.02, within(0.006));
    }

    @Test
    public void stretchTakenOutCountsForNothingWhateverStandsInIt() {
        List<nariz.log.Span> out = List.of(new nariz.log.Span(100, 160));
        DriveLog spoiled = changed(Channel.LAMBDA, i -> LOG.timeS()[i] >= 100 && LOG.timeS()[i] <= 160 ? 0.72
                : LOG.lambda()[i]);
        Analysis a = analysis(LOG.without(out));
        Analysis b = analysis(spoiled.without(out));
        assertThat(titles(b.advice())).isEqualTo(titles(a.advice()));
        for (Circuit c : READ) {
            assertThat(b.estimate().correction(c)).as("%s", c).isEqualTo(a.estimate().correction(c), within(0.05
                    * width(a, c)));
        }
        assertThat(titles(analysis(spoiled).advice())).isNotEqualTo(titles(b.advice()));
    }

    @Test
    public void twoSensorsThatReadTheSameAreOneSensor() {
        Map<Channel, double[]> all = channels(i -> true);
        all.put(Channel.LAMBDA_2, LOG.lambda().clone());
        Analysis a = analysis(log(all));
        assertThat(titles(a.advice())).isEqualTo(titles(BEFORE.advice()));
        assertSame(a, 0.05);
    }

    @Test
    public void theAnswerIsTheSameEveryTime() {
        Analysis a = analysis(LOG);
        assertThat(titles(a.advice())).isEqualTo(titles(BEFORE.advice()));
        for (Circuit c : READ) {
            assertThat((Object) a.estimate().correction(c)).isEqualTo(BEFORE.estimate().correction(c));
        }
    }
}
