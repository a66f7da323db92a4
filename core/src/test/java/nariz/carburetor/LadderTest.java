package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import nariz.sim.Demo;
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

    @Test
    public void noScrewIsTurnedPastItsEnds() {
        assertThat(steps(0.3125)).allMatch(d -> 0.3125 + d >= 0.25);
    }
}
