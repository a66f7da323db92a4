package nariz.app.chart;

import static nariz.app.words.WindowWords.say;
import static nariz.app.words.WindowWords.units;

import java.util.Locale;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.state.TipInSeries;
import nariz.app.theme.Palette;
import nariz.dynamics.OpeningStudy;
import nariz.dynamics.TipIn;
import nariz.dynamics.TipIns;

/**
 * Every opening of the throttle laid over the others, from its beginning: how much leaner or richer it read than the
 * settled mixture of the same moments. The middle of all is drawn strong, the one under the cursor stronger.
 */
public final class TipInPicture extends SteppedPicture {
    private static final double LEFT = 62;
    private static final double RIGHT = 232;
    private static final double TOP = 40;
    private static final double BOTTOM = 40;
    private static final double LEANEST = 0.40;
    private static final double RICHEST = -0.40;

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public TipInPicture(Session session) {
        super(session, say("stab-picture.tip-ins"), say("stab-picture.the-mixture-after-every"));
        WeakListeners.attach(session.unitProperty(), this, (o, was, is) -> redraw());
    }

    @Override
    void step(boolean next) {
        Drive d = session().driveProperty().get();
        if (d == null || d.tipIns().events().isEmpty()) {
            return;
        }
        double now = d.log().timeS()[session().cursorProperty().get()];
        TipIn best = null;
        for (TipIn t : d.tipIns().events()) {
            boolean ahead = next ? t.atS() > now + 1e-6 : t.atS() < now - 1e-6;
            if (ahead && (best == null || Math.abs(t.atS() - now) < Math.abs(best.atS() - now))) {
                best = t;
            }
        }
        if (best != null) {
            session().moveCursor(best.sample());
        }
    }

    @Override
    void pick(double x, double y) {
        Drive d = session().driveProperty().get();
        if (d == null) {
            return;
        }
        int step = Math.clamp(Math.round((x - LEFT) / (getWidth() - LEFT - RIGHT) * (TipInSeries.STEPS - 1)), 0,
                TipInSeries.STEPS - 1);
        double least = 30;
        int best = -1;
        for (int k = 0; k < d.tipIns().events().size(); k++) {
            double away = Math.abs(y(d.tipIns().excess()[k][step], getHeight()) - y);
            if (away < least) {
                least = away;
                best = k;
            }
        }
        if (best >= 0) {
            session().moveCursor(d.tipIns().events().get(best).sample());
        }
    }

    private static double x(double s, double w) {
        return LEFT + (w - LEFT - RIGHT) * (s - TipInSeries.FROM_S) / ((TipInSeries.STEPS - 1) * TipInSeries.STEP_S);
    }

    private static double y(double excess, double h) {
        double share = (LEANEST - Math.clamp(excess, RICHEST, LEANEST)) / (LEANEST - RICHEST);
        return TOP + (h - TOP - BOTTOM) * share;
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        strong(g, say("stab-picture.mixture-after-the-throttle"), 14, 18, 14, p.ink(), TextAlignment.LEFT);
        Drive d = session().driveProperty().get();
        if (d == null || d.tipIns().events().isEmpty()) {
            text(g, d == null ? say("stab-picture.nothing-is-open") : say("stab-picture.no-quick-opening-of"), 14,
                    44, 14, p.faint(), TextAlignment.LEFT);
            return;
        }
        axes(g, p, session().unitProperty().get().marked(TipIns.WEAK), w, h);
        TipInSeries s = d.tipIns();
        int near = s.near(d.log().timeS()[session().cursorProperty().get()]);
        for (int k = 0; k < s.events().size(); k++) {
            if (k != near) {
                float[] e = s.excess()[k];
                curve(g, i -> e[i], clear(s.events().get(k).lean() ? p.lean() : p.faint(), 0.45), 1, w, h);
            }
        }
        Optional<OpeningStudy.Finding> found = d.analysis().advice().pump();
        found.ifPresent(f -> {
            modelled(g, f.curve()[0], p.ink(), w, h);
            if (f.change().isPresent()) {
                modelled(g, f.curve()[1], p.fine(), w, h);
            }
        });
        curve(g, s::median, p.ink(), 2.4, w, h);
        if (near >= 0) {
            float[] e = s.excess()[near];
            curve(g, i -> e[i], p.accent(), 2.4, w, h);
        }
        words(g, p, s, near, w);
        found.ifPresent(f -> legend(g, p, f, w, h));
    }

    /** What pump, walls and sensor together are thought to do, dashed. */
    private static void modelled(GraphicsContext g, float[] excess, Color c, double w, double h) {
        g.setStroke(c);
        g.setLineWidth(2.0);
        g.setLineDashes(6, 4);
        g.beginPath();
        for (int k = 0; k < excess.length; k++) {
            double x = x(k * OpeningStudy.Finding.CURVE_S, w);
            if (k == 0) {
                g.moveTo(x, y(excess[k], h));
            } else {
                g.lineTo(x, y(excess[k], h));
            }
        }
        g.stroke();
        g.setLineDashes();
    }

    private static void modelled(GraphicsContext g, Color c, double x, double y) {
        g.setStroke(c);
        g.setLineWidth(2.0);
        g.setLineDashes(6, 4);
        g.strokeLine(x, y, x + 18, y);
        g.setLineDashes();
    }

    private static void legend(GraphicsContext g, Palette p, OpeningStudy.Finding f, double w, double h) {
        double x = w - RIGHT + 18;
        double y = h - BOTTOM - 26;
        modelled(g, p.ink(), x, y);
        if (f.change().isPresent()) {
            modelled(g, p.fine(), x, y + 20);
        }
        text(g, say("stab-picture.in-the-cylinders"), x + 24, y, 12.5, p.ink(), TextAlignment.LEFT);
        if (f.change().isPresent()) {
            text(g, say("stab-picture.with-the-change"), x + 24, y + 20, 12.5, p.ink(), TextAlignment.LEFT);
        }
    }

    private static void axes(GraphicsContext g, Palette p, String weak, double w, double h) {
        for (int percent = -40; percent <= 40; percent += 10) {
            double y = y(percent / 100.0, h);
            line(g, LEFT, y, w - RIGHT, y, percent == 0 ? p.ink() : p.rule(), percent == 0 ? 1.2 : 0.8);
            text(g, percent == 0 ? say("stab-picture.settled") : Math.abs(percent) + " %", LEFT - 6, y, 12, p.faint(),
                    TextAlignment.RIGHT);
        }
        double felt = y(TipIns.FELT, h);
        g.setFill(clear(p.lean(), 0.08));
        g.fillRect(LEFT, TOP, w - LEFT - RIGHT, felt - TOP);
        for (double s = 0; s <= 1.5; s += 0.5) {
            double x = x(s, w);
            line(g, x, TOP, x, h - BOTTOM, p.rule(), s == 0 ? 1.6 : 0.8);
            text(g, String.format(Locale.ROOT, "%.1f", s), x, h - BOTTOM + 12, 12, p.faint(), TextAlignment.CENTER);
        }
        // On the right the curves have come back towards the settled mixture: no corner is emptier.
        strong(g, say("stab-picture.felt-beyond", weak), w - RIGHT - 6, TOP + 10, 12, p.lean(),
                TextAlignment.RIGHT);
        strong(g, say("stab-picture.rich"), w - RIGHT - 6, h - BOTTOM - 10, 12, p.rich(), TextAlignment.RIGHT);
        text(g, say("stab-picture.s-after-the-throttle"), w - RIGHT, h - 12, 12, p.faint(), TextAlignment.RIGHT);
    }

    private static void curve(GraphicsContext g, java.util.function.IntToDoubleFunction at, Color c, double width,
            double w, double h) {
        g.setStroke(c);
        g.setLineWidth(width);
        g.setLineDashes();
        g.beginPath();
        boolean started = false;
        for (int i = 0; i < TipInSeries.STEPS; i++) {
            double v = at.applyAsDouble(i);
            if (Double.isNaN(v)) {
                continue;
            }
            double x = x(TipInSeries.FROM_S + i * TipInSeries.STEP_S, w);
            if (started) {
                g.lineTo(x, y(v, h));
            } else {
                g.moveTo(x, y(v, h));
                started = true;
            }
        }
        g.stroke();
    }

    private static void words(GraphicsContext g, Palette p, TipInSeries s, int near, double w) {
        double x = w - RIGHT + 18;
        double y = TOP + 8;
        line(g, x, y, x + 18, y, p.ink(), 2.4);
        text(g, say("stab-picture.middle-of", s.events().size()), x + 24, y, 12.5, p.ink(), TextAlignment.LEFT);
        if (near < 0) {
            text(g, say("stab-picture.n-and-p-go"), x, y + 24, 12.5, p.faint(), TextAlignment.LEFT);
            text(g, say("stab-picture.tip-in-to-the"), x, y + 42, 12.5, p.faint(), TextAlignment.LEFT);
            return;
        }
        TipIn t = s.events().get(near);
        line(g, x, y + 20, x + 18, y + 20, p.accent(), 2.4);
        text(g, say("stab-picture.at", (int) t.atS() / 60, t.atS() % 60), x + 24, y + 20, 12.5,
                p.accent(), TextAlignment.LEFT);
        String[] lines = {
            say("stab-picture.rpm-vacuum", t.rpm(), units().bare(t.fromVacuumPa()), units().vacuum(t.toVacuumPa())),
            Double.isNaN(t.opened()) ? say("stab-picture.throttle-was-not-logged") : say("stab-picture.throttle-opens",
                    100 * t.opened()),
            t.fromClosed() ? say("stab-picture.from-closed-throttle") : say("stab-picture.part-of-the-stroke"),
            say("stab-picture.leanest", 100 * t.leanest()),
            Double.isNaN(t.leanAfterS()) ? say("stab-picture.never-lean") : say("stab-picture.lean-for-s",
                    t.leanForS()),
            Double.isNaN(t.leanAfterS()) ? "" : say("stab-picture.beginning-s-in", t.leanAfterS()),
            say("stab-picture.richest", -100 * t.richest()),
        };
        for (String l : lines) {
            text(g, l, x, y + 44, 12.5, p.ink(), TextAlignment.LEFT);
            y += l.isEmpty() ? 0 : 18;
        }
    }
}
