package nariz.sim;

import java.util.Arrays;

/**
 * What two sensors, one a bank, make of the gas of a running engine: it gets there a cycle and the exhaust's volume
 * later, overlap lets air through at idle, and the sensor lags.
 */
final class ExhaustColumn {
    private static final int ROWS = 1024;
    private static final double EXHAUST_K = 700;
    /** Gas that stands still gets there after so long, s. */
    private static final double STANDING_S = 2.0;
    private static final double STANDS_RPM = 100;

    private final Quirks quirks;
    private final double idleAir;
    private final double ambientPa;
    private final double[] gas = new double[2 * ROWS];
    private final double[] sensed = {1.0, 1.0};
    private int at;

    /**
     * A column of gas at lambda 1.
     *
     * @param quirks volume, lag and overlap of the engine
     * @param idleAir what it draws at the idle on the sheet, kg/s
     * @param ambientPa Pa
     */
    ExhaustColumn(Quirks quirks, double idleAir, double ambientPa) {
        this.quirks = quirks;
        this.idleAir = idleAir;
        this.ambientPa = ambientPa;
        Arrays.fill(gas, 1.0);
    }

    /**
     * One step of {@value RunningEngine#STEP_S} s.
     *
     * @param one lambda burnt by the first bank
     * @param two by the second
     * @param drawn air, kg/s
     * @param rpm speed
     */
    void pass(double one, double two, double drawn, double rpm) {
        at = (at + 1) % ROWS;
        gas[at] = one;
        gas[ROWS + at] = two;
        double delay = rpm < STANDS_RPM ? STANDING_S : 1.2 * 120.0 / rpm + quirks.exhaustM3 * ambientPa
                / (287.0 * EXHAUST_K * Math.max(drawn, 1e-5));
        int from = Math.floorMod(at - (int) Math.min(ROWS - 2, delay / RunningEngine.STEP_S), ROWS);
        double lean = 1.0 + quirks.readsLeanAtIdle * Math.pow(Math.min(1.0, idleAir / Math.max(drawn, 1e-5)), 2);
        for (int b = 0; b < 2; b++) {
            sensed[b] += (gas[b * ROWS + from] * lean - sensed[b]) * RunningEngine.STEP_S / quirks.sensorLagS;
        }
    }

    /** {@return what a bank's sensor has come to, lambda without noise; bank 0 or 1} */
    double sensed(int bank) {
        return sensed[bank];
    }
}
