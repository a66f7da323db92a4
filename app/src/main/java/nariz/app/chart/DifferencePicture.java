package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Locale;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Comparison;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.comparison.Difference;
import nariz.comparison.Pair;
import nariz.comparison.Trend;

/**
 * The open drive against another: on the left the difference by way of running with its 90 % interval and what was
 * predicted; on the right every matched place over airflow, with the trend where there is one.
 */
public final class DifferencePicture extends Picture {
    private static final double NAMES = 112;
    private static final double TOP = 62;
    private static final double BOTTOM = 40;

    private final Session session;

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public DifferencePicture(Session session) {
        super(say("difference-picture.against-another-drive"), say("difference-picture.difference-of-two-drives"));
        this.session = session;
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.cursorProperty(), this, (o, was, is) -> redraw());
        setOnMouseClicked(e -> pick(e.getX(), e.getY()));
        setMinSize(350, 185);
    }

    private void pick(double x, double y) {
        requestFocus();
        Comparison c = session.comparisons().comparisonProperty().get();
        if (c == null) {
            return;
        }
        double best = 20 * 20;
        int at = -1;
        double span = span(c);
        double most = most(c);
        for (Pair p : c.result().pairs()) {
            double dx = airX(p.before().airKgPerS(), most, getWidth()) - x;
            double dy = differenceY(p.difference(), span, getHeight()) - y;
            if (dx * dx + dy * dy < best) {
                best = dx * dx + dy * dy;
                at = p.afterSample();
            }
        }
        if (at >= 0) {
            session.moveCursor(at);
        }
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        Comparison c = session.comparisons().comparisonProperty().get();
        strong(g, c == null ? say("difference-picture.against-another-drive")
                : say("difference-picture.this-drive-against", c.name()), 14, 18, 14, p.ink(),
                TextAlignment.LEFT);
        if (c == null) {
            text(g, say("difference-picture.choose-a-drive-of"), 14, 44, 14, p.faint(),
                    TextAlignment.LEFT);
            return;
        }
        double span = span(c);
        rows(g, p, c.result().differences(), span, w, h);
        places(g, p, c, span, w, h);
    }

    private static double span(Comparison c) {
        double most = 0.06;
        for (Difference d : c.result().differences()) {
            most = Math.max(most, Math.max(Math.abs(d.low()), Math.abs(d.high())));
        }
        return Math.ceil(most * 25) / 25 + 0.01;
    }

    private static double most(Comparison c) {
        return c.result().pairs().stream().mapToDouble(q -> q.before().airKgPerS()).max().orElse(1);
    }

    private static double x(double share, double span, double w) {
        double left = NAMES;
        double right = w / 2 - 26;
        return 0.5 * (left + right) + 0.5 * (right - left) * Math.clamp(share / span, -1, 1);
    }

    private static void rows(GraphicsContext g, Palette p, List<Difference> all, double span, double w, double h) {
        double row = Math.min(40, (h - TOP - BOTTOM) / Math.max(1, all.size()));
        text(g, say("difference-picture.richer"), NAMES, TOP - 16, 12, p.rich(), TextAlignment.LEFT);
        text(g, say("difference-picture.leaner"), w / 2 - 26, TOP - 16, 12, p.lean(), TextAlignment.RIGHT);
        text(g, say("difference-picture.same"), x(0, span, w), TOP - 16, 12, p.faint(), TextAlignment.CENTER);
        line(g, x(0, span, w), TOP - 4, x(0, span, w), TOP + row * all.size(), p.ink(), 1.2);
        for (int i = 0; i < all.size(); i++) {
            Difference d = all.get(i);
            double y = TOP + row * (i + 0.5);
            double tolerance = 0.5 * d.regime().tolerance();
            g.setFill(clear(p.fine(), 0.16));
            g.fillRect(x(-tolerance, span, w), y - 0.36 * row, x(tolerance, span, w) - x(-tolerance, span, w),
                    0.72 * row);
            text(g, say(d.regime().label()), NAMES - 10, y, 12.5, p.ink(), TextAlignment.RIGHT);
            Color c = d.matters() ? d.mean() > 0 ? p.lean() : p.rich() : p.fine();
            line(g, x(d.low(), span, w), y, x(d.high(), span, w), y, c, 2.4);
            mark(g, c, x(d.mean(), span, w), y, d.matters() ? Math.signum(d.mean()) : 0);
            if (!Double.isNaN(d.predicted())) {
                double at = x(d.predicted(), span, w);
                g.setStroke(p.ink());
                g.setLineWidth(1.6);
                g.strokeOval(at - 4, y + 0.26 * row - 4, 8, 8);
            }
        }
        if (all.stream().anyMatch(d -> !Double.isNaN(d.predicted()))) {
            g.setStroke(p.ink());
            g.setLineWidth(1.6);
            g.strokeOval(14, h - 16, 8, 8);
            text(g, say("difference-picture.predicted-by-the-other"), 28, h - 12, 12, p.ink(), TextAlignment.LEFT);
        }
    }

    private static void mark(GraphicsContext g, Color c, double x, double y, double sign) {
        g.setFill(c);
        if (sign == 0) {
            g.fillOval(x - 5, y - 5, 10, 10);
        } else {
            g.fillPolygon(new double[] {x - 6, x + 6, x}, new double[] {y + 5 * sign, y + 5 * sign, y - 6 * sign}, 3);
        }
    }

    private static double airX(double air, double most, double w) {
        double left = w / 2 + 46;
        return left + (w - 18 - left) * air / most;
    }

    private static double differenceY(double share, double span, double h) {
        return TOP + (h - TOP - BOTTOM) * 0.5 * (1 - Math.clamp(share / span, -1, 1));
    }

    private void places(GraphicsContext g, Palette p, Comparison c, double span, double w, double h) {
        double most = most(c);
        double left = airX(0, most, w);
        double right = airX(most, most, w);
        double step = span > 0.12 ? 0.05 : 0.02;
        text(g, say("difference-picture.every-matched-place"), left, TOP - 16, 12, p.faint(), TextAlignment.LEFT);
        for (double v = -Math.floor(span / step) * step; v <= span; v += step) {
            double y = differenceY(v, span, h);
            boolean none = Math.abs(v) < 1e-9;
            line(g, left, y, right, y, none ? p.ink() : p.rule(), none ? 1.2 : 0.8);
            text(g, none ? say("difference-picture.same") : Math.round(100 * Math.abs(v)) + " %", left - 6, y, 12,
                    p.faint(),
                    TextAlignment.RIGHT);
        }
        c.trend().filter(Trend::certain).ifPresent(t -> {
            g.setStroke(p.accent());
            g.setLineWidth(2);
            g.setLineDashes(7, 5);
            double base = base(c, t);
            g.beginPath();
            for (int i = 0; i <= 40; i++) {
                double air = most * i / 40.0;
                double y = differenceY(base + t.atLargest() * Math.pow(air / t.airKgPerS(), 2), span, h);
                if (i == 0) {
                    g.moveTo(airX(air, most, w), y);
                } else {
                    g.lineTo(airX(air, most, w), y);
                }
            }
            g.stroke();
            g.setLineDashes();
        });
        for (Pair q : c.result().pairs()) {
            double x = airX(q.before().airKgPerS(), most, w);
            double y = differenceY(q.difference(), span, h);
            double r = 2 + Math.min(7, 1.2 * Math.sqrt(q.seconds()));
            double half = 0.5 * (h - TOP - BOTTOM) * 1.645 * q.sd() / span;
            Color k = q.difference() > 0 ? p.lean() : p.rich();
            line(g, x, y - half, x, y + half, clear(k, 0.5), 1);
            g.setFill(clear(k, q.seconds() < 1.5 ? 0.15 : 0.4));
            g.fillOval(x - r, y - r, 2 * r, 2 * r);
            g.setStroke(clear(k, 0.9));
            g.setLineWidth(1);
            g.strokeOval(x - r, y - r, 2 * r, 2 * r);
        }
        text(g, say("difference-picture.less-air"), left, h - BOTTOM + 12, 12, p.faint(), TextAlignment.LEFT);
        text(g, String.format(Locale.ROOT, "%.0f g/s", 1e3 * most), right, h - BOTTOM + 12, 12, p.faint(),
                TextAlignment.RIGHT);
        text(g, say("difference-picture.airflow"), 0.5 * (left + right), h - BOTTOM + 12, 12, p.faint(),
                TextAlignment.CENTER);
    }

    /** Where the trend begins: what is left of the differences without it, in the mean. */
    private static double base(Comparison c, Trend t) {
        return c.result().pairs().stream().filter(q -> !q.before().idle()).mapToDouble(q -> q.difference()
                - t.atLargest() * Math.pow(q.before().airKgPerS() / t.airKgPerS(), 2)).average().orElse(0);
    }
}
