package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
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
