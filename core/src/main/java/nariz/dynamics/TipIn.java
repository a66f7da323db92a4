package nariz.dynamics;

import nariz.log.DriveLog;

/**
 * One opening of the throttle.
 *
 * @param sample sample of the engine's state at which it begins
 * @param atS time of that, s in the log
 * @param rpm engine speed there
 * @param fromVacuumPa manifold vacuum there, Pa
 * @param toVacuumPa least vacuum within half a second, Pa
 * @param opened how much the throttle opened within that, 0 to 1; NaN without a throttle channel
 * @param fromClosed whether it began at closed throttle, with the whole stroke of the pump to go
 * @param readFromS from when on the readings are its own, s after the beginning; NaN where a lean reading of the
 * overrun
 *     before runs into what follows and nothing can be told
 * @param readToS to when they are, by the clock of the logger: the throttle closes again or the time judged is over, s
 * @param leanest greatest excess of lambda over the settled mixture of the same states, share; never under 0
 * @param felt the same over readings beyond {@link TipIns#WEAK} alone; never under 0
 * @param richest greatest lack, share; never under 0
 * @param heavy the same over readings under {@link TipIns#HEAVY} alone; never under 0
 * @param leanAfterS from the beginning to where it first reads more than {@link TipIns#COUNTS} lean, s; NaN if never
 * @param leanForS time it reads more than that lean, s
 */
public record TipIn(int sample, double atS, double rpm, double fromVacuumPa, double toVacuumPa, double opened,
        boolean fromClosed, double readFromS,
        double readToS, double leanest, double felt, double richest, double heavy, double leanAfterS, double leanForS) {
    /** An engine bears this much more of rich than of lean before it is felt; judgement. */
    private static final double RICH_OVER_LEAN = 2.0;

    /**
     * A moment of which nothing was measured yet.
     *
     * @param log drive
     * @param sample sample of the state at which it begins
     * @param toVacuumPa vacuum it goes to, Pa
     * @param fromClosed whether it began at closed throttle
     * @param readToS to when its readings are its own, s after the beginning
     * @return it
     */
    static TipIn unmeasured(DriveLog log, int sample, double toVacuumPa, boolean fromClosed, double readToS) {
        return new TipIn(sample, log.timeS()[sample], log.rpm()[sample], log.vacuumPa()[sample], toVacuumPa, Double.NaN,
                fromClosed, Double.NEGATIVE_INFINITY, readToS, Double.NaN, Double.NaN, Double.NaN, Double.NaN,
                Double.NaN, Double.NaN);
    }

    /** {@return whether it reads so much leaner than settled, and so lean, that it is felt} */
    public boolean lean() {
        return felt > TipIns.FELT;
    }

    /** {@return whether it goes so rich instead that the engine is slow to clear} */
    public boolean rich() {
        return !lean() && heavy > RICH_OVER_LEAN * TipIns.FELT;
    }

    /** {@return how much of it is felt: 0 is nothing, 1 just so much that it is {@link #lean()} or {@link #rich()}} */
    public double hesitates() {
        return Math.max(felt, heavy / RICH_OVER_LEAN) / TipIns.FELT;
    }
}
