package nariz.dynamics;

import java.util.ArrayList;
import java.util.List;
import nariz.estimation.Observation;
import nariz.log.DriveLog;
import nariz.units.Units;

/**
 * Finds openings from closed throttle that are too slow for a stab: slack at a pump's arm takes up the whole of a small
 * movement, where of a stab it takes a tenth.
 */
final class GentleOpenings {
    /** Plates that stand no further open than this are shut: the channel's noise is half of it, rad. */
    private static final double SHUT_RAD = 0.7 * Units.DEG;
    /** A movement that a pump answers with a shot, and that slack of a size that is felt takes up whole, rad. */
    private static final double OPENS_RAD = 3.0 * Units.DEG;
    /** Slower ones are a drift that the walls follow, s. */
    private static final double WITHIN_S = 1.2;
    /** Apart from stabs and from each other, s. */
    private static final double APART_S = 2.0;

    private GentleOpenings() {
    }

    /**
     * Finds them.
     *
     * @param o drive made ready
     * @param stabs its quick openings, which are left out
     * @return events in the order of time, of which nothing was measured yet
     */
    static List<TipIn> of(Observation o, List<TipIn> stabs) {
        List<TipIn> out = new ArrayList<>();
        DriveLog log = o.log();
        double[] t = log.timeS();
        int shut = -1;
        double notBefore = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < t.length; i++) {
            double open = o.thetaRad(i) - o.idleRad();
            if (open < SHUT_RAD) {
                shut = i;
            } else if (shut >= 0 && open > OPENS_RAD && t[shut] >= notBefore) {
                int from = shut;
                shut = -1;
                boolean apart = stabs.stream().noneMatch(s -> Math.abs(s.atS() - t[from]) < APART_S);
                if (apart && t[i] - t[from] < WITHIN_S && TipIns.runs(log, from)) {
                    notBefore = t[i] + APART_S;
                    out.add(TipIn.unmeasured(log, from, log.vacuumPa()[i], true, Stab.AFTER_S));
                }
            }
        }
        return out;
    }
}
