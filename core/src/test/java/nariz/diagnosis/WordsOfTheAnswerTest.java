package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Circuit;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.dynamics.PullStudy;
import nariz.log.DriveLog;
import nariz.log.Span;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.text.Message;
import org.testng.annotations.Test;

/** What is said of a drive does not contradict what was read on it. */
public class WordsOfTheAnswerTest {
    private static final Analysis DEMO = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED);
    private static final BuildSheet SOUND = BuildSheetReader.parse("estate.json", DemoDrive.sheetJson()
            .replace("37 thou", "34 thou").replace("3.5 inHg", "6.5 inHg"));

    private static Part part(Stage stage, Part.Role role) {
        return SOUND.carburetor().family().part(SOUND.carburetor(), stage, role).orElseThrow();
    }

    private static Advice sound(Map<Fault, Double> faults) {
        return fitted(SOUND, faults);
    }

    private static Advice fitted(BuildSheet sheet, Map<Fault, Double> faults) {
        return Analysis.of(sheet, drive(sheet, faults), Strategy.BALANCED).advice();
    }

    private static DriveLog drive(BuildSheet sheet, Map<Fault, Double> faults) {
        return new EngineSimulator(sheet, DemoDrive.SEED, faults, 5).drive(DriveScript.twelveMinutes(), 20, "drive")
                .log();
    }

    private static CircuitFinding pump(Advice a) {
        return a.circuits().stream().filter(c -> c.circuit().role() == Circuit.Role.PUMP).findFirst().orElseThrow();
    }

    private static List<String> codes(List<Message> messages) {
        return messages.stream().map(Message::code).toList();
    }

    @Test
    public void aPumpWithOpeningsWaitsForTheSteadyMixturesAndIsNotCalledUnread() {
        assertThat(DEMO.advice().verdict()).isEqualTo(Verdict.CHANGE);
        CircuitFinding waiting = pump(DEMO.advice());
        assertThat(waiting.status()).isEqualTo(Status.WAITING);
        assertThat(waiting.why().code()).isEqualTo("doubt.pump-waits");
        assertThat(waiting.settledBy().isEmpty()).isTrue();
        DriveLog gentle = drive(SOUND, Map.of()).without(List.of(new Span(400.0, 1e4)));
        Advice started = Analysis.of(DemoDrive.sheet(), gentle, Strategy.BALANCED).advice();
        assertThat(pump(started).status()).isEqualTo(Status.NOT_READ);
        assertThat(pump(started).settledBy().isEmpty()).isFalse();
    }

    @Test
    public void aBetterLineIsAReasonOnlyForAChangeTowardIt() {
        // The demo's valve opens three inHg late.
        assertThat(codes(DEMO.advice().dynamics().lineCosts(true).stream().toList())).containsExactly("dynamics.late");
        assertThat(DEMO.advice().dynamics().lineCosts(false)).isEmpty();
    }

    @Test
    public void onlyWhatTheFaultWouldDoIsPutDownToIt() {
        Advice a = sound(Map.of(Fault.AIR_CLEANER, 1.5));
        assertThat(a.verdict()).isEqualTo(Verdict.CHECK_FIRST);
        Hypothesis cleaner = a.hypotheses().stream().filter(h -> h.cause().equals("air-cleaner")).findFirst()
                .orElseThrow();
        assertThat(cleaner.probability()).isGreaterThan(0.5);
        assertThat(cleaner.evidence().code()).isEqualTo("hypotheses.vacuum-left-wide-open");
        assertThat(a.circuits()).extracting(c -> c.why().code()).contains("doubt.a-fault-first");
        for (CircuitFinding c : a.circuits()) {
            if (c.why().code().equals("doubt.a-fault-first")) {
                // A restricted cleaner draws more fuel: it makes rich and never lean.
                assertThat(c.error()).as(c.circuit().label().toString()).isNegative();
            }
        }
    }

    /** Jets a tenth too large make up on the mean for a supply that runs short: the circuit is not settled for that. */
    @Test
    public void aCircuitThatALikelyFaultActsOnIsNotSettledThoughItReadsOnTarget() {
        Part jet = part(Stage.SECONDARY, Part.Role.METERING_FUEL);
        BuildSheet rich = jet.fit(SOUND, Stage.SECONDARY, 1.1 * jet.of(SOUND.carburetor(), Stage.SECONDARY));
        Advice a = fitted(rich, Map.of(Fault.FALLING_FUEL_LEVEL, 1.0));
        assertThat(a.verdict()).isEqualTo(Verdict.CHECK_FIRST);
        assertThat(probability(a, h -> h.cause().equals("fuel-starvation"))).isGreaterThan(0.5);
        CircuitFinding second = a.circuits().stream().filter(c -> c.circuit().is(Stage.SECONDARY,
                Circuit.Role.METERING)).findFirst().orElseThrow();
        assertThat(second.error()).isBetween(-0.03, 0.03);
        assertThat(second.status()).isEqualTo(Status.IN_DOUBT);
        assertThat(second.why().code()).isEqualTo("doubt.a-fault-first");
        assertThat(a.lookedAtFirst().orElseThrow().role()).isEqualTo(Circuit.Role.ENRICHMENT);
    }

    /** A leak leans: a rich idle is no sign of one. */
    @Test
    public void onlyALeanIdleIsTakenForALeak() {
        for (double way : new double[] {0.85, 1.15}) {
            Part feed = part(Stage.PRIMARY, Part.Role.IDLE_FUEL);
            BuildSheet other = feed.fit(SOUND, Stage.PRIMARY, way * feed.of(SOUND.carburetor(), Stage.PRIMARY));
            Advice a = fitted(other, Map.of());
            CircuitFinding idle = a.circuits().stream().filter(c -> c.circuit().role() == Circuit.Role.IDLE
                    && c.circuit().stage() == Stage.PRIMARY).findFirst().orElseThrow();
            assertThat(idle.error() < 0).isEqualTo(way > 1);
            assertThat(idle.confoundedWith().stream().anyMatch(m -> m.code().equals("hypotheses.vacuum-leak")))
                    .isEqualTo(way < 1);
        }
    }

    @Test
    public void theFaultLookedForIsSaidToBeLikelyOnlyWhereItIs() {
        for (Map<Fault, Double> faults : List.of(Map.of(Fault.AIR_CLEANER, 1.5), Map.of(Fault.VACUUM_LEAK, 1.0))) {
            Advice a = sound(faults);
            assertThat(a.verdict()).as("%s", faults).isEqualTo(Verdict.CHECK_FIRST);
            assertThat(probability(a, Hypothesis::fault)).as("%s", faults).isGreaterThan(probability(a, h -> h.cause()
                    .equals(Hypothesis.CALIBRATION)));
            assertThat(a.sentence().code()).as("%s", faults).isNotEqualTo("advice-builder.check-though-parts");
        }
    }

    @Test
    public void aLookThatIsWorthItThoughPartsAreLikelierSaysThatTheyAre() {
        // Lean idle feeds over a leak: what the feeds explain leaves the leak less likely, and a look is still cheap.
        Part feed = part(Stage.PRIMARY, Part.Role.IDLE_FUEL);
        BuildSheet lean = feed.fit(SOUND, Stage.PRIMARY, 0.92 * feed.of(SOUND.carburetor(), Stage.PRIMARY));
        Advice a = fitted(lean, Map.of(Fault.VACUUM_LEAK, 0.1));
        double parts = probability(a, h -> h.cause().equals(Hypothesis.CALIBRATION));
        assertThat(a.verdict()).isEqualTo(Verdict.CHECK_FIRST);
        assertThat(parts).isGreaterThan(probability(a, Hypothesis::fault));
        assertThat(a.sentence().code()).isEqualTo("advice-builder.check-though-parts");
    }

    private static double probability(Advice a, Predicate<Hypothesis> of) {
        return a.hypotheses().stream().filter(of).mapToDouble(Hypothesis::probability).sum();
    }

    @Test
    public void pullsReadWhatFullLoadReadsAndBendWithNoSpeedWhereNothingBends() {
        Advice a = sound(Map.of());
        PullStudy.Finding f = a.dynamics().pulls().orElseThrow();
        assertThat(f.perThousand().low()).isLessThan(0.005);
        assertThat(f.perThousand().high()).isGreaterThan(-0.005);
        RegimeError full = a.predicted().stream().map(RegimePrediction::before).filter(e -> e.regime() == Regime.FULL)
                .findFirst().orElseThrow();
        double pulls = f.pulls().stream().filter(p -> p.seconds() > 5.0).mapToDouble(PullStudy.Pull::error).average()
                .orElseThrow();
        assertThat(pulls).isBetween(full.mean() - 0.025, full.mean() + 0.025);
        assertThat(f.pulls()).filteredOn(p -> p.seconds() < 3.0).allSatisfy(p -> assertThat(p.words().code())
                .isEqualTo("dynamics.too-short"));
    }

    @Test
    public void schoolsAreNamedOnlyWhereTheyWouldDoSomething() {
        for (RuleOfThumb s : DEMO.advice().schools()) {
            assertThat(s.answers()).hasSizeGreaterThan(1);
            assertThat(s.answers().stream().allMatch(x -> x.says().code().equals("schools.no-size-on-the"))).isFalse();
        }
        assertThat(DEMO.observation().sheet().carburetor().family().enrichmentPa(DEMO.observation().sheet()
                .carburetor(), Stage.SECONDARY)).isNotPositive();
        assertThat(DEMO.advice().schools()).extracting(s -> s.question().code()).doesNotContain(
                "schools.rear-power-valve");
    }
}
