package nariz.app.chart;

import java.util.Arrays;
import java.util.List;
import javafx.scene.paint.Color;
import nariz.app.state.Strips;
import nariz.app.theme.Palette;
import nariz.log.Pyramid;
import org.jspecify.annotations.Nullable;

/** Draws the strips of a trace into the pixels of the screen. */
final class StripRaster {
    private final Raster raster;
    private final double sharp;
    private final double[] t;
    private final double fromS;
    private final double toS;
    private final int[] first;
    private final float[] range = new float[2];

    /**
     * A view of the log.
     *
     * @param raster pixels to draw into
     * @param sharp pixels in one px
     * @param timeS time of every sample, s
     * @param fromS left edge, s
     * @param toS right edge, s
     * @param width pixels from edge to edge
     */
    StripRaster(Raster raster, double sharp, double[] timeS, double fromS, double toS, int width) {
        this.raster = raster;
        this.sharp = sharp;
        t = timeS;
        this.fromS = fromS;
        this.toS = toS;
        first = columns(width);
    }

    /** First sample of every pixel column. */
    int[] first() {
        return first;
    }

    /**
     * First sample at or after a time, searched outward from a guess in steps that double: columns lie about evenly,
     * and halving ten million times for each of them would wait for memory most of the time.
     */
    private static int from(double[] t, double timeS, int guess) {
        int at = Math.clamp(guess, 0, t.length - 1);
        int low = at;
        int high = at;
        for (int step = 1; low > 0 && t[low] >= timeS; step *= 2) {
            high = low;
            low = Math.max(0, low - step);
        }
        for (int step = 1; high < t.length && t[high] < timeS; step *= 2) {
            low = high;
            high = Math.min(t.length, high + step);
        }
        int i = Arrays.binarySearch(t, low, high, timeS);
        return i >= 0 ? i : -i - 1;
    }

    /**
     * First sample of every pixel column. Where a column holds many, its ends are moved to the next whole block of the
     * pyramid, by less than a quarter of the column: every sample is still in exactly one.
     */
    private int[] columns(int pw) {
        int[] first = new int[pw + 1];
        for (int x = 0; x <= pw; x++) {
            int guess = x < 2 ? x == 0 ? t.length / 2 : first[0] : 2 * first[x - 1] - first[x - 2];
            first[x] = from(t, fromS + (toS - fromS) * x / pw, guess);
        }
        int block = 1;
        while ((first[pw] - first[0]) / pw >= 4 * Pyramid.BLOCK * block) {
            block *= Pyramid.BLOCK;
        }
        for (int x = 0; x <= pw && block > 1; x++) {
            first[x] = Math.min(t.length, (first[x] + block - 1) / block * block);
        }
        return first;
    }

    /** Rules of a strip and the marks of its scale. */
    void grid(Palette p, Strips.Strip s, double[] place, List<double[]> marks) {
        int rule = Raster.argb(p.rule());
        raster.row((int) (sharp * place[0]), rule);
        raster.row((int) (sharp * (place[0] + place[1]) - 1), rule);
        int faint = Raster.argb(mix(p.panel(), p.rule(), 0.5));
        for (double[] m : marks) {
            raster.row((int) pixelY(s, m[1], place), s.mixture() && m[1] == 1.0 ? rule : faint);
        }
    }

    /** The lines of a strip; then is the mixture after a change, or null. */
    void strip(Palette p, Strips.Strip s, double[] place, @Nullable Pyramid then) {
        if (s.raw() != null) {
            series(s, s.raw(), place, Raster.argb(mix(p.panel(), p.ink(), 0.22)), 1);
        }
        if (s.mixture() && then != null) {
            series(s, then, place, Raster.argb(p.fuel()), 2);
        }
        series(s, s.measured(), place, Raster.argb(p.ink()), s.mixture() ? 2 : 1);
        if (s.predicted() != null) {
            series(s, s.predicted(), place, Raster.argb(p.accent()), 2);
        }
    }

    static Color mix(Color a, Color b, double share) {
        return a.interpolate(b, share);
    }

    /** Where a number of a strip stands, px below the top of the first. */
    static double y(Strips.Strip s, double v, double[] place) {
        double share = (Math.clamp(v, s.low(), s.high()) - s.low()) / (s.high() - s.low());
        return place[0] + (place[1] - 2) * (1 - share);
    }

    private double pixelY(Strips.Strip s, double v, double[] place) {
        return sharp * y(s, v, place);
    }

    /** Least to greatest of every pixel column, with the sample before it, so that the line holds together. */
    private void series(Strips.Strip s, Pyramid v, double[] place, int color, int least) {
        double secondsPerPx = (toS - fromS) / (first.length - 1);
        int thick = (int) Math.round(least * sharp);
        // Blocks can be a sample short at their start: the one before joins the line only where samples are few.
        int pw = first.length - 1;
        int join = first[pw] - first[0] > 4 * Pyramid.BLOCK * pw ? 0 : 1;
        for (int x = 0; x < pw; x++) {
            int from = first[x];
            int to = first[x + 1];
            if (to > from) {
                v.range(from - join, to, range);
                if (!Float.isNaN(range[0])) {
                    raster.column(x, pixelY(s, range[1], place), pixelY(s, range[0], place), color, thick);
                }
            } else if (from > 0 && from < t.length) {
                // Between two samples of a close view: the straight line from one to the next.
                double at = fromS + secondsPerPx * (x + 0.5);
                double share = (at - t[from - 1]) / (t[from] - t[from - 1]);
                double value = v.at(from - 1) + share * (v.at(from) - v.at(from - 1));
                if (!Double.isNaN(value)) {
                    double yy = pixelY(s, value, place);
                    raster.column(x, yy, yy, color, thick);
                }
            }
        }
    }
}
