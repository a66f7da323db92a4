package nariz.app.chart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.testng.annotations.Test;

public class PlaneMarkTest {
    @Test
    public void marksKeepApartAndNoCellIsLost() {
        Random random = new Random(5);
        int n = 160;
        double[] x = random.doubles(n, 0, 300).toArray();
        double[] y = random.doubles(n, 0, 300).toArray();
        double[] dwell = random.doubles(n, 0.5, 40).toArray();
        List<PlaneMark> marks = PlaneMark.of(x, y, dwell);
        assertThat(marks).hasSizeBetween(20, 120);
        assertThat(marks.stream().flatMapToInt(m -> Arrays.stream(m.cells())).sorted().distinct().count()).isEqualTo(n);
        assertThat(marks.stream().mapToInt(m -> m.cells().length).sum()).isEqualTo(n);
        assertThat(marks.stream().mapToDouble(PlaneMark::dwellS).sum()).isCloseTo(Arrays.stream(dwell).sum(), within(
                1e-6));
        for (int i = 0; i < marks.size(); i++) {
            for (int j = 0; j < i; j++) {
                PlaneMark a = marks.get(i);
                PlaneMark b = marks.get(j);
                assertThat(a.distance(b.x(), b.y())).as("%s and %s", a, b).isGreaterThanOrEqualTo(a.r() + b.r());
            }
        }
    }

    @Test
    public void cellsThatKeepApartStayAsTheyAre() {
        List<PlaneMark> marks = PlaneMark.of(new double[] {10, 100}, new double[] {10, 10}, new double[] {4, 9});
        assertThat(marks).hasSize(2);
        assertThat(marks.getFirst().r()).isEqualTo(PlaneMark.radius(4));
        assertThat(PlaneMark.of(new double[0], new double[0], new double[0])).isEmpty();
    }

    /** Two that are one stand in the middle of the time spent, and speak for both by it. */
    @Test
    public void joinedCellsCountByTheirTime() {
        double[] dwell = {30, 10};
        PlaneMark m = PlaneMark.of(new double[] {50, 54}, new double[] {50, 50}, dwell).getFirst();
        assertThat(m.x()).isCloseTo(51, within(1e-9));
        assertThat(m.cells()).containsExactly(0, 1);
        assertThat(m.mean(i -> i == 0 ? 0.04 : -0.04, i -> dwell[i])).isCloseTo(0.02, within(1e-9));
    }
}
