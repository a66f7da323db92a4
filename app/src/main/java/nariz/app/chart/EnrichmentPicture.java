package nariz.app.chart;

import static nariz.app.words.WindowWords.say;
import static nariz.app.words.WindowWords.units;

import java.util.List;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.diagnosis.EnrichmentFinding;
import nariz.dynamics.EnrichmentStudy;
import nariz.units.Units;

/**
 * How much of the enrichment was read at every manifold vacuum, with the line it opens along as vacuum falls, the one
 * it shuts along as vacuum rises, what it is rated, and where the vacuum lay by way of driving.
 */
public final class EnrichmentPicture extends SteppedPicture {
    private static final double LEFT = 128;
    private static final double RIGHT = 22;
    private static final double TOP = 64;
    /** Row of the legend, above all marks. */
    private static final double LEGEND = 36;
    private static final double ROW = 19;
    private static final double AXIS = 30;
    private static final double LOW = -0.4;
    private static final double HIGH = 1.4;
    private static final double NEAR_PX = 14;

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public EnrichmentPicture(Session session) {
        super(session, say("enrichment-picture.name"), say("enrichment-picture.help"));
    }

    private Optional<EnrichmentFinding> found() {
        Drive d = session().driveProperty().get();
        return d == null ? Optional.empty() : d.analysis().advice().dynamics().enrichment();
    }

    /** To the next or previous moment at which it begins to open. */
    @Override
    void step(boolean next) {
        found().ifPresent(f -> {
            List<EnrichmentStudy.Moment> m = f.seen().moments();
            int now = session().cursorProperty().get();
            for (int k = 1; k < m.size(); k++) {
                int i = next ? k : m.size() - k;
                boolean begins = m.get(i).rising() && !m.get(i - 1).rising();
                int at = m.get(i).sample();
                if (begins && (next ? at > now : at < now)) {
                    session().moveCursor(at);
                    return;
                }
            }
        });
    }

    @Override
    void pick(double px, double py) {
        found().ifPresent(f -> {
            double least = NEAR_PX * NEAR_PX;
            int best = -1;
            for (EnrichmentStudy.Moment m : f.seen().moments()) {
                double dx = x(f, m.vacuumPa(), getWidth()) - px;
                double dy = y(f, m.share(), getHeight()) - py;
                if (dx * dx + dy * dy < least) {
                    least = dx * dx + dy * dy;
                    best = m.sample();
                }
            }
            if (best >= 0) {
                session().moveCursor(best);
            }
        });
    }

    /** Vacuum at the left edge: everything that was read near the line, and the lowest cruising. */
    private static double most(EnrichmentFinding f) {
        double line = f.ratedPa() + 7.0 * Units.INHG;
        return f.cruise().map(w -> Math.max(line, w.lowPa() + Units.INHG)).orElse(line);
    }

    private static double x(EnrichmentFinding f, double pa, double w) {
        return LEFT + (w - LEFT - RIGHT) * (1.0 - Math.clamp(pa / most(f), 0.0, 1.0));
    }

    private static double bottom(EnrichmentFinding f, double h) {
        return h - AXIS - ROW * f.ways().size() - 12;
    }

    private static double y(EnrichmentFinding f, double share, double h) {
        return TOP + (bottom(f, h) - TOP) * (HIGH - Math.clamp(share, LOW, HIGH)) / (HIGH - LOW);
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        strong(g, say("enrichment-picture.title"), 14, 18, 14, p.ink(), TextAlignment.LEFT);
        Optional<EnrichmentFinding> found = found();
        if (found.isEmpty()) {
            text(g, say(session().driveProperty().get() == null ? "stab-picture.nothing-is-open"
                    : "enrichment-picture.nothing"), 14, 44, 14, p.faint(), TextAlignment.LEFT);
            return;
        }
        EnrichmentFinding f = found.get();
        axes(g, p, f, w, h);
        EnrichmentStudy.Seen s = f.seen();
        double low = x(f, s.opensPa()[2], w);
        double high = x(f, s.opensPa()[1], w);
        g.setFill(clear(p.accent(), 0.16));
        g.fillRect(low, TOP, Math.max(2, high - low), bottom(f, h) - TOP);
        int cursor = session().cursorProperty().get();
        EnrichmentStudy.Moment under = null;
        for (EnrichmentStudy.Moment m : s.moments()) {
            mark(g, m, x(f, m.vacuumPa(), w), y(f, m.share(), h), clear(m.rising() ? p.fine() : p.accent(), 0.55), 3);
            under = Math.abs(m.sample() - cursor) < Math.abs((under == null ? Integer.MAX_VALUE / 2 : under.sample())
                    - cursor) ? m : under;
        }
        ramp(g, f, s.opensPa()[0], p.ink(), w, h);
        ramp(g, f, s.shutsPa()[0], p.fine(), w, h, 6, 4);
        double rated = x(f, f.ratedPa(), w);
        line(g, rated, TOP - 6, rated, bottom(f, h) + 4, p.rich(), 1.6, 2, 3);
        plate(g, p, say("enrichment-picture.rated", units().rating(f.ratedPa())), rated, TOP - 14, p.rich(),
                TextAlignment.CENTER);
        Drive d = session().driveProperty().get();
        if (under != null && d != null && Math.abs(d.log().timeS()[under.sample()] - d.log().timeS()[cursor]) < 1.0) {
            mark(g, under, x(f, under.vacuumPa(), w), y(f, under.share(), h), p.ink(), 6);
        }
        legend(g, p, s, w);
        ways(g, p, f, w, h);
    }

    /** A dot as vacuum falls, a square once it was open. */
    private static void mark(GraphicsContext g, EnrichmentStudy.Moment m, double x, double y, Color c, double r) {
        g.setFill(c);
        if (m.rising()) {
            g.fillRect(x - r, y - r, 2 * r, 2 * r);
        } else {
            g.fillOval(x - r, y - r, 2 * r, 2 * r);
        }
    }

    private static void ramp(GraphicsContext g, EnrichmentFinding f, double linePa, Color c, double w, double h,
            double... dashes) {
        double half = EnrichmentStudy.Seen.HALF_BAND_PA;
        double y0 = y(f, 0, h);
        double y1 = y(f, 1, h);
        line(g, LEFT, y0, x(f, linePa + half, w), y0, c, 2.2, dashes);
        line(g, x(f, linePa + half, w), y0, x(f, linePa - half, w), y1, c, 2.2, dashes);
        line(g, x(f, linePa - half, w), y1, w - RIGHT, y1, c, 2.2, dashes);
    }

    private static void axes(GraphicsContext g, Palette p, EnrichmentFinding f, double w, double h) {
        for (double share : new double[] {0, 0.5, 1}) {
            double y = y(f, share, h);
            line(g, LEFT, y, w - RIGHT, y, p.rule(), 0.8);
            text(g, say(share == 0 ? "enrichment-picture.shut" : share == 1 ? "enrichment-picture.open"
                    : "enrichment-picture.half"), LEFT - 8, y, 12, p.faint(), TextAlignment.RIGHT);
        }
        double unit = units().pressure().pa();
        double step = Ticks.step(most(f) / unit, 8) * unit;
        double base = h - AXIS;
        for (double at = 0; at <= most(f); at += step) {
            double x = x(f, at, w);
            line(g, x, TOP, x, base, p.rule(), 0.8);
            text(g, Ticks.text(at / unit, step / unit), x, base + 11, 12, p.faint(), TextAlignment.CENTER);
        }
        text(g, units().pressureLabel(), LEFT - 8, base + 11, 12, p.faint(), TextAlignment.RIGHT);
    }

    private static void legend(GraphicsContext g, Palette p, EnrichmentStudy.Seen s, double w) {
        String opens = say("enrichment-picture.opens", units().bare(s.opensPa()[0]), units().bare(s.opensPa()[1]),
                units().bare(s.opensPa()[2]));
        double x = 14;
        line(g, x, LEGEND, x + 18, LEGEND, p.ink(), 2.2);
        text(g, opens, x + 24, LEGEND, 12.5, p.ink(), TextAlignment.LEFT);
        x += 24 + width(opens, 12.5) + 18;
        line(g, x, LEGEND, x + 18, LEGEND, p.fine(), 2.2, 6, 4);
        text(g, say("enrichment-picture.shuts", units().bare(s.shutsPa()[0])), x + 24, LEGEND, 12.5, p.ink(),
                TextAlignment.LEFT);
        text(g, say("enrichment-picture.marks"), w - RIGHT, 18, 12, p.faint(), TextAlignment.RIGHT);
    }

    /** Where the vacuum lay in each way of driving: nine tenths of the time, with the middle. */
    private static void ways(GraphicsContext g, Palette p, EnrichmentFinding f, double w, double h) {
        double y = bottom(f, h) + 12 + 0.5 * ROW;
        for (EnrichmentFinding.Way way : f.ways()) {
            text(g, say("enrichment-picture.way", way.regime().label(), way.seconds()), LEFT - 8, y, 12, p.ink(),
                    TextAlignment.RIGHT);
            double from = x(f, way.highPa(), w);
            double to = x(f, way.lowPa(), w);
            if (way.lowPa() > most(f)) {
                text(g, say("enrichment-picture.beyond", units().bare(way.lowPa()), units().bare(way.highPa())), LEFT
                        + 4,
                        y, 12, p.faint(), TextAlignment.LEFT);
            } else {
                g.setFill(clear(p.fuel(), 0.7));
                g.fillRoundRect(from, y - 5, Math.max(3, to - from), 10, 5, 5);
                double middle = x(f, way.middlePa(), w);
                line(g, middle, y - 6, middle, y + 6, p.ink(), 2);
            }
            y += ROW;
        }
    }
}
