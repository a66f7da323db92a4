package nariz.family;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficient;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Families;
import nariz.carburetor.Family;
import nariz.carburetor.InputProblem;
import nariz.carburetor.Kit;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.Stage;
import nariz.coverage.DrivePlan;
import nariz.diagnosis.Advice;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.AdviceText;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Candidate;
import nariz.diagnosis.Change;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.Verdict;
import nariz.diagnosis.WorkCard;
import nariz.exam.PracticeCase;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.text.Language;
import nariz.text.Wording;
import nariz.units.Shown;
import nariz.units.Units;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What every family promises, and the two-barrel through the whole chain. */
public class FamiliesTest {
    private static final String LEAST = """
            {"format": "nariz-build/1", "name": "%1$s", "engine": {"displacement": "3.4 L", "cylinders": 6,
              "cam": "mild", "idleSpeed": "740 rpm", "redline": "4700 rpm"}, "carburetor": {"family": "%1$s"}}""";
    private static final String TWO_BARREL = """
            {"format": "nariz-build/1", "name": "test two-barrel",
             "engine": {"displacement": "3.4 L", "cylinders": 6, "cam": "mild", "idleSpeed": "740 rpm",
               "redline": "4700 rpm", "advance": "vacuum"},
             "carburetor": {"family": "block-metered-2", "count": %d,
               "primary": {"bore": "39 mm", "venturi": "28 mm", "mainJet": "60 thou", "highSpeedAirBleed": "32 thou",
                 "idleFeedRestriction": "31 thou", "idleAirBleed": "72 thou", "mixtureScrew": "1.875 turns",
                 "powerValve": "6.5 inHg", "powerChannelRestriction": "34 thou"}}}""";

    @DataProvider
    Object[][] families() {
        return Families.all().stream().map(f -> new Object[] {f}).toArray(Object[][]::new);
    }

    private static BuildSheet least(Family f) {
        return BuildSheetReader.parse(f.key(), String.format(LEAST, f.key()));
    }

    @Test(dataProvider = "families")
    public void circuitsStandAtTheirIndexAndKnowTheirStage(Family f) {
        for (int i = 0; i < f.circuits().size(); i++) {
            Circuit c = f.circuits().get(i);
            assertThat(c.index()).as("%s", c).isEqualTo(i);
            assertThat(f.stages()).contains(c.stage());
            assertThat(c.levelSd()).isBetween(0.01, 1.0);
        }
        assertThat(f.circuits()).extracting(Circuit::id).doesNotHaveDuplicates();
        assertThat(f.circuit(Stage.PRIMARY, Circuit.Role.METERING)).isPresent();
        assertThat(Families.ofKey(f.key())).contains(f);
    }

    @Test(dataProvider = "families")
    public void coefficientsStandAtTheirPlaceInTheStandardCarburetor(Family f) {
        for (Coefficient c : f.coefficients()) {
            assertThat(f.standard().of(c)).as(c.name()).isEqualTo(c.standard());
        }
    }

    @Test(dataProvider = "families")
    public void everyPartTrimsACircuitOfItsOwnAndIsOnTheSheet(Family f) {
        BuildSheet s = least(f);
        for (Ladder l : Ladder.of(s)) {
            assertThat(f.parts()).contains(l.part());
            assertThat(f.circuits()).contains(f.trims(l.part(), l.stage()));
            double now = l.fitted(s);
            BuildSheet other = l.part().fit(s, l.stage(), now + l.step());
            assertThat(PartChange.between(s, other)).as("%s", l.part()).singleElement().satisfies(c ->
                    assertThat(c.part().equals(l.part()) && c.side() == l.stage()).isTrue());
            assertThat(l.fitted(other)).isCloseTo(now + l.step(), within(1e-9));
        }
        assertThat(Candidate.of(s, Kit.NONE)).isNotEmpty();
    }

    @Test(dataProvider = "families")
    public void theFormHoldsWhatTheReaderAsksFor(Family f) {
        SheetDraft d = SheetDraft.of("least", String.format(LEAST, f.key()));
        List<String> form = d.fields().stream().map(SheetDraft.Field::path).toList();
        assertThat(form).doesNotHaveDuplicates();
        // Everything a person could fill in is taken when it is filled in with what would be assumed.
        for (Map.Entry<String, String> e : d.assumed().entrySet()) {
            if (form.contains(e.getKey())) {
                d.set(e.getKey(), e.getValue());
            }
        }
        assertThat(BuildSheetReader.parse("filled", d.json()).carburetor()).isEqualTo(least(f).carburetor());
    }

    @Test(dataProvider = "families")
    public void mixtureIsCombustibleWhereTheEngineRuns(Family f) {
        BuildSheet s = least(f);
        DeliveryModel m = f.model(s);
        Delivery d = m.newDelivery();
        for (double rpm = 1200; rpm <= 4500; rpm += 300) {
            for (double v = 1; v <= 19; v += 1.5) {
                m.evaluate(rpm, v * Units.INHG, d);
                assertThat(d.total()).as("%s at %.0f rpm, %.1f inHg", f, rpm, v).isBetween(0.6, 1.7);
            }
        }
    }

    /**
     * A drive of any engine goes through the whole chain with a sheet of the family, whatever the answer: circuits it
     * lacks are asked for by nobody.
     */
    @Test(dataProvider = "families")
    public void aDriveIsAnswered(Family f) {
        BuildSheet s = least(f);
        Analysis a = Analysis.of(s, DemoDrive.drive().log(), Strategy.BALANCED);
        assertThat(a.estimated()).isTrue();
        assertThat(a.advice().circuits()).hasSameSizeAs(f.circuits());
        assertThat(AdviceJson.write(a.advice())).contains(f.circuits().getFirst().key());
        assertThat(AdviceText.write(a.advice())).isNotBlank();
        assertThat(DrivePlan.of(a, a.tipIns()).items()).isNotEmpty();
        for (Ladder l : Ladder.of(s)) {
            BuildSheet other = l.part().fit(s, l.stage(), l.sizes(s).getFirst());
            assertThat(a.predict(other)).isNotEmpty();
            for (Language language : Language.values()) {
                Wording w = new Wording(language, Shown.USUAL);
                WorkCard card = WorkCard.of(new Change(l.part(), l.stage(), f.trims(l.part(), l.stage()), l.fitted(s),
                        l.sizes(s).getFirst(), true, 0.1, 0.2, List.of(), List.of(), List.of(), List.of()));
                card.steps().forEach(x -> assertThat(w.text(x)).isNotBlank());
            }
        }
    }

    @Test
    public void twoBarrelHasNoSecondStageAnywhere() {
        BuildSheet s = BuildSheetReader.parse("two.json", String.format(TWO_BARREL, 1));
        Family f = s.carburetor().family();
        assertThat(f.stages()).containsExactly(Stage.PRIMARY);
        assertThat(f.circuits()).containsExactly(MeteredCircuits.IDLE, MeteredCircuits.TRANSFER, MeteredCircuits.MAIN,
                MeteredCircuits.POWER, MeteredCircuits.PUMP);
        assertThat(MeteredParts.MAIN_JET.named(Stage.PRIMARY).toString()).isEqualTo("primary main jets");
        assertThat(f.part(s.carburetor(), Stage.PRIMARY, Part.Role.METERING_FUEL).orElseThrow().named(Stage.PRIMARY)
                .toString()).isEqualTo("main jets");
        assertThat(f.part(s.carburetor(), Stage.SECONDARY, Part.Role.METERING_FUEL)).isEmpty();
        DeliveryModel m = f.model(s);
        Delivery d = m.newDelivery();
        m.evaluate(4000, 1000, d);
        assertThat(m.secondaryOpen(d)).isFalse();
        assertThat(d.thetaSecondaryRad()).isZero();
    }

    /**
     * Three carburetors share the air: each venturi's depression falls with its square, and less main fuel is drawn.
     */
    @Test
    public void severalOfThemShareTheAir() {
        Delivery one = delivery(1);
        Delivery three = delivery(3);
        assertThat(three.airKgPerS()).isEqualTo(one.airKgPerS());
        assertThat(three.phi(MeteredCircuits.MAIN)).isLessThan(0.8 * one.phi(MeteredCircuits.MAIN));
    }

    private static Delivery delivery(int count) {
        BuildSheet s = BuildSheetReader.parse("two.json", String.format(TWO_BARREL, count));
        DeliveryModel m = s.carburetor().family().model(s);
        Delivery d = m.newDelivery();
        m.evaluate(3000, 6 * Units.INHG, d);
        return d;
    }

    @Test
    public void sheetOfATwoBarrelRefusesASecondStageAndAFourthCarburetor() {
        assertThatThrownBy(() -> BuildSheetReader.parse("two.json", String.format(TWO_BARREL, 4))).isInstanceOf(
                InputProblem.class).hasMessageContaining("carburetor.count");
        assertThatThrownBy(() -> BuildSheetReader.parse("two.json", String.format(TWO_BARREL, 1).replace(
                "\"count\": 1,", "\"secondary\": {\"mainJet\": \"60 thou\"},"))).isInstanceOf(InputProblem.class)
                .hasMessageContaining("carburetor.secondary").hasMessageContaining("a field that the family");
    }

    @Test
    public void wrongValveOfATwoBarrelIsFoundAndPutRight() {
        BuildSheet right = PracticeCase.twoBarrel(6).healthy();
        double rating = MeteredParts.POWER_VALVE_RATING.of(right.carburetor(), Stage.PRIMARY);
        BuildSheet wrong = MeteredParts.POWER_VALVE_RATING.fit(right, Stage.PRIMARY, rating + 4);
        DriveLog log = new EngineSimulator(wrong, 1, Map.of(), 5).drive(DriveScript.twelveMinutes(), 20,
                "two.csv").log();
        Analysis a = Analysis.of(wrong, log, Strategy.BALANCED);
        Advice advice = a.advice();
        assertThat(advice.circuits()).hasSize(5);
        assertThat(advice.verdict()).as(advice.sentence().toString()).isEqualTo(Verdict.CHANGE);
        assertThat(advice.changes()).filteredOn(c -> c.part().equals(MeteredParts.POWER_VALVE_RATING)).singleElement()
                .satisfies(c -> assertThat(c.to()).isBetween(rating - 2, rating + 2));
        assertThat(AdviceJson.write(advice)).doesNotContain("secondary");
        assertThat(DrivePlan.of(a, List.of()).items()).extracting(DrivePlan.Item::circuit)
                .allMatch(right.carburetor().family().circuits()::contains);
    }
}
