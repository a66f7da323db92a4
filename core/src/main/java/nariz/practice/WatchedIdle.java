package nariz.practice;

import java.util.Optional;
import nariz.idle.IdleReading;
import nariz.idle.SettledAverage;
import nariz.sim.RunningEngine;

/** Reads a practice engine's idle as the guide does in a running workshop, as fast as it can be computed. */
public final class WatchedIdle {
    private static final double HZ = 20;
    private static final double LONGEST_S = 40;

    private WatchedIdle() {
    }

    /**
     * Lets it run until it has settled and an average is worth something; started again where it dies.
     *
     * @param e engine; it has run on afterwards
     * @param mixed whether the mixture is read, or speed and vacuum alone
     * @return the average, or empty where it would not keep running or settle for 40 s
     */
    public static Optional<IdleReading> read(RunningEngine e, boolean mixed) {
        SettledAverage a = new SettledAverage();
        for (double t = 0; t < LONGEST_S && a.reading().isEmpty(); t += 1 / HZ) {
            e.run(1 / HZ);
            if (e.stalled()) {
                e.start();
                a.restart();
            }
            RunningEngine.Reading r = e.read();
            a.add(r.timeS(), r.rpm(), r.vacuumPa(), mixed ? r.lambda() : Double.NaN, mixed ? r.lambda2() : Double.NaN);
        }
        return a.reading();
    }
}
