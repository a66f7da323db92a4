package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Effect;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.diagnosis.RegimePrediction;

/**
 * Error by regime today, and after the change with its interval, against the tolerance band; for parts of a pump or
 * damper, which leave steady running as it is, the openings of the throttle ({@link OpeningsEffect}).
 */
public final class EffectChart extends Picture {
    /** Room for the names of the rows. */
    static final double LEFT = 104;
    private static final double RIGHT = 16;
    private static final double SPAN = 0.16;

    private final Session session;

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public EffectChart(Session session) {
        super(say("effect-chart.effect-by-way-of"), say("effect-chart.error-today-and-after"));
        this.session = session;
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.trials().effectProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.unitProperty(), this, (o, was, is) -> redraw());
        setMinHeight(126);
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        Drive d = session.driveProperty().get();
        Effect then = session.trials().effectProperty().get();
        Optional<OpeningsEffect> openings = d == null ? Optional.empty() : OpeningsEffect.of(d, then);
        if (openings.isPresent()) {
            openings.get().draw(g, p, w, h);
            return;
        }
        boolean change = d != null && then.changed();
        strong(g, !change ? say("effect-chart.today-against-target") : then.tried()
                ? say("effect-chart.today-and-with-the")
                : say("effect-chart.today-and-after-the"), 12, 14, 14, p.ink(),
                TextAlignment.LEFT);
        List<RegimePrediction> rows = d == null ? List.of() : then.regimes();
        if (rows.isEmpty()) {
            text(g, say("effect-chart.nothing-to-compare-yet"), 12, 42, 13, p.faint(), TextAlignment.LEFT);
            return;
        }
        double top = 36;
        double row = Math.min(30, (h - top - 5) / rows.size());
        double middle = x(0, w);
        text(g, say("effect-chart.rich"), LEFT, 28, 12, p.rich(), TextAlignment.LEFT);
        text(g, say("effect-chart.target"), middle, 28, 12, p.faint(), TextAlignment.CENTER);
        text(g, say("effect-chart.lean"), w - RIGHT, 28, 12, p.lean(), TextAlignment.RIGHT);
        for (int i = 0; i < rows.size(); i++) {
            row(g, p, rows.get(i), w, top + row * (i + 0.5), row, change);
        }
        line(g, middle, top, middle, top + row * rows.size(), p.ink(), 1.2);
    }

    private static double x(double error, double w) {
        double share = (Math.clamp(error, -SPAN, SPAN) + SPAN) / (2 * SPAN);
        return LEFT + share * (w - LEFT - RIGHT);
    }

    private static void row(GraphicsContext g, Palette p, RegimePrediction r, double w, double y, double row,
            boolean change) {
        double tol = r.before().regime().tolerance();
        g.setFill(clear(p.fine(), 0.16));
        g.fillRect(x(-tol, w), y - 0.4 * row, x(tol, w) - x(-tol, w), 0.8 * row);
        text(g, say(r.before().regime().label()), LEFT - 10, y, 12.5, p.ink(), TextAlignment.RIGHT);
        double e = r.before().mean();
        Color c = p.of(e);
        double x = x(e, w);
        g.setFill(c);
        if (Math.abs(e) < 0.025) {
            g.fillOval(x - 4, y - 4, 8, 8);
        } else {
            double t = e > 0 ? -1 : 1;
            g.fillPolygon(new double[] {x - 6, x + 6, x}, new double[] {y - 5 * t, y - 5 * t, y + 6 * t}, 3);
        }
        if (change) {
            double target = r.before().target();
            double a = x(r.low() / target - 1, w);
            double b = x(r.high() / target - 1, w);
            double ya = y + 0.26 * row;
            line(g, a, ya, b, ya, p.ink(), 1.4);
            ring(g, p, x(r.after().mean(), w), ya);
        }
    }
}
