package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.DoubleUnaryOperator;
import javafx.geometry.Rectangle2D;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;
import nariz.app.theme.Palette;
import nariz.carburetor.Circuit;
import nariz.coverage.DrivePlan;

/** Readings still to be made, as frames on the plane, with their names where nothing else stands. */
final class PlanFrames {
    private static final double HIGH = 16;
    /** Room kept free over and under a mark for its whiskers, px. */
    private static final double WHISKER = 16;

    private final List<DrivePlan.Item> missing;
    private final DoubleUnaryOperator x;
    private final DoubleUnaryOperator y;
    private final Rectangle2D page;

    /**
     * Frames.
     *
     * @param missing what is missing
     * @param x place of a speed, px
     * @param y place of a vacuum, px
     * @param page where names may stand
     */
    PlanFrames(List<DrivePlan.Item> missing, DoubleUnaryOperator x, DoubleUnaryOperator y, Rectangle2D page) {
        this.missing = missing.stream().filter(i -> !Double.isNaN(i.fromPa())).toList();
        this.x = x;
        this.y = y;
        this.page = page;
    }

    private Rectangle2D frame(DrivePlan.Item i) {
        double left = x.applyAsDouble(i.fromRpm());
        double top = y.applyAsDouble(i.fromPa());
        return new Rectangle2D(left, top, Math.max(4, x.applyAsDouble(i.toRpm()) - left), Math.max(8,
                y.applyAsDouble(i.toPa()) - top));
    }

    /** Readings still to be made, as empty frames to drive into. */
    void draw(GraphicsContext g, Palette p) {
        for (DrivePlan.Item i : missing) {
            Rectangle2D f = frame(i);
            g.setStroke(p.accent());
            g.setLineWidth(1.6);
            g.setLineDashes(4, 4);
            g.strokeRoundRect(f.getMinX(), f.getMinY(), f.getWidth(), f.getHeight(), 8, 8);
            g.setLineDashes();
            g.setFill(Picture.clear(p.accent(), 0.07));
            g.fillRoundRect(f.getMinX(), f.getMinY(), f.getWidth(), f.getHeight(), 8, 8);
        }
    }

    /** Names of the frames beside them: where a place has a mark, a name or another frame in it, the next is tried. */
    void names(GraphicsContext g, Palette p, List<Rectangle2D> taken, List<PlaneMark> marks) {
        Set<Circuit> named = new HashSet<>();
        for (DrivePlan.Item i : missing) {
            if (!named.contains(i.circuit())) {
                String name = say(i.circuit().label());
                Optional<Rectangle2D> free = place(name, frame(i), taken, marks, true).or(() -> place(name, frame(i),
                        taken, marks, false));
                free.ifPresent(r -> {
                    named.add(i.circuit());
                    taken.add(Picture.plate(g, p, name, r.getMinX() + 3, r.getMinY() + 8, p.accent(),
                            TextAlignment.LEFT));
                });
            }
        }
    }

    private Optional<Rectangle2D> place(String s, Rectangle2D f, List<Rectangle2D> taken, List<PlaneMark> marks,
            boolean clear) {
        double wide = Picture.width(s, 12) + 6;
        double middle = 0.5 * (f.getMinX() + f.getMaxX()) - wide / 2;
        double centre = 0.5 * (f.getMinY() + f.getMaxY()) - HIGH / 2;
        double right = f.getMaxX() + 3;
        double left = f.getMinX() - wide - 3;
        double[][] places = {{middle, f.getMinY() - HIGH - 2}, {middle, f.getMaxY() + 2}, {right, centre}, {left,
                centre},
            {right, f.getMinY()}, {right, f.getMaxY() - HIGH}, {left, f.getMinY()}, {left, f.getMaxY() - HIGH},
            {middle, centre}};
        return Arrays.stream(places).map(at -> new Rectangle2D(at[0], at[1], wide, HIGH)).filter(r -> page.contains(r)
                && taken.stream().noneMatch(r::intersects) && marks.stream().noneMatch(m -> r.intersects(m.x() - m.r()
                - 2, m.y() - m.r() - WHISKER, 2 * m.r() + 8, 2 * m.r() + 2 * WHISKER)) && (!clear
                || missing.stream().noneMatch(i ->
                r.intersects(frame(i))))).findFirst();
    }
}
