package nariz.estimation;

import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import nariz.carburetor.Ambient;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.DeliveryModel;
import nariz.units.Units;

/**
 * Flags and cells of a drive that is still being driven, sample by sample, by the rules of {@link Observation}. What
 * only the whole log tells is taken as usual: vacuum at idle, exhaust volume, sensor lag. When the drive is over the
 * observation of its log takes the place of this.
 */
public final class LiveRunning {
    private static final double USUAL_IDLE_PA = 16.0 * Units.INHG;
    private static final double USUAL_GAP_S = 0.5;
    /** States kept to look back to, a power of two: at 200 Hz more than the longest delay. */
    private static final int KEPT = 512;

    private final BuildSheet sheet;
    private final DeliveryModel model;
    private final SampleRules rules;
    private final SteadyWindow window;
    private final double[] time = new double[KEPT];
    private final double[] rpm = new double[KEPT];
    private final double[] vacuum = new double[KEPT];
    private final boolean[] idle = new boolean[KEPT];
    private final boolean[] moving = new boolean[KEPT];
    private final Map<Long, Sums> cells = new HashMap<>();
    private int n;
    private double lastS;
    private double steadyS;

    /**
     * Running gathered so far in one cell.
     *
     * @param rpm mean speed, rpm
     * @param vacuumPa mean vacuum, Pa
     * @param dwellS time, s
     * @param phi mean 1/lambda
     * @param idle whether this is curb idle
     */
    public record LiveCell(double rpm, double vacuumPa, double dwellS, double phi, boolean idle) {
    }

    private static final class Sums {
        private final boolean idle;
        private int count;
        private double rpm;
        private double vacuum;
        private double phi;
        private double dwell;

        Sums(boolean idle) {
            this.idle = idle;
        }
    }

    /**
     * Nothing driven yet.
     *
     * @param sheet what is fitted
     * @param throttled whether the throttle is logged
     */
    public LiveRunning(BuildSheet sheet, boolean throttled) {
        this.sheet = sheet;
        model = sheet.carburetor().family().model(sheet);
        rules = new SampleRules(sheet.engine().idleRpm(), USUAL_IDLE_PA, USUAL_GAP_S);
        window = new SteadyWindow(SteadyWindow.MEMORY_S, throttled);
    }

    /**
     * Takes a sample.
     *
     * @param timeS time, s, later than the one before
     * @param speedRpm speed, rpm; NaN where missing
     * @param vacuumPa vacuum, Pa; NaN where missing
     * @param lambda reading; NaN where missing
     * @param throttle share of its travel; NaN where unknown
     * @param coolantK coolant, K; NaN where unknown
     * @return why it does not count toward steady running, or {@link Flag#STEADY}
     */
    public Flag add(double timeS, double speedRpm, double vacuumPa, double lambda, double throttle, double coolantK) {
        int at = n & (KEPT - 1);
        double step = n == 0 ? 0.0 : timeS - lastS;
        time[at] = timeS;
        rpm[at] = speedRpm;
        vacuum[at] = vacuumPa;
        idle[at] = SampleRules.idle(sheet.engine().idleRpm(), speedRpm, vacuumPa, throttle,
                SampleRules.IDLE_PA);
        boolean known = speedRpm > 0.0 && !Double.isNaN(vacuumPa);
        Flag why = rules.reason(step, known ? lambda : Double.NaN, speedRpm, vacuumPa, throttle,
                Warmth.coldCoolant(coolantK));
        moving[at] = window.moving(timeS, vacuumPa, speedRpm, throttle, idle[at], why == Flag.GAP
                || why == Flag.OVERRUN);
        lastS = timeS;
        n++;
        if (why != Flag.STEADY) {
            return why;
        }
        int state = stateOf(timeS, speedRpm, vacuumPa);
        if (moving[at] || moving[state]) {
            return Flag.TRANSIENT;
        }
        Sums s = cells.computeIfAbsent(idle[state] ? CellGrid.IDLE : CellGrid.key(rpm[state], vacuum[state]),
                k -> new Sums(idle[state]));
        s.count++;
        s.rpm += rpm[state];
        s.vacuum += Math.max(0.0, vacuum[state]);
        s.phi += 1.0 / lambda;
        s.dwell += Math.min(step, USUAL_GAP_S);
        steadyS += Math.min(step, USUAL_GAP_S);
        return Flag.STEADY;
    }

    /** Where the state stands that a reading of now belongs to: one usual delay back. */
    private int stateOf(double timeS, double speedRpm, double vacuumPa) {
        double air = model.airKgPerS(speedRpm, sheet.ambient().pressurePa() - vacuumPa);
        double gas = air * Ambient.R_AIR * SensorAlignment.EXHAUST_K / sheet.ambient().pressurePa();
        double volume = SensorAlignment.USUAL_VOLUME * sheet.engine().displacementM3();
        double flown = SensorAlignment.CYCLES * 120.0 / speedRpm + volume / gas;
        double delay = Math.min(SensorAlignment.LONGEST_DELAY_S, flown) + SensorAlignment.USUAL_LAG_S;
        int k = n - 1;
        int first = Math.max(0, n - KEPT);
        while (k > first && time[k & (KEPT - 1)] > timeS - delay) {
            k--;
        }
        return k & (KEPT - 1);
    }

    /**
     * Whether an engine is cold.
     *
     * @param coolantK coolant, K; NaN where unknown
     * @return false where it is unknown
     */
    public static boolean cold(double coolantK) {
        return Warmth.coldCoolant(coolantK);
    }

    /** {@return steady time so far, s} */
    public double steadyS() {
        return steadyS;
    }

    /** {@return cells so far, longest stay first} */
    public List<LiveCell> cells() {
        return cells.values().stream().map(s -> new LiveCell(s.rpm / s.count, s.vacuum / s.count, s.dwell,
                s.phi / s.count, s.idle)).sorted(Comparator.comparingDouble(LiveCell::dwellS).reversed()).toList();
    }
}
