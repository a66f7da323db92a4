package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.Locale;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.MixtureUnit;
import nariz.app.state.Strips;
import nariz.app.theme.Palette;
import nariz.log.Pyramid;
import org.jspecify.annotations.Nullable;

/**
 * What stands beside the strips of a trace.
 *
 * @param d the drive, or null where only strips are shown
 * @param unit unit of mixtures
 * @param scale numbers of the strips
 * @param cursor sample under the cursor
 * @param first first sample of the selection
 * @param last last sample of the selection
 */
record StripReadout(@Nullable Drive d, MixtureUnit unit, StripScale scale, int cursor, int first, int last) {
    /**
     * Writes name, readings at the cursor and those of the selection beside a strip.
     *
     * @param g where to
     * @param p colours
     * @param s strip
     * @param c statistics of the selection, or null without one
     * @param x left edge of the words, px
     * @param top top of the strip, px
     * @param high height of the strip, px
     */
    void draw(GraphicsContext g, Palette p, Strips.Strip s, Pyramid.@Nullable Statistics c, double x, double top,
            double high) {
        // The name stands over the number where the strip is high enough, beside it where it is not.
        boolean low = high < 36;
        double at = low ? top + high / 2 : top + 26;
        String name = s.mixture() ? unit.label() : s.unit();
        int i = Math.min(cursor, s.measured().size() - 1);
        boolean read = s.mixture() && d != null;
        String value = scale.number(s, read ? d.trace().measuredAround(i) : s.measured().at(i));
        if (!low) {
            Picture.text(g, s.label(), x, top + 9, 12, p.ink(), TextAlignment.LEFT);
            Picture.text(g, name.equals(s.label()) ? "" : name, x + 6 + Picture.width(s.label(), 12), top + 9, 12,
                    p.faint(),
                    TextAlignment.LEFT);
        }
        Picture.strong(g, value, x, at, 15, p.ink(), TextAlignment.LEFT);
        if (s.predicted() != null) {
            Picture.text(g, say("trace-view.model", scale.number(s, read ? d.trace().predictedAround(i)
                    : s.predicted().at(i))),
                    x + 48, at, 12, p.accent(), TextAlignment.LEFT);
        } else if (low) {
            Picture.text(g, s.label() + (name.equals(s.label()) ? "" : " " + name), x + 48, at, 12, p.faint(),
                    TextAlignment.LEFT);
        }
        if (c != null && c.count() > 0) {
            double rise = s.measured().at(last) - s.measured().at(first);
            String sd = String.format(Locale.ROOT, "%." + (s.decimals() + 1) + "f", Math.abs(scale.scale(s)) * c.sd());
            String[] lines = {say("trace-view.mean", scale.number(s, c.mean()), sd),
                say("trace-view.to", scale.number(s, c.low()), scale.number(s, c.high())),
                String.format(Locale.ROOT, say("trace-view.end-start-f", s.decimals()), scale.scale(s) * rise)};
            for (int n = 0; n < lines.length; n++) {
                // Each line only where it does not reach into the next strip.
                double y = at + 17 + 15 * n;
                if (y + 6 < top + high) {
                    Picture.text(g, lines[n], x, y, 12, n == 0 ? p.ink() : p.faint(), TextAlignment.LEFT);
                }
            }
        }
    }
}
