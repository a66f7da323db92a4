package nariz.family;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Carburetor;
import nariz.carburetor.InputProblem;
import nariz.carburetor.SheetDraft;
import org.testng.annotations.Test;

/** An emulsion tube's rows as a form fills them in. */
public class EmulsionTubeFormTest {
    private static SheetDraft draft() {
        SheetDraft d = SheetDraft.blank();
        d.set("carburetor.family", "stack-jet");
        d.set("name", "roadster");
        d.set("engine.displacement", "2.6");
        d.set("engine.cylinders", "6");
        d.set("engine.idleSpeed", "900");
        d.set("engine.redline", "6500");
        return d;
    }

    private static Carburetor read(SheetDraft d) {
        return BuildSheetReader.parse("form", d.json()).carburetor();
    }

    @Test
    public void rowsAreFilledInAsListsAndReadAsHoles() {
        SheetDraft d = draft();
        d.set("carburetor.primary.emulsionTube[].depth", "5; 12,5; 20");
        d.set("carburetor.primary.emulsionTube[].diameter", "1; 1; 0.8");
        d.set("carburetor.primary.emulsionTube[].holes", "4; 2; 2");
        assertThat(d.json()).contains("\"12.5 mm\"");
        assertThat(d.get("carburetor.primary.emulsionTube[].depth")).isEqualTo("5 mm; 12.5 mm; 20 mm");
        Carburetor c = read(d);
        assertThat(c.each("primary.emulsionTube.depth")).containsExactly(5e-3, 12.5e-3, 20e-3);
        assertThat(c.each("primary.emulsionTube.area").getFirst()).isCloseTo(Math.PI * 1e-6, within(1e-12));
        assertThat(c.each("primary.emulsionTube.area").getLast()).isCloseTo(2 * Math.PI / 4 * 0.64e-6, within(1e-12));
    }

    /** The usual tube stands in grey where nothing is written. */
    @Test
    public void blankIsTheUsualTube() {
        var sheet = BuildSheetReader.parse("form", draft().json());
        assertThat(sheet.carburetor().each("primary.emulsionTube.depth")).hasSize(4);
        assertThat(sheet.assumed()).contains("carburetor.primary.emulsionTube[].depth = 4 mm; 10 mm; 18 mm; 28 mm",
                "carburetor.primary.emulsionTube[].holes = 2; 2; 2; 2");
    }

    @Test
    public void rowWithoutAHoleSizeIsToldByItsPlace() {
        SheetDraft d = draft();
        d.set("carburetor.primary.emulsionTube[].depth", "5; 12");
        d.set("carburetor.primary.emulsionTube[].diameter", "1");
        assertThatThrownBy(() -> read(d)).isInstanceOf(InputProblem.class).hasMessageContaining("emulsionTube")
                .hasMessageContaining("1 mm");
    }
}
