package nariz.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Locale;
import nariz.carburetor.BuildSheet;
import nariz.coverage.DrivePlan;
import nariz.estimation.Flag;
import nariz.sim.Demo;
import nariz.units.Units;
import org.testng.annotations.Test;

public class LiveReadingsTest {
    private static final BuildSheet SHEET = Demo.ESTATE.sheet();
    private static final String HEADER = "time (s),rpm (1/min),vacuum (inHg),lambda,throttle (%),coolant (C)";

    private static String row(double t, double rpm, double inHg, double lambda, double throttle, double coolant) {
        return String.format(Locale.ROOT, "%.3f,%.0f,%.2f,%.3f,%.1f,%.1f", t, rpm, inHg, lambda, throttle, coolant);
    }

    private static LiveReadings begun(List<DrivePlan.Item> wanted) {
        LiveReadings l = new LiveReadings(SHEET, null, wanted);
        l.add(HEADER);
        return l;
    }

    @Test
    public void momentCarriesTrendSpreadAndTheCircuitThatSpeaks() {
        LiveReadings l = begun(List.of());
        for (int i = 0; i < 800; i++) {
            l.add(row(0.05 * i, 800, 17.5, 0.90 + 0.001 * 0.05 * i + (i % 2 == 0 ? 0.002 : -0.002), 0, 85));
        }
        LiveReadings.Now now = l.now();
        assertThat(now.mixture().perS()).isCloseTo(0.001, within(1e-4));
        assertThat(now.mixture().sd()).isCloseTo(0.002, within(1e-3));
        assertThat(now.vacuumPa()).isCloseTo(17.5 * Units.INHG, within(1.0));
        assertThat(now.warm()).isTrue();
        assertThat(now.flag()).isEqualTo(Flag.STEADY);
        assertThat(now.strip()[0].length).isCloseTo(600, within(2));
        int speaks = LiveReadings.speaking(now.shares());
        assertThat(SHEET.carburetor().family().circuits().get(speaks).role().name()).isIn("IDLE", "PROGRESSION");
    }

    @Test
    public void coldEngineIsSaidToBeCold() {
        LiveReadings l = begun(List.of());
        for (int i = 0; i < 100; i++) {
            l.add(row(0.05 * i, 800, 17.5, 0.9, 0, 40));
        }
        assertThat(l.now().warm()).isFalse();
        assertThat(l.now().flag()).isEqualTo(Flag.COLD);
    }

    @Test
    public void leanUnderLoadWarnsAndASpikeDoesNot() {
        LiveReadings l = begun(List.of());
        double t = 0;
        for (int i = 0; i < 100; i++, t += 0.05) {
            // A spike of 0.3 s in every two.
            l.add(row(t, 3000, 0.5, i % 40 < 6 ? 1.15 : 0.87, 100, 85));
            assertThat(l.now().lean()).isFalse();
        }
        for (int i = 0; i < 20; i++, t += 0.05) {
            l.add(row(t, 3000, 0.5, 1.08, 100, 85));
        }
        assertThat(l.now().lean()).isTrue();
        l.mute();
        l.add(row(t, 3000, 0.5, 1.08, 100, 85));
        assertThat(l.now().lean()).isFalse();
        for (int i = 0; i < 120; i++, t += 0.05) {
            l.add(row(t, 3000, 0.5, 1.08, 100, 85));
        }
        assertThat(l.now().lean()).isTrue();
        for (int i = 0; i < 120; i++, t += 0.05) {
            // The same mixture at light load is as it should be.
            l.add(row(t, 2500, 14, 1.08, 12, 85));
        }
        assertThat(l.now().lean()).isFalse();
    }

    @Test
    public void listIsTickedOffAsItIsDriven() {
        DrivePlan plan = DrivePlan.of(SHEET);
        assertThat(plan.items()).isNotEmpty().allMatch(i -> i.read() == 0);
        LiveReadings l = begun(plan.items());
        for (int i = 0; i < 900; i++) {
            l.add(row(0.05 * i, SHEET.engine().idleRpm(), 17.5, 0.93, 0, 85));
        }
        double[] read = l.now().read();
        assertThat(read[0]).isGreaterThan(plan.items().getFirst().wanted());
        assertThat(java.util.Arrays.stream(read).skip(1).sum()).isZero();
    }

    /** Eight hours at 20 Hz; what is kept of them is half a minute. */
    @Test
    public void eightHoursTakeNoMoreRoomThanOne() {
        LiveReadings l = begun(List.of());
        long[] used = new long[2];
        int hour = 20 * 3600;
        for (int i = 0; i < 8 * hour; i++) {
            l.add(row(0.05 * i, 800 + i % 7, 17.5, 0.93, 0, 85));
            if (i == hour || i == 8 * hour - 1) {
                System.gc();
                used[i == hour ? 0 : 1] = Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
            }
        }
        assertThat(l.now().rows()).isGreaterThan(8 * hour - 20);
        // Less than the two bytes a reading that a recording takes.
        assertThat(used[1] - used[0]).isLessThan(4_000_000);
    }
}
