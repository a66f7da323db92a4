package nariz.dynamics;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.networknt.schema.InputFormat;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CancellationException;
import java.util.stream.DoubleStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Circuit;
import nariz.carburetor.DamperSetting;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Piston;
import nariz.carburetor.Stage;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Previous;
import nariz.diagnosis.Request;
import nariz.diagnosis.Status;
import nariz.diagnosis.Verdict;
import nariz.exam.PracticeCase;
import nariz.sim.Demo;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Seeds;
import org.testng.annotations.Test;

/** Dampers of other laws than the model's, on made-up engines whose needles are right. */
public class DamperStudyTest {
    /** Engines whose openings are felt, whose piston is seen to fall, and whose empty dampers are felt. */
    private static final long FELT = 17;
    private static final long SEEN = 8;
    private static final long DRY = 72;

    private static BuildSheet sheet(long seed, String oil) {
        BuildSheet healthy = PracticeCase.ofFamily("constant-depression", seed).healthy();
        return PartChange.parse("damper-oil=" + List.of("thin", "standard", "thick").indexOf(oil), healthy)
                .orElseThrow().fit(healthy);
    }

    private static DamperSetting damper(BuildSheet sheet) {
        return sheet.carburetor().family().damper(sheet).orElseThrow();
    }

    private static Analysis driven(BuildSheet sheet, DamperSetting really, long seed, Optional<Previous> previous) {
        return Analysis.of(Request.of(sheet, new EngineSimulator(sheet, Seeds.spread(seed), Map.of(), seed).withDamper(
                really).drive(DriveScript.twelveMinutes().then(DriveScript.openings()).varied(new Random(seed)), 20,
                "dampers").log()).withRuledOut(Hypothesis.FAULTS).withPrevious(previous), () -> false);
    }

    private static Piston piston() {
        return Demo.SMALL_FOUR.sheet().carburetor().family().model(Demo.SMALL_FOUR.sheet()).piston().orElseThrow();
    }

    @Test
    public void pistonAtRestGivesWhatTheNeedleGives() {
        Piston p = piston();
        for (double air : new double[] {0.006, 0.012, 0.03}) {
            assertThat(p.pull(p.rest(air), air)).isCloseTo(1.0, within(0.02));
            assertThat(p.fuel(p.rest(air), air)).isCloseTo(1.0, within(0.01));
        }
        assertThat(p.rest(0.02)).isGreaterThan(p.rest(0.01));
    }

    @Test
    public void pistonBelowRestIsPulledUpAndEnrichesOneAboveLeans() {
        Piston p = piston();
        double rest = p.rest(0.02);
        assertThat(p.pull(0.5 * rest, 0.02)).isGreaterThan(2.0);
        assertThat(p.pull(1.5 * rest, 0.02)).isLessThan(0.6);
        assertThat(p.fuel(0.5 * rest, 0.02)).isGreaterThan(1.01);
        assertThat(p.bridgeM2(0.5 * rest)).isLessThan(p.bridgeM2(rest)).isGreaterThan(p.bridgeM2(0.0));
    }

    @Test
    public void thickerOilTakesLongerAndTheSheetsOilIsOnTheLadder() {
        double[] rise = DoubleStream.of(0, 1, 2).map(k -> damper(sheet(FELT, List.of("thin", "standard", "thick").get(
                (int) k))).riseS()).toArray();
        assertThat(rise).isSorted();
        BuildSheet thin = sheet(FELT, "thin");
        Ladder oil = thin.carburetor().family().pumpParts(thin).getFirst();
        assertThat(oil.sizes(thin)).containsExactly(1.0);
        assertThat(oil.part().kind(1.0)).contains("standard");
        assertThat(oil.part().role()).isEqualTo(Part.Role.DAMPER);
        Circuit damper = thin.carburetor().family().trims(oil.part(), Stage.PRIMARY);
        assertThat(damper.role()).isEqualTo(Circuit.Role.PUMP);
    }

    @Test
    public void thinOilIsAnsweredWithTheNextThickerAndSoundOilIsLeftAlone() throws IOException {
        BuildSheet thin = sheet(FELT, "thin");
        Analysis a = driven(thin, damper(thin), FELT, Optional.empty());
        Change c = a.advice().changes().getFirst();
        assertThat(c.part().key()).isEqualTo("damper-oil");
        assertThat(c.title().toString()).isEqualTo("damper oil: thin to standard");
        OpeningStudy.Finding f = a.advice().pump().orElseThrow();
        assertThat(f.likeliest()).isEqualTo(OpeningStudy.Cause.THIN);
        assertThat(f.leanAfter()[0]).isLessThan(f.lean()[0]);
        assertThat(a.advice().sentence().toString()).contains("the pistons rise too fast");
        String json = AdviceJson.write(a.advice());
        assertThat(json).contains("\"toKind\" : \"standard\"", "\"thin\" : 0.");
        assertThat(SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(Files.readString(
                Path.of("../docs/formats/advice.schema.json")), InputFormat.JSON).validate(json, InputFormat.JSON))
                .isEmpty();
        BuildSheet standard = a.sheetAfter();
        Analysis then = driven(standard, damper(standard), FELT, Previous.of(a.advice()));
        assertThat(then.advice().verdict()).isEqualTo(Verdict.LEAVE);
        assertThat(then.advice().pump().orElseThrow().lean()[0]).isLessThan(f.lean()[0]);
    }

    @Test
    public void dampersThatWereToppedUpAreNotToppedUpAgain() {
        BuildSheet sheet = sheet(DRY, "standard");
        Analysis a = driven(sheet, new DamperSetting(0.03, DamperSetting.USUAL_FALL_S), DRY, Optional.empty());
        Change c = a.advice().changes().getFirst();
        assertThat(c.from()).isEqualTo(c.to());
        assertThat(c.title().toString()).isEqualTo("damper oil: top up, standard oil");
        assertThat(a.sheetAfter()).isEqualTo(sheet);
        Analysis then = driven(sheet, new DamperSetting(0.03, DamperSetting.USUAL_FALL_S), DRY,
                Previous.of(a.advice()));
        assertThat(then.advice().changes()).noneMatch(x -> x.from() == x.to());
        assertThat(then.advice().pump().orElseThrow().causes()).doesNotContainKey(OpeningStudy.Cause.DRY);
    }

    @Test
    public void pistonThatFallsSlowlyIsSaidWhereItIsSeen() {
        BuildSheet sheet = sheet(SEEN, "standard");
        Analysis a = driven(sheet, new DamperSetting(damper(sheet).riseS(), 1.5), SEEN, Optional.empty());
        assertThat(a.advice().pump().orElseThrow().sticks()).isTrue();
        assertThat(a.advice().changes()).isEmpty();
        Analysis sound = driven(sheet, damper(sheet), SEEN, Optional.empty());
        assertThat(sound.advice().pump().orElseThrow().percent(OpeningStudy.Cause.STICKS)).isLessThan(50);
    }

    /** Dampers are looked at once the needles are right: until then they wait. */
    @Test
    public void dampersWaitForTheNeedle() {
        Analysis a = Analysis.of(Request.of(Demo.SMALL_FOUR.sheet(), Demo.SMALL_FOUR.drive().log()), () -> false);
        assertThat(a.advice().pump()).isEmpty();
        assertThat(a.advice().circuits().getLast().circuit().id()).isEqualTo("damper");
        assertThat(a.advice().circuits().getLast().status()).isEqualTo(Status.WAITING);
    }

    /** A spring is no trim: only one that is not the standard one is ever changed, and only back. */
    @Test
    public void springsGoBackToTheStandardOneOnly() {
        String json = Demo.SMALL_FOUR.sheetJson();
        assertThat(Ladder.of(BuildSheetReader.parse("s", json))).noneMatch(l -> l.part().key().equals("piston-spring"));
        BuildSheet stiff = BuildSheetReader.parse("s", json.replace("\"pistonSpring\": \"standard\"",
                "\"pistonSpring\": \"stiff\""));
        Ladder back = Ladder.of(stiff).stream().filter(l -> l.part().key().equals("piston-spring")).findFirst()
                .orElseThrow();
        assertThat(back.sizes(stiff)).containsExactly(1.0);
    }

    @Test
    public void weighingDampersCanBeCancelled() {
        BuildSheet sheet = sheet(FELT, "standard");
        Analysis a = driven(sheet, damper(sheet), FELT, Optional.empty());
        assertThatThrownBy(() -> OpeningStudy.of(a.observation(), a.whatIf()::phi, a.tipIns(), false, () -> true))
                .isInstanceOf(CancellationException.class);
    }
}
