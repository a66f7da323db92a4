package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Ladder;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.dynamics.EnrichmentStudy;
import nariz.dynamics.PullStudy;
import nariz.dynamics.SecondStageStudy;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.text.Message;
import nariz.units.Units;
import org.testng.annotations.Test;

/** Enrichment, second stage and pulls on engines of other laws than the model's. */
public class DriveDynamicsTest {
    private static BuildSheet sheet(String valve, String opening) {
        return BuildSheetReader.parse("estate.json", DemoDrive.sheetJson().replace("37 thou", "34 thou").replace(
                "3.5 inHg", valve).replace("\"mechanical\"", "\"" + opening + "\""));
    }

    private static DriveLog driven(BuildSheet fitted, Map<Fault, Double> faults) {
        return EngineSimulator.stranger(fitted, DemoDrive.SEED, faults, 4).drive(DriveScript.twelveMinutes(), 20,
                "drive").log();
    }

    private static DriveDynamics dynamics(BuildSheet believed, DriveLog log) {
        return Analysis.of(believed, log, Strategy.BALANCED).advice().dynamics();
    }

    private static EnrichmentStudy.Seen seen(String believed, String fitted) {
        return dynamics(sheet(believed, "mechanical"), driven(sheet(fitted, "mechanical"), Map.of())).enrichment()
                .orElseThrow().seen();
    }

    @Test
    public void theLineIsSeenWhereItIsAndNotWhereItIsStamped() {
        EnrichmentStudy.Seen as = seen("6.5 inHg", "6.5 inHg");
        double middle = 0.5 * (as.opensPa()[0] + as.shutsPa()[0]) / Units.INHG;
        assertThat(middle).isBetween(6.0, 7.0);
        assertThat(as.shutsPa()[0]).isGreaterThanOrEqualTo(as.opensPa()[0]);
        assertThat(as.openings()).isGreaterThan(3);
        assertThat(as.adds()).isBetween(0.03, 0.4);
        assertThat(as.stuckShut() + as.stuckOpen()).isLessThan(Math.max(1, as.judged() / 5) + 1);

        EnrichmentStudy.Seen other = seen("6.5 inHg", "9.5 inHg");
        double there = 0.5 * (other.opensPa()[0] + other.shutsPa()[0]) / Units.INHG;
        assertThat(there).isBetween(8.7, 10.3);
        assertThat(other.openS()).isGreaterThan(as.openS());
    }

    @Test
    public void aValveThatIsNotWhatItIsStampedIsSaid() {
        DriveDynamics d = dynamics(sheet("6.5 inHg", "mechanical"), driven(sheet("10.5 inHg", "mechanical"),
                Map.of()));
        assertThat(codes(d.ofEnrichment())).contains("dynamics.not-as-stamped");
        DriveDynamics honest = dynamics(sheet("6.5 inHg", "mechanical"), driven(sheet("6.5 inHg", "mechanical"),
                Map.of()));
        assertThat(codes(honest.ofEnrichment())).doesNotContain("dynamics.not-as-stamped", "dynamics.stays-shut",
                "dynamics.stays-open").contains("dynamics.opens", "dynamics.cruise-clear");
    }

    @Test
    public void aLateLineIsPricedOnlyAsTheReasonOfItsChange() {
        Analysis late = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED);
        EnrichmentFinding f = late.advice().dynamics().enrichment().orElseThrow();
        assertThat(f.bestPa()).isGreaterThan(f.seen().shutsPa()[0] + Units.INHG);
        assertThat(f.late().seconds()).isGreaterThan(f.early().seconds());
        assertThat(f.late().share()).isBetween(0.03, 0.15);
        assertThat(f.cruise().orElseThrow().lowPa()).isGreaterThan(f.seen().shutsPa()[2]);
        Change valve = late.advice().changes().stream().filter(c -> c.part().equals(MeteredParts.POWER_VALVE_RATING))
                .findFirst().orElseThrow();
        assertThat(codes(valve.reasons())).contains("dynamics.late");
        assertThat(codes(late.advice().dynamics().ofEnrichment())).doesNotContain("dynamics.late");
        // Two holes side by side: areas add up.
        assertThat(f.asOneJet().orElseThrow().diameterM() / Units.THOU).isBetween(67.0, 67.3);
    }

    @Test
    public void demosPullsAreNotToldToRunShortOfFuel() {
        DriveDynamics d = dynamics(DemoDrive.sheet(), DemoDrive.drive().log());
        assertThat(codes(d.ofPulls())).doesNotContain("dynamics.pull-time-leaner", "dynamics.pull-time-richer");
        PullStudy.Trend time = d.pulls().orElseThrow().perSecond();
        assertThat(time.high() - time.mean()).isLessThan(0.03);
    }

    @Test
    public void aSupplyThatRunsDryShowsAlongTimeAndStopsThePull() {
        BuildSheet s = sheet("6.5 inHg", "mechanical");
        PullStudy.Finding sound = dynamics(s, driven(s, Map.of())).pulls().orElseThrow();
        assertThat(sound.perSecond().low()).isLessThan(0.0);
        assertThat(sound.pulls()).isNotEmpty().allSatisfy(p -> {
            assertThat(p.seconds()).isGreaterThanOrEqualTo(2.0);
            assertThat(p.acceleration()).isGreaterThan(-1.0);
        });
        DriveDynamics dry = dynamics(s, driven(s, Map.of(Fault.FALLING_FUEL_LEVEL, 2.0)));
        PullStudy.Finding f = dry.pulls().orElseThrow();
        assertThat(f.perSecond().low()).isGreaterThan(0.0);
        assertThat(f.tooLean()).isPresent();
        assertThat(f.tooLean().orElseThrow().stopAfterS()).isGreaterThanOrEqualTo(2.0);
        assertThat(codes(dry.ofPulls())).contains("dynamics.stop-the-pull", "dynamics.pull-time-leaner");
    }

    @Test
    public void aSecondStageThatSagsByItselfIsOpenedLater() {
        BuildSheet s = sheet("6.5 inHg", "diaphragm");
        DriveLog log = EngineSimulator.stranger(s, DemoDrive.SEED, Map.of(), 4).drive(DriveScript.twelveMinutes().then(
                DriveScript.rollingPulls()), 20, "rolling").log();
        SecondStageStudy.Finding clean = dynamics(s, log).second().orElseThrow();
        List<SecondStageStudy.Event> own = clean.events().stream().filter(e -> !e.stab()).toList();
        assertThat(own).hasSizeGreaterThanOrEqualTo(3);
        assertThat(clean.felt()).isEmpty();
        assertThat(dynamics(s, log).later(s)).isEmpty();

        DriveLog sagging = sagging(log, own);
        DriveDynamics d = dynamics(s, sagging);
        assertThat(d.second().orElseThrow().felt()).hasSizeGreaterThanOrEqualTo(3);
        Decision.Step step = d.later(s).orElseThrow();
        assertThat(step.ladder().part()).isEqualTo(MeteredParts.SECONDARY_SPRING);
        assertThat(step.to()).isGreaterThan(step.from());
        assertThat(codes(d.ofSecondStage())).contains("dynamics.second-sags");
        BuildSheet stiffer = step.ladder().part().fit(s, step.ladder().stage(), step.to());
        assertThat(PartChange.between(s, stiffer)).extracting(PartChange::part).containsExactly(
                MeteredParts.SECONDARY_SPRING);
    }

    /** Readings 20 % leaner for seven tenths of a second from where the second stage came in, as a bog is. */
    private static DriveLog sagging(DriveLog log, List<SecondStageStudy.Event> events) {
        double[] lambda = log.lambda().clone();
        for (int i = 0; i < lambda.length; i++) {
            double t = log.timeS()[i];
            if (events.stream().anyMatch(e -> t > e.atS() + 0.15 && t < e.atS() + 0.95)) {
                lambda[i] *= 1.2;
            }
        }
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> channels.put(c, c == Channel.LAMBDA ? lambda : log.values(c)));
        return new DriveLog(log.name(), channels, List.of(), 0);
    }

    @Test
    public void everyOpeningHasItsOwnPart() {
        assertThat(opens("mechanical")).contains(MeteredParts.SECONDARY_LINKAGE.key());
        assertThat(opens("diaphragm")).contains(MeteredParts.SECONDARY_SPRING.key());
        assertThat(opens("air-valve")).contains(MeteredParts.AIR_VALVE_SPRING.key());
        BuildSheet s = sheet("6.5 inHg", "diaphragm");
        assertThat(PartChange.reason("secondary-spring=1.4", s)).isEmpty();
        assertThat(PartChange.reason("secondary-spring=9", s)).contains("goes from");
        assertThat(PartChange.reason("secondary-linkage=45", s)).contains("this carburetor has no");
        assertThat(MeteredParts.SECONDARY_SPRING.text(1.2).toString()).isEqualTo("1.2 ×");
        assertThat(MeteredParts.SECONDARY_LINKAGE.title(Stage.PRIMARY, 40, 45).toString()).contains("40° to 45°");
    }

    private static Optional<String> opens(String kind) {
        BuildSheet s = sheet("6.5 inHg", kind);
        return s.carburetor().family().openingPart(s).map(Ladder::part).map(p -> p.key());
    }

    @Test
    public void theStudyCanBeCancelled() {
        Analysis a = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED);
        assertThatThrownBy(() -> EnrichmentStudy.of(a.observation(), i -> 1.0, i -> 1.2, 3.5 * Units.INHG, () -> true))
                .isInstanceOf(CancellationException.class);
    }

    private static List<String> codes(List<Message> all) {
        return all.stream().map(Message::code).toList();
    }
}
