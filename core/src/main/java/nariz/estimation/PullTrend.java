package nariz.estimation;

import nariz.log.Channel;
import nariz.log.DriveLog;

/**
 * Does the mixture lean out the longer the engine drinks? A supply that cannot keep up shows as a trend with time
 * inside a pull, at the same speed and vacuum, and not with rpm.
 *
 * <p>D is the time the airflow has been above {@link #HIGH} of the log's greatest, running back three times as fast
 * below, 0 to 8 s. Readings of a cell taken at different D are compared: beta = sum (D - mean D)(r - mean r) / sum (D
 * - mean D)² over all cells, r = ln phi, phi settled; its variance is that of the scatter over half-second blocks. The
 * film correction is good to a third, and what it leaves also is a trend in a pull: that is added to the variance.
 *
 * <p>A bowl that runs dry leans so fast that no reading counts as steady any more. So every pull is looked at as a
 * whole besides: runaway = mean ln(read/predicted phi) from {@link #EARLY_FROM_S} to {@link #EARLY_TO_S} s of it less
 * the mean over its last second, readings at the rail and moving ones included. Sound pulls get richer towards their
 * end, as the walls fill.
 */
public final class PullTrend {
    private static final double HIGH = 0.5;
    private static final double REFILL = 3.0;
    private static final double LONGEST_S = 8.0;
    private static final double BLOCK_S = 0.5;
    private static final double FILM_TREND = 0.003;
    private static final double LONG_PULL_S = 3.0;
    private static final double EARLY_FROM_S = 0.8;
    private static final double EARLY_TO_S = 2.0;
    private static final double LEAST_SCATTER = 0.008;

    private final double perS;
    private final double sdPerS;
    private final double[] meanD;
    private final double pressureRatio;
    private final double runaway;

    private PullTrend(double perS, double sdPerS, double[] meanD, double pressureRatio, double runaway) {
        this.runaway = runaway;
        this.perS = perS;
        this.sdPerS = sdPerS;
        this.meanD = meanD;
        this.pressureRatio = pressureRatio;
    }

    /**
     * Measures.
     *
     * @param o a drive made ready
     * @return the trend
     */
    public static PullTrend of(Observation o) {
        DriveLog log = o.log();
        double[] d = drinking(o);
        int m = o.cells().size();
        double[] n = new double[m];
        double[] sumD = new double[m];
        double[] sumR = new double[m];
        double[] sumW = new double[m];
        for (int i = 0; i < d.length; i++) {
            int c = o.cellOf(i);
            if (c >= 0) {
                n[c]++;
                sumD[c] += d[o.stateOf(i)];
                sumR[c] += reading(o, i);
                sumW[c] += walls(o, i);
            }
        }
        double sdd = 0.0;
        double sdr = 0.0;
        double sdw = 0.0;
        double srr = 0.0;
        double count = 0.0;
        double[] mean = new double[m];
        for (int c = 0; c < m; c++) {
            mean[c] = n[c] > 0 ? sumD[c] / n[c] : 0.0;
        }
        for (int i = 0; i < d.length; i++) {
            int c = o.cellOf(i);
            if (c >= 0 && mean[c] > 0.0) {
                double x = d[o.stateOf(i)] - mean[c];
                double r = reading(o, i) - sumR[c] / n[c];
                sdd += x * x;
                sdr += x * r;
                sdw += x * (walls(o, i) - sumW[c] / n[c]);
                srr += r * r;
                count++;
            }
        }
        double perBlock = Math.max(1.0, BLOCK_S * (log.size() - 1) / Math.max(1e-9, log.durationS()));
        if (sdd < 2.0 * perBlock) {
            return new PullTrend(0.0, Double.POSITIVE_INFINITY, mean, pressure(o, d), runaway(o, d));
        }
        double beta = sdr / sdd;
        double left = Math.max(LEAST_SCATTER * LEAST_SCATTER, (srr - beta * sdr) / Math.max(1.0, count));
        double sd = Math.hypot(Math.hypot(Math.sqrt(left * perBlock / sdd), FILM_TREND),
                WallFilm.TREND_DOUBT * sdw / sdd);
        return new PullTrend(beta, sd, mean, pressure(o, d), runaway(o, d));
    }

    private static double reading(Observation o, int i) {
        return Math.log(o.measuredPhi(i) * o.film().settles(o.stateOf(i)));
    }

    /** What the walls' correction adds to a reading. */
    private static double walls(Observation o, int i) {
        return Math.log(o.film().settles(o.stateOf(i)));
    }

    /** D at every sample, s. */
    private static double[] drinking(Observation o) {
        double[] t = o.log().timeS();
        double most = 0.0;
        for (int i = 0; i < t.length; i++) {
            most = Math.max(most, Double.isNaN(o.airKgPerS(i)) ? 0.0 : o.airKgPerS(i));
        }
        double[] d = new double[t.length];
        for (int i = 1; i < t.length; i++) {
            double dt = Math.min(1.0, t[i] - t[i - 1]);
            boolean high = o.airKgPerS(i) > HIGH * most;
            d[i] = Math.clamp(d[i - 1] + (high ? dt : -REFILL * dt), 0.0, LONGEST_S);
        }
        return d;
    }

    /** Largest runaway of a pull of at least {@link #LONG_PULL_S}; 0 when there was none. */
    private static double runaway(Observation o, double[] d) {
        double[] t = o.log().timeS();
        double most = 0.0;
        for (int i = 1; i < d.length; i++) {
            if (d[i] <= 0.0 || d[i - 1] > 0.0) {
                continue;
            }
            int end = i;
            while (end + 1 < d.length && (d[end + 1] > d[end] || d[end + 1] >= LONGEST_S)) {
                end++;
            }
            if (t[end] - t[i] >= LONG_PULL_S) {
                double early = mean(o, i, t[i] + EARLY_FROM_S, t[i] + EARLY_TO_S);
                double late = mean(o, i, t[end] - 1.0, t[end]);
                most = Math.max(most, Double.isNaN(early - late) ? 0.0 : early - late);
            }
            i = end;
        }
        return most;
    }

    /** Mean of ln(read/predicted phi) over readings of states in a span of time; NaN when there are under four. */
    private static double mean(Observation o, int from, double fromS, double toS) {
        double[] t = o.log().timeS();
        double sum = 0.0;
        int n = 0;
        for (int i = from; i < t.length && t[o.stateOf(i)] <= toS; i++) {
            int s = o.stateOf(i);
            boolean read = switch (o.flag(i)) {
                case STEADY, TRANSIENT, RAIL, MISFIRE -> true;
                default -> false;
            };
            if (read && t[s] >= fromS && o.measuredPhi(i) > 0.0 && o.predictedPhi(s) > 0.0) {
                // Where the walls make a pull start rich, what is doubtful of their correction does not count.
                sum += Math.log(o.measuredPhi(i) / o.predictedPhi(s)) + (1.0 - WallFilm.TREND_DOUBT) * walls(o, i);
                n++;
            }
        }
        return n < 4 ? Double.NaN : sum / n;
    }

    /** Fuel pressure after drinking for two seconds over that at rest; NaN without the channel. */
    private static double pressure(Observation o, double[] d) {
        if (!o.log().has(Channel.FUEL_PRESSURE)) {
            return Double.NaN;
        }
        double[] p = o.log().values(Channel.FUEL_PRESSURE);
        double high = 0.0;
        double low = 0.0;
        int nHigh = 0;
        int nLow = 0;
        for (int i = 0; i < d.length; i++) {
            if (!Double.isNaN(p[i]) && d[i] > 2.0) {
                high += p[i];
                nHigh++;
            } else if (!Double.isNaN(p[i]) && d[i] == 0.0) {
                low += p[i];
                nLow++;
            }
        }
        return nHigh == 0 || nLow == 0 ? Double.NaN : high / nHigh / (low / nLow);
    }

    /** {@return change of ln phi for every second of drinking; negative leans} */
    public double perS() {
        return perS;
    }

    /** {@return its standard deviation; infinite where no cell was visited at different times of a pull} */
    public double sdPerS() {
        return sdPerS;
    }

    /**
     * Mean D of a cell.
     *
     * @param cell index
     * @return s
     */
    public double meanDrinkingS(int cell) {
        return meanD[cell];
    }

    /** {@return fuel pressure under load over that at rest, NaN when it was not logged} */
    public double pressureRatio() {
        return pressureRatio;
    }

    /**
     * {@return how far the mixture of the worst pull ran off to lean from its beginning to its end, ln phi; 0 or more}
     */
    public double runaway() {
        return runaway;
    }
}
