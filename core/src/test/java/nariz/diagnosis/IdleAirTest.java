package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Ladder;
import nariz.carburetor.PartChange;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.Stage;
import nariz.estimation.Cell;
import nariz.family.metered.MeteredCircuits;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import nariz.text.Wording;
import org.testng.annotations.Test;

/** Screws that stand differently, and where the air for the idle comes from. */
public class IdleAirTest {
    private static BuildSheet with(String... pathsAndValues) {
        SheetDraft d = SheetDraft.of("demo", DemoDrive.sheetJson());
        for (int i = 0; i < pathsAndValues.length; i += 2) {
            d.set(pathsAndValues[i], pathsAndValues[i + 1]);
        }
        return BuildSheetReader.parse("car", d.json());
    }

    /** An engine that breathes so much at idle that its front plates stand over their slots. */
    private static BuildSheet hungry() {
        return with("engine.cam", "wild", "engine.displacement", "5.8 L", "engine.idleSpeed", "900 rpm");
    }

    private static Cell idle(Analysis a) {
        return a.estimate().cells().stream().filter(Cell::idle).findFirst().orElseThrow();
    }

    private static Analysis driven(BuildSheet sheet) {
        return Analysis.of(Request.of(sheet, DemoDrive.drive(sheet, 4).log()), () -> false);
    }

    @Test
    public void anEngineWithItsPlatesOverTheSlotsIsShownWhereElseTheAirCanComeFrom() {
        BuildSheet sheet = hungry();
        Analysis a = driven(sheet);
        assertThat(a.estimate().carburetor().slotBelowM(sheet, idle(a))).isGreaterThan(1.6e-3);
        RuleOfThumb rule = a.advice().schools().stream().filter(s -> s.question().toString().contains("idle air"))
                .findFirst().orElseThrow();
        assertThat(rule.answers()).hasSize(3);
        assertThat(rule.followed()).hasToString("open the secondary plates a little");
        assertThat(rule.answers().get(1).says().toString()).contains("°").contains("of slot below");
        Analysis demo = driven(DemoDrive.sheet());
        assertThat(demo.advice().schools()).noneMatch(s -> s.question().toString().contains("idle air"));
    }

    @Test
    public void eachWayClosesTheFrontPlatesAndTheEngineConfirmsIt() {
        BuildSheet sheet = hungry();
        Analysis a = driven(sheet);
        double before = a.estimate().carburetor().slotBelowM(sheet, idle(a));
        for (String change : List.of("secondary-stop=2", "plate-hole=80")) {
            BuildSheet then = PartChange.parse(change, sheet).orElseThrow().fit(sheet);
            double said = a.estimate().carburetor().slotBelowM(then, idle(a));
            Analysis b = driven(then);
            double seen = b.estimate().carburetor().slotBelowM(then, idle(b));
            assertThat(said).as(change).isLessThan(before - 0.1e-3);
            assertThat(seen).as(change).isEqualTo(said, within(0.75 * (before - said)));
        }
    }

    @Test
    public void aBypassIsTriedButNeverBlamed() {
        BuildSheet sheet = hungry();
        assertThat(Ladder.of(sheet)).noneMatch(l -> l.part().equals(MeteredParts.SECONDARY_STOP));
        assertThat(Candidate.of(sheet, nariz.carburetor.Kit.NONE)).anyMatch(c -> c.part().equals(
                MeteredParts.SECONDARY_STOP)).anyMatch(c -> c.part().equals(MeteredParts.PLATE_HOLE));
        assertThat(PartChange.reason("secondary-stop=20", sheet)).contains("goes from 0 to 6");
        assertThat(PartChange.reason("plate-hole=-1", sheet)).contains("goes from 0 to 120");
    }

    @Test
    public void everyScrewKeepsItsOwnPlace() {
        BuildSheet even = with("carburetor.primary.mixtureScrew", "2 turns");
        BuildSheet uneven = with("carburetor.primary.mixtureScrew", "1.75; 2,25 turns");
        var part = MeteredParts.MIXTURE_SCREW;
        assertThat(part.of(uneven.carburetor(), Stage.PRIMARY)).isEqualTo(2.0);
        assertThat(part.each(uneven.carburetor(), Stage.PRIMARY)).containsExactly(1.75, 2.25);
        assertThat(part.each(even.carburetor(), Stage.PRIMARY)).isEmpty();
        BuildSheet turned = part.fit(uneven, Stage.PRIMARY, 2.5);
        assertThat(part.each(turned.carburetor(), Stage.PRIMARY)).containsExactly(2.25, 2.75);
        var a = even.carburetor().family().model(even, 0, even.carburetor().family().standard());
        var b = even.carburetor().family().model(uneven, 0, even.carburetor().family().standard());
        var x = a.newDelivery();
        var y = b.newDelivery();
        a.evaluate(800, 60e3, x);
        b.evaluate(800, 60e3, y);
        assertThat(y.total()).isEqualTo(x.total(), within(1e-9));
    }

    @Test
    public void unevenScrewsAreTurnedFromWhereTheyStand() {
        var part = MeteredParts.MIXTURE_SCREW;
        BuildSheet uneven = with("carburetor.primary.mixtureScrew", "1.25; 0.75");
        Change c = new Change(part, Stage.PRIMARY, MeteredCircuits.IDLE, 1.0, 1.375, true, 0.05, 1, List.of(),
                List.of(),
                List.of(), part.each(uneven.carburetor(), Stage.PRIMARY));
        assertThat(c.title()).asString().matches("primary mixture screws: each 0.375 turns out");
        Wording english = Wording.ENGLISH;
        assertThat(WorkCard.of(c).steps().stream().map(english::text)).anyMatch(s ->
                s.contains("1.25 to 1.625, 0.75 to 1.125 turns out"));
    }

    @Test
    public void aListOfTheWrongLengthIsRefusedWithItsPlace() {
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> with("carburetor.primary.mixtureScrew", "1;2;3"))
                .hasMessageContaining("carburetor.primary.mixtureScrew").hasMessageContaining("a list of 2");
    }
}
