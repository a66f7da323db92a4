package nariz.dynamics;

import java.util.ArrayList;
import java.util.List;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.DriveLog;

/**
 * Finds the moments that show how fast a piston falls: the foot goes back to a smaller opening and stays there, where
 * what was wet before makes a sound engine rich and a piston that is slow to fall makes it lean.
 */
final class Falls {
    private static final double WITHIN_S = 0.35;
    private static final double RISES_PA = 4e3;
    /** The opening stays about as it is for this long. */
    private static final double HELD_S = 1.2;
    private static final double HELD_PA = 4e3;
    private static final double APART_S = 2.0;
    /** Deeper vacuum is the overrun's, and what misfires there reads lean; so does a blip that ends at idle. */
    private static final double DEEPEST = 0.6;
    private static final double ABOVE_IDLE = 1.5;

    private Falls() {
    }

    /**
     * Finds them.
     *
     * @param o drive made ready
     * @return events in the order of time, of which nothing was measured yet
     */
    static List<TipIn> of(Observation o) {
        List<TipIn> out = new ArrayList<>();
        DriveLog log = o.log();
        double[] t = log.timeS();
        double[] vacuum = log.vacuumPa();
        int from = 0;
        double notBefore = Double.NEGATIVE_INFINITY;
        for (int i = 1; i < t.length; i++) {
            while (t[i] - t[from] > WITHIN_S) {
                from++;
            }
            if (vacuum[i] - vacuum[from] > RISES_PA && t[from] >= notBefore) {
                notBefore = t[i] + APART_S;
                boolean driven = vacuum[i] < DEEPEST * o.sheet().ambient().pressurePa()
                        && log.rpm()[from] > ABOVE_IDLE * o.sheet().engine().idleRpm();
                if (driven && held(o, i)) {
                    out.add(TipIn.unmeasured(log, from, vacuum[i], false, HELD_S));
                }
            }
        }
        return out;
    }

    private static boolean held(Observation o, int from) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        double most = log.vacuumPa()[from];
        int i = from;
        for (; i < t.length && t[i] - t[from] < HELD_S; i++) {
            double v = log.vacuumPa()[i];
            most = Math.max(most, v);
            if (!(v > most - HELD_PA) || o.flag(i) == Flag.OVERRUN || log.excluded(i) || t[i] - t[Math.max(0, i - 1)]
                    > o.gapS()) {
                return false;
            }
        }
        return i < t.length;
    }
}
