package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A user's own table of emulsion tubes, and the sheet that takes the rows from it. */
public class TubeChartTest {
    private static final String TABLE = """
            tube, depth (mm), diameter (1/100mm), holes
            K2, 4, 100, 4
            , 12.5, 100, 2

            K7, 6, 80, 4
            k7, 18, 90, 2
            K7, 25, 90, 2
            """;

    @Test
    public void rowsOfHolesStandTogetherByWhatIsStamped() {
        TubeChart c = TubeChart.parse("tubes.csv", TABLE);
        assertThat(c.tubes()).extracting(TubeChart.Tube::letter).containsExactly("K2", "K7");
        TubeChart.Row last = c.tube(" k2 ").orElseThrow().rows().getLast();
        assertThat(last.depthM()).isCloseTo(12.5e-3, within(1e-9));
        assertThat(last.diameterM()).isCloseTo(1e-3, within(1e-9));
        assertThat(last.holes()).isEqualTo(2);
        assertThat(c.tube("K7").orElseThrow().rows()).hasSize(3);
        assertThat(c.tube("K")).isEmpty();
    }

    /** As a spreadsheet writes where the comma is a decimal one. */
    @Test
    public void semicolonsAreReadAsCommasAre() {
        TubeChart c = TubeChart.parse("tubes.csv", "Tube;depth (mm);diameter (mm);holes\nK2;4,5;0,9;4\n");
        assertThat(c.tubes().getFirst().rows()).hasSize(1);
        assertThat(c.tubes().getFirst().rows().getFirst().depthM()).isCloseTo(4.5e-3, within(1e-9));
    }

    @DataProvider
    Object[][] bad() {
        String head = "tube, depth (mm), diameter (mm), holes\n";
        return new Object[][] {{"", 1, 1, "tube, depth (mm)"},
            {"needle, depth (mm), diameter (mm), holes", 1, 1, "tube"},
            {"tube, depth, diameter (mm), holes\n", 1, 2, "depth"},
            {"tube, depth (mm), diameter (mm)\n", 1, 4, "holes"},
            {head + ", 4, 1, 2\n", 2, 1, "stamped"}, {head + "K2, x, 1, 2\n", 2, 2, "number"},
            {head + "K2, 4, 0, 2\n", 2, 3, "number"}, {head + "K2, 4, 1\n", 2, 4, "how many"},
            {head + "K2, 4, 1, 2.5\n", 2, 4, "how many"}, {head + "K2, 4, 1, 0\n", 2, 4, "how many"},
            {head + "K2, 4, 1, 00\n", 2, 4, "how many"},
            {head + "K2, 8, 1, 2\nK2, 4, 1, 2\n", 3, 2, "deeper"},
            {head + "K2, 4, 1, 2\nK3, 4, 1, 2\nK2, 8, 1, 2\n", 4, 1, "together"},
            {head + "K2, 4, 1, 2\nK3, 4, 1, 2\nk2, 8, 1, 2\n", 4, 1, "together"}};
    }

    @Test(dataProvider = "bad")
    public void whatIsWrongIsSaidWithItsPlaceAndRemedy(String table, int line, int column, String remedy) {
        assertThatThrownBy(() -> TubeChart.parse("tubes.csv", table)).isInstanceOfSatisfying(InputProblem.class, e -> {
            assertThat(e.line()).isEqualTo(line);
            assertThat(e.column()).isEqualTo(column);
            assertThat(e.getMessage()).contains("tubes.csv", remedy);
        });
    }

    @Test
    public void sheetTakesTheRowsOfWhatIsStampedAndKeepsThemWithIt() {
        SheetDraft d = SheetDraft.blank();
        d.set("carburetor.family", "stack-jet");
        d.set("engine.displacement", "2.6");
        d.set("engine.cylinders", "6");
        SheetDraft.Field stamped = d.fields().stream().filter(f -> !f.standsFor().isEmpty()).findFirst().orElseThrow();
        TubeChart chart = TubeChart.parse("tubes.csv", TABLE);
        d.set(stamped.path(), "7");
        assertThat(d.fill(stamped, chart)).isFalse();
        assertThat(d.json()).contains("\"7\"").doesNotContain("depth");
        d.set(stamped.path(), "k7");
        assertThat(d.fill(stamped, chart)).isTrue();
        assertThat(d.get("carburetor.primary.emulsionTube[].depth")).isEqualTo("6 mm; 18 mm; 25 mm");
        assertThat(BuildSheetReader.parse("x", d.json()).carburetor().each("primary.emulsionTube.depth"))
                .usingComparatorForType((a, b) -> Math.abs(a - b) < 1e-9 ? 0 : Double.compare(a, b), Double.class)
                .containsExactly(6e-3, 18e-3, 25e-3);
        // A tube with fewer rows leaves none of the other's.
        d.set(stamped.path(), "K2");
        assertThat(d.fill(stamped, chart)).isTrue();
        assertThat(d.get("carburetor.primary.emulsionTube[].diameter")).isEqualTo("1 mm; 1 mm");
        assertThat(d.get("carburetor.primary.emulsionTube[].holes")).isEqualTo("4; 2");
        assertThat(SheetDraft.of("x", d.json()).get(stamped.path())).isEqualTo("K2");
    }

    @Test
    public void whatIsStampedIsAWordAndNoStory() {
        String json = "{\"format\": \"nariz-build/1\", \"engine\": {\"displacement\": \"2 L\", \"cylinders\": 4}, "
                + "\"carburetor\": {\"family\": \"stack-jet\", \"primary\": {\"emulsionTubeLetter\": %s}}}";
        assertThat(BuildSheetReader.parse("x", json.formatted("\"K2\"")).assumed()).anyMatch(a -> a.startsWith(
                "carburetor.primary.emulsionTube[].depth"));
        assertThatThrownBy(() -> BuildSheetReader.parse("x", json.formatted("2"))).isInstanceOf(InputProblem.class)
                .hasMessageContaining("emulsionTubeLetter");
        assertThatThrownBy(() -> BuildSheetReader.parse("x", json.formatted("\"" + "K".repeat(21) + "\"")))
                .isInstanceOf(InputProblem.class).hasMessageContaining("20");
    }
}
