package nariz.estimation;

import java.util.Arrays;
import java.util.stream.IntStream;
import nariz.log.Channel;
import nariz.log.DriveLog;

/** The speed at which an engine idles in a log, whatever the sheet says. */
public final class IdleSpeed {
    /** Less idle than this is a stop between two gears, s. */
    private static final double LEAST_S = 8.0;
    /** Shares of the sheet's idle speed between which an engine may idle. */
    private static final double SLOWEST = 0.4;
    private static final double FASTEST = 2.0;
    private static final double SHUT = 0.02;
    private static final double STANDING_MPS = 1.0;

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
}
