package nariz.practice;

import java.util.Optional;
import nariz.idle.IdleReading;
import nariz.idle.SettledAverage;
import nariz.sim.RunningEngine;

/** Reads a practice engine's idle as the guide does in a running workshop, as fast as it can be computed. */
public final class WatchedIdle {
    private static final double HZ = 20;
    /** What died and was started again is given up after this; what keeps running may lope, and is read longer. */
    private static final double LONGEST_S = 40;
    private static final double LONGEST_RUNNING_S = 90;
    private static final double LEAST_RPM = 250.0;
    private static final double SPREAD_RPM = 60.0;
    private static final double LEAST_VACUUM_PA = 3e3;
    private static final double SPREAD_PHI = 0.05;

    private WatchedIdle() {
    }

    /**
     * Lets it run until it has settled and an average is worth something; started again where it dies.
     *
     * @param e engine; it has run on afterwards
     * @param mixed whether the mixture is read, or speed and vacuum alone
     * @return the average, or empty where it would not keep running or settle
     */
    public static Optional<IdleReading> read(RunningEngine e, boolean mixed) {
        SettledAverage a = new SettledAverage();
        double longestS = LONGEST_RUNNING_S;
        for (double t = 0; t < longestS && a.reading().isEmpty(); t += 1 / HZ) {
            e.run(1 / HZ);
            if (e.stalled()) {
                longestS = LONGEST_S;
                e.start();
                a.restart();
            }
            RunningEngine.Reading r = e.read();
            a.add(r.timeS(), r.rpm(), r.vacuumPa(), mixed ? r.lambda() : Double.NaN, mixed ? r.lambda2() : Double.NaN);
        }
        return a.reading();
    }

    /**
     * The same, and where it will not keep running what gauges show while somebody holds it alive.
     *
     * @param e engine; it has run on afterwards
     * @param mixed whether the mixture is read, or speed and vacuum alone
     * @return the average, with wide spreads where it would not keep running
     */
    public static IdleReading readHeldAlive(RunningEngine e, boolean mixed) {
        return read(e, mixed).orElseGet(() -> heldAlive(e, mixed));
    }

    static IdleReading heldAlive(RunningEngine e, boolean mixed) {
        RunningEngine.Reading r = e.read();
        return new IdleReading(0, 0, Math.max(LEAST_RPM, r.rpm()), SPREAD_RPM, Math.max(LEAST_VACUUM_PA,
                r.vacuumPa()), LEAST_VACUUM_PA, mixed ? 1 / r.lambda() : Double.NaN, SPREAD_PHI, Double.NaN,
                Double.NaN);
    }
}
