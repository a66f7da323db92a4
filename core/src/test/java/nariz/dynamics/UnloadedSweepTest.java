package nariz.dynamics;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.IntToDoubleFunction;
import nariz.estimation.Observation;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.text.Message;
import nariz.units.Units;
import org.testng.annotations.Test;

/** Speeds held without load. */
public class UnloadedSweepTest {
    private static final double[] SPEEDS = {2000, 3000, 4000, 5000};
    private static final double HELD_S = 6.0;
    private static final double MOVES_S = 2.0;

    /** Idle, then every speed for six seconds, as a logger of ten hertz has it. */
    private static Observation held(IntToDoubleFunction lambda, double kmh) {
        Random r = new Random(4);
        int each = (int) Math.round(10 * (HELD_S + MOVES_S));
        int n = 100 + SPEEDS.length * each;
        Map<Channel, double[]> c = new EnumMap<>(Channel.class);
        for (Channel k : List.of(Channel.TIME, Channel.RPM, Channel.VACUUM, Channel.LAMBDA, Channel.SPEED)) {
            c.put(k, new double[n]);
        }
        for (int i = 0; i < n; i++) {
            int hold = Math.min(SPEEDS.length - 1, Math.max(0, (i - 100) / each));
            double into = (i - 100 - hold * each) / 10.0;
            double before = hold == 0 ? 820 : SPEEDS[hold - 1];
            double rpm = i < 100 ? 820 : into < MOVES_S ? before + (SPEEDS[hold] - before) * into / MOVES_S
                    : SPEEDS[hold];
            c.get(Channel.TIME)[i] = i / 10.0;
            c.get(Channel.RPM)[i] = rpm;
            c.get(Channel.VACUUM)[i] = (19.0 + 0.1 * r.nextGaussian()) * Units.INHG;
            c.get(Channel.LAMBDA)[i] = (i < 100 ? 0.95 : lambda.applyAsDouble(hold)) * (1 + 0.005 * r.nextGaussian());
            c.get(Channel.SPEED)[i] = kmh / 3.6;
        }
        return Observation.of(new DriveLog("held", c, List.of(), 0), DemoDrive.sheet(), () -> false);
    }

    @Test
    public void everyHeldSpeedIsReadAndWhatItCannotSayIsSaid() {
        UnloadedSweep s = UnloadedSweep.of(held(k -> 0.96 + 0.01 * k, 0.0));
        assertThat(s.holds()).hasSize(4);
        for (int k = 0; k < 4; k++) {
            assertThat(s.holds().get(k).rpm()).isEqualTo(SPEEDS[k], within(0.03 * SPEEDS[k]));
            assertThat(s.holds().get(k).lambda()).isEqualTo(0.96 + 0.01 * k, within(0.008));
            assertThat(s.holds().get(k).slot()).isBetween(0.0, 1.0);
        }
        assertThat(s.mostLoad()).isLessThan(0.5);
        assertThat(s.words()).last().extracting(Message::code).isEqualTo("sweep.says-nothing-of");
    }

    @Test
    public void aBoxThatThrottlesIsTold() {
        UnloadedSweep with = UnloadedSweep.of(held(k -> 0.97 - 0.015 * k, 0.0));
        UnloadedSweep without = UnloadedSweep.of(held(k -> 0.97, 0.0));
        assertThat(with.against(without)).hasSize(4);
        assertThat(with.against(without).getLast().mean()).isEqualTo(Math.log(0.97 / 0.925), within(0.01));
        assertThat(with.airBox(without)).extracting(Message::code).contains("sweep.leaner-without", "sweep.the-box");
        assertThat(without.airBox(UnloadedSweep.of(held(k -> 0.971, 0.0)))).extracting(Message::code).contains(
                "sweep.alike", "sweep.not-the-box").doesNotContain("sweep.the-box");
    }

    @Test
    public void aCarThatMovesHoldsNothing() {
        assertThat(UnloadedSweep.of(held(k -> 0.96, 60.0)).holds()).isEmpty();
        assertThat(UnloadedSweep.of(held(k -> 0.96, 60.0)).words()).isEmpty();
    }
}
