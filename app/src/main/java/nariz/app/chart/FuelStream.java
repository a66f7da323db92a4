package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.application.Platform;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.state.Shares;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.app.theme.Palette;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Needle;
import nariz.carburetor.Stage;
import nariz.diagnosis.CircuitFinding;
import nariz.diagnosis.Status;
import nariz.estimation.Observation;
import nariz.flow.ThrottlePlate;
import nariz.log.Span;

/**
 * The signature picture: fuel leaves the bowl, splits through the circuits in proportion to what each delivers at the
 * cursor or over the selection, and joins in the bore. Every branch carries its own error against target with the 90
 * % interval.
 */
public final class FuelStream extends Picture {
    private static final double THICKEST = 84;
    private static final double THINNEST = 24;
    /** Under this width of a branch the interval is left out of its words. */
    private static final double NARROW = 190;
    /** Room for the triangle or dot before the words of a mark. */
    private static final double BESIDE = 26;
    /** Height of the words above a branch, px. */
    private static final double LABEL = 20;
    /** Where the level part of a branch begins and ends between bowl and bore. */
    private static final double BEGIN = 0.15;
    private static final double END = 0.91;
    private static final double PLATE_AND_WORDS = 158;
    /** Below this width bowl and bore are drawn smaller, px. */
    private static final double SMALL = 380;
    private static final int MOST_PLATES = 8;
    /** The needle in the bore: its rim above the bottom, its stations' distance and half of its thickness, px. */
    private static final double RIM = 30;
    private static final double PER_STATION = 4.5;
    private static final double HALF = 11;
    private static final double EASE = 0.45;
    private static final double SNAP = 0.004;

    private final Session session;
    private final DriveModel models = new DriveModel();
    private final List<Hit> hits = new ArrayList<>();
    private double[] shown = new double[0];
    private Drive drawn;
    private Span summedSpan;
    private Drive summedDrive;
    private Shares summed;

    private record Hit(double top, double bottom, Stop stop) {
    }

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public FuelStream(Session session) {
        super(say("fuel-stream.fuel-stream"), say("fuel-stream.fuel-by-circuit-at"));
        this.session = session;
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.cursorProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.selectionProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.unitProperty(), this, (o, was, is) -> redraw());
        setOnMouseClicked(e -> hits.stream().filter(x -> e.getY() >= x.top() && e.getY() < x.bottom()).findFirst()
                .ifPresent(x -> session.goTo(x.stop())));
        setMinSize(300, 185);
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        hits.clear();
        Drive d = session.driveProperty().get();
        Span span = d == null ? null : session.selectionProperty().get();
        strong(g, span == null ? say("fuel-stream.fuel-at-the-cursor") : say("fuel-stream.fuel-over-the-selection",
                span.toS() - span.fromS()), 14, 18, 14, p.ink(),
                TextAlignment.LEFT);
        if (d == null || !d.analysis().estimated()) {
            text(g, d == null ? say("fuel-stream.nothing-is-open") : say("fuel-stream.too-little-steady-running"), 14,
                    44, 14,
                    p.faint(), TextAlignment.LEFT);
            return;
        }
        Shares wanted = span == null ? Shares.at(d, session.cursorProperty().get())
                : over(d, span);
        if (!d.equals(drawn)) {
            drawn = d;
            shown = wanted.phi().clone();
        }
        ease(wanted.phi());
        double total = 0;
        for (double part : shown) {
            total += part;
        }
        List<Circuit> branches = branches(d);
        Geometry geo = new Geometry(w, h, branches.size());
        bowl(g, p, geo);
        bore(g, p, geo, wanted);
        branches(g, p, geo, d, branches, total);
    }

    /** One stage after the other, each in the order of work; a damper moves what others deliver and is no branch. */
    private static List<Circuit> branches(Drive d) {
        Family family = d.sheet().carburetor().family();
        boolean pump = family.pumpSetting(d.sheet()).isPresent();
        return family.circuits().stream().filter(c -> pump || c.role() != Circuit.Role.PUMP)
                .sorted(Comparator.comparing(Circuit::stage)).toList();
    }

    /** A selection is summed up once, not with every pulse of its easing in. */
    private Shares over(Drive d, Span span) {
        if (!span.equals(summedSpan) || !d.equals(summedDrive)) {
            summedSpan = span;
            summedDrive = d;
            summed = Shares.over(d, span);
        }
        return summed;
    }

    /** Goes a part of the way to what is wanted with every pulse, so that the eye can follow a branch that grows. */
    private void ease(double[] wanted) {
        boolean there = true;
        for (int i = 0; i < wanted.length; i++) {
            double left = wanted[i] - shown[i];
            if (Math.abs(left) > SNAP) {
                shown[i] += EASE * left;
                there = false;
            } else {
                shown[i] = wanted[i];
            }
        }
        if (!there) {
            // Not within the layout that runs: it would be the same pulse.
            Platform.runLater(this::redraw);
        }
    }

    /** Where things stand. */
    private static final class Geometry {
        private final double bowlRight;
        private final double boreW;
        private final double boreLeft;
        private final double top = 36;
        private final double bottom;
        private final double middle;
        private final double thickest;
        private final double label;

        Geometry(double w, double h, int branches) {
            // In a narrow window bowl and bore give way first: the words of the branches need their room.
            boolean small = w < SMALL;
            boreW = small ? 92 : 112;
            bowlRight = small ? 44 : 66;
            boreLeft = w - boreW - 12;
            bottom = h - 10;
            middle = 0.5 * (top + bottom);
            // Because in a small window every branch must still have its place.
            thickest = Math.clamp(bottom - top - branches * LABEL, THINNEST, Math.max(THICKEST,
                    0.24 * (bottom - top)));
            label = Math.min(LABEL, (bottom - top - thickest) / branches);
        }
    }

    private static void bowl(GraphicsContext g, Palette p, Geometry geo) {
        double half = 62;
        g.setFill(clear(p.fuel(), 0.9));
        g.fillRoundRect(14, geo.middle - half + 26, geo.bowlRight - 14, 2 * half - 26, 10, 10);
        g.setStroke(p.ink());
        g.setLineWidth(1.5);
        g.strokeRoundRect(14, geo.middle - half, geo.bowlRight - 14, 2 * half, 10, 10);
        line(g, 14, geo.middle - half + 26, geo.bowlRight, geo.middle - half + 26, p.ink(), 1);
        String name = say("fuel-stream.bowl");
        if (width(name, 13) < geo.bowlRight - 16) {
            text(g, name, 0.5 * (14 + geo.bowlRight), geo.middle, 13, p.ink(), TextAlignment.CENTER);
        }
    }

    private void bore(GraphicsContext g, Palette p, Geometry geo, Shares at) {
        double x = geo.boreLeft;
        line(g, x, geo.top, x, geo.bottom, p.ink(), 2);
        line(g, x + geo.boreW, geo.top, x + geo.boreW, geo.bottom, p.ink(), 2);
        double angle = at.angleRad();
        double open = Double.isNaN(angle) ? 0 : angle / ThrottlePlate.WIDE_OPEN;
        double cx = x + geo.boreW / 2;
        double cy = geo.bottom - 46;
        double lean = Math.toRadians(10 + 80 * open);
        g.setStroke(p.ink());
        double r = geo.boreW / 2 - 6;
        // In a low picture the readings have the room.
        if (geo.bottom - geo.top > PLATE_AND_WORDS) {
            Drive d = session.driveProperty().get();
            Optional<Needle> needle = d.sheet().carburetor().family().needle(d.sheet());
            if (needle.isPresent()) {
                needle(g, p, d, needle.get(), cx, geo);
            } else {
                plates(g, d, cx, cy, r, lean);
            }
        }
        double measured = at.measured();
        double wanted = at.wanted();
        strong(g, session.unitProperty().get().text(measured), cx, geo.top + 34, 30, p.ink(), TextAlignment.CENTER);
        text(g, say("fuel-stream.read") + session.unitProperty().get().label(), cx, geo.top + 58, 12, p.faint(),
                TextAlignment.CENTER);
        if (!Double.isNaN(wanted)) {
            double e = measured / wanted - 1;
            text(g, say("fuel-stream.wanted", session.unitProperty().get().text(wanted)), cx, geo.top + 78, 13, p.ink(),
                    TextAlignment.CENTER);
            if (!Double.isNaN(e)) {
                strong(g, words(e), cx, geo.top + 98, 13, p.of(e), TextAlignment.CENTER);
            }
        } else {
            double y = geo.top + 78;
            for (String s : lines(at.why(), 13, geo.boreW - 8)) {
                text(g, s, cx, y, 13, p.faint(), TextAlignment.CENTER);
                y += 16;
            }
        }
    }

    /** The throttle plates of the first stage, all barrels side by side. */
    private static void plates(GraphicsContext g, Drive d, double cx, double cy, double r, double lean) {
        Carburetor c = d.sheet().carburetor();
        int n = (int) Math.clamp(c.count() * c.number(Stage.PRIMARY.key() + ".bores"), 1, MOST_PLATES);
        double own = r / n;
        g.setLineWidth(Math.max(2.0, 5.0 - 0.5 * n));
        for (int i = 0; i < n; i++) {
            double x = cx - r + (2 * i + 1) * own;
            double half = 0.92 * own;
            g.strokeLine(x - half * Math.cos(lean), cy + half * Math.sin(lean), x + half * Math.cos(lean), cy - half
                    * Math.sin(lean));
        }
    }

    /** The needle as it stands in its jet, its lift and the station that meters. */
    private void needle(GraphicsContext g, Palette p, Drive d, Needle needle, double cx, Geometry geo) {
        Observation o = d.analysis().observation();
        double air = o.airKgPerS(o.stateOf(session.cursorProperty().get()));
        double at = models.of(d).stationAt(air);
        if (Double.isNaN(at)) {
            return;
        }
        double rim = geo.bottom - RIM;
        double shoulder = rim - at * PER_STATION;
        int n = needle.stations();
        double jetM = d.sheet().carburetor().family().needleJetM(d.sheet());
        double widest = jetM - needle.diametersM().getLast();
        double[] xs = new double[2 * n];
        double[] ys = new double[2 * n];
        for (int s = 0; s < n; s++) {
            double thick = HALF * (1.0 - 0.8 * (jetM - needle.diametersM().get(s)) / widest);
            xs[s] = cx - thick;
            xs[2 * n - 1 - s] = cx + thick;
            ys[s] = Math.min(shoulder + s * PER_STATION, geo.bottom - 2);
            ys[2 * n - 1 - s] = ys[s];
        }
        g.setFill(p.ink());
        g.fillPolygon(xs, ys, 2 * n);
        g.fillRect(cx - 30, shoulder - 12, 60, 12);
        line(g, cx - HALF - 1, rim, cx - HALF - 1, geo.bottom, p.ink(), 2);
        line(g, cx + HALF + 1, rim, cx + HALF + 1, geo.bottom, p.ink(), 2);
        line(g, cx - 38, rim, cx - HALF, rim, p.accent(), 2);
        line(g, cx + HALF, rim, cx + 38, rim, p.accent(), 2);
        text(g, say("fuel-stream.station", at + 1.0), cx + 16, geo.bottom - 12, 12, p.accent(), TextAlignment.LEFT);
    }

    private void branches(GraphicsContext g, Palette p, Geometry geo, Drive d, List<Circuit> branches,
            double total) {
        double out = geo.middle - geo.thickest / 2 + 14;
        double in = geo.middle - geo.thickest / 2;
        double slack = Math.max(0, (geo.bottom - geo.top - geo.thickest) / branches.size() - geo.label);
        double at = geo.top;
        for (Circuit c : branches) {
            double share = total > 0 ? shown[c.index()] / total : 0;
            double thick = share * geo.thickest;
            double y = at + geo.label + thick / 2;
            Stop stop = Stops.of(c);
            boolean selected = stop.equals(session.stopProperty().get());
            hits.add(new Hit(at, at + geo.label + thick + slack, stop));
            at += geo.label + thick + slack;
            CircuitFinding f = d.analysis().advice().finding(c);
            ribbon(g, p, geo, out + thick / 2, y, in + thick / 2, thick, color(p, f), selected);
            out += thick;
            in += thick;
            label(g, p, geo, f, share, y, selected);
        }
    }

    private static Color color(Palette p, CircuitFinding f) {
        boolean judged = f.status() == Status.OFF || f.status() == Status.WAITING || f.status() == Status.IN_DOUBT;
        return judged && !Double.isNaN(f.error()) && Math.abs(f.error()) > 0.025 ? p.of(f.error()) : p.fuel();
    }

    private static void ribbon(GraphicsContext g, Palette p, Geometry geo, double y0, double y1, double y2,
            double thick, Color c, boolean selected) {
        double a = geo.bowlRight;
        double b = geo.boreLeft;
        double m0 = a + BEGIN * (b - a);
        double m1 = a + END * (b - a);
        if (thick < 0.4) {
            line(g, m0, y1, m1, y1, p.rule(), 1, 3, 4);
            return;
        }
        double t = Math.max(thick, 1.5) / 2;
        g.beginPath();
        g.moveTo(a, y0 - t);
        g.bezierCurveTo(a + 0.6 * (m0 - a), y0 - t, m0 - 0.6 * (m0 - a), y1 - t, m0, y1 - t);
        g.lineTo(m1, y1 - t);
        g.bezierCurveTo(m1 + 0.6 * (b - m1), y1 - t, b - 0.6 * (b - m1), y2 - t, b, y2 - t);
        g.lineTo(b, y2 + t);
        g.bezierCurveTo(b - 0.6 * (b - m1), y2 + t, m1 + 0.6 * (b - m1), y1 + t, m1, y1 + t);
        g.lineTo(m0, y1 + t);
        g.bezierCurveTo(m0 - 0.6 * (m0 - a), y1 + t, a + 0.6 * (m0 - a), y0 + t, a, y0 + t);
        g.closePath();
        g.setFill(clear(c, 0.85));
        g.fill();
        if (selected) {
            g.setStroke(p.accent());
            g.setLineWidth(2);
            g.stroke();
        }
    }

    private static void label(GraphicsContext g, Palette p, Geometry geo, CircuitFinding f, double share, double y,
            boolean selected) {
        double x = geo.bowlRight + BEGIN * (geo.boreLeft - geo.bowlRight) + 4;
        double up = y - Math.max(share * geo.thickest / 2, 1) - 9;
        double right = geo.bowlRight + END * (geo.boreLeft - geo.bowlRight) - 4;
        boolean narrow = right - x < NARROW;
        boolean unread = f.status() == Status.NOT_READ || Double.isNaN(f.error());
        double free = right - x - BESIDE - width(unread ? state(f) : markWords(f, narrow), 12);
        String label = say(f.circuit().label());
        String name = narrow || width(label, 12.5) > free ? say(f.circuit().shortLabel()) : label;
        String with = String.format(Locale.ROOT, "%s  %.0f %%", name, 100 * share);
        boolean bare = share < 0.005 || width(with, 12.5) > free;
        String percent = bare ? name : with;
        if (selected) {
            strong(g, percent, x, up, 12.5, p.accent(), TextAlignment.LEFT);
        } else {
            text(g, percent, x, up, 12.5, share > 0.005 ? p.ink() : p.faint(), TextAlignment.LEFT);
        }
        if (unread) {
            text(g, state(f), right, up, 12, p.faint(), TextAlignment.RIGHT);
            return;
        }
        mark(g, p, f, right, up, narrow);
    }

    /** What stands beside a branch that has no mixture of its own: a pump may be judged all the same. */
    private static String state(CircuitFinding f) {
        return switch (f.status()) {
            case NOT_READ -> say("fuel-stream.not-read");
            case WAITING -> say("stop-words.waits");
            case SETTLED -> say("fuel-stream.fine");
            case OFF, IN_DOUBT -> say(f.status().label());
        };
    }

    /** Whether the branch is marked as lean or rich; what is settled is not, whatever it reads within tolerance. */
    private static boolean off(CircuitFinding f) {
        return f.status() != Status.SETTLED && Math.abs(f.error()) >= 0.025;
    }

    private static String markWords(CircuitFinding f, boolean narrow) {
        double half = 0.5 * (f.high() - f.low()) / Math.max(f.correction(), 0.1);
        String s = off(f) ? narrow ? Math.round(Math.abs(f.error()) * 100) + " %"
                : words(f.error()) : narrow ? say("fuel-stream.fine") : say("fuel-stream.on-target");
        return s + (narrow ? "" : String.format(Locale.ROOT, " ±%.0f", 100 * half));
    }

    /** Error against target: a triangle up for lean, down for rich, a dot for fine; the whisker is the interval. */
    private static void mark(GraphicsContext g, Palette p, CircuitFinding f, double right, double y,
            boolean narrow) {
        double e = f.error();
        Color c = off(f) ? p.of(e) : p.fine();
        String s = markWords(f, narrow);
        strong(g, s, right, y, 12, c, TextAlignment.RIGHT);
        double x = right - 10 - width(s, 12);
        if (!off(f)) {
            g.fillOval(x - 3, y - 3, 6, 6);
        } else {
            double t = e > 0 ? -1 : 1;
            g.fillPolygon(new double[] {x - 5, x + 5, x}, new double[] {y - 4 * t, y - 4 * t, y + 5 * t}, 3);
        }
    }

    private static String words(double e) {
        long percent = Math.round(Math.abs(e) * 100);
        return percent == 0 ? say("fuel-stream.on-target") : percent + " % " + (e > 0 ? say("fuel-stream.lean")
                : say("fuel-stream.rich"));
    }
}
