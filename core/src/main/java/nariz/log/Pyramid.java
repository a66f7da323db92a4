package nariz.log;

import java.util.Arrays;
import java.util.stream.IntStream;

/**
 * Least and greatest of any stretch of a series in a time that hardly depends on its length.
 *
 * <p>Level k holds least and greatest of blocks of 16^k samples; a stretch is covered by at most 30 blocks a level.
 * Missing samples (NaN) are passed over. Costs an eighth of the series' memory beside it. Immutable; the series is
 * shared with the caller, who must not change it.
 */
public final class Pyramid {
    /** Samples in a block of the lowest level, and blocks of one level in a block of the next. */
    public static final int BLOCK = 16;
    private static final int SHIFT = 4;
    private static final int SUMMED = 4096;

    private final float[] series;
    private final float[][] least;
    private final float[][] greatest;
    private final Moments[] blocks;

    /**
     * Builds the levels.
     *
     * @param series samples; shared, not copied
     */
    public Pyramid(float[] series) {
        this.series = series;
        int levels = levels(series.length);
        least = new float[levels][];
        greatest = new float[levels][];
        blocks = moments(series);
        float[] low = series;
        float[] high = series;
        for (int k = 0; k < levels; k++) {
            int n = (low.length + BLOCK - 1) >> SHIFT;
            least[k] = new float[n];
            greatest[k] = new float[n];
            level(low, high, least[k], greatest[k]);
            low = least[k];
            high = greatest[k];
        }
    }

    /** Takes least and greatest of every block; what is long is shared out over the cores, for a hand waits for it. */
    private static void level(float[] low, float[] high, float[] least, float[] greatest) {
        int chunks = (least.length + SUMMED - 1) / SUMMED;
        IntStream.range(0, chunks).parallel().forEach(c -> {
            int last = Math.min(least.length, (c + 1) * SUMMED);
            for (int b = c * SUMMED; b < last; b++) {
                float lo = Float.POSITIVE_INFINITY;
                float hi = Float.NEGATIVE_INFINITY;
                int end = Math.min(low.length, (b + 1) << SHIFT);
                for (int i = b << SHIFT; i < end; i++) {
                    // NaN loses both comparisons.
                    lo = low[i] < lo ? low[i] : lo;
                    hi = high[i] > hi ? high[i] : hi;
                }
                least[b] = lo;
                greatest[b] = hi;
            }
        });
    }

    /** Takes levels that were kept up to date while the series grew. */
    Pyramid(float[] series, float[][] least, float[][] greatest) {
        this.series = series;
        this.least = least;
        this.greatest = greatest;
        blocks = moments(series);
    }

    static int levels(int samples) {
        int levels = 0;
        for (int n = samples; n > BLOCK; n = (n + BLOCK - 1) >> SHIFT) {
            levels++;
        }
        return levels;
    }

    private static Moments[] moments(float[] series) {
        Moments[] blocks = new Moments[series.length / SUMMED];
        Arrays.parallelSetAll(blocks, b -> {
            Moments m = new Moments();
            m.add(series, b * SUMMED, (b + 1) * SUMMED);
            return m;
        });
        return blocks;
    }

    /** {@return number of samples} */
    public int size() {
        return series.length;
    }

    /**
     * One sample.
     *
     * @param i index
     * @return value, NaN where missing
     */
    public float at(int i) {
        return series[i];
    }

    /**
     * Least and greatest of a stretch.
     *
     * @param startInclusive first sample
     * @param endExclusive one past the last; clamped to the series
     * @param out receives least and greatest, NaN twice where there is none
     */
    public void range(int startInclusive, int endExclusive, float[] out) {
        float lo = Float.POSITIVE_INFINITY;
        float hi = Float.NEGATIVE_INFINITY;
        int from = Math.max(0, startInclusive);
        int to = Math.min(series.length, endExclusive);
        float[] low = series;
        float[] high = series;
        int level = 0;
        while (from < to) {
            int whole = (from + BLOCK - 1) & -BLOCK;
            int last = to & -BLOCK;
            boolean up = level < least.length && whole < last;
            int end = up ? whole : to;
            for (int i = from; i < end; i++) {
                lo = low[i] < lo ? low[i] : lo;
                hi = high[i] > hi ? high[i] : hi;
            }
            if (!up) {
                break;
            }
            for (int i = last; i < to; i++) {
                lo = low[i] < lo ? low[i] : lo;
                hi = high[i] > hi ? high[i] : hi;
            }
            from = whole >> SHIFT;
            to = last >> SHIFT;
            low = least[level];
            high = greatest[level];
            level++;
        }
        if (lo > hi) {
            Arrays.fill(out, 0, 2, Float.NaN);
        } else {
            out[0] = lo;
            out[1] = hi;
        }
    }

    /**
     * Statistics of a stretch.
     *
     * @param count readings, without missing ones
     * @param mean their mean
     * @param sd standard deviation, divisor n - 1; 0 for one reading
     * @param low least
     * @param high greatest
     */
    public record Statistics(int count, double mean, double sd, double low, double high) {
    }

    /**
     * Statistics of a stretch, from every sample: whole blocks of {@value #SUMMED} were summed up beforehand, so that a
     * stretch of millions costs no more than two blocks.
     *
     * @param startInclusive first sample
     * @param endExclusive one past the last
     * @return count 0 and NaN where there is no reading
     */
    public Statistics statistics(int startInclusive, int endExclusive) {
        int from = Math.max(0, startInclusive);
        int to = Math.min(series.length, endExclusive);
        Moments m = new Moments();
        int firstBlock = (from + SUMMED - 1) / SUMMED;
        int lastBlock = Math.max(firstBlock, to / SUMMED);
        if (firstBlock * SUMMED >= to) {
            m.add(series, from, to);
        } else {
            m.add(series, from, firstBlock * SUMMED);
            for (int b = firstBlock; b < lastBlock; b++) {
                m.merge(blocks[b]);
            }
            m.add(series, lastBlock * SUMMED, to);
        }
        float[] range = new float[2];
        range(from, to, range);
        return m.n == 0 ? new Statistics(0, Double.NaN, Double.NaN, Double.NaN, Double.NaN)
                : new Statistics(m.n, m.mean, m.n > 1 ? Math.sqrt(m.square / (m.n - 1)) : 0.0, range[0], range[1]);
    }

    /** Count, mean and sum of squared deviations, without cancellation on rpm in the thousands. */
    private static final class Moments {
        private int n;
        private double mean;
        private double square;

        /** Welford's recurrence, sample by sample. */
        void add(float[] v, int from, int to) {
            for (int i = from; i < to; i++) {
                if (!Float.isNaN(v[i])) {
                    n++;
                    double d = v[i] - mean;
                    mean += d / n;
                    square += d * (v[i] - mean);
                }
            }
        }

        /** Two groups into one (Chan, Golub &amp; LeVeque, The American Statistician 37, 1983, eq. 2.1). */
        void merge(Moments o) {
            if (o.n > 0) {
                double d = o.mean - mean;
                double all = (double) n + o.n;
                square += o.square + d * d * n * o.n / all;
                mean += d * o.n / all;
                n += o.n;
            }
        }
    }
}
