package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

public class PreviousTest {
    private static final Analysis FIRST = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED);
    private static final String JSON = AdviceJson.write(FIRST.advice());

    @Test
    public void writtenAdviceReadsBackAsWhatTheNextRoundNeeds() {
        Previous p = PreviousReader.parse("advice.json", JSON);
        Previous direct = Previous.of(FIRST.advice()).orElseThrow();
        assertThat(p.fitted()).isEqualTo(direct.fitted());
        assertThat(p.predicted()).hasSameSizeAs(direct.predicted());
        assertThat(p.carried().mean()).containsExactly(direct.carried().mean(), within(1e-9));
        assertThat(p.carried().covariance()[20][7]).isEqualTo(direct.carried().covariance()[20][7], within(1e-9));
        assertThat(p.carried().shiftPa()).isEqualTo(direct.carried().shiftPa(), within(1.0));
        assertThat(p.since()).isEqualTo(direct.since()).isEqualTo(direct.fitted());
    }

    /** A jet that was changed twice went from the size the car was found with to the one it has now. */
    @Test
    public void changesAddUpUntilACarIsLeftAsItIs() {
        PartChange first = new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, 59, 62);
        PartChange screws = new PartChange(MeteredParts.MIXTURE_SCREW, Stage.PRIMARY, 1.5, 1.75);
        PartChange again = new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, 62, 63);
        PartChange other = new PartChange(MeteredParts.MAIN_JET, Stage.SECONDARY, 70, 72);
        assertThat(Previous.after(List.of(first, screws), List.of(other, again))).containsExactlyInAnyOrder(
                new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, 59, 63), screws, other);

        Request second = Request.of(FIRST.sheetAfter(), DemoDrive.drive(FIRST.sheetAfter(), 12).log())
                .withPrevious(PreviousReader.parse("advice.json", JSON));
        Advice a = Analysis.of(second, () -> false).advice();
        assertThat(a.since()).isEqualTo(Previous.of(FIRST.advice()).orElseThrow().fitted());
        assertThat(a.verdict()).isEqualTo(Verdict.LEAVE);
        String written = AdviceJson.write(a);
        assertThat(PreviousReader.parse("second.json", written).since()).isEmpty();
        assertThat(Previous.of(a).orElseThrow().since()).isEmpty();
        assertThat(PreviousReader.parse("second.json", written.replace("\"verdict\" : \"leave\"",
                "\"verdict\" : \"more-data\"")).since()).isEqualTo(a.since());
        assertThat(PreviousReader.parse("old.json", JSON.replace("changedSinceFound", "notKnownThen")).since())
                .isEqualTo(Previous.of(FIRST.advice()).orElseThrow().fitted());
    }

    @Test
    public void adviceIsSummedUpForAListOfCars() {
        AdviceSummary s = PreviousReader.summary("advice.json", JSON);
        assertThat(s.verdict()).isEqualTo(FIRST.advice().verdict());
        assertThat(s.changes()).isEqualTo(Previous.of(FIRST.advice()).orElseThrow().fitted());
        assertThatThrownBy(() -> PreviousReader.summary("advice.json", JSON.replace("\"verdict\" : \"change\"",
                "\"verdict\" : \"perhaps\""))).isInstanceOf(InputProblem.class).hasMessageContaining("perhaps");
    }

    @Test
    public void predictionIsScoredAgainstTheDriveWithTheNewParts() {
        BuildSheet after = FIRST.sheetAfter();
        Request q = Request.of(after, DemoDrive.drive(after, 12).log(), Strategy.BALANCED)
                .withPrevious(PreviousReader.parse("advice.json", JSON));
        Advice a = Analysis.of(q, () -> false).advice();
        assertThat(a.verdict()).as(a.sentence().toString()).isEqualTo(Verdict.LEAVE);
        assertThat(a.notes()).isEmpty();
        assertThat(a.scored()).hasSizeGreaterThanOrEqualTo(5);
        assertThat(a.scored().stream().filter(Previous.Scored::within).count()).isGreaterThanOrEqualTo(4);
        assertThat(AdviceText.write(a)).contains("last round").contains("as predicted");
    }

    @Test
    public void changeThatWasNotMadeIsSaidAndNothingIsScored() {
        Request q = Request.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED)
                .withPrevious(PreviousReader.parse("advice.json", JSON));
        Advice a = Analysis.of(q, () -> false).advice();
        assertThat(a.scored()).isEmpty();
        assertThat(a.notes()).anyMatch(n -> n.toString().contains("34 thou was advised, the sheet says 37 thou"));
    }

    @Test
    public void filesThatAreNoAdviceAreRefusedWithPlace() {
        assertProblem("", "an empty file");
        assertProblem("{", "not JSON");
        assertProblem("[1]", "a list");
        assertProblem("{\"format\": \"nariz-advice/9\"}", "nariz-advice/9");
        assertProblem("{\"format\": \"nariz-advice/1\"}", "nothing");
        assertProblem(JSON.replaceFirst("\"part\" : \"idle-feed-restriction\"", "\"part\" : \"choke\""), "choke");
        assertProblem(JSON.replaceFirst("\"lambdaAfter\" : [0-9.]+", "\"lambdaAfter\" : \"x\""), "x");
        assertProblem(JSON.replaceFirst("\"mean\" : \\[ ", "\"mean\" : [ 1.0, "), "object");
        assertProblem(JSON.replaceFirst("(?s)\"carried\" : \\{.*", "\"carried\" : null }"), "null");
    }

    private static void assertProblem(String json, String found) {
        assertThatThrownBy(() -> PreviousReader.parse("advice.json", json)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("advice.json").hasMessageContaining(found);
    }
}
