package nariz.live;

import nariz.units.Units;

/**
 * Says when a pull has to be stopped: lean under load melts pistons. The limit depends on the load and the time, for
 * the nearer to full load the less it takes: lambda {@value #AT_FULL} with nothing of vacuum left and
 * {@value #PER_INHG} more for every inHg, up to {@value #LIGHT_INHG} inHg above which nothing is said; held for
 * {@value #SHORTEST_S} s and {@value #S_PER_INHG} s more for every inHg, which is longer than the lean spike of a pump
 * that starts late. Judgement; the limit at full load is that of {@code PullStudy}.
 */
public final class LeanWarning {
    private static final double AT_FULL = 1.0;
    private static final double PER_INHG = 0.03;
    private static final double LIGHT_INHG = 6.0;
    private static final double SHORTEST_S = 0.5;
    private static final double S_PER_INHG = 0.15;
    private static final double LEAST_RPM = 1500;
    /** Once given it stays this long, so that nobody misses it, s. */
    private static final double STAYS_S = 2.0;

    private double leanS;
    private double lastS = Double.NaN;
    private double until = Double.NEGATIVE_INFINITY;
    private double mutedUntil = Double.NEGATIVE_INFINITY;

    /**
     * Takes a sample.
     *
     * @param timeS s
     * @param rpm speed
     * @param vacuumPa vacuum, Pa
     * @param lambda reading
     * @return whether to warn now
     */
    public boolean add(double timeS, double rpm, double vacuumPa, double lambda) {
        double step = Double.isNaN(lastS) ? 0.0 : Math.clamp(timeS - lastS, 0.0, 0.5);
        lastS = timeS;
        double inHg = Math.max(0.0, vacuumPa / Units.INHG);
        boolean lean = rpm > LEAST_RPM && inHg < LIGHT_INHG && lambda > AT_FULL + PER_INHG * inHg;
        leanS = lean ? leanS + step : 0.0;
        if (leanS >= SHORTEST_S + S_PER_INHG * inHg) {
            until = timeS + STAYS_S;
        }
        return timeS < until && timeS >= mutedUntil;
    }

    /**
     * Keeps it quiet for this moment; the next one is told again.
     *
     * @param forS how long, s
     */
    public void mute(double forS) {
        mutedUntil = lastS + forS;
    }
}
