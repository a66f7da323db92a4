package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

/** Drives whose mixture is the sheet's own, burnt from a film of known size: nothing but the film is to be found. */
public class WallFilmTest {
    private static final double TAU_S = 1.7;

    private static Observation with(double share, double power) {
        DriveLog log = DemoDrive.drive().log();
        Observation first = Observation.of(log, DemoDrive.sheet(), () -> false);
        double[] burnt = burnt(first, share, power);
        double[] lambda = new double[log.size()];
        for (int i = 0; i < lambda.length; i++) {
            double phi = burnt[first.stateOf(i)];
            lambda[i] = Double.isNaN(phi) ? log.lambda()[i] : 1.0 / phi;
        }
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> channels.put(c, log.values(c)));
        channels.put(Channel.LAMBDA, lambda);
        return Observation.of(new DriveLog("film", channels, List.of(), 0), DemoDrive.sheet(), () -> false);
    }

    /** Euler's method, as the equation is written; not the exponential steps of the class under test. */
    private static double[] burnt(Observation o, double share, double power) {
        double[] t = o.log().timeS();
        double[] out = new double[t.length];
        double film = 0.0;
        for (int i = 0; i < t.length; i++) {
            double f = o.predictedPhi(i) * o.airKgPerS(i);
            double load = 1.0 - o.log().vacuumPa()[i] / o.sheet().ambient().pressurePa();
            double wets = share * Math.pow(Math.clamp(load, 0.0, 1.0), power);
            out[i] = Double.isNaN(f) ? Double.NaN : o.predictedPhi(i) * (1.0 - wets + (f > 0 ? film / TAU_S / f : 0.0));
            if (!Double.isNaN(f) && i + 1 < t.length) {
                film += (t[i + 1] - t[i]) * (wets * f - film / TAU_S);
            }
        }
        return out;
    }

    @Test
    public void filmThatGrowsSteeplyWithLoadIsFound() {
        WallFilm f = with(0.3, 2.5).film();
        assertThat(f.share()).isEqualTo(0.3, within(0.1));
        assertThat(f.timeS()).isEqualTo(TAU_S, within(0.55));
    }

    @Test
    public void fullLoadIsPutRightWhateverTheLawOfTheFilm() {
        for (double power : new double[] {1.0, 4.0}) {
            Observation o = with(0.3, power);
            double off = 0.0;
            double raw = 0.0;
            int n = 0;
            for (int i = 0; i < o.log().size(); i++) {
                int s = o.stateOf(i);
                if (o.flag(i) == Flag.STEADY && o.log().vacuumPa()[s] < 7e3) {
                    off += Math.log(o.measuredPhi(i) * o.film().settles(s) / o.predictedPhi(s));
                    raw += Math.log(o.measuredPhi(i) / o.predictedPhi(s));
                    n++;
                }
            }
            assertThat(raw / n).as("raw, power %s", power).isLessThan(-0.02);
            assertThat(Math.abs(off / n)).as("put right, power %s", power).isLessThan(0.4 * Math.abs(raw / n));
        }
    }

    @Test
    public void wallsThatStayDryStayDry() {
        Observation o = with(0.0, 1.0);
        assertThat(o.film().share()).isLessThan(0.11);
        assertThat(o.film().settles(o.log().size() / 2)).isEqualTo(1.0, within(0.02));
    }

    @Test
    public void wallsMoveInAPullAndRestAtIdle() {
        Observation o = with(0.3, 2.5);
        double pull = 0.0;
        double idle = 1.0;
        for (int i = 0; i < o.log().size(); i++) {
            if (o.flag(i) == Flag.STEADY) {
                double perS = o.film().perS(o.stateOf(i), 0.5);
                if (o.log().vacuumPa()[o.stateOf(i)] < 7e3) {
                    pull = Math.max(pull, perS);
                } else if (o.atIdle(o.stateOf(i))) {
                    idle = Math.min(idle, perS);
                }
            }
        }
        assertThat(pull).isGreaterThan(0.02);
        assertThat(idle).isLessThan(0.001);
        assertThat(o.film().perS(0, 0.5)).isInfinite();
    }
}
