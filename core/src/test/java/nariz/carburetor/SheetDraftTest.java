package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.diagnosis.Candidate;
import nariz.family.metered.MeteredParts;
import nariz.flow.Barrels;
import nariz.sim.DemoDrive;
import nariz.units.Units;
import org.testng.annotations.Test;

public class SheetDraftTest {
    private static SheetDraft least() {
        SheetDraft d = SheetDraft.blank();
        d.set("engine.displacement", "3");
        d.set("engine.cylinders", "6");
        return d;
    }

    @Test
    public void bareNumbersGetTheFieldsUnitAndWrittenOnesKeepTheirs() {
        SheetDraft d = least();
        d.set("carburetor.primary.mainJet", "61");
        d.set("carburetor.primary.idleFeedRestriction", "0,94 mm");
        d.set("carburetor.primary.mixtureScrew", "2,375");
        d.set("carburetor.secondary.powerValve", "plugged");
        d.set("name", "77");
        BuildSheet sheet = BuildSheetReader.parse("draft", d.json());
        assertThat(sheet.name()).isEqualTo("77");
        assertThat(sheet.engine().cylinders()).isEqualTo(6);
        assertThat(sheet.engine().displacementM3()).isCloseTo(3e-3, within(1e-9));
        assertThat(Barrels.of(sheet.carburetor(), Stage.PRIMARY).main().jetM()).isCloseTo(61 * Units.THOU,
                within(1e-9));
        assertThat(Barrels.of(sheet.carburetor(), Stage.PRIMARY).idle().feedM()).isCloseTo(0.94e-3, within(1e-9));
        assertThat(Barrels.of(sheet.carburetor(), Stage.PRIMARY).idle().screwTurns()).isEqualTo(2.375);
        assertThat(d.get("carburetor.primary.mainJet")).isEqualTo("61 thou");
        d.set("carburetor.primary.mainJet", " ");
        assertThat(d.get("carburetor.primary.mainJet")).isEmpty();
    }

    @Test
    public void whatIsLeftOutIsShownAsItWouldBeAssumed() {
        assertThat(SheetDraft.blank().assumed()).isEmpty();
        SheetDraft d = least();
        assertThat(d.assumed()).containsEntry("engine.cam", "medium").containsKey("carburetor.primary.mainJet")
                .doesNotContainKey("engine.cylinders");
        List<String> fields = d.fields().stream().map(SheetDraft.Field::path).toList();
        // What has a place in the form, and what only a text editor reaches.
        assertThat(d.assumed().keySet().stream().filter(p -> !fields.contains(p))).containsExactlyInAnyOrder(
                "carburetor.primary.bores", "carburetor.secondary.bores", "carburetor.secondaryOpening.spring",
                "fuel.density", "fuel.stoichAfr");
        assertThat(d.fields()).allSatisfy(f -> assertThat(f.label().toString()).isNotBlank());
    }

    /** Every value of the demo's sheet, and what the form does not show, comes through unchanged. */
    @Test
    public void sheetComesThroughADraftUnchanged() {
        SheetDraft d = SheetDraft.of("demo", DemoDrive.sheetJson());
        assertThat(BuildSheetReader.parse("again", d.json())).isEqualTo(DemoDrive.sheet());
        for (SheetDraft.Field f : d.fields()) {
            d.set(f.path(), d.get(f.path()));
        }
        assertThat(BuildSheetReader.parse("again", d.json())).isEqualTo(DemoDrive.sheet());
        assertThat(d.json()).contains("long runner").contains("Made up.");
    }

    @Test
    public void anotherFamilyDropsThePartsItDoesNotHave() {
        SheetDraft d = SheetDraft.of("demo", DemoDrive.sheetJson());
        d.set("carburetor.family", "rod-metered-4");
        assertThat(d.fields().stream().map(SheetDraft.Field::path)).contains("carburetor.primary.rodPower")
                .doesNotContain("carburetor.primary.powerValve");
        BuildSheet sheet = BuildSheetReader.parse("draft", d.json());
        assertThat(sheet.carburetor().family()).isEqualTo(Families.ofKey("rod-metered-4").orElseThrow());
        assertThat(sheet.assumed()).anyMatch(a -> a.startsWith("carburetor.primary.rodPower"));
        // Thought better of it: nothing that was typed is gone.
        d.set("carburetor.family", "block-metered-4");
        assertThat(BuildSheetReader.parse("again", d.json())).isEqualTo(DemoDrive.sheet());
    }

    @Test
    public void nonsenseIsKeptForTheReaderToComplainAbout() {
        SheetDraft d = least();
        d.set("engine.cylinders", "six");
        d.set("engine.redline", "fast");
        assertThat(d.assumed()).isEmpty();
        assertThatThrownBy(() -> BuildSheetReader.parse("draft", d.json())).isInstanceOf(InputProblem.class)
                .hasMessageContaining("engine.cylinders").hasMessageContaining("six");
        assertThatThrownBy(() -> SheetDraft.of("list.json", "[1, 2]")).isInstanceOf(InputProblem.class)
                .hasMessageContaining("list.json, line 1, column 1");
        assertThatThrownBy(() -> SheetDraft.of("cut.json", "{\"a\": ")).isInstanceOf(InputProblem.class)
                .hasMessageContaining("cut.json");
    }

    /** Every part of the demo, one size up or down: the sheet reads back as the part says, and the rest as written. */
    @Test
    public void whatWasFittedIsWrittenDown() {
        String before = DemoDrive.sheetJson();
        int fitted = 0;
        for (Candidate c : Candidate.of(DemoDrive.sheet(), Kit.NONE)) {
            if (c.part().role() == Part.Role.IDLE_STOP) {
                continue;
            }
            for (int step : new int[] {-1, 1}) {
                int at = c.fittedAt() + step;
                if (at < 0 || at >= c.sizes().size()) {
                    continue;
                }
                PartChange change = c.to(c.sizes().get(at));
                SheetDraft d = SheetDraft.of("demo", before);
                d.fit(change);
                BuildSheet read = BuildSheetReader.parse("fitted", d.json());
                BuildSheet wanted = change.fit(DemoDrive.sheet());
                assertThat(PartChange.between(wanted, read)).as(change.toString()).isEmpty();
                assertThat(PartChange.between(DemoDrive.sheet(), read)).hasSize(1);
                assertThat(read.engine()).isEqualTo(wanted.engine());
                assertThat(d.get("notes")).startsWith("Made up. One block-metered four-barrel");
                assertThat(d.get("carburetor.primary.bore")).isEqualTo("39.5 mm");
                fitted++;
            }
        }
        assertThat(fitted).isGreaterThan(20);
    }

    @Test
    public void screwsThatStandApartAllMoveAsFar() {
        SheetDraft d = SheetDraft.of("demo", DemoDrive.sheetJson());
        d.set("carburetor.primary.mixtureScrew", "2 turns; 2.5 turns");
        Part screws = MeteredParts.MIXTURE_SCREW;
        double from = screws.of(BuildSheetReader.parse("", d.json()).carburetor(), Stage.PRIMARY);
        d.fit(new PartChange(screws, Stage.PRIMARY, from, from - 0.25));
        assertThat(screws.each(BuildSheetReader.parse("", d.json()).carburetor(), Stage.PRIMARY)).containsExactly(1.75,
                2.25);
    }

    @Test
    public void stopScrewStandsOnNoSheet() {
        SheetDraft d = SheetDraft.of("demo", DemoDrive.sheetJson());
        String before = d.json();
        Part stop = DemoDrive.sheet().carburetor().family().parts().stream().filter(p -> p.role()
                == Part.Role.IDLE_STOP).findFirst().orElseThrow();
        d.fit(new PartChange(stop, Stage.PRIMARY, 0, 0.5));
        assertThat(d.json()).isEqualTo(before);
    }

    /** A blank corrector is assumed to suit the main jet; another jet does not change the one that is in the car. */
    @Test
    public void whatWasAssumedBesideAFittedPartStaysAsItWas() {
        SheetDraft d = SheetDraft.of("small.json", """
                {"format": "nariz-build/1", "name": "hatchback",
                 "engine": {"displacement": "1.6 L", "cylinders": 4, "idleSpeed": "820 rpm", "redline": "5500 rpm"},
                 "carburetor": {"family": "progressive-twin", "primary": {"mainJet": "1.9 mm"}}}
                """);
        BuildSheet before = BuildSheetReader.parse("small.json", d.json());
        Part jet = before.carburetor().family().part(before.carburetor(), Stage.PRIMARY, Part.Role.METERING_FUEL)
                .orElseThrow();
        d.fit(new PartChange(jet, Stage.PRIMARY, 1.9, 1.5));
        BuildSheet after = BuildSheetReader.parse("small.json", d.json());
        assertThat(after.carburetor().number("primary.mainJet")).isCloseTo(1.5e-3, within(1e-9));
        assertThat(PartChange.between(before, after)).singleElement().satisfies(c -> assertThat(c.part()).isEqualTo(
                jet));
        assertThat(after.assumed()).hasSizeLessThan(before.assumed().size());
    }
}
