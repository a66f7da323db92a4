package nariz.estimation;

import java.util.Arrays;
import nariz.carburetor.BuildSheet;
import nariz.log.DriveLog;

/**
 * Fuel film on the manifold walls, found from the log.
 *
 * <p>X-tau model (Aquino, SAE 810494, 1981): dF/dt = X f - F/tau, burnt = (1 - X) f + F/tau, f the metered fuel, with
 * X = x p/p_ambient, since less evaporates under load. x and tau are the pair, on a grid, that makes readings taken at
 * the same speed and vacuum at different times agree best (least variance within cells): that criterion needs no
 * calibration to be right, only the film.
 */
public final class WallFilm {
    private static final double[] SHARES = {0.0, 0.1, 0.2, 0.3, 0.4, 0.5};
    private static final double[] TIMES_S = {0.4, 0.8, 1.5, 2.5, 4.0};
    private static final double LIMIT = 0.30;

    private final double share;
    private final double timeS;
    private final float[] settles;

    private WallFilm(double share, double timeS, float[] settles) {
        this.share = share;
        this.timeS = timeS;
        this.settles = settles;
    }

    static WallFilm of(Observation o) {
        int[] cell = bins(o);
        float[] best = run(o, 0.0, 1.0);
        double least = withinCells(o, cell, best);
        double share = 0.0;
        double time = 1.0;
        for (double x : SHARES) {
            for (double tau : TIMES_S) {
                if (x > 0.0) {
                    float[] s = run(o, x, tau);
                    double v = withinCells(o, cell, s);
                    if (v < least * 0.998) {
                        least = v;
                        best = s;
                        share = x;
                        time = tau;
                    }
                }
            }
        }
        return new WallFilm(share, time, best);
    }

    /** Bins of speed and load for the criterion alone, coarser than the cells of the estimate. */
    private static int[] bins(Observation o) {
        DriveLog log = o.log();
        int[] out = new int[log.size()];
        Arrays.fill(out, -1);
        double ambient = o.sheet().ambient().pressurePa();
        for (int i = 0; i < out.length; i++) {
            if (o.flag(i) == Flag.STEADY) {
                int s = o.stateOf(i);
                int r = (int) Math.clamp(Math.log(log.rpm()[s] / 300.0) / 0.08, 0, 59);
                int v = (int) Math.clamp(log.vacuumPa()[s] / ambient * 30.0, 0, 29);
                out[i] = r * 30 + v;
            }
        }
        return out;
    }

    private static double withinCells(Observation o, int[] cell, float[] settles) {
        double[] n = new double[60 * 30];
        double[] sum = new double[n.length];
        double[] square = new double[n.length];
        for (int i = 0; i < cell.length; i++) {
            if (cell[i] >= 0) {
                double y = Math.log(o.measuredPhi(i) * settles[o.stateOf(i)]);
                n[cell[i]]++;
                sum[cell[i]] += y;
                square[cell[i]] += y * y;
            }
        }
        double total = 0.0;
        for (int k = 0; k < n.length; k++) {
            if (n[k] > 3) {
                // Square root of dwell: a long idle says nothing about the film and must not outvote the pulls.
                total += (square[k] / n[k] - (sum[k] / n[k]) * (sum[k] / n[k])) * Math.sqrt(n[k]);
            }
        }
        return total;
    }

    private static float[] run(Observation o, double x, double tau) {
        DriveLog log = o.log();
        BuildSheet sheet = o.sheet();
        double[] t = log.timeS();
        float[] out = new float[log.size()];
        double ambient = sheet.ambient().pressurePa();
        double film = Double.NaN;
        for (int i = 0; i < out.length; i++) {
            double f = o.predictedPhi(i) * o.airKgPerS(i);
            out[i] = 1f;
            if (Double.isNaN(f) || f <= 0.0) {
                continue;
            }
            double wets = x * Math.clamp(1.0 - log.vacuumPa()[i] / ambient, 0.0, 1.0);
            double dt = i == 0 ? 0.0 : t[i] - t[i - 1];
            double keeps = Math.exp(-dt / tau);
            film = Double.isNaN(film) ? wets * f * tau : film * keeps + wets * f * tau * (1.0 - keeps);
            double burnt = (1.0 - wets) * f + film / tau;
            out[i] = (float) Math.clamp(f / burnt, 1.0 - LIMIT, 1.0 + LIMIT);
        }
        return out;
    }

    /** {@return x, the share that wets the walls at full load} */
    public double share() {
        return share;
    }

    /** {@return tau, s} */
    public double timeS() {
        return timeS;
    }

    /**
     * Ratio of the settled mixture to the one burnt.
     *
     * @param sample state sample
     * @return factor on phi, 0.7 to 1.3
     */
    public double settles(int sample) {
        return settles[sample];
    }
}
