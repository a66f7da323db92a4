package nariz.estimation;

import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.units.Units;
import org.jspecify.annotations.Nullable;

/**
 * Whether an engine is warm: by its coolant, where none is logged by its oil, by its cylinder head, or at last by the
 * time since it was started. Without any of them it counts as warm.
 *
 * <p>The limits are judgement: below 65 °C of coolant a thermostat is still shut and a choke or a cold manifold
 * enriches; oil follows the coolant minutes behind, so that 60 °C of oil is an engine whose coolant has long been hot;
 * the head of an engine without coolant reads well over 100 °C when it is; and five minutes of running warm most
 * engines.
 */
final class Warmth {
    private static final double COOLANT_K = Units.ZERO_CELSIUS_K + 65.0;
    private static final double OIL_K = Units.ZERO_CELSIUS_K + 60.0;
    private static final double HEAD_K = Units.ZERO_CELSIUS_K + 100.0;
    private static final double RUNNING_S = 300.0;

    private final double @Nullable [] values;
    private final double limit;

    private Warmth(double @Nullable [] values, double limit) {
        this.values = values;
        this.limit = limit;
    }

    static Warmth of(DriveLog log) {
        Channel[] order = {Channel.COOLANT, Channel.OIL_TEMPERATURE, Channel.HEAD_TEMPERATURE, Channel.RUN_TIME};
        double[] limits = {COOLANT_K, OIL_K, HEAD_K, RUNNING_S};
        for (int k = 0; k < order.length; k++) {
            if (log.has(order[k])) {
                return new Warmth(log.values(order[k]), limits[k]);
            }
        }
        return new Warmth(null, 0.0);
    }

    /** Whether a sample was read on a cold engine; a reading that is missing says nothing. */
    boolean cold(int i) {
        return values != null && values[i] < limit;
    }

    /** Whether coolant of this temperature, K, is cold; NaN is not. */
    static boolean coldCoolant(double coolantK) {
        return coolantK < COOLANT_K;
    }
}
