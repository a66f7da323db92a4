package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.ProgressionHole;
import nariz.estimation.Cell;
import nariz.estimation.Observation;
import nariz.units.Quantity;

/**
 * The wall of a bore beside its throttle plate: the progression holes to scale, the plate's edge at the cursor,
 * and right of them the mixture the drive read with the edge at every height.
 */
public final class ProgressionPicture extends SteppedPicture {
    private static final double LEFT = 70;
    private static final double TOP = 48;
    private static final double BOTTOM = 40;
    private static final double WALL = 92;
    private static final double SPARE_M = 0.6e-3;
    private static final double MOST_ERROR = 0.20;
    /** Most of the wall that is drawn, m: further up no hole is left to pass. */
    private static final double HIGHEST_M = 4.5e-3;

    private final DriveModel models = new DriveModel();

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public ProgressionPicture(Session session) {
        super(session, say("progression-picture.name"), say("progression-picture.help"));
    }

    private List<ProgressionHole> holes() {
        Drive d = session().driveProperty().get();
        return d == null ? List.of() : d.sheet().carburetor().family().holes(d.sheet());
    }

    private double edge(Drive d) {
        Observation o = d.analysis().observation();
        return models.of(d).edgeTravelM(o.thetaRad(o.stateOf(session().cursorProperty().get())));
    }

    @Override
    void step(boolean next) {
        Drive d = session().driveProperty().get();
        if (d == null || !d.analysis().estimated()) {
            return;
        }
        DeliveryModel m = models.of(d);
        double now = edge(d);
        Comparator<Cell> byEdge = Comparator.comparingDouble(c -> m.edgeTravelM(c.thetaRad()));
        List<Cell> cells = d.analysis().estimate().cells().stream().filter(c -> next ? m.edgeTravelM(c.thetaRad()) > now
                + 0.1e-3 : m.edgeTravelM(c.thetaRad()) < now - 0.1e-3).toList();
        (next ? cells.stream().min(byEdge) : cells.stream().max(byEdge)).ifPresent(c -> session().moveCursor(c
                .longestSample()));
    }

    @Override
    void pick(double px, double py) {
        Drive d = session().driveProperty().get();
        if (d == null || holes().isEmpty() || !d.analysis().estimated()) {
            return;
        }
        DeliveryModel m = models.of(d);
        List<Cell> cells = d.analysis().estimate().cells();
        IntStream.range(0, cells.size()).boxed().min(Comparator.comparingDouble(i -> Math.hypot(y(m.edgeTravelM(cells
                .get(i).thetaRad()), getHeight()) - py, x(error(d, i), getWidth()) - px))).ifPresent(i -> session()
                .moveCursor(cells.get(i).longestSample()));
    }

    private double highest() {
        return Math.min(HIGHEST_M, holes().stream().mapToDouble(h -> h.heightM() + h.diameterM()).max().orElse(3e-3)
                + SPARE_M);
    }

    private double y(double heightM, double h) {
        double most = highest();
        return h - BOTTOM - (h - TOP - BOTTOM) * (Math.clamp(heightM, -SPARE_M, most) + SPARE_M) / (most + SPARE_M);
    }

    private static double x(double error, double w) {
        double left = LEFT + WALL + 150;
        return left + (w - left - 24) * (Math.clamp(error, -MOST_ERROR, MOST_ERROR) + MOST_ERROR) / (2 * MOST_ERROR);
    }

    /** Lambda over target less one in a cell, what walls gave or took left out. */
    private static double error(Drive d, int cell) {
        Cell c = d.analysis().estimate().cells().get(cell);
        return d.analysis().targetPhi(cell) * c.film() / c.phi() - 1.0;
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        strong(g, say("progression-picture.title"), 14, 18, 14, p.ink(), TextAlignment.LEFT);
        Drive d = session().driveProperty().get();
        List<ProgressionHole> holes = holes();
        if (holes.isEmpty()) {
            text(g, say(d == null ? "stab-picture.nothing-is-open" : "progression-picture.none"), 14, 44, 14, p.faint(),
                    TextAlignment.LEFT);
            return;
        }
        wall(g, p, holes, h);
        double edge = edge(d);
        if (!Double.isNaN(edge)) {
            plate(g, p, edge, h);
        }
        passed(g, p, holes, edge, h);
        readings(g, p, d, w, h);
    }

    private void wall(GraphicsContext g, Palette p, List<ProgressionHole> holes, double h) {
        double x = LEFT + WALL;
        g.setFill(clear(p.rule(), 0.8));
        g.fillRect(x, TOP, 26, h - TOP - BOTTOM);
        line(g, x, TOP, x, h - BOTTOM, p.ink(), 2);
        double perM = y(0, h) - y(1e-3, h);
        for (ProgressionHole hole : holes) {
            double tall = hole.diameterM() / 1e-3 * perM;
            g.setFill(p.fuel());
            g.fillRect(x, y(hole.heightM(), h) - tall / 2, 26, tall);
            g.setStroke(p.ink());
            g.setLineWidth(1.2);
            g.strokeRect(x, y(hole.heightM(), h) - tall / 2, 26, tall);
        }
        for (int mm = 0; mm * 1e-3 <= highest(); mm++) {
            line(g, LEFT - 6, y(mm * 1e-3, h), LEFT, y(mm * 1e-3, h), p.faint(), 1);
            text(g, mm + " mm", LEFT - 10, y(mm * 1e-3, h), 12, p.faint(), TextAlignment.RIGHT);
        }
        line(g, LEFT, y(0, h), x, y(0, h), p.faint(), 1, 4, 4);
        text(g, say("progression-picture.shut"), LEFT + 4, y(0, h) + 10, 12, p.faint(), TextAlignment.LEFT);
    }

    private void plate(GraphicsContext g, Palette p, double edge, double h) {
        double y = y(edge, h);
        g.setStroke(p.accent());
        g.setLineWidth(5);
        g.strokeLine(LEFT + 6, y + 26, LEFT + WALL - 2, y);
        text(g, say("progression-picture.edge", Quantity.trim(1e3 * edge, 1) + " mm"), LEFT + WALL - 8, y - 16, 12, p
                .accent(), TextAlignment.RIGHT);
    }

    /** What each hole does at the cursor. */
    private void passed(GraphicsContext g, Palette p, List<ProgressionHole> holes, double edge, double h) {
        double x = LEFT + WALL + 34;
        for (ProgressionHole hole : holes) {
            double below = Math.clamp((edge - hole.heightM()) / hole.diameterM() + 0.5, 0.0, 1.0);
            String words = say(Double.isNaN(below) ? "progression-picture.unknown" : below > 0.95
                    ? "progression-picture.feeds" : below < 0.05 ? "progression-picture.bleeds"
                    : "progression-picture.half");
            text(g, words, x, y(hole.heightM(), h), 12.5, below > 0.5 ? p.ink() : p.faint(), TextAlignment.LEFT);
        }
    }

    /** The mixture read with the edge at every height: a mark for every place of dwell. */
    private void readings(GraphicsContext g, Palette p, Drive d, double w, double h) {
        double zero = x(0, w);
        line(g, zero, TOP, zero, h - BOTTOM, p.ink(), 1);
        for (int percent = -20; percent <= 20; percent += 10) {
            double x = x(percent / 100.0, w);
            line(g, x, TOP, x, h - BOTTOM, p.rule(), 0.8);
            text(g, percent == 0 ? say("pull-picture.target") : Math.abs(percent) + " %", x, h - BOTTOM + 12, 12, p
                    .faint(), TextAlignment.CENTER);
        }
        strong(g, say("stab-picture.rich"), x(-MOST_ERROR, w) + 4, TOP + 8, 12, p.rich(), TextAlignment.LEFT);
        strong(g, say("fuel-stream.lean"), x(MOST_ERROR, w) - 4, TOP + 8, 12, p.lean(), TextAlignment.RIGHT);
        if (!d.analysis().estimated()) {
            return;
        }
        DeliveryModel m = models.of(d);
        List<Cell> cells = d.analysis().estimate().cells();
        double most = highest();
        for (int i = 0; i < cells.size(); i++) {
            Cell c = cells.get(i);
            double edge = m.edgeTravelM(c.thetaRad());
            if (edge <= most) {
                double e = error(d, i);
                double r = Math.clamp(2.0 + Math.sqrt(c.dwellS()), 2.5, 9.0);
                g.setFill(clear(p.of(e), 0.75));
                g.fillOval(x(e, w) - r, y(edge, h) - r, 2 * r, 2 * r);
            }
        }
        text(g, say("progression-picture.further"), w - 24, h - 12, 12, p.faint(), TextAlignment.RIGHT);
    }
}
