package nariz.log;

import java.util.Arrays;

/**
 * A series that grows, with least and greatest of its blocks kept up to date: adding a sample costs one comparison a
 * level. {@link #snapshot} is the same {@link Pyramid} that would be built from all samples at once.
 */
public final class GrowingPyramid {
    private static final int SHIFT = 4;
    private static final int FIRST = 1024;
    /** Blocks of 16^7 samples are more than any log has. */
    private static final int LEVELS = 7;

    private float[] series = new float[FIRST];
    private final float[][] least = new float[LEVELS][];
    private final float[][] greatest = new float[LEVELS][];
    private int size;

    /** An empty series. */
    public GrowingPyramid() {
        Arrays.setAll(least, k -> new float[1]);
        Arrays.setAll(greatest, k -> new float[1]);
    }

    /**
     * Adds a sample.
     *
     * @param v value, NaN where missing
     */
    public void add(float v) {
        if (size == series.length) {
            series = Arrays.copyOf(series, 2 * series.length);
        }
        series[size] = v;
        for (int k = 0; k < LEVELS; k++) {
            int b = size >> (SHIFT * (k + 1));
            if (b >= least[k].length) {
                least[k] = Arrays.copyOf(least[k], 2 * least[k].length);
                greatest[k] = Arrays.copyOf(greatest[k], 2 * greatest[k].length);
            }
            if ((size & ((1 << (SHIFT * (k + 1))) - 1)) == 0) {
                least[k][b] = Float.POSITIVE_INFINITY;
                greatest[k][b] = Float.NEGATIVE_INFINITY;
            }
            // NaN loses both comparisons.
            least[k][b] = v < least[k][b] ? v : least[k][b];
            greatest[k][b] = v > greatest[k][b] ? v : greatest[k][b];
        }
        size++;
    }

    /** {@return number of samples} */
    public int size() {
        return size;
    }

    /**
     * What there is so far; what is added later does not change it.
     *
     * @return a pyramid over all samples
     */
    public Pyramid snapshot() {
        int levels = Pyramid.levels(size);
        float[][] low = new float[levels][];
        float[][] high = new float[levels][];
        int n = size;
        for (int k = 0; k < levels; k++) {
            n = (n + Pyramid.BLOCK - 1) >> SHIFT;
            low[k] = Arrays.copyOf(least[k], n);
            high[k] = Arrays.copyOf(greatest[k], n);
        }
        return new Pyramid(Arrays.copyOf(series, size), low, high);
    }
}
