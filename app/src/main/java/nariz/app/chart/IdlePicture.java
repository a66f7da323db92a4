package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.Rectangle2D;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;
import nariz.app.state.IdleWork;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.estimation.Estimate;
import nariz.idle.IdleGuide;
import nariz.idle.IdleReading;
import nariz.idle.School;
import org.jspecify.annotations.Nullable;

/**
 * How the engine answers to the screws: speed against turns as read, the curve that is believed with its 90 % band,
 * where each school would finish, and where the screws stand.
 */
public final class IdlePicture extends Picture {
    private static final double LEFT = 58;
    private static final double RIGHT = 20;
    private static final double TOP = 44;
    private static final double FOOT = 136;
    /** Height of the numbers and words below the floor. */
    private static final double AXIS_WORDS = 37;
    /** Distance between points of the curve and its band. */
    private static final double STEP_PX = 3;
    private static final double SPAN = 0.75;

    private final Session session;

    /**
     * The picture of an idle being set.
     *
     * @param session what to show
     */
    public IdlePicture(Session session) {
        super(say("idle-picture.name"), say("idle-picture.help"));
        this.session = session;
        WeakListeners.attach(session.live().idle().stepProperty(), this, (o, was, is) -> redraw());
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        strong(g, say("idle-picture.name"), 14, 18, 16, p.ink(), TextAlignment.LEFT);
        IdleWork.@Nullable Step step = session.live().idle().stepProperty().get();
        if (step == null || step.guide().readings().size() < 2) {
            text(g, say("idle-picture.empty"), 14, 44, 15, p.faint(), TextAlignment.LEFT);
            return;
        }
        IdleGuide guide = step.guide();
        List<IdleReading> readings = guide.readings();
        double low = readings.stream().mapToDouble(IdleReading::turns).min().orElse(0) - 0.25;
        double high = readings.stream().mapToDouble(IdleReading::turns).max().orElse(0) + 0.25;
        for (IdleGuide.Place at : guide.schools().values()) {
            if (Math.abs(at.turns() - guide.turns()) < SPAN) {
                low = Math.min(low, at.turns() - 0.1);
                high = Math.max(high, at.turns() + 0.1);
            }
        }
        double top = readings.stream().mapToDouble(IdleReading::rpm).max().orElse(1);
        double[] bases = readings.stream().mapToDouble(r -> r.rpm() / (1 - lost(guide, r.turns()))).sorted().toArray();
        double base = bases[bases.length / 2];
        top = Math.max(top, base) * 1.01;
        double bottom = Math.min(readings.stream().mapToDouble(IdleReading::rpm).min().orElse(0), 0.97 * base) * 0.995;
        Axes a = new Axes(low, high, bottom, top, w, h);
        grid(g, p, a);
        curve(g, p, a, guide, base);
        for (int i = 0; i < readings.size(); i++) {
            IdleReading r = readings.get(i);
            double x = a.x(r.turns());
            double y = a.y(r.rpm());
            line(g, x, a.y(r.rpm() - 2 * r.rpmSd()), x, a.y(r.rpm() + 2 * r.rpmSd()), p.ink(), 1.4);
            boolean last = i == readings.size() - 1;
            g.setFill(last ? p.accent() : p.panel());
            g.fillOval(x - 5, y - 5, 10, 10);
            g.setStroke(p.ink());
            g.setLineWidth(1.5);
            g.strokeOval(x - 5, y - 5, 10, 10);
        }
        schools(g, p, a, guide);
    }

    private static double lost(IdleGuide g, double at) {
        return g.lostAt(at).map(b -> b[0]).orElse(0.0);
    }

    private record Axes(double low, double high, double bottom, double top, double w, double h) {
        double x(double turns) {
            return LEFT + (turns - low) / (high - low) * (w - LEFT - RIGHT);
        }

        double y(double rpm) {
            return TOP + (1 - Math.clamp((rpm - bottom) / (top - bottom), -0.05, 1.05)) * (h - TOP - FOOT);
        }
    }

    private static void grid(GraphicsContext g, Palette p, Axes a) {
        double floor = a.h() - FOOT;
        for (double t = Math.ceil(a.low() * 4) / 4; t <= a.high(); t += 0.25) {
            line(g, a.x(t), TOP, a.x(t), floor, p.rule(), 1);
            text(g, String.format(Locale.ROOT, t % 0.5 == 0 ? "%.1f" : "%.2f", t), a.x(t), floor + 12, 12, p.faint(),
                    TextAlignment.CENTER);
        }
        double step = (a.top() - a.bottom()) > 120 ? 50 : (a.top() - a.bottom()) > 50 ? 20 : 10;
        for (double r = Math.ceil(a.bottom() / step) * step; r <= a.top(); r += step) {
            line(g, LEFT, a.y(r), a.w() - RIGHT, a.y(r), p.rule(), 1);
            text(g, String.format(Locale.ROOT, "%.0f", r), LEFT - 8, a.y(r), 12, p.faint(), TextAlignment.RIGHT);
        }
        text(g, say("idle-picture.rpm"), 12, TOP - 10, 12, p.faint(), TextAlignment.LEFT);
        text(g, say("idle-picture.leaner"), LEFT, floor + 28, 13, p.lean(), TextAlignment.LEFT);
        text(g, say("idle-picture.richer"), a.w() - RIGHT, floor + 28, 13, p.rich(), TextAlignment.RIGHT);
        text(g, say("idle-picture.turns"), (LEFT + a.w() - RIGHT) / 2, floor + 28, 12, p.faint(), TextAlignment.CENTER);
    }

    private static void curve(GraphicsContext g, Palette p, Axes a, IdleGuide guide, double base) {
        double lastX = Double.NaN;
        double lastY = 0;
        double floor = a.h() - FOOT;
        int n = (int) ((a.w() - LEFT - RIGHT) / STEP_PX) + 1;
        // There along the upper edge, back along the lower.
        double[] edgeX = new double[2 * n];
        double[] edgeY = new double[2 * n];
        for (int i = 0; i < n; i++) {
            double x = LEFT + i * STEP_PX;
            double turns = a.low() + (x - LEFT) / (a.w() - LEFT - RIGHT) * (a.high() - a.low());
            Optional<double[]> band = guide.lostAt(turns);
            if (band.isEmpty()) {
                return;
            }
            double y = a.y(base * (1 - band.get()[0]));
            edgeX[i] = x;
            edgeX[2 * n - 1 - i] = x;
            edgeY[i] = Math.min(floor, a.y(base * (1 - Math.max(0, band.get()[0] - Estimate.Z90 * band.get()[1]))));
            edgeY[2 * n - 1 - i] = Math.min(floor, a.y(base * (1 - band.get()[0] - Estimate.Z90 * band.get()[1])));
            if (y > floor) {
                // Below what is shown, where the numbers of the axis stand.
                lastX = Double.NaN;
                continue;
            }
            if (!Double.isNaN(lastX)) {
                line(g, lastX, lastY, x, y, p.accent(), 2);
            }
            lastX = x;
            lastY = y;
        }
        g.setFill(clear(p.accent(), 0.13));
        g.fillPolygon(edgeX, edgeY, 2 * n);
    }

    /** Where each school would finish: a mark with its interval; names in rows, so that none lies over another. */
    private record Name(String text, Rectangle2D place, boolean own) {
    }

    private static void schools(GraphicsContext g, Palette p, Axes a, IdleGuide guide) {
        double floor = a.h() - FOOT;
        List<Name> names = new ArrayList<>();
        for (Map.Entry<School, IdleGuide.Place> e : guide.schools().entrySet()) {
            double x = a.x(Math.clamp(e.getValue().turns(), a.low(), a.high()));
            boolean own = e.getKey() == guide.settings().school();
            String name = say("school." + e.getKey().key());
            double wide = width(name, 13);
            double left = Math.clamp(x - wide / 2, 6, Math.max(6, a.w() - wide - 6));
            double y = floor + 48;
            while (overlaps(names, left, y, wide)) {
                y += 17;
            }
            names.add(new Name(name, new Rectangle2D(left - 4, y - 8, wide + 8, 16), own));
            double[] dashes = own ? new double[0] : new double[] {3, 4};
            // It leaves room for the numbers and words of the axis.
            line(g, x, TOP, x, floor, own ? p.accent() : p.faint(), own ? 2 : 1, dashes);
            line(g, x, floor + AXIS_WORDS, x, y - 9, own ? p.accent() : p.faint(), own ? 2 : 1, dashes);
            if (own) {
                double from = a.x(Math.clamp(e.getValue().low(), a.low(), a.high()));
                double to = a.x(Math.clamp(e.getValue().high(), a.low(), a.high()));
                g.setFill(clear(p.accent(), 0.28));
                g.fillRect(from, floor - 6, Math.max(2, to - from), 6);
            }
        }
        // Lines to names further down pass behind those above.
        for (Name n : names) {
            Rectangle2D r = n.place();
            g.setFill(p.panel());
            g.fillRect(r.getMinX(), r.getMinY(), r.getWidth(), r.getHeight());
            if (n.own()) {
                strong(g, n.text(), r.getMinX() + 4, r.getMinY() + 8, 13, p.accent(), TextAlignment.LEFT);
            } else {
                text(g, n.text(), r.getMinX() + 4, r.getMinY() + 8, 13, p.ink(), TextAlignment.LEFT);
            }
        }
    }

    private static boolean overlaps(List<Name> names, double left, double y, double wide) {
        return names.stream().anyMatch(n -> n.place().intersects(left - 4, y - 8, wide + 8, 16));
    }
}
