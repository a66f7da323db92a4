package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Needle;
import nariz.carburetor.NeedleChart;
import nariz.carburetor.PartChange;
import nariz.diagnosis.NeedleProfile;
import nariz.estimation.Cell;
import nariz.text.Measure;
import nariz.text.Message;

/**
 * The needle in its jet, from the shoulder to the tip: above, the gap it leaves at every station, drawn wider than it
 * is, with the jet's rim where it stands at the cursor; below, how much thinner or thicker it ought to be, with the 90
 * % interval, what is being tried, and the nearest needles of the user's own table.
 */
public final class NeedlePicture extends SteppedPicture {
    private static final double LEFT = 74;
    private static final double RIGHT = 26;
    private static final double TOP = 44;
    private static final double BOTTOM = 64;
    /** Share of the height that the needle itself takes. */
    private static final double NEEDLE = 0.34;
    private static final double LEAST_RANGE_M = 38e-6;
    private static final double NEAR_PX = 30;
    private static final int NEAREST = 2;
    /** A stay longer than this is no better, s; a station nearer is worth as much as this many seconds more. */
    private static final double LONG_S = 10.0;
    private static final double S_PER_STATION = 20.0;
    /** How much further on the next place has to be, in stations. */
    private static final double NEXT = 0.4;

    private final DriveModel models = new DriveModel();

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public NeedlePicture(Session session) {
        super(session, say("needle-picture.name"), say("needle-picture.help"));
        WeakListeners.attach(session.trials().effectProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.needlesProperty(), this, (o, was, is) -> redraw());
    }

    private Optional<NeedleProfile> profile() {
        Drive d = session().driveProperty().get();
        return d == null ? Optional.empty() : d.analysis().advice().needle();
    }

    private double station(Drive d) {
        int s = d.analysis().observation().stateOf(session().cursorProperty().get());
        return models.of(d).stationAt(d.analysis().observation().airKgPerS(s));
    }

    @Override
    void step(boolean next) {
        Drive d = session().driveProperty().get();
        if (d != null && profile().isPresent()) {
            double now = station(d);
            DeliveryModel m = models.of(d);
            goTo(d, next ? now + 1.0 : now - 1.0, c -> next ? m.stationAt(c.airKgPerS()) > now + NEXT : m.stationAt(c
                    .airKgPerS()) < now - NEXT);
        }
    }

    @Override
    void pick(double px, double py) {
        Drive d = session().driveProperty().get();
        if (d != null && profile().isPresent()) {
            int n = profile().get().stations().size();
            double at = (px - LEFT) / (getWidth() - LEFT - RIGHT) * (n - 1);
            if (at > -NEAR_PX && at < n) {
                goTo(d, at, c -> true);
            }
        }
    }

    /** To the longest stay near a station. */
    private void goTo(Drive d, double station, Predicate<Cell> among) {
        DeliveryModel m = models.of(d);
        List<Cell> cells = d.analysis().estimated() ? d.analysis().estimate().cells() : List.of();
        cells.stream().filter(among).max(Comparator.comparingDouble(c -> Math.min(c.dwellS(), LONG_S) - S_PER_STATION
                * Math.abs(m.stationAt(c.airKgPerS()) - station))).ifPresent(c -> session().moveCursor(c
                .longestSample()));
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        Drive d = session().driveProperty().get();
        Optional<Needle> needle = d == null ? Optional.empty() : d.sheet().carburetor().family().needle(d
                .sheet());
        if (needle.isEmpty()) {
            strong(g, say("needle-picture.title-plain"), 14, 18, 14, p.ink(), TextAlignment.LEFT);
            text(g, say(d == null ? "stab-picture.nothing-is-open" : "needle-picture.none"), 14, 44, 14, p.faint(),
                    TextAlignment.LEFT);
            return;
        }
        double at = station(d);
        strong(g, Double.isNaN(at) ? say("needle-picture.title-plain") : say("needle-picture.title", at + 1.0), 14, 18,
                14, p.ink(), TextAlignment.LEFT);
        int n = needle.get().stations();
        Across x = new Across(w, n);
        double split = TOP + NEEDLE * (h - TOP - BOTTOM);
        needle(g, p, needle.get(), d.sheet().carburetor().family().needleJetM(d.sheet()), x, TOP, split, at);
        if (profile().isPresent()) {
            wanted(g, p, d, profile().get(), x, split + 26, h - BOTTOM);
            numbers(g, p, profile().get(), x, h - BOTTOM);
            // Where parts are tried their line has its name in the same place.
            if (profile().get().off() && d.analysis().advice().changes().isEmpty()
                    && session().trials().effectProperty().get().changes().isEmpty()) {
                text(g, say("needle-picture.not-advised"), x.of(n - 1.0), split + 32, 12, p.faint(), TextAlignment
                        .RIGHT);
            }
        } else {
            text(g, say("fuel-stream.too-little-steady-running"), LEFT, split + 40, 13, p.faint(), TextAlignment.LEFT);
        }
    }

    private record Across(double w, int n) {
        double of(double station) {
            return LEFT + (w - LEFT - RIGHT) * station / (n - 1);
        }
    }

    /** Walls of the jet, the needle between them, and the fuel in the gap; the gap is drawn wide. */
    private static void needle(GraphicsContext g, Palette p, Needle needle, double jetM, Across x, double top,
            double bottom, double at) {
        int n = needle.diametersM().size();
        double half = 0.5 * (bottom - top);
        double middle = 0.5 * (top + bottom);
        double widest = jetM - needle.diametersM().getLast();
        double[] xs = new double[2 * n];
        double[] ys = new double[2 * n];
        for (int s = 0; s < n; s++) {
            double gap = (jetM - needle.diametersM().get(s)) / widest;
            double y = half * (1.0 - 0.86 * gap);
            xs[s] = x.of(s);
            ys[s] = middle - y;
            xs[2 * n - 1 - s] = x.of(s);
            ys[2 * n - 1 - s] = middle + y;
        }
        g.setFill(clear(p.fuel(), 0.55));
        g.fillRect(x.of(0), top, x.of(n - 1.0) - x.of(0), bottom - top);
        g.setFill(p.panel());
        g.fillPolygon(xs, ys, 2 * n);
        g.setStroke(p.ink());
        g.setLineWidth(1.4);
        g.strokePolygon(xs, ys, 2 * n);
        line(g, x.of(0), top, x.of(n - 1.0), top, p.ink(), 2);
        line(g, x.of(0), bottom, x.of(n - 1.0), bottom, p.ink(), 2);
        for (int s = 0; s < n; s++) {
            line(g, x.of(s), ys[s], x.of(s), ys[2 * n - 1 - s], p.rule(), 0.8);
        }
        text(g, say("needle-picture.shoulder"), LEFT - 8, middle, 12, p.faint(), TextAlignment.RIGHT);
        text(g, say("needle-picture.gap-wide"), x.of(n - 1.0), top - 10, 12, p.faint(), TextAlignment.RIGHT);
        if (!Double.isNaN(at)) {
            double rim = x.of(at);
            line(g, rim, top - 6, rim, bottom + 6, p.accent(), 2.4);
            plate(g, p, say("needle-picture.rim"), Math.clamp(rim, LEFT + 50, x.of(n - 1.0) - 50), bottom + 15, p
                    .accent(), TextAlignment.CENTER);
        }
    }

    private void wanted(GraphicsContext g, Palette p, Drive d, NeedleProfile profile, Across x, double top,
            double bottom) {
        List<NeedleProfile.Station> stations = profile.stations();
        double range = Math.max(LEAST_RANGE_M, stations.stream().filter(NeedleProfile.Station::read).mapToDouble(s ->
                Math.max(Math.abs(s.lowM() - s.diameterM()), Math.abs(s.highM() - s.diameterM()))).max().orElse(0.0)
                * 1.1);
        double zero = 0.5 * (top + bottom);
        double perM = 0.5 * (bottom - top) / range;
        line(g, LEFT, zero, x.of(stations.size() - 1.0), zero, p.ink(), 1.2);
        text(g, say("needle-picture.as-it-is"), LEFT - 8, zero, 12, p.faint(), TextAlignment.RIGHT);
        double most = stations.stream().mapToDouble(NeedleProfile.Station::dwellS).max().orElse(1.0);
        for (int s = 0; s < stations.size(); s++) {
            NeedleProfile.Station q = stations.get(s);
            double dwell = 0.35 * (bottom - top) * Math.sqrt(q.dwellS() / Math.max(most, 1.0));
            g.setFill(clear(p.rule(), 0.7));
            g.fillRect(x.of(s) - 8, bottom - dwell, 16, dwell);
        }
        plate(g, p, say("needle-picture.thicker"), LEFT + 4, top + 6, p.rich(), TextAlignment.LEFT);
        plate(g, p, say("needle-picture.thinner"), LEFT + 4, bottom - 8, p.lean(), TextAlignment.LEFT);
        charted(g, p, profile, x, zero, perM, top, bottom);
        tried(g, p, d, profile, x, zero, perM, top, bottom);
        for (int s = 0; s < stations.size(); s++) {
            NeedleProfile.Station q = stations.get(s);
            if (!q.read()) {
                text(g, "?", x.of(s), zero - 12, 12, p.faint(), TextAlignment.CENTER);
                continue;
            }
            double y = Math.clamp(zero - (q.wantedM() - q.diameterM()) * perM, top, bottom);
            line(g, x.of(s), Math.clamp(zero - (q.lowM() - q.diameterM()) * perM, top, bottom), x.of(s), Math.clamp(zero
                    - (q.highM() - q.diameterM()) * perM, top, bottom), p.faint(), 2);
            Color c = color(p, profile, s);
            g.setFill(c);
            g.fillOval(x.of(s) - 4.5, y - 4.5, 9, 9);
        }
    }

    /** Lean where the needle ought to be thinner by more than the interval, rich where thicker. */
    private static Color color(Palette p, NeedleProfile profile, int s) {
        NeedleProfile.Station q = profile.stations().get(s);
        return q.off() ? p.of(q.error()) : p.fine();
    }

    /** The needle with the parts advised or tried. */
    private void tried(GraphicsContext g, Palette p, Drive d, NeedleProfile profile, Across x, double zero, double perM,
            double top, double bottom) {
        List<PartChange> changes = session().trials().effectProperty().get().changes();
        BuildSheet then = PartChange.fit(d.sheet(), changes);
        List<Double> diameters = then.carburetor().family().needle(then).map(Needle::diametersM).orElse(List
                .of());
        List<Double> now = profile.stations().stream().map(NeedleProfile.Station::diameterM).toList();
        if (!diameters.equals(now) && diameters.size() == now.size()) {
            polyline(g, p.accent(), 2.2, IntStream.range(0, now.size()).mapToDouble(x::of).toArray(), IntStream.range(0,
                    now.size()).mapToDouble(s -> Math.clamp(zero - (diameters.get(s) - now.get(s)) * perM, top,
                    bottom)).toArray());
            text(g, say("needle-picture.this-change"), x.of(now.size() - 1.0), top + 6, 12, p.accent(), TextAlignment
                    .RIGHT);
        }
    }

    /** The nearest needles of the user's table. */
    private void charted(GraphicsContext g, Palette p, NeedleProfile profile, Across x, double zero, double perM,
            double top, double bottom) {
        Optional<NeedleChart> chart = session().needlesProperty().get();
        if (chart.isEmpty()) {
            return;
        }
        List<NeedleProfile.Station> stations = profile.stations();
        List<NeedleChart.Near> near = chart.get().nearest(profile.diameters(), profile.spacingM());
        double y = bottom - 22;
        for (NeedleChart.Near one : near.subList(0, Math.min(NEAREST, near.size()))) {
            List<Double> d = one.needle().at(stations.size(), profile.spacingM());
            double[] ys = new double[d.size()];
            for (int s = 0; s < ys.length; s++) {
                ys[s] = Math.clamp(zero - (d.get(s) - stations.get(s).diameterM()) * perM, top, bottom);
            }
            polyline(g, p.fine(), y == bottom - 22 ? 1.8 : 1.0, IntStream.range(0, ys.length).mapToDouble(x::of)
                    .toArray(), ys);
            plate(g, p, say("needle-picture.near", one.needle().name(), Message.of(Measure.size(one.offM()))), x.of(
                    stations.size() - 1.0), y, p.ink(), TextAlignment.RIGHT);
            y -= 18;
        }
    }

    private static void polyline(GraphicsContext g, Color c, double width, double[] xs, double[] ys) {
        g.setStroke(c);
        g.setLineWidth(width);
        g.strokePolyline(xs, ys, xs.length);
    }

    /** Today's and the wanted diameter under every station there is room for. */
    private static void numbers(GraphicsContext g, Palette p, NeedleProfile profile, Across x, double top) {
        List<NeedleProfile.Station> stations = profile.stations();
        int every = (int) Math.max(1, Math.ceil(44.0 * (stations.size() - 1) / (x.of(stations.size() - 1.0) - LEFT)));
        text(g, say("needle-picture.station"), LEFT - 20, top + 14, 12, p.faint(), TextAlignment.RIGHT);
        text(g, say("needle-picture.today"), LEFT - 20, top + 32, 12, p.faint(), TextAlignment.RIGHT);
        text(g, say("needle-picture.wanted"), LEFT - 20, top + 50, 12, p.faint(), TextAlignment.RIGHT);
        for (int s = 0; s < stations.size(); s += every) {
            NeedleProfile.Station q = stations.get(s);
            text(g, Integer.toString(s + 1), x.of(s), top + 14, 12, p.faint(), TextAlignment.CENTER);
            text(g, number(q.diameterM()), x.of(s), top + 32, 12, p.ink(), TextAlignment.CENTER);
            if (q.read()) {
                strong(g, number(q.wantedM()), x.of(s), top + 50, 12, color(p, profile, s), TextAlignment.CENTER);
            }
        }
    }

    /** The number alone, in the unit that is chosen for sizes: there is no room for the unit at every station. */
    private static String number(double m) {
        return say(Message.of(Measure.size(m))).replaceAll("[^0-9.,]", "");
    }
}
