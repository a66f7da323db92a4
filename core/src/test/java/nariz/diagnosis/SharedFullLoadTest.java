package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Stage;
import nariz.coverage.DrivePlan;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.units.Units;
import org.testng.annotations.Test;

/** Lean at full load: the enrichment or the second stage's jets, and what the answer does where it cannot tell. */
public class SharedFullLoadTest {
    private static BuildSheet leanSecondary() {
        BuildSheet s = MeteredParts.IDLE_FEED_RESTRICTION.fit(DemoDrive.sheet(), Stage.PRIMARY, 34);
        s = MeteredParts.POWER_VALVE_RATING.fit(s, Stage.PRIMARY, 6.5);
        return MeteredParts.MAIN_JET.fit(s, Stage.SECONDARY, 66);
    }

    /** Without what was logged enriched while the second stage was shut, or only just coming in. */
    private static DriveLog shortOfFirstStageAlone(DriveLog log) {
        double[] throttle = log.values(Channel.THROTTLE);
        int[] rows = IntStream.range(0, log.size()).filter(i -> log.vacuumPa()[i] > 8 * Units.INHG
                || throttle[i] > 0.7).toArray();
        Map<Channel, double[]> kept = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> kept.put(c, IntStream.of(rows).mapToDouble(i -> log.values(c)[i]).toArray()));
        return new DriveLog("short", kept, List.of(), 0);
    }

    @Test
    public void anAnswerThatWaitsNamesThePullAndChangesNeither() {
        BuildSheet sheet = leanSecondary();
        List<Analysis> waiting = IntStream.rangeClosed(4, 6).mapToObj(seed -> Analysis.of(Request.of(sheet,
                shortOfFirstStageAlone(DemoDrive.drive(sheet, seed).log())), () -> false)).toList();
        for (Analysis a : waiting) {
            assertThat(a.advice().awaited()).isPresent();
            AwaitedPull pull = a.advice().awaited().orElseThrow();
            assertThat(pull.readS()).isLessThan(pull.wantedS());
            assertThat(a.advice().changes()).noneMatch(c -> c.circuit().equals(MeteredCircuits.POWER)
                    || c.circuit().equals(MeteredCircuits.SECONDARY_MAIN));
            assertThat(a.advice().missing()).first().asString().contains(pull.text().toString());
            if (a.advice().verdict() == Verdict.MORE_DATA) {
                assertThat(a.advice().sentence().toString()).contains("read alike").contains(pull.text().toString());
            }
            assertThat(DrivePlan.of(a, a.tipIns()).missing()).anyMatch(i -> i.text().equals(pull.text()));
        }
    }

    @Test
    public void whoComesBackWithoutThePullIsAnsweredWithTheLikelierOfTheTwo() {
        BuildSheet sheet = leanSecondary();
        for (int seed = 4; seed <= 6; seed++) {
            Request q = Request.of(sheet, shortOfFirstStageAlone(DemoDrive.drive(sheet, seed).log()));
            Advice first = Analysis.of(q, () -> false).advice();
            Previous asked = PreviousReader.parse("advice.json", AdviceJson.write(first));
            assertThat(asked.asked()).isTrue();
            Analysis again = Analysis.of(q.withPrevious(asked), () -> false);
            assertThat(again.advice().verdict()).isEqualTo(Verdict.CHANGE);
            assertThat(again.advice().changes()).anySatisfy(c -> {
                assertThat(c.circuit()).isIn(MeteredCircuits.POWER, MeteredCircuits.SECONDARY_MAIN);
                assertThat(c.enriches()).isTrue();
                assertThat(c.reasons()).last().asString().contains("would read alike").contains("likelier");
            });
            assertThat(again.advice().awaited()).isEqualTo(first.awaited());
        }
    }

    @Test
    public void adviceOfAnEarlierVersionAskedForNoPull() {
        BuildSheet sheet = leanSecondary();
        String json = AdviceJson.write(Analysis.of(Request.of(sheet, shortOfFirstStageAlone(DemoDrive.drive(sheet, 4)
                .log())), () -> false).advice());
        String older = json.replaceFirst("  \"asksFor\" : [^\n]*\n", "");
        assertThat(older).hasSizeLessThan(json.length());
        assertThat(PreviousReader.parse("advice.json", older).asked()).isFalse();
    }

    @Test
    public void driveThatRanEnrichedOnTheFirstStageAloneIsAnswered() {
        BuildSheet sheet = leanSecondary();
        for (int seed = 4; seed < 7; seed++) {
            Analysis a = Analysis.of(Request.of(sheet, DemoDrive.drive(sheet, seed).log()), () -> false);
            assertThat(a.advice().awaited()).isEmpty();
            assertThat(a.advice().changes()).singleElement().satisfies(c -> {
                assertThat(c.circuit()).isEqualTo(MeteredCircuits.SECONDARY_MAIN);
                assertThat(c.to()).isGreaterThan(c.from());
            });
        }
    }

    @Test
    public void whereTheDriveTellsThemApartNothingWaits() {
        BuildSheet rich = MeteredParts.POWER_CHANNEL_RESTRICTION.fit(MeteredParts.MAIN_JET.fit(leanSecondary(),
                Stage.SECONDARY, 74), Stage.PRIMARY, 38);
        Analysis a = Analysis.of(Request.of(rich, DemoDrive.drive(rich, 4).log()), () -> false);
        assertThat(a.advice().awaited()).isEmpty();
        assertThat(a.advice().changes()).first().satisfies(c -> assertThat(c.part()).isEqualTo(
                MeteredParts.POWER_CHANNEL_RESTRICTION));
    }
}
