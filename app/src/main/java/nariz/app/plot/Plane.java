package nariz.app.plot;

import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.advice.Analysis;
import nariz.app.session.Boundaries;
import nariz.app.session.Effect;
import nariz.app.session.Session;
import nariz.app.session.Stop;
import nariz.app.theme.Palette;
import nariz.fit.Cell;
import nariz.units.Units;

/**
 * Speed against vacuum: where the engine lived (size), what the mixture error was there (mark up for lean, down for
 * rich), what it would be after the change (open mark), and where one circuit hands over to the next.
 */
public final class Plane extends Picture {
    private static final double LEFT = 46;
    private static final double RIGHT = 14;
    private static final double TOP = 34;
    private static final double BOTTOM = 42;
    private static final double MOST_INHG = 22;
    private static final double PX_PER_PERCENT = 1.7;

    private final Session session;

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public Plane(Session session) {
        super("Plane of speed and vacuum",
                "Steady running as marks. Click a mark, or press N and P, to take the log to its moment.");
        this.session = session;
        session.driveProperty().addListener((o, was, is) -> redraw());
        session.cursorProperty().addListener((o, was, is) -> redraw());
        session.stopProperty().addListener((o, was, is) -> redraw());
        session.effectProperty().addListener((o, was, is) -> redraw());
        setOnMouseClicked(e -> pick(e.getX(), e.getY()));
        setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.N || e.getCode() == KeyCode.P) {
                step(e.getCode() == KeyCode.N ? 1 : -1);
                e.consume();
            }
        });
        setMinSize(290, 220);
    }

    private void pick(double x, double y) {
        requestFocus();
        Session.Drive d = session.driveProperty().get();
        if (d == null || !d.analysis().estimated()) {
            return;
        }
        double best = 26 * 26;
        int at = -1;
        for (int i = 0; i < d.analysis().estimate().cells().size(); i++) {
            Cell c = d.analysis().estimate().cells().get(i);
            double dx = x(d, c.rpm()) - x;
            double dy = y(c.vacuumPa()) - y;
            if (dx * dx + dy * dy < best) {
                best = dx * dx + dy * dy;
                at = c.longestSample();
            }
        }
        if (at >= 0) {
            session.moveCursor(at);
        }
    }

    /** Goes to the next or previous cell along the log. */
    private void step(int direction) {
        Session.Drive d = session.driveProperty().get();
        if (d == null || !d.analysis().estimated()) {
            return;
        }
        int now = session.cursorProperty().get();
        int best = -1;
        for (Cell c : d.analysis().estimate().cells()) {
            int s = c.longestSample();
            boolean ahead = direction > 0 ? s > now : s < now;
            if (ahead && (best < 0 || Math.abs(s - now) < Math.abs(best - now))) {
                best = s;
            }
        }
        if (best >= 0) {
            session.moveCursor(best);
        }
    }

    private double x(Session.Drive d, double rpm) {
        return LEFT + (getWidth() - LEFT - RIGHT) * rpm / (d.sheet().engine().redlineRpm() * 1.04);
    }

    private double y(double vacuumPa) {
        double inHg = Math.clamp(vacuumPa / Units.INHG, 0, MOST_INHG);
        return TOP + (getHeight() - TOP - BOTTOM) * inHg / MOST_INHG;
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h) {
        strong(g, "Where it ran, and how far off", 14, 18, 14, p.ink(), TextAlignment.LEFT);
        Session.Drive d = session.driveProperty().get();
        if (d == null) {
            return;
        }
        axes(g, p, d, w, h);
        boundaries(g, p, d, w);
        if (d.analysis().estimated()) {
            marks(g, p, d);
        }
        cursor(g, p, d);
        key(g, p, h);
    }

    private void axes(GraphicsContext g, Palette p, Session.Drive d, double w, double h) {
        for (int v = 0; v <= 20; v += 5) {
            double y = y(v * Units.INHG);
            line(g, LEFT, y, w - RIGHT, y, p.rule(), 0.8);
            text(g, Integer.toString(v), LEFT - 6, y, 12, p.faint(), TextAlignment.RIGHT);
        }
        for (int r = 1000; r <= d.sheet().engine().redlineRpm(); r += 1000) {
            double x = x(d, r);
            line(g, x, TOP, x, h - BOTTOM, p.rule(), 0.8);
            text(g, Integer.toString(r), x, h - BOTTOM + 10, 12, p.faint(), TextAlignment.CENTER);
        }
        text(g, "rpm", w - RIGHT, h - 10, 12, p.faint(), TextAlignment.RIGHT);
        g.save();
        g.translate(12, h / 2);
        g.rotate(-90);
        text(g, "vacuum, inHg (full load on top)", 0, 0, 12, p.faint(), TextAlignment.CENTER);
        g.restore();
    }

    private void boundaries(GraphicsContext g, Palette p, Session.Drive d, double w) {
        Boundaries b = d.today();
        curve(g, p, d, b, true);
        curve(g, p, d, b, false);
        if (!Double.isNaN(b.enrichmentPa())) {
            double y = y(b.enrichmentPa());
            double half = 1.645 * b.enrichmentSdPa();
            g.setFill(clear(p.accent(), 0.10));
            double top = y(b.enrichmentPa() - half);
            g.fillRect(LEFT, top, w - LEFT - RIGHT, Math.max(1, y(b.enrichmentPa() + half) - top));
            line(g, LEFT, y, w - RIGHT, y, p.accent(), 1.6);
            text(g, "enrichment opens", w - RIGHT - 4, y - 8, 12, p.accent(), TextAlignment.RIGHT);
            Effect then = session.effectProperty().get();
            double after = then.enrichmentPa();
            if (then.changed() && Math.abs(after - b.enrichmentPa()) > 500) {
                double ya = y(after);
                line(g, LEFT, ya, w - RIGHT, ya, p.accent(), 1.6, 7, 5);
                text(g, then.tried() ? "with the parts tried" : "after the change", w - RIGHT - 4, ya + 9, 12,
                        p.accent(), TextAlignment.RIGHT);
            }
        }
    }

    private void curve(GraphicsContext g, Palette p, Session.Drive d, Boundaries b, boolean slot) {
        g.beginPath();
        boolean started = false;
        double lastX = 0;
        double lastY = 0;
        double thirdX = 0;
        double thirdY = 0;
        for (int i = 0; i < b.size(); i++) {
            double v = slot ? b.slotToMainPa(i) : b.secondaryPa(i);
            if (Double.isNaN(v)) {
                continue;
            }
            lastX = x(d, b.rpm(i));
            lastY = y(v);
            if (i == b.size() / 3) {
                thirdX = lastX;
                thirdY = lastY;
            }
            if (started) {
                g.lineTo(lastX, lastY);
            } else {
                g.moveTo(lastX, lastY);
                started = true;
            }
        }
        if (!started) {
            return;
        }
        g.setStroke(clear(p.ink(), 0.55));
        g.setLineWidth(1.2);
        g.setLineDashes(slot ? new double[] {} : new double[] {2, 4});
        g.stroke();
        g.setLineDashes();
        if (slot) {
            text(g, "slot / main", Math.min(lastX, getWidth() - RIGHT - 66) - 4, Math.min(lastY - 9,
                    getHeight() - BOTTOM - 10), 12, p.faint(), TextAlignment.LEFT);
        } else {
            text(g, "secondary side", thirdX, thirdY - 10, 12, p.faint(), TextAlignment.LEFT);
        }
    }

    private void marks(GraphicsContext g, Palette p, Session.Drive d) {
        Analysis a = d.analysis();
        Effect then = session.effectProperty().get();
        double[] after = then.phi();
        boolean change = then.changed();
        Stop stop = session.stopProperty().get();
        for (int i = 0; i < a.estimate().cells().size(); i++) {
            Cell c = a.estimate().cells().get(i);
            double x = x(d, c.rpm());
            double y = y(c.vacuumPa());
            double r = 2.5 + Math.min(8, 1.3 * Math.sqrt(c.dwellS()));
            double e = a.targetPhi(i) / a.estimate().phi(i) - 1;
            boolean mine = speaks(a, i, stop);
            Color color = p.of(e);
            double solid = mine ? 0.9 : 0.30;
            g.setFill(clear(p.panel(), 0.8));
            g.fillOval(x - r, y - r, 2 * r, 2 * r);
            boolean thin = c.dwellS() < 1.5;
            g.setFill(clear(color, thin ? 0.12 * solid : 0.35 * solid));
            g.fillOval(x - r, y - r, 2 * r, 2 * r);
            g.setStroke(clear(color, solid));
            g.setLineWidth(mine ? 1.6 : 1);
            g.setLineDashes(thin ? new double[] {2, 2} : new double[] {});
            g.strokeOval(x - r, y - r, 2 * r, 2 * r);
            g.setLineDashes();
            whisker(g, clear(color, solid), x, y, e, true);
            if (change && (mine || (then.tried() && Math.abs(after[i] / a.estimate().phi(i) - 1) > 0.005))) {
                whisker(g, p.ink(), x + 4, y, a.targetPhi(i) / after[i] - 1, false);
            }
        }
    }

    private static void whisker(GraphicsContext g, Color c, double x, double y, double e, boolean solid) {
        double length = Math.clamp(100 * e * PX_PER_PERCENT, -40, 40);
        if (solid && Math.abs(e) < 0.01) {
            return;
        }
        line(g, x, y, x, y - length, c, solid ? 3 : 1.2);
        if (!solid) {
            g.setStroke(c);
            g.setLineWidth(1.2);
            g.strokeOval(x - 2.5, y - length - 2.5, 5, 5);
        }
    }

    private static boolean speaks(Analysis a, int cell, Stop stop) {
        boolean enrichment = stop == Stop.POWER && a.estimate().cells().get(cell).vacuumPa() < 9 * Units.INHG;
        return a.estimate().share(cell, stop.circuits()) > 0.25 || enrichment;
    }

    private void cursor(GraphicsContext g, Palette p, Session.Drive d) {
        int s = d.analysis().observation().stateOf(session.cursorProperty().get());
        double rpm = d.log().rpm()[s];
        double vacuum = d.log().vacuumPa()[s];
        if (!Double.isNaN(rpm) && !Double.isNaN(vacuum)) {
            double x = x(d, rpm);
            double y = y(vacuum);
            g.setStroke(p.accent());
            g.setLineWidth(2.5);
            g.strokeOval(x - 12, y - 12, 24, 24);
            line(g, x - 18, y, x - 12, y, p.accent(), 2.5);
            line(g, x + 12, y, x + 18, y, p.accent(), 2.5);
            line(g, x, y - 18, x, y - 12, p.accent(), 2.5);
            line(g, x, y + 12, x, y + 18, p.accent(), 2.5);
        }
    }

    private void key(GraphicsContext g, Palette p, double h) {
        double x = 14;
        double y = h - 10;
        line(g, x, y + 5, x, y - 6, p.lean(), 3);
        text(g, "lean", x + 7, y, 12, p.lean(), TextAlignment.LEFT);
        line(g, x + 46, y - 6, x + 46, y + 5, p.rich(), 3);
        text(g, "rich", x + 53, y, 12, p.rich(), TextAlignment.LEFT);
        Effect then = session.effectProperty().get();
        if (then.changed()) {
            line(g, x + 92, y + 5, x + 92, y - 1, p.ink(), 1.2);
            g.setStroke(p.ink());
            g.strokeOval(x + 89.5, y - 6, 5, 5);
            text(g, then.tried() ? "with the parts tried" : "after the change", x + 100, y, 12, p.ink(),
                    TextAlignment.LEFT);
        }
    }
}
