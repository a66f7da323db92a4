package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Stage;
import nariz.coverage.DrivePlan;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

/** Lean at full load: the enrichment or the second stage's jets, and what the answer does where it cannot tell. */
public class SharedFullLoadTest {
    private static BuildSheet leanSecondary() {
        BuildSheet s = MeteredParts.IDLE_FEED_RESTRICTION.fit(DemoDrive.sheet(), Stage.PRIMARY, 34);
        s = MeteredParts.POWER_VALVE_RATING.fit(s, Stage.PRIMARY, 6.5);
        return MeteredParts.MAIN_JET.fit(s, Stage.SECONDARY, 66);
    }

    @Test
    public void anAnswerThatWaitsNamesThePullAndChangesNeither() {
        BuildSheet sheet = leanSecondary();
        List<Analysis> drives = IntStream.rangeClosed(4, 9).mapToObj(seed -> Analysis.of(Request.of(sheet,
                DemoDrive.drive(sheet, seed).log()), () -> false)).toList();
        List<Analysis> waiting = drives.stream().filter(a -> a.awaited().isPresent()).toList();
        assertThat(waiting).as("drives too short on running enriched with the second stage shut").isNotEmpty();
        for (Analysis a : waiting) {
            AwaitedPull pull = a.awaited().orElseThrow();
            assertThat(pull.readS()).isLessThan(pull.wantedS());
            assertThat(a.advice().changes()).noneMatch(c -> c.circuit().equals(MeteredCircuits.POWER)
                    || c.circuit().equals(MeteredCircuits.SECONDARY_MAIN));
            assertThat(a.advice().missing()).first().asString().contains(pull.text().toString());
            if (a.advice().verdict() == Verdict.MORE_DATA) {
                assertThat(a.advice().sentence().toString()).contains("read alike").contains(pull.text().toString());
            }
            assertThat(DrivePlan.of(a, a.tipIns()).missing()).anyMatch(i -> i.text().equals(pull.text()));
        }
        for (Analysis a : drives) {
            assertThat(a.advice().changes()).as("the enrichment is not what is lean").noneMatch(c -> c.circuit()
                    .equals(MeteredCircuits.POWER));
        }
    }

    @Test
    public void whereTheDriveTellsThemApartNothingWaits() {
        BuildSheet rich = MeteredParts.POWER_CHANNEL_RESTRICTION.fit(MeteredParts.MAIN_JET.fit(leanSecondary(),
                Stage.SECONDARY, 74), Stage.PRIMARY, 38);
        Analysis a = Analysis.of(Request.of(rich, DemoDrive.drive(rich, 4).log()), () -> false);
        assertThat(a.awaited()).isEmpty();
        assertThat(a.advice().changes()).first().satisfies(c -> assertThat(c.part()).isEqualTo(
                MeteredParts.POWER_CHANNEL_RESTRICTION));
    }
}
