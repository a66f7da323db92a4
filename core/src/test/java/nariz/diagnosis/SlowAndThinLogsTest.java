package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import nariz.coverage.DrivePlan;
import nariz.estimation.Flag;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Loggers that write once a second or more seldom, and logs in which little or nothing counts. */
public class SlowAndThinLogsTest {
    private static final DriveLog DEMO = DemoDrive.drive().log();

    private static DriveLog only(IntPredicate kept) {
        int[] rows = IntStream.range(0, DEMO.size()).filter(kept).toArray();
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        for (Channel c : DEMO.recorded()) {
            channels.put(c, IntStream.of(rows).mapToDouble(i -> DEMO.values(c)[i]).toArray());
        }
        return new DriveLog("thin", channels, List.of(), 0);
    }

    private static Analysis analysis(DriveLog log) {
        return Analysis.of(DemoDrive.sheet(), log, Strategy.BALANCED);
    }

    @DataProvider
    Object[][] everySoMany() {
        // Ten, two and one reading a second.
        return new Object[][] {{2}, {10}, {20}};
    }

    /** The demo's two hidden errors, 37 for 34 thou and 3.5 for 6.5 inHg, and nothing else. */
    @Test(dataProvider = "everySoMany")
    public void slowLoggerTellsTheSame(int step) {
        Advice a = analysis(only(i -> i % step == 0)).advice();
        assertThat(a.verdict()).isEqualTo(Verdict.CHANGE);
        assertThat(a.changes().stream().filter(Change::now).map(Change::part)).containsExactlyInAnyOrder(
                MeteredParts.IDLE_FEED_RESTRICTION, MeteredParts.POWER_VALVE_RATING);
        double feed = a.changes().stream().filter(c -> c.part().equals(MeteredParts.IDLE_FEED_RESTRICTION)).findFirst()
                .orElseThrow().to();
        assertThat(feed).isBetween(32.5, 34.5);
        double rating = a.changes().stream().filter(c -> c.part().equals(MeteredParts.POWER_VALVE_RATING)).findFirst()
                .orElseThrow().to();
        assertThat(rating).isBetween(5.0, 7.0);
    }

    /** One reading in two seconds: the larger error is found; the other may have to wait for a better log. */
    @Test
    public void readingInTwoSecondsStillFindsTheLargerError() {
        Advice a = analysis(only(i -> i % 40 == 0)).advice();
        assertThat(a.verdict()).isEqualTo(Verdict.CHANGE);
        assertThat(a.changes()).extracting(Change::part).contains(MeteredParts.IDLE_FEED_RESTRICTION).isSubsetOf(
                MeteredParts.IDLE_FEED_RESTRICTION, MeteredParts.POWER_VALVE_RATING);
    }

    /** Its own steps are no gaps, but a minute without readings is one. */
    @Test
    public void slowLoggersOwnStepsAreNoGaps() {
        Analysis whole = analysis(only(i -> i % 20 == 0));
        assertThat(IntStream.range(0, whole.observation().log().size()).filter(i -> whole.observation().flag(i)
                == Flag.GAP)).isEmpty();
        Analysis broken = analysis(only(i -> i % 20 == 0 && (i < 4000 || i > 5200)));
        assertThat(IntStream.range(1, broken.observation().log().size()).filter(i -> broken.observation().flag(i)
                == Flag.GAP || broken.observation().flag(i) == Flag.TRANSIENT)).anyMatch(i -> broken.observation()
                .log().timeS()[i] - broken.observation().log().timeS()[i - 1] > 55);
        DrivePlan plan = DrivePlan.of(whole, whole.tipIns());
        DrivePlan fast = DrivePlan.of(analysis(DEMO), List.of());
        // What a fast logger covers of the plan, a slow one on the same road covers too.
        assertThat(plan.missing().size()).isLessThanOrEqualTo(fast.missing().size() + 1);
    }

    @Test
    public void tooLittleSaysWhatMostOfTheLogIs() {
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        DEMO.recorded().forEach(c -> channels.put(c, DEMO.values(c).clone()));
        java.util.Arrays.fill(channels.get(Channel.LAMBDA), 1.42);
        Advice rail = analysis(new DriveLog("rail", channels, List.of(), 0)).advice();
        assertThat(rail.verdict()).isEqualTo(Verdict.MORE_DATA);
        assertThat(rail.sentence().toString()).isEqualTo(
                "Not enough steady running was read: 0 s, and 30 s are needed. Record "
                + "the short drive below. Most of the log does not count: sensor at its limit, 100 %.");
    }

    @Test
    public void oneKindOfRunningIsNotEnoughHoweverLong() {
        Advice idle = analysis(only(i -> DEMO.rpm()[i] < 950)).advice();
        assertThat(idle.verdict()).isEqualTo(Verdict.MORE_DATA);
        assertThat(idle.sentence().toString()).matches(
                "Not enough different running was read: steady at [123] places of speed "
                + "and load, and 4 are needed. Record the short drive below.");
    }
}
