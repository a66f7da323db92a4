package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.Comparator;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.comparison.TrialSeries;
import nariz.diagnosis.Regime;

/**
 * Drives with one part in several sizes: a column for every size, a row for every way of running, in each the error
 * against the target with its interval on the band that counts as tuned; below, what each column is judged by.
 */
public final class SeriesPicture extends Picture {
    private static final double LEFT = 120;
    private static final double RIGHT = 16;
    private static final double TOP = 88;
    private static final double SCORE = 46;
    private static final double WIDEST = 0.15;

    private final Session session;

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public SeriesPicture(Session session) {
        super(say("series-picture.name"), say("series-picture.help"));
        this.session = session;
        WeakListeners.attach(session.comparisons().seriesProperty(), this, (o, was, is) -> redraw());
        setMinSize(350, 185);
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        strong(g, say("series-picture.title"), 14, 18, 14, p.ink(), TextAlignment.LEFT);
        TrialSeries s = session.comparisons().seriesProperty().get();
        if (s == null) {
            text(g, say("series-picture.nothing"), 14, 44, 14, p.faint(), TextAlignment.LEFT);
            return;
        }
        text(g, say(s.part().named(s.stage())), w - RIGHT, 18, 13, p.ink(), TextAlignment.RIGHT);
        List<String> said = lines(say(s.sentence()), 13, w - 14 - RIGHT);
        for (int i = 0; i < said.size(); i++) {
            text(g, said.get(i), 14, (said.size() > 1 ? 34 : 40) + 15 * i, 13, p.ink(), TextAlignment.LEFT);
        }
        List<TrialSeries.Trial> order = s.trials().stream().sorted(Comparator.comparingDouble(TrialSeries.Trial::size))
                .toList();
        TrialSeries.Trial best = s.trials().get(s.best());
        double column = (w - LEFT - RIGHT) / order.size();
        double row = (h - TOP - SCORE) / s.regimes().size();
        double most = order.stream().mapToDouble(TrialSeries.Trial::score).max().orElse(1.0);
        for (int r = 0; r < s.regimes().size(); r++) {
            double y = TOP + row * (r + 0.5);
            text(g, say(s.regimes().get(r).label()), LEFT - 10, y, 12.5, p.ink(), TextAlignment.RIGHT);
            line(g, LEFT, TOP + row * (r + 1), w - RIGHT, TOP + row * (r + 1), p.rule(), 0.8);
        }
        boolean pump = s.part().role().pump();
        text(g, say(pump ? "series-picture.score-pump" : "series-picture.score"), LEFT - 10, h - SCORE / 2, 12.5,
                p.ink(), TextAlignment.RIGHT);
        for (int k = 0; k < order.size(); k++) {
            TrialSeries.Trial t = order.get(k);
            double x = LEFT + column * k;
            boolean chosen = t.equals(best);
            if (chosen) {
                g.setFill(clear(p.accent(), 0.10));
                g.fillRoundRect(x + 4, TOP - 28, column - 8, h - TOP + 22, 10, 10);
            }
            strong(g, say(s.part().text(t.size())), x + column / 2, TOP - 16, 13, chosen ? p.accent() : p.ink(),
                    TextAlignment.CENTER);
            for (int r = 0; r < s.regimes().size(); r++) {
                error(g, p, s.regimes().get(r), t, x + 12, TOP + row * r, column - 24, row);
            }
            double bar = (column - 70) * Math.min(1.0, t.score() / most);
            g.setFill(chosen ? p.accent() : p.fine());
            g.fillRoundRect(x + 12, h - SCORE / 2 - 6, Math.max(3, bar), 12, 4, 4);
            text(g, say("series-picture.score-value", t.score()), x + column - 12, h - SCORE / 2, 12, p.ink(),
                    TextAlignment.RIGHT);
        }
        for (int k = 1; k < order.size(); k++) {
            line(g, LEFT + column * k, TOP - 24, LEFT + column * k, h - 8, p.rule(), 0.8);
        }
    }

    /** Rich to the left, lean to the right: a triangle that points as everywhere, its interval, the tuned band. */
    private static void error(GraphicsContext g, Palette p, Regime regime, TrialSeries.Trial t, double x, double y,
            double w, double h) {
        double[] e = t.errors().get(regime);
        double band = regime.tolerance();
        double middle = y + h / 2;
        g.setFill(clear(p.fine(), 0.18));
        g.fillRect(at(-band, x, w), y + 5, at(band, x, w) - at(-band, x, w), h - 10);
        line(g, at(0, x, w), y + 3, at(0, x, w), y + h - 3, p.faint(), 1);
        line(g, at(e[1], x, w), middle, at(e[2], x, w), middle, p.ink(), 1.6);
        double px = at(e[0], x, w);
        boolean tuned = Math.abs(e[0]) <= band;
        Color c = tuned ? p.ink() : p.of(e[0]);
        g.setFill(c);
        if (tuned) {
            g.fillOval(px - 4.5, middle - 4.5, 9, 9);
        } else {
            double up = e[0] > 0 ? -6 : 6;
            g.fillPolygon(new double[] {px - 6, px + 6, px}, new double[] {middle - up, middle - up, middle + up}, 3);
        }
        boolean left = px > x + w / 2;
        plate(g, p, say("series-picture.percent", 100 * e[0]), left ? Math.min(px, at(e[1], x, w)) - 12 : Math.max(px,
                at(e[2], x, w)) + 12, middle, c, left ? TextAlignment.RIGHT : TextAlignment.LEFT);
    }

    private static double at(double error, double x, double w) {
        return x + w * (0.5 + Math.clamp(error / WIDEST, -1.0, 1.0) / 2);
    }
}
