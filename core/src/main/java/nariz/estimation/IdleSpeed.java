package nariz.estimation;

import java.util.Arrays;
import java.util.stream.IntStream;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.units.Units;

/** The speed at which an engine idles in a log, whatever the sheet says. */
public final class IdleSpeed {
    /** Less idle than this is a stop between two gears, s. */
    private static final double LEAST_S = 8.0;
    /** Shares of the sheet's idle speed between which an engine may idle. */
    private static final double SLOWEST = 0.4;
    private static final double FASTEST = 2.0;
    private static final double SHUT = 0.02;
    private static final double STANDING_MPS = 1.0;

    /** Settled idle: this near the speed a second before and near the sheet's, throttle shut or the car standing. */
    private static final double SETTLED_S = 1.0;
    private static final double SETTLED_SHARE = 0.12;
    /** No engine idles on less vacuum; a hose on a ported nipple reads less. */
    private static final double LOWEST_PA = 2.5 * Units.INHG;

    private IdleSpeed() {
    }

    /**
     * Median speed of settled running with the throttle shut and the car standing; without a throttle channel, of what
     * counts as idle by the sheet's speed and vacuum.
     *
     * @param o observation
     * @return rpm; the sheet's where the log holds no idle
     */
    public static double of(Observation o) {
        DriveLog log = o.log();
        double expected = o.sheet().engine().idleRpm();
        double[] speed = IntStream.range(0, log.size()).filter(i -> o.flag(i) == Flag.STEADY && log.rpm()[i] > SLOWEST
                * expected && log.rpm()[i] < FASTEST * expected && shut(o, i) && !(log.has(Channel.SPEED)
                && log.values(Channel.SPEED)[i] > STANDING_MPS)).mapToDouble(i -> log.rpm()[i]).sorted().toArray();
        double step = log.durationS() / Math.max(1, log.size() - 1);
        return speed.length * step < LEAST_S ? expected : Arrays.stream(speed).skip(speed.length / 2).findFirst()
                .orElse(expected);
    }

    private static boolean shut(Observation o, int i) {
        return o.log().has(Channel.THROTTLE) ? o.log().values(Channel.THROTTLE)[i] < SHUT : o.atIdle(i);
    }

    /**
     * Vacuum under which an engine does not idle: usually 6 inHg, but a big cam may idle at 5. Where the log holds
     * settled running at about the idle speed with the throttle shut (or, without a throttle channel, the car standing)
     * its median vacuum says so, and two thirds of it is the limit.
     *
     * @param log drive
     * @param idleRpm idle speed on the sheet, rpm
     * @return Pa
     */
    static double leastVacuumPa(DriveLog log, double idleRpm) {
        double step = log.durationS() / Math.max(1, log.size() - 1);
        int back = (int) Math.max(1, Math.round(SETTLED_S / Math.max(1e-3, step)));
        double[] rpm = log.rpm();
        double[] vacuum = IntStream.range(back, log.size()).filter(i -> rpm[i] > SampleRules.SLOWEST_IDLE * idleRpm
                && rpm[i] < SampleRules.FASTEST_IDLE * idleRpm && Math.abs(
                rpm[i] - rpm[i - back]) < SETTLED_SHARE * idleRpm
                && log.vacuumPa()[i] > LOWEST_PA && still(log, i)).mapToDouble(i -> log.vacuumPa()[i]).sorted()
                .toArray();
        return vacuum.length * step < LEAST_S ? SampleRules.IDLE_PA
                : Math.min(SampleRules.IDLE_PA, vacuum[vacuum.length / 2] * 2.0 / 3.0);
    }

    private static boolean still(DriveLog log, int i) {
        return log.has(Channel.THROTTLE) ? log.values(Channel.THROTTLE)[i] < SampleRules.IDLE_SHUT
                : log.has(Channel.SPEED) && log.values(Channel.SPEED)[i] < STANDING_MPS;
    }
}
