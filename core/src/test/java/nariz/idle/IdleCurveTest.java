package nariz.idle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class IdleCurveTest {
    private static IdleCurve.Aim aim(School s) {
        return new IdleCurve.Aim(s, 1.1, Reach.SCREWS.bend());
    }

    private static final double BEST = 1.12;

    /** Speed of a made-up engine that loses two per cent 0.10 leaner and 0.18 richer than its best. */
    private static double rpm(double phi) {
        double t = (phi - BEST) / (phi > BEST ? 0.18 : 0.10);
        return 800.0 * (1.0 - 0.02 * t * t);
    }

    private static IdleReading reading(double turns, double phi) {
        return new IdleReading(turns, 0, rpm(phi), 0.4, 60e3 * rpm(phi) / 800.0, 40, phi, 0.001, 0.008, Double.NaN);
    }

    private static IdleCurve curve(double... phis) {
        List<IdleReading> readings = new ArrayList<>();
        for (double phi : phis) {
            readings.add(reading(phi / 0.3, phi));
        }
        return IdleCurve.of(readings);
    }

    @DataProvider
    Object[][] drives() {
        return new Object[][] {{curve(1.11, 1.13)}, {curve(1.11, 1.13, 1.10)}, {curve(1.0, 1.1, 1.25)}};
    }

    @Test(dataProvider = "drives")
    public void noReadingTeachesMoreThanThereIsToLearn(IdleCurve c) {
        for (School s : List.of(School.HIGHEST_SPEED, School.LEAN_BEST, School.MIDDLE)) {
            double sd = c.finish(aim(s)).sd();
            for (double u = 0.95; u < 1.35; u += 0.01) {
                assertThat(c.teaches(u, 1.11, aim(s), 0.001)).as("%s at %.2f", s, u).isLessThanOrEqualTo(sd * sd);
            }
        }
    }

    @Test
    public void aReadingWhereItWasJustReadTeachesHardlyAnythingAndOneOnTheFlankMuch() {
        IdleCurve c = curve(1.11, 1.13);
        double sd = c.finish(aim(School.MIDDLE)).sd();
        assertThat(c.teaches(1.13, 1.13, aim(School.MIDDLE), 0.001)).isLessThan(0.02 * sd * sd);
        assertThat(c.teaches(1.04, 1.13, aim(School.MIDDLE), 0.001)).isGreaterThan(0.08 * sd * sd);
    }

    @Test
    public void aJetThatIsLoweredDoesNotBendAsAScrewDoes() {
        IdleCurve c = curve(1.02, 1.07, 1.12, 1.2, 1.3);
        double screw = c.finish(aim(School.MIDDLE)).u();
        double jet = c.finish(new IdleCurve.Aim(School.MIDDLE, 1.1, Reach.of(true).bend())).u();
        // Two per cent are lost 0.10 leaner and 0.18 richer: half of what lies between is 0.14.
        assertThat(jet).isCloseTo(BEST + 0.5 * (0.18 - 0.10), within(0.008));
        assertThat(screw - jet).isCloseTo(Reach.SCREWS.bend() * 0.14 * 0.14, within(0.0015));
    }

    @Test
    public void theMiddleIsRicherThanHalfwayBetweenTheMixturesSinceAScrewBends() {
        // Two per cent are lost at 1.02 and at 1.30: halfway is 1.16, half of the turns a little richer.
        double u = curve(1.02, 1.07, 1.12, 1.2, 1.3).finish(aim(School.MIDDLE)).u();
        assertThat(u).isCloseTo(1.16 + 0.3 * 0.14 * 0.14, within(0.0005));
    }

    @Test
    public void aReadingFarDownAFlankDoesNotMoveTheBest() {
        // Where cylinders miss, speed falls off a cliff that no parabola has.
        List<IdleReading> near = List.of(reading(3.5, 1.05), reading(3.7, 1.11), reading(3.9, 1.17),
                reading(4.1, 1.23));
        List<IdleReading> with = new ArrayList<>(near);
        with.add(new IdleReading(3.0, 0, 700, 0.4, 52e3, 40, 0.93, 0.001, 0.02, Double.NaN));
        double best = IdleCurve.of(near).finish(aim(School.HIGHEST_SPEED)).u();
        assertThat(IdleCurve.of(with).finish(aim(School.HIGHEST_SPEED)).u()).isCloseTo(best, within(0.012));
        assertThat(best).isCloseTo(BEST, within(0.015));
    }
}
