package nariz.app.chart;

import static nariz.app.words.WindowWords.say;
import static nariz.app.words.WindowWords.units;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.IntToDoubleFunction;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.geometry.Rectangle2D;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyCode;
import javafx.scene.paint.Color;
import javafx.scene.shape.ArcType;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Boundaries;
import nariz.app.state.Comparison;
import nariz.app.state.Drive;
import nariz.app.state.Effect;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.app.state.Trace;
import nariz.app.theme.Palette;
import nariz.comparison.Pair;
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
    private static final double STRONG = 0.9;
    private static final double WEAK = 0.30;
    /** From here on a stay is named, s. */
    private static final double LONG_S = 10;
    /** How near the pointer must be, px. */
    private static final double NEAR = 14;

    private final Session session;
    private final BooleanProperty planShown = new SimpleBooleanProperty();
    private final ObjectProperty<Shows> shows = new SimpleObjectProperty<>(Shows.ERROR);
    private List<PlaneMark> marks = List.of();
    private Trace marked;
    private double markedWidth;
    private double markedHeight;
    private PlaneMark hovered;

    /** What the marks say. */
    public enum Shows {
        /** How far the mixture is from target. */
        ERROR,
        /** How long the engine ran there. */
        DWELL,
        /** How much of the fuel the shown stop's circuits deliver. */
        SHARE,
        /** How it differs from the drive it is compared with. */
        DIFFERENCE;

        /** {@return name in the program} */
        public String id() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

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
        shows.addListener((o, was, is) -> redraw());
        setOnMouseMoved(e -> hover(nearest(e.getX(), e.getY(), NEAR)));
        setOnMouseExited(e -> hover(null));
        setOnMouseClicked(e -> pick(e.getX(), e.getY()));
        on(PictureKey.of(say("keys.next-mark"), () -> step(1), KeyCode.N));
        on(PictureKey.of(say("keys.previous-mark"), () -> step(-1), KeyCode.P));
        setMinSize(270, 185);
    }

    /** {@return whether the readings still to be made are drawn} */
    public BooleanProperty planShownProperty() {
        return planShown;
    }

    /** {@return what the marks say} */
    public ObjectProperty<Shows> showsProperty() {
        return shows;
    }

    private void hover(PlaneMark m) {
        if (hovered == null ? m != null : !hovered.equals(m)) {
            hovered = m;
            setAccessibleHelp(m == null ? say("plane.steady-running-as-marks") : String.join(". ", PlaneWords.of(
                    session, m)));
            redraw();
        }
    }

    private PlaneMark nearest(double x, double y, double within) {
        return marks.stream().filter(m -> m.distance(x, y) < Math.max(within, m.r() + 2)).min(Comparator
                .comparingDouble(m -> m.distance(x, y))).orElse(null);
    }

    private void pick(double x, double y) {
        requestFocus();
        PlaneMark m = nearest(x, y, 26);
        if (m != null) {
            session.moveCursor(cells().get(m.cells()[0]).longestSample());
        }
    }

    private List<Cell> cells() {
        Drive d = session.driveProperty().get();
        return d == null || !d.analysis().estimated() ? List.of() : d.analysis().estimate().cells();
    }

    /** Goes to the next or previous mark along the log. */
    private void step(int direction) {
        int now = session.cursorProperty().get();
        int best = -1;
        for (PlaneMark m : marks) {
            int s = cells().get(m.cells()[0]).longestSample();
            boolean ahead = direction > 0 ? s > now : s < now;
            if (ahead && (best < 0 || Math.abs(s - now) < Math.abs(best - now))) {
                best = s;
            }
        }
        if (best >= 0) {
            session.moveCursor(best);
        }
    }

    @Override
    protected void prepare(Palette p, double w, double h) {
        Drive d = session.driveProperty().get();
        Trace now = d == null ? null : d.trace();
        if (now == marked && w == markedWidth && h == markedHeight) {
            return;
        }
        marked = now;
        markedWidth = w;
        markedHeight = h;
        hovered = null;
        List<Cell> c = cells();
        marks = d == null ? List.of() : PlaneMark.of(c.stream().mapToDouble(k -> x(d, k.rpm())).toArray(), c.stream()
                .mapToDouble(k -> y(k.vacuumPa())).toArray(), c.stream().mapToDouble(Cell::dwellS).toArray());
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
        Comparison compared = session.comparisons().comparisonProperty().get();
        Comparison against = (session.stopProperty().get().compares() && shows.get() == Shows.ERROR)
                || shows.get() == Shows.DIFFERENCE ? compared : null;
        strong(g, against != null ? say("plane.where-it-differs-from", against.name()) : title(), 14, 18, 14, p.ink(),
                TextAlignment.LEFT);
        Drive d = session.driveProperty().get();
        if (d == null) {
            text(g, say("plane.what-will-stand-here"), 14, 44, 13, p.faint(), TextAlignment.LEFT);
            return;
        }
        axes(g, p, d, w, h);
        List<Label> labels = boundaries(g, p, d, w);
        List<Rectangle2D> taken = new ArrayList<>();
        PlanFrames frames = new PlanFrames(d.plan().missing(), i -> x(d, i), this::y, new Rectangle2D(LEFT, TOP,
                w - LEFT
                - RIGHT, h - TOP - BOTTOM));
        if (planShown.get()) {
            frames.draw(g, p);
        }
        if (against != null) {
            differences(g, p, d, against);
        } else if (d.analysis().estimated()) {
            marks(g, p, d);
        }
        labels.forEach(l -> taken.add(plate(g, p, l.text(), l.x(), l.y(), l.color(), l.align())));
        if (planShown.get()) {
            frames.names(g, p, taken, marks);
        }
        cursor(g, p, d);
        key(g, p, w, h, against != null);
        told(g, p, d, w, h);
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
        curve(g, p, d, b, b::slotToMainPa, true, say("plane.slot-main")).ifPresent(labels::add);
        curve(g, p, d, b, b::secondaryPa, false, say("plane.secondary-side")).ifPresent(labels::add);
        for (Boundaries.Handover x : b.handovers()) {
            curve(g, p, d, b, i -> x.pa()[i], true, Stops.of(x.from()).label() + " / " + Stops.of(x.to()).label())
                    .ifPresent(labels::add);
        }
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

    private Optional<Label> curve(GraphicsContext g, Palette p, Drive d, Boundaries b, IntToDoubleFunction pa,
            boolean slot, String name) {
        g.beginPath();
        boolean started = false;
        double lastX = 0;
        double lastY = 0;
        double thirdX = 0;
        double thirdY = 0;
        for (int i = 0; i < b.size(); i++) {
            double v = pa.applyAsDouble(i);
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
            return Optional.of(new Label(name, Math.min(lastX, getWidth() - RIGHT - width(name, 12)) - 4,
                    Math.min(lastY - 9, getHeight() - BOTTOM - 10), p.faint(), TextAlignment.LEFT));
        }
        return Optional.of(new Label(name, thirdX, thirdY - 10, p.faint(), TextAlignment.LEFT));
    }

    private String title() {
        return switch (shows.get()) {
            case ERROR -> say("plane.where-it-ran-and");
            case DWELL -> say("plane.where-it-ran-how-long");
            case SHARE -> say("plane.share-of", session.stopProperty().get().label());
            case DIFFERENCE -> say("plane.nothing-to-differ-from");
        };
    }

    private void marks(GraphicsContext g, Palette p, Drive d) {
        Stop stop = session.stopProperty().get();
        for (PlaneMark m : marks) {
            boolean mine = speaks(d.analysis(), m, stop);
            switch (shows.get()) {
                case ERROR -> error(g, p, d.analysis(), m, mine);
                case DWELL -> disc(g, p, p.fine(), m, true, m.dwellS() >= LONG_S ? say("plane.seconds", m.dwellS())
                        : "");
                case SHARE -> share(g, p, d.analysis(), m, stop);
                case DIFFERENCE -> disc(g, p, p.faint(), m, false, "");
            }
        }
    }

    private static boolean speaks(Analysis a, PlaneMark m, Stop stop) {
        return Arrays.stream(m.cells()).anyMatch(i -> stop.speaks(a, i));
    }

    private double mean(PlaneMark m, IntToDoubleFunction of) {
        return m.mean(of, i -> cells().get(i).dwellS());
    }

    private void error(GraphicsContext g, Palette p, Analysis a, PlaneMark m, boolean mine) {
        double e = mean(m, i -> a.targetPhi(i) / a.estimate().phi(i) - 1);
        Color color = p.of(e);
        disc(g, p, color, m, mine, "");
        whisker(g, clear(color, mine ? STRONG : WEAK), m.x(), m.y(), e, true);
        Effect then = session.trials().effectProperty().get();
        double[] after = then.phi();
        if (!then.changed()) {
            return;
        }
        boolean moved = Arrays.stream(m.cells()).anyMatch(i -> Math.abs(after[i] / a.estimate().phi(i) - 1) > 0.005);
        if (mine || (then.tried() && moved)) {
            whisker(g, p.ink(), m.x() + 4, m.y(), mean(m, i -> a.targetPhi(i) / after[i] - 1), false);
        }
    }

    /** A disc as large as the time spent; dashed where that is little. */
    private static void disc(GraphicsContext g, Palette p, Color color, PlaneMark m, boolean strong, String inside) {
        double solid = strong ? STRONG : WEAK;
        double r = m.r();
        g.setFill(clear(p.panel(), 0.8));
        g.fillOval(m.x() - r, m.y() - r, 2 * r, 2 * r);
        boolean thin = m.dwellS() < 1.5;
        g.setFill(clear(color, thin ? 0.12 * solid : 0.35 * solid));
        g.fillOval(m.x() - r, m.y() - r, 2 * r, 2 * r);
        g.setStroke(clear(color, solid));
        g.setLineWidth(strong ? 1.6 : 1);
        g.setLineDashes(thin ? new double[] {2, 2} : new double[] {});
        g.strokeOval(m.x() - r, m.y() - r, 2 * r, 2 * r);
        g.setLineDashes();
        if (!inside.isEmpty()) {
            text(g, inside, m.x(), m.y() + r + 8, 12, p.ink(), TextAlignment.CENTER);
        }
    }

    /** The part of the disc that the circuits of the stop fill. */
    private void share(GraphicsContext g, Palette p, Analysis a, PlaneMark m, Stop stop) {
        double s = mean(m, i -> a.estimate().share(i, stop.circuits(a.observation().sheet().carburetor().family())));
        disc(g, p, p.faint(), m, false, "");
        g.setFill(p.accent());
        g.fillArc(m.x() - m.r(), m.y() - m.r(), 2 * m.r(), 2 * m.r(), 90, -360 * s, ArcType.ROUND);
    }

    /** The words of the mark under the pointer, beside it and inside the picture. */
    private void told(GraphicsContext g, Palette p, Drive d, double w, double h) {
        PlaneMark m = hovered;
        if (m == null || !d.analysis().estimated()) {
            return;
        }
        List<String> lines = PlaneWords.of(session, m);
        double wide = 16 + lines.stream().mapToDouble(l -> width(l, 12.5)).max().orElse(0);
        double high = 10 + 18.0 * lines.size();
        double x = Math.clamp(m.x() + m.r() + 8 + wide > w - 4 ? m.x() - m.r() - 8 - wide : m.x() + m.r() + 8, 4,
                Math.max(4, w - wide - 4));
        double y = Math.clamp(m.y() - high / 2, 4, Math.max(4, h - high - 4));
        g.setFill(p.panel());
        g.fillRoundRect(x, y, wide, high, 8, 8);
        g.setStroke(p.accent());
        g.setLineWidth(1.4);
        g.strokeRoundRect(x, y, wide, high, 8, 8);
        for (int i = 0; i < lines.size(); i++) {
            text(g, lines.get(i), x + 8, y + 14 + 18.0 * i, 12.5, p.ink(), TextAlignment.LEFT);
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
        if (shows.get() == Shows.DWELL || shows.get() == Shows.SHARE) {
            text(g, say(shows.get() == Shows.DWELL ? "plane.key-dwell" : "plane.key-share"), x, y, 12, p.faint(),
                    TextAlignment.LEFT);
            return;
        }
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
