package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.sim.Demo;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LadderTest {
    private static List<Double> steps(double turns) {
        BuildSheet sheet = Demo.ESTATE.sheet();
        Ladder screw = Ladder.of(sheet).stream().filter(l -> l.part().role() == Part.Role.IDLE_MIXTURE && l.stage()
                == Stage.PRIMARY).findFirst().orElseThrow();
        BuildSheet at = screw.part().fit(sheet, Stage.PRIMARY, turns);
        return screw.sizes(at).stream().map(v -> v - turns).toList();
    }

    /** At three quarters of a turn an eighth is a sixth of the hole. */
    @Test
    public void screwsAtFewTurnsAreTriedBySixteenths() {
        List<Double> few = steps(0.75);
        assertThat(few.getFirst()).isCloseTo(0.0625, within(1e-9));
        assertThat(few.subList(0, 8).stream().map(Math::abs).toList()).isSorted().endsWith(0.25, 0.25);
        List<Double> many = steps(2.0);
        assertThat(Math.abs(many.getFirst())).isCloseTo(0.125, within(1e-9));
        assertThat(many).noneMatch(d -> Math.abs(Math.abs(d) - 0.0625) < 1e-9);
    }

    @DataProvider(name = "families")
    public Object[][] families() {
        return Families.all().stream().map(f -> new Object[] {f.key()}).toArray(Object[][]::new);
    }

    /** A size that is advised is one that a sheet takes and gives back: needles grow thinner and go into their jet. */
    @Test(dataProvider = "families")
    public void everySizeThatCanBeAdvisedCanBeWrittenDown(String family) {
        String json = """
                {"format": "nariz-build/1", "name": "car",
                 "engine": {"displacement": "1.6 L", "cylinders": 4, "idleSpeed": "850 rpm", "redline": "5500 rpm"},
                 "carburetor": {"family": "%s"}}
                """.formatted(family);
        BuildSheet sheet = BuildSheetReader.parse("car", json);
        int tried = 0;
        for (Ladder l : Ladder.of(sheet)) {
            for (double size : l.sizes(sheet)) {
                SheetDraft draft = SheetDraft.of("car", json);
                draft.fit(new PartChange(l.part(), l.stage(), l.fitted(sheet), size));
                BuildSheet then = BuildSheetReader.parse("car", draft.json());
                assertThat(l.part().of(then.carburetor(), l.stage())).as(l.part().key() + " " + size).isCloseTo(size,
                        within(2e-3 * l.step()));
                tried++;
            }
        }
        assertThat(tried).isGreaterThan(20);
    }

    @Test
    public void noScrewIsTurnedPastItsEnds() {
        assertThat(steps(0.3125)).allMatch(d -> 0.3125 + d >= 0.25);
    }
}
