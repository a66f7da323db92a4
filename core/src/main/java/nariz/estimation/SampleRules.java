package nariz.estimation;

import nariz.units.Units;

/**
 * Why a single sample does not count, whatever the ones around it do. The same rules for a finished log and for one
 * that is still growing, which may know its own idle only later.
 *
 * @param idleRpm idle speed on the sheet, rpm
 * @param idleVacuumPa vacuum at idle, Pa
 * @param gapS time between two samples from which on something is missing between them, s
 */
record SampleRules(double idleRpm, double idleVacuumPa, double gapS) {
    private static final double LOW_RAIL = 10.05 / Units.PETROL_GAUGE_STOICH;
    private static final double HIGH_RAIL = 19.9 / Units.PETROL_GAUGE_STOICH;
    /** Faster than this share of the idle speed with the throttle shut is overrun. */
    private static final double FAST = 1.25;
    /** No engine pulls more than this at any load, Pa. */
    private static final double DEEP_PA = 20.5 * Units.INHG;
    /** Deeper than idle by this is overrun, Pa. */
    private static final double DEEPER_PA = 2.0 * Units.INHG;
    private static final double SHUT = 0.006;
    /** Idle: throttle under this share, speed within these shares of the sheet's, vacuum usually over this, Pa. */
    static final double IDLE_SHUT = 0.012;
    static final double SLOWEST_IDLE = 0.6;
    static final double FASTEST_IDLE = 1.3;
    static final double IDLE_PA = 6.0 * Units.INHG;

    /**
     * Judges a sample.
     *
     * @param stepS time since the one before, s; 0 for the first
     * @param lambda reading, NaN where it or what is needed to judge it is missing
     * @param rpm speed, rpm
     * @param vacuumPa vacuum, Pa
     * @param throttle share of its travel, NaN where unknown
     * @param cold whether the engine is cold
     * @return the first reason, or {@link Flag#STEADY} when there is none
     */
    Flag reason(double stepS, double lambda, double rpm, double vacuumPa, double throttle, boolean cold) {
        if (Double.isNaN(lambda)) {
            return Flag.MISSING;
        }
        if (lambda <= LOW_RAIL || lambda >= HIGH_RAIL) {
            return Flag.RAIL;
        }
        if (cold) {
            return Flag.COLD;
        }
        boolean fast = rpm > FAST * idleRpm;
        if (fast && (vacuumPa > Math.max(idleVacuumPa + DEEPER_PA, DEEP_PA) || throttle < SHUT)) {
            return Flag.OVERRUN;
        }
        return stepS > gapS ? Flag.GAP : Flag.STEADY;
    }

    /**
     * Whether a sample is of curb idle.
     *
     * @param idleRpm idle speed on the sheet, rpm
     * @param rpm speed, rpm
     * @param vacuumPa vacuum, Pa
     * @param throttle share of its travel, NaN where unknown
     * @param leastPa vacuum under which this engine does not idle, Pa
     * @return true at idle
     */
    static boolean idle(double idleRpm, double rpm, double vacuumPa, double throttle, double leastPa) {
        boolean shut = Double.isNaN(throttle) || throttle < IDLE_SHUT;
        return shut && rpm > SLOWEST_IDLE * idleRpm && rpm < FASTEST_IDLE * idleRpm && vacuumPa > leastPa;
    }
}
