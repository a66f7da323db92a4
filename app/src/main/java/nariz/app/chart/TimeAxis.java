package nariz.app.chart;

import java.util.Locale;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;
import nariz.app.theme.Palette;

/** Marks of time under a picture, at round seconds and minutes from the start of the log. */
final class TimeAxis {
    private TimeAxis() {
    }

    /**
     * Draws the marks.
     *
     * @param g where to
     * @param p colours
     * @param startS start of the log, s
     * @param fromS left edge, s
     * @param toS right edge, s
     * @param left left edge, px
     * @param wide from edge to edge, px
     * @param y top of the marks, px
     */
    static void draw(GraphicsContext g, Palette p, double startS, double fromS, double toS, double left, double wide,
            double y) {
        double span = toS - fromS;
        double[] steps = {0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1800, 3600, 7200, 36_000,
            86_400};
        double step = steps[0];
        for (double s : steps) {
            step = s;
            if (span / s < wide / 70) {
                break;
            }
        }
        for (double t = Math.ceil((fromS - startS) / step) * step; t <= toS - startS + 1e-9; t += step) {
            double x = left + (t + startS - fromS) / (toS - fromS) * wide;
            String s = step >= 1 ? String.format(Locale.ROOT, "%d:%02d", (long) t / 60, (long) t % 60)
                    : String.format(Locale.ROOT, "%d:%05.2f", (long) t / 60, t % 60);
            Picture.line(g, x, y, x, y + 4, p.faint(), 1);
            Picture.text(g, s, x, y + 12, 12, p.faint(), TextAlignment.CENTER);
        }
    }
}
