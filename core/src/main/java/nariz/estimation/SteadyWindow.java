package nariz.estimation;

import nariz.units.Units;

/**
 * Tells sample by sample whether the engine runs steadily: over the memory before a moment, vacuum stayed within
 * {@link #VACUUM_SPAN_PA} (twice that at a loping idle), throttle within {@link #THROTTLE_SPAN}, speed within
 * {@link #SPEED_SPAN}, and nothing broke the log. Looks only back, so that a log that is still growing is judged like a
 * finished one.
 */
final class SteadyWindow {
    /** What the sensor and the walls remember, s: film and lag have mostly gone after it. */
    static final double MEMORY_S = 1.3;
    /** Pa; a steady cruise wanders by about one inch of mercury. */
    private static final double VACUUM_SPAN_PA = 1.3 * Units.INHG;
    /** Share of the pedal's travel; a foot held still trembles by two per cent. */
    private static final double THROTTLE_SPAN = 0.03;
    /** Share of the speed. */
    private static final double SPEED_SPAN = 0.30;
    /** Vacuum is smoothed over this time first, s: single intake strokes are no change of load. */
    private static final double SMOOTHING_S = 0.15;

    private final double memoryS;
    private final boolean pedal;
    private final SlidingSpan vacuum = new SlidingSpan();
    private final SlidingSpan throttle = new SlidingSpan();
    private final SlidingSpan speed = new SlidingSpan();
    private double[] times = new double[256];
    private int i = -1;
    private int from;
    private double firstS;
    private double lastS;
    private double brokenS = Double.NEGATIVE_INFINITY;
    private double smoothed = Double.NaN;

    /**
     * An empty window.
     *
     * @param memoryS how far back it looks, s
     * @param pedal whether throttle is logged
     */
    SteadyWindow(double memoryS, boolean pedal) {
        this.memoryS = memoryS;
        this.pedal = pedal;
    }

    /**
     * Takes a sample.
     *
     * @param t time, s, later than the one before
     * @param vacuumPa vacuum, Pa; NaN where missing
     * @param rpm speed, rpm
     * @param throttleShare throttle, 0 to 1; of no account without a pedal
     * @param idle whether this is idle, where a cam may lope
     * @param broken whether time jumped or the throttle was shut above idle: what follows is not steady yet
     * @return whether something moved within the memory
     */
    boolean moving(double t, double vacuumPa, double rpm, double throttleShare, boolean idle, boolean broken) {
        i++;
        double dt = i == 0 ? 1.0 : t - lastS;
        firstS = i == 0 ? t : firstS;
        lastS = t;
        if (!Double.isNaN(vacuumPa)) {
            smoothed = Double.isNaN(smoothed) ? vacuumPa
                    : smoothed + (vacuumPa - smoothed) * Math.min(1.0, dt / SMOOTHING_S);
        }
        remember(t);
        vacuum.add(i, smoothed);
        speed.add(i, rpm);
        if (pedal) {
            throttle.add(i, throttleShare);
        }
        while (t - times[from & (times.length - 1)] > memoryS) {
            from++;
        }
        vacuum.dropBefore(from);
        speed.dropBefore(from);
        throttle.dropBefore(from);
        if (broken) {
            brokenS = t;
        }
        double allowed = idle ? 2.0 * VACUUM_SPAN_PA : VACUUM_SPAN_PA;
        return vacuum.span() > allowed || speed.span() > SPEED_SPAN * rpm || (pedal && throttle.span() > THROTTLE_SPAN)
                || t - brokenS < memoryS || t - firstS < memoryS;
    }

    /** Times back to {@link #from} in a ring whose length is a power of two. */
    private void remember(double t) {
        if (i - from >= times.length) {
            double[] more = new double[2 * times.length];
            for (int k = from; k < i; k++) {
                more[k & (more.length - 1)] = times[k & (times.length - 1)];
            }
            times = more;
        }
        times[i & (times.length - 1)] = t;
    }
}
