package nariz.app.chart;

import static nariz.app.words.WindowWords.say;
import static nariz.app.words.WindowWords.units;

import java.util.Locale;
import javafx.scene.AccessibleRole;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.dynamics.TipIn;
import nariz.estimation.Flag;
import nariz.log.Quality;
import nariz.log.Span;
import nariz.units.Units;

/**
 * The log along the bottom: mixture measured and predicted, speed and vacuum, what does not count, and the cursor every
 * other picture follows. Drag, or arrow keys (Shift: a second, Home and End).
 */
public final class Scrubber extends Picture {
    private static final double LEFT = 62;
    private static final double RIGHT = 14;
    private static final double LANE = 13;
    /** Below this height it is a ribbon: the mixture has all of it and speed is left out. */
    private static final double LOW = 110;
    private static final double LEANEST = 1.30;
    private static final double RICHEST = 0.72;

    private final Session session;
    private double anchorS = Double.NaN;
    private Columns columns;
    private boolean low;

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public Scrubber(Session session) {
        super(say("scrubber.log"), say("scrubber.the-whole-drive-left"));
        setAccessibleRole(AccessibleRole.SLIDER);
        this.session = session;
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> {
            if (was == null || is == null || was.opening() != is.opening()) {
                // What was begun in one drive does not end in the next.
                anchorS = Double.NaN;
            }
            redraw();
        });
        WeakListeners.attach(session.cursorProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.unitProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.selectionProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.decisions().valueProperty(), this, (o, was, is) -> redraw());
        setOnMousePressed(e -> {
            requestFocus();
            seek(e.getX());
            anchorS = e.isShiftDown() ? timeAt(e.getX()) : Double.NaN;
            session.select(null);
        });
        setOnMouseDragged(e -> {
            if (Double.isNaN(anchorS)) {
                seek(e.getX());
            } else {
                stretchTo(timeAt(e.getX()));
            }
        });
        PictureKey.ofCursor(session).forEach(this::on);
    }

    private void seek(double x) {
        Drive d = session.driveProperty().get();
        if (d != null) {
            session.moveCursor(d.log().indexAt(timeAt(x)));
        }
    }

    private double timeAt(double x) {
        Drive d = session.driveProperty().get();
        double share = Math.clamp((x - LEFT) / (getWidth() - LEFT - RIGHT), 0, 1);
        return d == null ? Double.NaN : d.log().timeS()[0] + share * d.log().durationS();
    }

    private void stretchTo(double timeS) {
        session.select(Double.isNaN(anchorS) || timeS == anchorS ? null
                : new Span(Math.min(anchorS, timeS), Math.max(anchorS, timeS)));
    }

    /** Begins a stretch at the cursor. */
    public void beginStretch() {
        Drive d = session.driveProperty().get();
        if (d != null) {
            anchorS = d.log().timeS()[session.cursorProperty().get()];
            session.select(null);
        }
    }

    /** Ends the stretch that was begun at the cursor. */
    public void endStretch() {
        Drive d = session.driveProperty().get();
        if (d != null) {
            stretchTo(d.log().timeS()[session.cursorProperty().get()]);
        }
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        Drive d = session.driveProperty().get();
        if (d == null) {
            text(g, say("scrubber.no-log-is-open"), 14, h / 2, 14, p.faint(), TextAlignment.LEFT);
            return;
        }
        low = h < LOW;
        double top = 26;
        double lane = h - 18 - LANE;
        double split = low ? lane - 2 : top + 0.60 * (lane - top);
        columns(g, p, d, w, top, split, lane);
        scale(g, p, d, w, top, split, lane, h);
        stretches(g, p, d, w, top, lane);
        cursor(g, p, d, w, top, lane);
    }

    private double atTime(Drive d, double timeS, double w) {
        return LEFT + (w - LEFT - RIGHT) * Math.clamp((timeS - d.log().timeS()[0]) / d.log().durationS(), 0, 1);
    }

    /** Selection, what was taken out, and a small diamond over whatever is odd. */
    private void stretches(GraphicsContext g, Palette p, Drive d, double w, double top, double lane) {
        Span s = session.selectionProperty().get();
        if (s != null) {
            g.setFill(clear(p.accent(), 0.18));
            g.fillRect(atTime(d, s.fromS(), w), top, atTime(d, s.toS(), w) - atTime(d, s.fromS(), w), lane - top);
        }
        for (Span out : session.decisions().valueProperty().get().excluded()) {
            double from = atTime(d, out.fromS(), w);
            double to = Math.max(from + 2, atTime(d, out.toS(), w));
            g.setFill(clear(p.panel(), 0.72));
            g.fillRect(from, top, to - from, lane + LANE - top);
            for (double x = from; x < to; x += 7) {
                line(g, x, lane + LANE - 2, Math.min(x + 7, to), lane, p.ink(), 1);
            }
            text(g, say("scrubber.out"), 0.5 * (from + to), top + 8, 12, p.ink(), TextAlignment.CENTER);
        }
        for (TipIn t : d.tipIns().events()) {
            double x = atTime(d, t.atS(), w);
            Color c = t.lean() ? p.lean() : p.faint();
            // A small foot on the pedal: solid where it reads lean enough to be felt.
            if (t.lean()) {
                g.setFill(c);
                g.fillPolygon(new double[] {x, x, x + 7}, new double[] {top - 7, top + 1, top + 1}, 3);
            } else {
                g.setStroke(c);
                g.setLineWidth(1);
                g.strokePolygon(new double[] {x, x, x + 7}, new double[] {top - 7, top + 1, top + 1}, 3);
            }
        }
        for (Quality.Finding f : d.odd()) {
            double x = atTime(d, 0.5 * (f.fromS() + f.toS()), w);
            g.setStroke(p.ink());
            g.setLineWidth(1);
            g.strokePolygon(new double[] {x - 3, x, x + 3, x}, new double[] {lane - 3, lane - 6, lane - 3, lane}, 4);
        }
    }

    private double x(Drive d, int sample, double w) {
        double[] t = d.log().timeS();
        return LEFT + (w - LEFT - RIGHT) * (t[sample] - t[0]) / d.log().durationS();
    }

    private static double lambdaY(double lambda, double top, double bottom) {
        double share = (Math.clamp(lambda, RICHEST, LEANEST) - RICHEST) / (LEANEST - RICHEST);
        return bottom - share * (bottom - top);
    }

    /**
     * What stands in every pixel column: one pass over the samples when drive or width change, not with every move of
     * the cursor.
     */
    private static final class Columns {
        private final Drive drive;
        private final double width;
        private final float[] least;
        private final float[] greatest;
        private final float[] model;
        private final float[] rpm;
        private final float[] vacuumPa;
        private final Flag[] flag;

        Columns(Drive d, double w) {
            drive = d;
            width = w;
            int n = Math.max(0, (int) (w - RIGHT) - (int) LEFT);
            least = new float[n];
            greatest = new float[n];
            model = new float[n];
            rpm = new float[n];
            vacuumPa = new float[n];
            flag = new Flag[n];
            int from = 0;
            for (int k = 0; k < n && from < d.log().size(); k++) {
                from = fill(k, from);
            }
        }

        private int fill(int k, int from) {
            double[] t = drive.log().timeS();
            double right = t[0] + drive.log().durationS() * (k + 1) / (width - LEFT - RIGHT);
            int to = from;
            float low = Float.POSITIVE_INFINITY;
            float high = Float.NEGATIVE_INFINITY;
            double sum = 0;
            int summed = 0;
            double fastest = 0;
            double vacuum = 0;
            int[] flags = new int[Flag.values().length];
            for (; to < t.length && t[to] < right; to++) {
                double m = drive.trace().measured(to);
                if (!Double.isNaN(m)) {
                    low = Math.min(low, (float) m);
                    high = Math.max(high, (float) m);
                }
                double q = drive.trace().predicted(to);
                if (!Double.isNaN(q)) {
                    sum += q;
                    summed++;
                }
                fastest = Math.max(fastest, drive.log().rpm()[to]);
                vacuum += Math.max(0, drive.log().vacuumPa()[to]);
                flags[drive.trace().flag(to).ordinal()]++;
            }
            if (to > from) {
                least[k] = low;
                greatest[k] = high;
                model[k] = summed > 0 ? (float) (sum / summed) : Float.NaN;
                rpm[k] = (float) fastest;
                vacuumPa[k] = (float) (vacuum / (to - from));
                flag[k] = most(flags);
            }
            return to;
        }

        private static Flag most(int[] counts) {
            int best = 0;
            for (int i = 1; i < counts.length; i++) {
                best = counts[i] > counts[best] ? i : best;
            }
            return Flag.values()[best];
        }
    }

    /** Least and greatest as a span, flags as the lane. */
    private void columns(GraphicsContext g, Palette p, Drive d, double w, double top, double split, double lane) {
        if (columns == null || columns.drive.trace() != d.trace() || columns.width != w) {
            columns = new Columns(d, w);
        }
        double red = d.sheet().engine().redlineRpm();
        double below = low ? 0.7 * (lane - top) : lane - split - 6;
        for (int k = 0; k < columns.flag.length; k++) {
            if (columns.flag[k] == null) {
                continue;
            }
            int px = (int) LEFT + k;
            double v = Math.min(1, columns.vacuumPa[k] / (25 * Units.INHG));
            g.setFill(clear(p.fuel(), 0.5));
            g.fillRect(px, lane - 3 - below * v, 1, below * v);
            g.setFill(p.ink());
            if (!low) {
                g.fillRect(px, lane - 3 - below * Math.min(1, columns.rpm[k] / red), 1, 1.6);
            }
            if (columns.greatest[k] > 0) {
                double y1 = lambdaY(columns.greatest[k], top, split);
                g.fillRect(px, y1, 1, Math.max(1.2, lambdaY(columns.least[k], top, split) - y1));
            }
            if (!Float.isNaN(columns.model[k])) {
                g.setFill(p.accent());
                g.fillRect(px, lambdaY(columns.model[k], top, split) - 0.8, 1, 1.8);
            }
            flag(g, p, px, lane, columns.flag[k]);
        }
    }

    private static void flag(GraphicsContext g, Palette p, int px, double lane, Flag f) {
        Color c = f == Flag.STEADY ? p.fine() : p.faint();
        g.setFill(c);
        switch (f) {
            case STEADY -> g.fillRect(px, lane + 1, 1, LANE - 4);
            case OVERRUN -> g.fillRect(px, lane + LANE - 5, 1, 2);
            case TRANSIENT -> {
                if (px % 4 < 2) {
                    g.fillRect(px, lane + 3, 1, LANE - 8);
                }
            }
            default -> {
                if (px % 6 < 1) {
                    g.fillRect(px, lane + 1, 1, LANE - 4);
                }
            }
        }
    }

    private void scale(GraphicsContext g, Palette p, Drive d, double w, double top, double split, double lane,
            double h) {
        for (double lambda : low ? new double[] {1.0} : new double[] {0.8, 1.0, 1.2}) {
            double y = lambdaY(lambda, top, split);
            line(g, LEFT, y, w - RIGHT, y, clear(p.rule(), 0.8), 0.7);
            text(g, session.unitProperty().get().text(lambda), LEFT - 6, y, 12, p.faint(), TextAlignment.RIGHT);
        }
        if (!low) {
            text(g, say("scrubber.rpm-vac"), LEFT - 6, 0.5 * (split + lane), 12, p.faint(), TextAlignment.RIGHT);
        }
        text(g, say("scrubber.steady"), LEFT - 6, lane + LANE / 2 - 1, 12, p.faint(), TextAlignment.RIGHT);
        double length = d.log().durationS();
        double every = every(length, w - LEFT - RIGHT);
        for (double t = 0; t <= length; t += every) {
            double x = LEFT + (w - LEFT - RIGHT) * t / length;
            String s = clock(t);
            text(g, s, Math.min(x, w - 3 - width(s, 12) / 2), h - 9, 12, p.faint(), TextAlignment.CENTER);
        }
    }

    /** Round steps of time whose figures do not touch. */
    private static double every(double length, double wide) {
        double most = wide / 48;
        for (double s : new double[] {30, 60, 120, 300, 600, 1800, 3600, 7200}) {
            if (length / s <= most) {
                return s;
            }
        }
        return 14_400 * Math.ceil(length / most / 14_400);
    }

    private void cursor(GraphicsContext g, Palette p, Drive d, double w, double top, double lane) {
        int i = session.cursorProperty().get();
        double x = x(d, i, w);
        line(g, x, top - 4, x, lane + LANE, p.accent(), 2);
        g.setFill(p.accent());
        g.fillPolygon(new double[] {x - 6, x + 6, x}, new double[] {top - 10, top - 10, top - 1}, 3);
        String s = say("scrubber.rpm-vacuum-read-model",
                clock(d.log().timeS()[i] - d.log().timeS()[0]), d.log().rpm()[i],
                units().vacuum(d.log().vacuumPa()[i]), session.unitProperty().get().marked(d.trace().measuredAround(i)),
                session.unitProperty().get().text(d.trace().predictedAround(i)), d.trace().flag(i).label());
        double wide = width(s, 13);
        double left = x < w / 2 ? Math.max(x + 12, LEFT) : x - 12 - wide;
        // Beside the mark where there is room, and wholly within the picture in any case.
        text(g, s, Math.max(4, Math.min(left, w - 4 - wide)), 9, 13, p.ink(), TextAlignment.LEFT);
        setAccessibleHelp(s);
    }

    private static String clock(double s) {
        return String.format(Locale.ROOT, "%d:%02d", (int) s / 60, (int) s % 60);
    }
}
