package nariz.app.chart;

import static nariz.app.words.WindowWords.say;
import static nariz.app.words.WindowWords.units;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Boundaries;
import nariz.app.state.Comparison;
import nariz.app.state.Drive;
import nariz.app.state.Effect;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.app.theme.Palette;
import nariz.carburetor.Circuit;
import nariz.comparison.Pair;
import nariz.coverage.DrivePlan;
import nariz.diagnosis.Analysis;
import nariz.estimation.Cell;
import nariz.units.Shown;
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
    private static final int MOST_LINES = 6;

    private final Session session;
    private final BooleanProperty planShown = new SimpleBooleanProperty();

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public Plane(Session session) {
        super(say("plane.plane-of-speed-and"),
                say("plane.steady-running-as-marks"));
        this.session = session;
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.cursorProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.shownProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.trials().effectProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) -> redraw());
        planShown.addListener((o, was, is) -> redraw());
        setOnMouseClicked(e -> pick(e.getX(), e.getY()));
        setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.N || e.getCode() == KeyCode.P) {
                step(e.getCode() == KeyCode.N ? 1 : -1);
                e.consume();
            }
        });
        setMinSize(290, 185);
    }

    /** {@return whether the readings still to be made are drawn} */
    public BooleanProperty planShownProperty() {
        return planShown;
    }

    private void pick(double x, double y) {
        requestFocus();
        Drive d = session.driveProperty().get();
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
        Drive d = session.driveProperty().get();
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

    private double x(Drive d, double rpm) {
        return LEFT + (getWidth() - LEFT - RIGHT) * rpm / (d.sheet().engine().redlineRpm() * 1.04);
    }

    private double y(double vacuumPa) {
        double inHg = Math.clamp(vacuumPa / Units.INHG, 0, MOST_INHG);
        return TOP + (getHeight() - TOP - BOTTOM) * inHg / MOST_INHG;
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        Comparison against = session.stopProperty().get() == Stop.PROOF ? session.comparisons().comparisonProperty()
                .get() : null;
        strong(g, against == null ? say("plane.where-it-ran-and") : say("plane.where-it-differs-from",
                against.name()), 14,
                18, 14, p.ink(), TextAlignment.LEFT);
        Drive d = session.driveProperty().get();
        if (d == null) {
            text(g, say("plane.what-will-stand-here"), 14, 44, 13, p.faint(), TextAlignment.LEFT);
            return;
        }
        axes(g, p, d, w, h);
        List<Label> labels = boundaries(g, p, d, w);
        if (planShown.get()) {
            boxes(g, p, d);
        }
        if (against != null) {
            differences(g, p, d, against);
        } else if (d.analysis().estimated()) {
            marks(g, p, d);
        }
        // Over the marks, or crowded ones make them unreadable.
        labels.forEach(l -> plate(g, p, l.text(), l.x(), l.y(), l.color(), l.align()));
        cursor(g, p, d);
        key(g, p, w, h, against != null);
    }

    private record Label(String text, double x, double y, Color color, TextAlignment align) {
    }

    private void axes(GraphicsContext g, Palette p, Drive d, double w, double h) {
        Shown.Pressure unit = units().pressure();
        double most = MOST_INHG * Units.INHG / unit.pa();
        double step = Ticks.step(most, MOST_LINES);
        for (int k = 0; k * step < 0.95 * most; k++) {
            double y = y(k * step * unit.pa());
            line(g, LEFT, y, w - RIGHT, y, p.rule(), 0.8);
            text(g, Ticks.text(k * step, step), LEFT - 6, y, 12, p.faint(), TextAlignment.RIGHT);
        }
        for (int r = 1000; r <= d.sheet().engine().redlineRpm(); r += 1000) {
            double x = x(d, r);
            line(g, x, TOP, x, h - BOTTOM, p.rule(), 0.8);
            text(g, Integer.toString(r), x, h - BOTTOM + 10, 12, p.faint(), TextAlignment.CENTER);
        }
        text(g, say("plane.rpm"), w - RIGHT, h - 10, 12, p.faint(), TextAlignment.RIGHT);
        g.save();
        g.translate(12, TOP + (h - TOP - BOTTOM) / 2);
        g.rotate(-90);
        String whole = say("plane.vacuum-full-load", unit.label());
        // In a low window the unit alone.
        text(g, width(whole, 12) < h - TOP - BOTTOM ? whole : unit.label(), 0, 0, 12, p.faint(), TextAlignment.CENTER);
        g.restore();
    }

    private List<Label> boundaries(GraphicsContext g, Palette p, Drive d, double w) {
        Boundaries b = d.today();
        List<Label> labels = new ArrayList<>();
        curve(g, p, d, b, true).ifPresent(labels::add);
        curve(g, p, d, b, false).ifPresent(labels::add);
        if (!Double.isNaN(b.enrichmentPa())) {
            double y = y(b.enrichmentPa());
            double half = 1.645 * b.enrichmentSdPa();
            g.setFill(clear(p.accent(), 0.10));
            double top = y(b.enrichmentPa() - half);
            g.fillRect(LEFT, top, w - LEFT - RIGHT, Math.max(1, y(b.enrichmentPa() + half) - top));
            line(g, LEFT, y, w - RIGHT, y, p.accent(), 1.6);
            labels.add(new Label(say("plane.enrichment-opens"), w - RIGHT - 4, y - 9, p.accent(),
                    TextAlignment.RIGHT));
            Effect then = session.trials().effectProperty().get();
            double after = then.enrichmentPa();
            if (then.changed() && Math.abs(after - b.enrichmentPa()) > 500) {
                double ya = y(after);
                line(g, LEFT, ya, w - RIGHT, ya, p.accent(), 1.6, 7, 5);
                labels.add(new Label(then.tried() ? say("plane.with-the-parts-tried") : say("plane.after-the-change"),
                        w - RIGHT - 4, ya + 10, p.accent(), TextAlignment.RIGHT));
            }
        }
        return labels;
    }

    private Optional<Label> curve(GraphicsContext g, Palette p, Drive d, Boundaries b, boolean slot) {
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
            return Optional.empty();
        }
        g.setStroke(clear(p.ink(), 0.55));
        g.setLineWidth(1.2);
        g.setLineDashes(slot ? new double[] {} : new double[] {2, 4});
        g.stroke();
        g.setLineDashes();
        if (slot) {
            String name = say("plane.slot-main");
            return Optional.of(new Label(name, Math.min(lastX, getWidth() - RIGHT - width(name, 12)) - 4,
                    Math.min(lastY - 9, getHeight() - BOTTOM - 10), p.faint(), TextAlignment.LEFT));
        }
        return Optional.of(new Label(say("plane.secondary-side"), thirdX, thirdY - 10, p.faint(), TextAlignment.LEFT));
    }

    private void marks(GraphicsContext g, Palette p, Drive d) {
        Analysis a = d.analysis();
        Effect then = session.trials().effectProperty().get();
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

    /** Readings still to be made, as empty frames to drive into. */
    private void boxes(GraphicsContext g, Palette p, Drive d) {
        Set<Circuit> named = new HashSet<>();
        for (DrivePlan.Item i : d.plan().missing()) {
            if (Double.isNaN(i.fromPa())) {
                continue;
            }
            double x = x(d, i.fromRpm());
            double y = y(i.fromPa());
            g.setStroke(p.accent());
            g.setLineWidth(1.6);
            g.setLineDashes(4, 4);
            g.strokeRoundRect(x, y, x(d, i.toRpm()) - x, Math.max(8, y(i.toPa()) - y), 8, 8);
            g.setLineDashes();
            g.setFill(clear(p.accent(), 0.07));
            g.fillRoundRect(x, y, x(d, i.toRpm()) - x, Math.max(8, y(i.toPa()) - y), 8, 8);
            if (named.add(i.circuit())) {
                text(g, say(i.circuit().label()), x + 5, Math.min(y(i.toPa()), getHeight() - BOTTOM) - 9, 12,
                        p.accent(),
                        TextAlignment.LEFT);
            }
        }
    }

    /** This run against that: the whisker is the difference, up for leaner now. */
    private void differences(GraphicsContext g, Palette p, Drive d, Comparison c) {
        for (Pair q : c.result().pairs()) {
            double x = x(d, q.before().rpm());
            double y = y(q.before().vacuumPa());
            double r = 2.5 + Math.min(8, 1.3 * Math.sqrt(q.seconds()));
            boolean sure = Math.abs(q.difference()) > 1.645 * Math.hypot(q.sd(), 0.011);
            Color k = sure ? q.difference() > 0 ? p.lean() : p.rich() : p.fine();
            g.setFill(clear(k, sure ? 0.35 : 0.15));
            g.fillOval(x - r, y - r, 2 * r, 2 * r);
            g.setStroke(clear(k, sure ? 0.9 : 0.4));
            g.setLineWidth(sure ? 1.6 : 1);
            g.strokeOval(x - r, y - r, 2 * r, 2 * r);
            whisker(g, clear(k, sure ? 0.9 : 0.4), x, y, q.difference(), true);
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
        return a.estimate().share(cell, stop.circuits(a.observation().sheet().carburetor().family())) > 0.25
                || enrichment;
    }

    private void cursor(GraphicsContext g, Palette p, Drive d) {
        int s = session.cursorProperty().get();
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

    private void key(GraphicsContext g, Palette p, double w, double h, boolean against) {
        double x = 14;
        double y = h - 10;
        String lean = say(against ? "plane.leaner" : "plane.lean");
        String rich = say(against ? "plane.richer-now" : "plane.rich");
        line(g, x, y + 5, x, y - 6, p.lean(), 3);
        text(g, lean, x + 7, y, 12, p.lean(), TextAlignment.LEFT);
        x += 7 + width(lean, 12) + 14;
        line(g, x, y - 6, x, y + 5, p.rich(), 3);
        text(g, rich, x + 7, y, 12, p.rich(), TextAlignment.LEFT);
        x += 7 + width(rich, 12) + 14;
        double scale = 5 * PX_PER_PERCENT;
        line(g, x, y + scale / 2, x, y - scale / 2, p.faint(), 3);
        text(g, "5 %", x + 7, y, 12, p.faint(), TextAlignment.LEFT);
        x += 7 + width("5 %", 12) + 14;
        Effect then = session.trials().effectProperty().get();
        String changed = then.tried() ? say("plane.with-the-parts-tried") : say("plane.after-the-change");
        if (then.changed() && !against && x + 8 + width(changed, 12) < w - RIGHT - width(say("plane.rpm"), 12) - 4) {
            line(g, x, y + 5, x, y - 1, p.ink(), 1.2);
            g.setStroke(p.ink());
            g.strokeOval(x - 2.5, y - 6, 5, 5);
            text(g, changed, x + 8, y, 12, p.ink(), TextAlignment.LEFT);
        }
    }
}
