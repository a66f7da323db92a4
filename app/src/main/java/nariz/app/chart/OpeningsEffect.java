package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Effect;
import nariz.app.theme.Palette;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.dynamics.OpeningStudy;

/**
 * What a change to the pump or the damper does to the openings of the throttle: lean area an opening today and after
 * it, and from where on a single one is felt. Steady running, which the rest of the effect shows, is the same with any
 * pump.
 */
final class OpeningsEffect {
    private static final double VALUES = 104;
    private static final double TOP = 42;
    private static final double TALLEST_ROW = 42;
    /** The line of what is felt lies no further right than this share of the scale. */
    private static final double FELT_SHARE = 0.6;

    private final OpeningStudy.Finding found;
    private final boolean damper;
    private final double most;

    private OpeningsEffect(OpeningStudy.Finding found, boolean damper) {
        this.found = found;
        this.damper = damper;
        most = Math.max(OpeningStudy.FELT / FELT_SHARE, Math.max(Math.max(found.lean()[2], found.leanAfter()[2]), Math
                .max(found.others().lean(), found.others().leanAfter())));
    }

    /**
     * The effect of what is advised.
     *
     * @param d drive
     * @param then what is shown of it
     * @return it, or empty where no part of a pump or damper is advised, or a person tries parts
     */
    static Optional<OpeningsEffect> of(Drive d, Effect then) {
        Optional<Part> part = then.changes().stream().map(PartChange::part).filter(x -> x.role()
                .pump()).findFirst();
        if (then.tried() || part.isEmpty()) {
            return Optional.empty();
        }
        return d.analysis().advice().pump().filter(f -> f.change().isPresent()).map(f -> new OpeningsEffect(f, part
                .get().role() == Part.Role.DAMPER));
    }

    void draw(GraphicsContext g, Palette p, double w, double h) {
        Picture.strong(g, say("openings-effect.today-and-after"), 12, 14, 14, p.ink(), TextAlignment.LEFT);
        boolean more = found.others().count() > 0;
        double row = Math.min(TALLEST_ROW, (h - TOP - 4) / (more ? 2 : 1));
        double felt = x(OpeningStudy.FELT, w);
        double bottom = TOP + row * (more ? 2 : 1);
        Picture.text(g, say("openings-effect.felt", OpeningStudy.FELT), felt, 31, 12, p.faint(), TextAlignment.CENTER);
        Picture.line(g, EffectChart.LEFT, TOP, EffectChart.LEFT, bottom, p.faint(), 1.2);
        Picture.line(g, felt, TOP, felt, bottom, p.faint(), 1.2, 4, 4);
        row(g, p, w, TOP + 0.5 * row, say("openings-effect.quick", found.felt()), found.lean(), found.leanAfter());
        if (more) {
            OpeningStudy.Others o = found.others();
            row(g, p, w, TOP + 1.5 * row, say(damper ? "openings-effect.closings" : "openings-effect.gentle", o
                    .count()), new double[] {o.lean()}, new double[] {o.leanAfter()});
        }
    }

    private double x(double area, double w) {
        return EffectChart.LEFT + Math.clamp(area / most, 0.0, 1.0) * (w - EffectChart.LEFT - VALUES);
    }

    /** Today above, after the change below it; with their intervals where there are any. */
    private void row(GraphicsContext g, Palette p, double w, double y, String what, double[] today, double[] after) {
        Picture.text(g, what, EffectChart.LEFT - 10, y, 12.5, p.ink(), TextAlignment.RIGHT);
        double up = y - 7;
        double down = y + 8;
        interval(g, p, today, w, up);
        double at = x(today[0], w);
        g.setFill(p.lean());
        g.fillPolygon(new double[] {at - 6, at + 6, at}, new double[] {up + 5, up + 5, up - 6}, 3);
        interval(g, p, after, w, down);
        Picture.ring(g, p, x(after[0], w), down);
        Picture.text(g, say("openings-effect.from-to", today[0], after[0]), w - 12, y, 12.5, p.ink(),
                TextAlignment.RIGHT);
    }

    private void interval(GraphicsContext g, Palette p, double[] v, double w, double y) {
        if (v.length > 2) {
            Picture.line(g, x(v[1], w), y, x(v[2], w), y, p.ink(), 1.4);
        }
    }
}
