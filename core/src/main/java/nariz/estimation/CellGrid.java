package nariz.estimation;

import nariz.units.Units;

/**
 * How running is gathered into cells of engine speed and vacuum: finer under load, where mixture changes with vacuum.
 */
final class CellGrid {
    /** Key of curb idle, a cell of its own. */
    static final long IDLE = -1L;
    private static final double FINE_TO_INHG = 12.0;
    private static final double FINE_INHG = 0.75;
    private static final double COARSE_INHG = 1.5;
    private static final double SLOWEST_RPM = 300.0;
    /** Neighbouring cells are 14 % apart in speed. */
    private static final double LOG_STEP = 0.13;
    private static final long ROW = 1000;

    private CellGrid() {
    }

    /**
     * Key of the cell of a state.
     *
     * @param rpm speed, rpm
     * @param vacuumPa vacuum, Pa
     * @return its key
     */
    static long key(double rpm, double vacuumPa) {
        double inHg = Math.max(0.0, vacuumPa) / Units.INHG;
        long v = (long) (inHg < FINE_TO_INHG ? inHg / FINE_INHG
                : FINE_TO_INHG / FINE_INHG + (inHg - FINE_TO_INHG) / COARSE_INHG);
        return (long) Math.floor(Math.log(rpm / SLOWEST_RPM) / LOG_STEP) * ROW + v;
    }
}
