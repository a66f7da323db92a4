package nariz.family;

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
import java.util.stream.Stream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Families;
import nariz.carburetor.InputProblem;
import nariz.carburetor.Kit;
import nariz.carburetor.KitReader;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.PumpSetting;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.Stage;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.AdviceText;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.NeedleProfile;
import nariz.diagnosis.PreviousReader;
import nariz.diagnosis.Regime;
import nariz.diagnosis.RuleOfThumb;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.Verdict;
import nariz.sim.Demo;
import nariz.units.Units;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Jet stacks and needles, from the sheet to a tune that is proved, and what their sheets refuse. */
public class OtherFamiliesTest {
    private static Analysis demo(Demo d) {
        return Analysis.of(d.sheet(), d.drive().log(), Strategy.of(d.sheet()));
    }

    @Test
    public void roadstersMainJetsAreFoundAndProved() {
        Analysis a = demo(Demo.ROADSTER);
        assertThat(a.advice().verdict()).isEqualTo(Verdict.CHANGE);
        assertThat(a.advice().changes().getFirst()).satisfies(c -> {
            assertThat(c.part().key()).isEqualTo("main-jet");
            assertThat(c.part().unit()).isEqualTo("mm");
            assertThat(c.enriches()).isTrue();
        });
        Analysis then = Analysis.of(a.sheetAfter(), Demo.ROADSTER.again(a.sheetAfter(), 1).log(), Strategy.of(a
                .sheetAfter()));
        assertThat(rms(then, Regime.MODERATE)).isLessThan(0.6 * rms(a, Regime.MODERATE));
        assertThat(rms(then, Regime.FULL)).isLessThan(0.6 * rms(a, Regime.FULL));
    }

    private static double rms(Analysis a, Regime g) {
        return a.advice().predicted().stream().filter(p -> p.before().regime() == g).findFirst().orElseThrow().before()
                .rms();
    }

    @Test
    public void smallFoursNeedleIsFoundAndProved() {
        Analysis a = demo(Demo.SMALL_FOUR);
        assertThat(a.advice().changes()).isNotEmpty().allSatisfy(c -> {
            assertThat(c.part().profile()).isEqualTo("needle-profile");
            assertThat(c.enriches()).isTrue();
        });
        Analysis then = Analysis.of(a.sheetAfter(), Demo.SMALL_FOUR.again(a.sheetAfter(), 1).log(), Strategy.of(a
                .sheetAfter()));
        assertThat(rms(then, Regime.POWER)).isLessThan(0.6 * rms(a, Regime.POWER));
    }

    /** The needle with which the made-up engine is on target, where the demo's is too thick. */
    @Test
    public void wantedNeedleIsTheOneThatWasHidden() {
        NeedleProfile n = demo(Demo.SMALL_FOUR).advice().needle().orElseThrow();
        double[] right = {89.4, 86.7, 84.7, 82.8, 79.65, 76.4, 73.7};
        for (int s = 0; s < right.length; s++) {
            NeedleProfile.Station q = n.stations().get(s);
            assertThat(q.read()).isTrue();
            assertThat(q.wantedM() / Units.THOU).as("station %d", s + 1).isCloseTo(right[s], within(0.5));
            assertThat(q.lowM()).isLessThan(q.wantedM());
            assertThat(q.highM()).isGreaterThan(q.wantedM());
        }
        assertThat(n.stations().getLast().read()).isFalse();
        assertThat(n.level()).isFalse();
    }

    /** Other targets ask for another needle: leaner ones for a thicker one where the engine cruises. */
    @Test
    public void wantedNeedleFollowsTheTargetsThatWereChosen() {
        Analysis economy = Analysis.of(Demo.SMALL_FOUR.sheet(), Demo.SMALL_FOUR.drive().log(), Strategy.ECONOMY);
        NeedleProfile lean = economy.advice().needle().orElseThrow();
        NeedleProfile usual = demo(Demo.SMALL_FOUR).advice().needle().orElseThrow();
        assertThat(lean.stations().get(2).wantedM()).isGreaterThan(usual.stations().get(2).wantedM());
    }

    /** All stations off alike: one part does, and it is turned by hand. */
    @Test
    public void jetHeightComesFirstWhereAllStationsAgree() {
        BuildSheet healthy = BuildSheetReader.parse("right", Demo.SMALL_FOUR.sheetJson().replaceFirst(
                "(?s)\"83.4 thou\".*\"72.2 thou\", \"68.8",
                "\"82.8 thou\", \"79.6 thou\", \"76.4 thou\", \"73.7 thou\", "
                        + "\"70.9 thou\", \"68.0"));
        BuildSheet low = PartChange.parse("jet-height=2.25", healthy).orElseThrow().fit(healthy);
        Analysis a = Analysis.of(low, Demo.SMALL_FOUR.drive(low, 3).log(), Strategy.of(low));
        assertThat(a.advice().changes().getFirst().part().key()).isEqualTo("jet-height");
        assertThat(a.advice().changes().getFirst().enriches()).isFalse();
    }

    /** Venturis are a question only where they choke, and never the answer by themselves. */
    @Test
    public void venturisThatChokeAreSaidToWithTheJetThatGoesWithLargerOnes() {
        BuildSheet small = Demo.ROADSTER.sheet();
        for (String part : List.of("venturi=16", "main-jet=0.8")) {
            small = PartChange.parse(part, small).orElseThrow().fit(small);
        }
        Analysis a = Analysis.of(small, Demo.ROADSTER.drive(small, 3).log(), Strategy.of(small));
        RuleOfThumb rule = a.advice().schools().stream().filter(r -> r.question().code().equals("schools.venturis"))
                .findFirst().orElseThrow();
        assertThat(rule.answers().getFirst().says().toString()).startsWith("16 mm, through which the air goes at 99")
                .contains("1.8 inHg are left");
        assertThat(rule.answers().getLast().says().toString()).startsWith("18 mm, 78 m/s; with it")
                .contains("main jets of about 0.9 mm");
        assertThat(rule.followed()).isEqualTo(rule.answers().getFirst().name());
        assertThat(a.advice().changes()).noneMatch(c -> c.part().key().equals("venturi"));
        assertThat(demo(Demo.ROADSTER).advice().schools()).noneMatch(r -> r.question().code().equals(
                "schools.venturis"));
    }

    @Test
    public void needleProfileIsOneChangeInTheAnswerAndReadBackBandByBand() throws IOException {
        Analysis a = demo(Demo.SMALL_FOUR);
        String json = AdviceJson.write(a.advice());
        var schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(Files.readString(
                Path.of("../docs/formats/advice.schema.json")), InputFormat.JSON);
        assertThat(schema.validate(json, InputFormat.JSON)).isEmpty();
        assertThat(json).contains("\"needle-profile\"", "\"spacing\" : \"2.1 mm\"", "\"needle\" :");
        assertThat(AdviceText.write(a.advice())).contains("needle station", "thinner: can be filed", "not read");
        List<PartChange> back = PreviousReader.parse("advice.json", json).fitted();
        List<Change> now = a.advice().changes().stream().filter(Change::now).toList();
        assertThat(back).hasSameSizeAs(now);
        BuildSheet fitted = PartChange.fit(a.observation().sheet(), back);
        assertThat(fitted.carburetor().each("primary.needle.diameters")).zipSatisfy(a.sheetAfter().carburetor().each(
                "primary.needle.diameters"), (x, y) -> assertThat(x).isCloseTo(y, within(1e-7)));
    }

    /** What stations would want to the letter must not read like a change that nobody advises. */
    @Test
    public void stationsOfANeedleThatIsLeftAloneAreNotAdvised() {
        Analysis first = demo(Demo.SMALL_FOUR);
        String not = "Nothing of this is advised";
        assertThat(AdviceText.write(first.advice())).doesNotContain(not);
        Analysis then = first;
        for (int round = 4; round < 8 && !then.advice().changes().isEmpty(); round++) {
            BuildSheet fitted = then.sheetAfter();
            then = Analysis.of(fitted, Demo.SMALL_FOUR.drive(fitted, round).log(), Strategy.of(fitted));
        }
        assertThat(then.advice().changes()).isEmpty();
        assertThat(then.advice().needle().orElseThrow().off()).isTrue();
        assertThat(AdviceText.write(then.advice())).contains(not);
    }

    @Test
    public void partsToldInMillimetresAreReadBackInMillimetres() {
        Analysis a = demo(Demo.ROADSTER);
        PartChange jet = PreviousReader.parse("advice.json", AdviceJson.write(a.advice())).fitted().getFirst();
        assertThat(jet.part().unit()).isEqualTo("mm");
        assertThat(jet.fit(a.observation().sheet()).carburetor().number("primary.mainJet")).isCloseTo(a.sheetAfter()
                .carburetor().number("primary.mainJet"), within(1e-7));
        assertThat(Families.part("main-jet", "thou")).isPresent();
        assertThat(Families.part("main-jet", "turns")).isEmpty();
    }

    @Test
    public void kitIsKeptInTheUnitsOfTheFamily() {
        Kit kit = KitReader.parse("kit.json", """
                {"format": "nariz-kit/1", "have": {"main-jet": ["1.3 mm", "1.35 mm"]}}""");
        Ladder jets = Ladder.of(Demo.ROADSTER.sheet(), kit).stream().filter(l -> "main-jet".equals(l.part().key()))
                .findFirst().orElseThrow();
        assertThat(jets.sizes(Demo.ROADSTER.sheet())).anySatisfy(v -> assertThat(v).isCloseTo(1.3, within(1e-6)));
        assertThat(jets.kit().has(jets.part(), 1.35)).isTrue();
    }

    /** One millimetre at the rod is four degrees of plate, and taking it up is an act of its own with its own card. */
    @Test
    public void slackOfAPumpRodIsOnTheSheetAndTakenUp() {
        BuildSheet taut = Demo.ROADSTER.sheet();
        Ladder rod = taut.carburetor().family().pumpParts(taut).stream().filter(l -> l.part().role()
                == Part.Role.PUMP_START).findFirst().orElseThrow();
        assertThat(rod.part().key()).isEqualTo("pump-clearance");
        assertThat(rod.fitted(taut)).isZero();
        BuildSheet slack = rod.part().fit(taut, Stage.PRIMARY, 1.0);
        PumpSetting is = slack.carburetor().family().pumpSetting(slack).orElseThrow();
        assertThat(is.slackRad()).isCloseTo(4.0 * Units.DEG, within(1e-9));
        assertThat(is.lift(4.0 * Units.DEG)).isZero();
        assertThat(is.strokeKg()).isEqualTo(taut.carburetor().family().pumpSetting(taut).orElseThrow().strokeKg());
        assertThat(rod.part().fromTo(0.0, 0.0).toString()).isEqualTo("take up the slack");
        assertThat(rod.part().work().steps()).contains("work-card.set-the-pump-rod-nuts",
                "work-card.shots-begin-together");
    }

    @Test
    public void hundredthsAreMillimetresToo() {
        BuildSheet s = BuildSheetReader.parse("s", Demo.ROADSTER.sheetJson().replace("\"1.15 mm\"", "\"115 1/100mm\"")
                .replace("\"2.4 mm\"", "\"240 1/100 mm\""));
        assertThat(s.carburetor().number("primary.mainJet")).isCloseTo(1.15e-3, within(1e-12));
        assertThat(s.carburetor().number("primary.airCorrector")).isCloseTo(2.4e-3, within(1e-12));
    }

    @Test
    public void eachCarburetorMayHaveItsOwnJets() {
        BuildSheet s = BuildSheetReader.parse("s", Demo.ROADSTER.sheetJson().replace("\"mainJet\": \"1.15 mm\"",
                "\"mainJet\": [\"1.1 mm\", \"1.15 mm\", \"1.2 mm\"]"));
        assertThat(s.carburetor().number("primary.mainJet")).isCloseTo(1.15e-3, within(1e-9));
        Part jet = s.carburetor().family().parts().stream().filter(p -> "main-jet".equals(p.key())).findFirst()
                .orElseThrow();
        assertThat(jet.each(s.carburetor(), Stage.PRIMARY)).hasSize(3);
        assertThat(jet.each(jet.fit(s, Stage.PRIMARY, 1.2).carburetor(), Stage.PRIMARY).getFirst()).isCloseTo(1.15,
                within(1e-9));
    }

    @DataProvider
    Object[][] refused() {
        String stack = Demo.ROADSTER.sheetJson();
        String needle = Demo.SMALL_FOUR.sheetJson();
        return new Object[][] {
            {needle.replace("\"damperOil\"", "\"mainJet\": \"1.2 mm\", \"damperOil\""), "carburetor.primary.mainJet",
                "a field that the family"},
            {stack.replace("\"idleAir\"", "\"needle\": {}, \"idleAir\""), "carburetor.primary.needle",
                "a field that the family constant-depression"},
            {needle.replace("\"80.9 thou\"", "\"84.9 thou\""), "carburetor.primary.needle.diameters", "grows thinner"},
            {stack.replace("\"height\": \"0.55 mm\"", "\"height\": \"-0.9 mm\""),
                "carburetor.primary.progressionHoles[1].height", "above the edge"},
            {stack.replace("\"height\": \"1.25 mm\"", "\"height\": \"0.25 mm\""),
                "carburetor.primary.progressionHoles[2].height", "from the lowest"},
            {stack.replace("\"barrels\": 2", "\"barrels\": 4"), "carburetor.barrels", "from 1 to 3"},
            {stack.replace("\"count\": 3", "\"count\": 5"), "carburetor.count", "from 1 to 4"},
            {needle.replace("\"count\": 2", "\"count\": 2, \"barrels\": 2"),
                "carburetor.barrels", "from 1 to 1"},
            {stack.replace("\"stack-jet\"", "\"progressive-twin\"").replace("\"count\": 3", "\"count\": 1").replace(
                    "\"barrels\": 2", "\"barrels\": 3"), "carburetor.barrels", "from 2 to 2"},
            {needle.replace("\"89.4 thou\"", "\"95 thou\""), "carburetor.primary.needle.diameters", "outside"},
            {needle.replaceFirst("\"diameters\": \\[[^\\]]*\\]", "\"diameters\": [\"89 thou\"]"),
                "carburetor.primary.needle.diameters", "5 to 30"},
        };
    }

    @Test(dataProvider = "refused")
    public void whatCannotBeIsRefusedWithItsPlace(String json, String path, String words) {
        assertThatThrownBy(() -> BuildSheetReader.parse("sheet.json", json)).isInstanceOfSatisfying(InputProblem.class,
                e -> {
                    assertThat(e.getMessage()).contains(path).containsIgnoringCase(words);
                    assertThat(e.line()).isPositive();
                    assertThat(e.column()).isPositive();
                });
    }

    @Test
    public void shippedSheetsAndDefaultsFollowThePublishedSchema() throws IOException {
        var schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(Files.readString(
                Path.of("../docs/formats/build-sheet.schema.json")), InputFormat.JSON);
        for (Demo d : Demo.values()) {
            assertThat(schema.validate(d.sheetJson(), InputFormat.JSON)).as(d.id()).isEmpty();
            assertThat(Demo.of(d.sheet())).contains(d);
            assertThat(Demo.ofId(d.id())).contains(d);
        }
    }

    /** Lists of objects are two fields of the form, one for each property. */
    @Test
    public void progressionHolesAreFilledInAsTwoLists() {
        SheetDraft d = SheetDraft.of("roadster", Demo.ROADSTER.sheetJson());
        String diameters = "carburetor.primary.progressionHoles[].diameter";
        assertThat(d.get(diameters)).isEqualTo("0.9 mm; 0.9 mm; 0.7 mm");
        d.set(diameters, "1,0; 0.9");
        assertThat(d.get(diameters)).isEqualTo("1.0 mm; 0.9 mm");
        assertThat(d.get("carburetor.primary.progressionHoles[].height")).isEqualTo("0.55 mm; 1.25 mm; 2.1 mm");
        d.set("carburetor.primary.progressionHoles[].height", "0.5; 1.2");
        assertThat(BuildSheetReader.parse("filled", d.json()).carburetor().each("primary.progressionHoles.diameter"))
                .hasSize(2).first().isEqualTo(1e-3);
        d.set(diameters, "");
        d.set("carburetor.primary.progressionHoles[].height", "");
        assertThat(d.json()).doesNotContain("progressionHoles");
        // What is left out is assumed, and shown where it would stand.
        assertThat(d.assumed().get(diameters)).isEqualTo("0.6 mm; 0.6 mm; 0.48 mm");
        assertThat(d.assumed().get("carburetor.primary.progressionHoles[].height")).isEqualTo(
                "0.6 mm; 1.3 mm; 2.2 mm");
    }

    @Test
    public void anotherFamilyLeavesNothingOfTheOldOneBehind() {
        SheetDraft d = SheetDraft.of("roadster", Demo.ROADSTER.sheetJson());
        d.set("carburetor.family", "constant-depression");
        d.set("carburetor.count", "2");
        assertThat(BuildSheetReader.parse("changed", d.json()).carburetor().family().key()).isEqualTo(
                "constant-depression");
    }

    @Test
    public void fittedNeedleIsWrittenOnTheSheet() {
        Analysis a = demo(Demo.SMALL_FOUR);
        SheetDraft d = SheetDraft.of("four", Demo.SMALL_FOUR.sheetJson());
        for (Change c : a.advice().changes()) {
            d.fit(new PartChange(c.part(), c.side(), c.from(), c.to()));
        }
        assertThat(BuildSheetReader.parse("four", d.json()).carburetor().each("primary.needle.diameters")).zipSatisfy(a
                .sheetAfter().carburetor().each("primary.needle.diameters"), (x, y) -> assertThat(x).isCloseTo(y,
                within(
                2e-7)));
    }

    @Test
    public void familiesWithoutSlotOrNeedleDrawNone() {
        BuildSheet estate = Demo.ESTATE.sheet();
        assertThat(estate.carburetor().family().needle(estate)).isEmpty();
        assertThat(estate.carburetor().family().holes(estate)).isEmpty();
        assertThat(estate.carburetor().family().model(estate).stationAt(0.01)).isNaN();
        assertThat(Stream.of(Demo.values()).map(d -> d.sheet().carburetor().family().key()).distinct()).hasSize(3);
    }
}
