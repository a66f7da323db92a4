package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import javafx.geometry.Rectangle2D;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Effect;
import nariz.app.state.Session;
import nariz.app.state.Strips;
import nariz.app.theme.Palette;
import nariz.log.Pyramid;
import nariz.log.Span;
import nariz.workbook.VehicleNotes;

/**
 * The log in strips, one a channel, with the model's prediction over the mixture, the readings as they came behind it,
 * and below which circuits deliver. Wheel zooms at the pointer, a drag pans, Shift and drag selects; the selection is
 * measured in every strip. Draws from least-and-greatest pyramids, so that a frame costs the same for any length.
 */
public final class TraceView extends Picture {
    private static final double LEFT = 62;
    private static final double GUTTER = 168;
    private static final double TOP = 42;
    private static final double BOTTOM = 22;
    private static final double RIBBON = 46;
    private static final double GAP = 6;
    private static final double LEAST_SPAN_S = 0.2;

    private final Session session;
    private final Raster raster = new Raster();
    /** Over the canvas and not drawn into it: one pass over the pixels less. */
    private final ImageView image = new ImageView();
    private final Set<String> wanted = new LinkedHashSet<>(List.of("mixture", "vacuum", "rpm"));
    private Strips strips;
    /** Those of the strips that are shown. */
    private List<Strips.Strip> rows = List.of();
    private Pyramid then;
    /** Top and height of every strip shown, px, and the height of all of them; set before each drawing. */
    private List<double[]> places = List.of();
    private double room;
    /** Pixels of the screen in one px. */
    private double sharp = 1;
    private double fromS;
    private double toS;
    private double grabbedX = Double.NaN;
    private double grabbedFromS;
    private double anchorS = Double.NaN;
    private boolean moved;
    /** Statistics of the selection: counted over every sample, so only once for a selection. */
    private Span countedFor;
    private List<Pyramid.Statistics> counted = List.of();

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public TraceView(Session session) {
        super(say("trace-view.trace"), say("trace-view.the-log-in-strips"));
        this.session = session;
        image.setMouseTransparent(true);
        image.setManaged(false);
        getChildren().add(image);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> open(is));
        WeakListeners.attach(session.trials().effectProperty(), this, (o, was, is) -> overlay(is));
        WeakListeners.attach(session.cursorProperty(), this, (o, was, is) -> follow());
        WeakListeners.attach(session.selectionProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.unitProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.shownProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.notes().notesProperty(), this, (o, was, is) -> redraw());
        addEventHandler(ScrollEvent.SCROLL, this::wheel);
        setOnMousePressed(this::press);
        setOnMouseDragged(this::drag);
        setOnMouseReleased(this::release);
        listKeys();
        setMinSize(350, 220);
        open(session.driveProperty().get());
    }

    private void open(Drive d) {
        show(d == null ? null : d.strips());
        overlay(session.trials().effectProperty().get());
    }

    /**
     * Shows strips from their first to their last sample.
     *
     * @param s strips, or null for none
     */
    public void show(Strips s) {
        boolean same = s != null && strips != null && Arrays.equals(s.timeS(), strips.timeS());
        strips = s;
        choose();
        if (s != null && !same) {
            whole();
        }
        redraw();
    }

    private void choose() {
        rows = strips == null ? List.of() : strips.strips().stream().filter(s -> wanted.contains(s.key())).toList();
        countedFor = null;
        redraw();
    }

    /**
     * Shows a channel or puts it away.
     *
     * @param key the strip's key
     * @param shown whether to show it
     */
    public void strip(String key, boolean shown) {
        if (shown) {
            wanted.add(key);
        } else {
            wanted.remove(key);
        }
        choose();
    }

    /**
     * Whether a channel is shown.
     *
     * @param key the strip's key
     * @return true when it was asked for
     */
    public boolean shows(String key) {
        return wanted.contains(key);
    }

    private void overlay(Effect e) {
        // The effect of a drive comes before the drive itself.
        then = e == null || strips == null || e.trace() == null || e.trace().size() != strips.timeS().length ? null
                : e.trace();
        redraw();
    }

    /** Shows the whole run. */
    public void whole() {
        double[] t = strips.timeS();
        view(t[0], t[t.length - 1]);
    }

    /**
     * Shows a stretch.
     *
     * @param startS first time, s
     * @param endS last time, s; kept inside the run, and not under 0.2 s
     */
    public void view(double startS, double endS) {
        double[] t = strips.timeS();
        double run = Math.max(LEAST_SPAN_S, t[t.length - 1] - t[0]);
        double span = Math.clamp(endS - startS, LEAST_SPAN_S, run);
        // Rounding may leave the room for it a hair below nothing.
        fromS = Math.clamp(startS, t[0], Math.max(t[0], t[0] + run - span));
        toS = fromS + span;
        redraw();
    }

    /** {@return first time shown, s} */
    public double fromS() {
        return fromS;
    }

    /** {@return last time shown, s} */
    public double toS() {
        return toS;
    }

    private double plotWidth() {
        return Math.max(40, Math.floor(getWidth()) - LEFT - GUTTER);
    }

    private double timeAt(double x) {
        return fromS + (toS - fromS) * Math.clamp((x - LEFT) / plotWidth(), 0, 1);
    }

    private double xAt(double timeS) {
        return LEFT + plotWidth() * (timeS - fromS) / (toS - fromS);
    }

    private void zoom(double factor, double aroundS) {
        view(aroundS - (aroundS - fromS) * factor, aroundS + (toS - aroundS) * factor);
    }

    private void wheel(ScrollEvent e) {
        if (strips != null) {
            zoom(Math.pow(1.0025, -e.getDeltaY() - e.getDeltaX()), timeAt(e.getX()));
            e.consume();
        }
    }

    private void press(MouseEvent e) {
        requestFocus();
        moved = false;
        grabbedX = e.getX();
        grabbedFromS = fromS;
        anchorS = e.isShiftDown() && strips != null ? timeAt(e.getX()) : Double.NaN;
    }

    private void drag(MouseEvent e) {
        if (strips == null) {
            return;
        }
        moved |= Math.abs(e.getX() - grabbedX) > 3;
        if (!Double.isNaN(anchorS)) {
            select(timeAt(e.getX()));
        } else if (moved) {
            double shift = (grabbedX - e.getX()) / plotWidth() * (toS - fromS);
            view(grabbedFromS + shift, grabbedFromS + shift + toS - fromS);
        }
    }

    private void release(MouseEvent e) {
        if (!moved && session.driveProperty().get() != null) {
            if (!Double.isNaN(anchorS)) {
                session.select(null);
            }
            session.moveCursor(index(timeAt(e.getX())));
        }
        moved = false;
    }

    private void select(double timeS) {
        session.select(timeS == anchorS ? null : new Span(Math.min(anchorS, timeS), Math.max(anchorS, timeS)));
    }

    private void listKeys() {
        on(PictureKey.sign(say("keys.zoom-in"), () -> zoomAtCursor(0.7), KeyCode.PLUS, KeyCode.ADD, KeyCode.EQUALS));
        on(PictureKey.sign(say("keys.zoom-out"), () -> zoomAtCursor(1 / 0.7), KeyCode.MINUS, KeyCode.SUBTRACT));
        on(PictureKey.of(say("keys.page-back"), () -> page(-0.8), KeyCode.PAGE_UP));
        on(PictureKey.of(say("keys.page-on"), () -> page(0.8), KeyCode.PAGE_DOWN));
        on(PictureKey.of(say("keys.whole-log"), this::whole, KeyCode.DIGIT0, KeyCode.NUMPAD0));
        PictureKey.ofCursor(session).forEach(this::on);
    }

    private double atCursor() {
        return strips.timeS()[Math.min(session.cursorProperty().get(), strips.timeS().length - 1)];
    }

    private void zoomAtCursor(double by) {
        if (strips != null) {
            zoom(by, inView(atCursor()) ? atCursor() : 0.5 * (fromS + toS));
        }
    }

    private void page(double share) {
        double by = share * (toS - fromS);
        view(fromS + by, toS + by);
    }

    private boolean inView(double timeS) {
        return timeS >= fromS && timeS <= toS;
    }

    /** The cursor may be moved from elsewhere: the trace comes along when it would leave the view. */
    private void follow() {
        if (strips != null && session.driveProperty().get() != null && !moved) {
            double at = strips.timeS()[Math.min(session.cursorProperty().get(), strips.timeS().length - 1)];
            if (!inView(at)) {
                double half = 0.5 * (toS - fromS);
                view(at - half, at + half);
            }
        }
        redraw();
    }

    /** First sample at or after a time; the last one beyond the end. */
    private int index(double timeS) {
        double[] t = strips.timeS();
        int i = Arrays.binarySearch(t, timeS);
        return Math.min(i >= 0 ? i : -i - 1, t.length - 1);
    }

    /** Everything but the words, in pixels of the screen: more than px where page or screen are magnified. */
    @Override
    protected void prepare(Palette p, double w, double h) {
        image.setVisible(strips != null);
        if (strips == null) {
            return;
        }
        double wide = plotWidth();
        double high = Math.floor(h) - TOP - BOTTOM;
        boolean ribbon = session.driveProperty().get() != null;
        room = high - (ribbon ? RIBBON + GAP : 0);
        places = places(room);
        sharp = sharpnessProperty().get() * (getScene() == null || getScene().getWindow() == null ? 1
                : getScene().getWindow().getOutputScaleX());
        int pw = (int) Math.round(wide * sharp);
        int ph = (int) Math.round(high * sharp);
        raster.size(pw, ph);
        raster.fill(Raster.argb(p.panel()));
        selected(p, pw);
        StripRaster ink = new StripRaster(raster, sharp, strips.timeS(), fromS, toS, pw);
        for (int k = 0; k < places.size(); k++) {
            ink.grid(p, rows.get(k), places.get(k), scale().marks(rows.get(k), places.get(k)[1]));
        }
        for (int k = 0; k < places.size(); k++) {
            ink.strip(p, rows.get(k), places.get(k), then);
        }
        if (ribbon) {
            new FuelRibbon(session.driveProperty().get()).draw(raster, p, sharp * (room + GAP), ph, ink.first(), pw);
        }
        cursor(p, pw, ph);
        image.setImage(raster.done());
        image.setFitWidth(wide);
        image.setFitHeight(high);
        image.relocate(LEFT, TOP);
        count();
    }

    /** Around the image, which covers the middle. */
    @Override
    protected List<Rectangle2D> panes(double w, double h) {
        double right = LEFT + plotWidth();
        double bottom = h - BOTTOM;
        return strips == null ? super.panes(w, h) : List.of(new Rectangle2D(0, 0, w, TOP), new Rectangle2D(0, TOP, LEFT,
                bottom - TOP), new Rectangle2D(right, TOP, w - right, bottom - TOP), new Rectangle2D(0, bottom, w,
                BOTTOM));
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        if (pane == 0) {
            strong(g, say("trace-view.trace"), 14, 16, 14, p.ink(), TextAlignment.LEFT);
        }
        if (strips == null) {
            text(g, say("trace-view.nothing-is-open"), 14, 44, 14, p.faint(), TextAlignment.LEFT);
            return;
        }
        switch (pane) {
            case 0 -> {
                selection(g, p);
                moments(g, p);
                lines(g, p, w);
            }
            case 1 -> scales(g, p);
            case 2 -> {
                Span s = session.selectionProperty().get();
                StripReadout words = new StripReadout(session.driveProperty().get(), session.unitProperty().get(),
                        scale(), session.cursorProperty().get(), s == null ? 0 : index(s.fromS()),
                        s == null ? 0 : index(s.toS()));
                for (int k = 0; k < places.size(); k++) {
                    words.draw(g, p, rows.get(k), counted.isEmpty() ? null : counted.get(k), w - GUTTER + 8,
                            TOP + places.get(k)[0], places.get(k)[1]);
                }
                if (session.driveProperty().get() != null) {
                    new FuelRibbon(session.driveProperty().get()).legend(g, p, session.cursorProperty().get(),
                            w - GUTTER + 8, TOP + room + GAP);
                }
            }
            default -> TimeAxis.draw(g, p, strips.timeS()[0], fromS, toS, LEFT, plotWidth(), h - BOTTOM);
        }
    }

    /** Top and height of every strip that there is room for; the mixture is twice as high. */
    private List<double[]> places(double room) {
        int n = rows.size();
        boolean high = n > 0 && rows.getFirst().mixture();
        double unit = (room - GAP * (n - 1)) / (n + (high ? 1.4 : 0));
        List<double[]> out = new ArrayList<>();
        double at = 0;
        for (int k = 0; k < n; k++) {
            double height = k == 0 && high ? 2.4 * unit : unit;
            out.add(new double[] {at, height});
            at += height + GAP;
        }
        return out;
    }

    private void count() {
        Span s = session.selectionProperty().get();
        if (s == null) {
            counted = List.of();
            countedFor = null;
        } else if (!s.equals(countedFor)) {
            countedFor = s;
            counted = rows.stream().map(k -> k.measured().statistics(index(s.fromS()),
                    index(s.toS()) + 1)).toList();
        }
    }

    private StripScale scale() {
        return new StripScale(session.unitProperty().get());
    }

    private void scales(GraphicsContext g, Palette p) {
        for (int k = 0; k < places.size(); k++) {
            for (double[] m : scale().marks(rows.get(k), places.get(k)[1])) {
                text(g, Ticks.text(m[0], m[2]), LEFT - 6, TOP + StripRaster.y(rows.get(k), m[1], places.get(k)), 11,
                        p.faint(),
                        TextAlignment.RIGHT);
            }
        }
        if (session.driveProperty().get() != null) {
            text(g, say("trace-view.fuel-from"), LEFT - 6, TOP + room + GAP + RIBBON / 2, 12, p.faint(),
                    TextAlignment.RIGHT);
        }
    }

    /** The selected stretch, under everything else. */
    private void selected(Palette p, int pw) {
        Span s = session.selectionProperty().get();
        if (s != null && s.toS() >= fromS && s.fromS() <= toS) {
            int a = (int) Math.clamp(sharp * (xAt(s.fromS()) - LEFT), 0, pw - 1);
            int b = (int) Math.clamp(sharp * (xAt(s.toS()) - LEFT), 0, pw - 1);
            int tint = Raster.argb(StripRaster.mix(p.panel(), p.accent(), 0.14));
            for (int x = a; x <= b; x++) {
                raster.column(x, 0, sharp * room, x == a || x == b ? Raster.argb(p.accent()) : tint, 1);
            }
        }
    }

    private void selection(GraphicsContext g, Palette p) {
        Span s = session.selectionProperty().get();
        if (s != null && s.toS() >= fromS && s.fromS() <= toS) {
            double middle = 0.5 * (Math.max(LEFT, xAt(s.fromS())) + Math.min(LEFT + plotWidth(), xAt(s.toS())));
            strong(g, String.format(Locale.ROOT, "%.2f s", s.toS() - s.fromS()), middle, TOP - 9, 12, p.accent(),
                    TextAlignment.CENTER);
        }
    }

    /** Notes as small flags on the time they name. */
    private void moments(GraphicsContext g, Palette p) {
        Map<Double, String> flags = new TreeMap<>();
        for (VehicleNotes.Note n : session.notes().notesProperty().get()) {
            n.atS().filter(this::inView).ifPresent(t -> flags.merge(t, n.text(), (a, b) -> a + "; " + b));
        }
        double free = 0;
        for (Map.Entry<Double, String> f : flags.entrySet()) {
            double x = xAt(f.getKey());
            line(g, x, TOP - 14, x, TOP - 1, p.ink(), 1.4);
            String s = f.getValue().length() > 26 ? f.getValue().substring(0, 25) + "…" : f.getValue();
            double wide = width(s, 12);
            if (x > free && x + wide < LEFT + plotWidth()) {
                text(g, s, x + 5, TOP - 9, 12, p.ink(), TextAlignment.LEFT);
                free = x + wide + 12;
            }
        }
    }

    private void cursor(Palette p, int pw, int ph) {
        if (session.driveProperty().get() == null) {
            return;
        }
        double t = strips.timeS()[session.cursorProperty().get()];
        if (inView(t)) {
            int x = (int) Math.clamp(sharp * (xAt(t) - LEFT), 0, pw - 2);
            for (int k = 0; k < Math.max(2, Math.round(2 * sharp)); k++) {
                raster.column(Math.min(pw - 1, x + k), 0, ph, Raster.argb(p.accent()), 1);
            }
        }
    }

    /** What the lines of the mixture are. */
    private void lines(GraphicsContext g, Palette p, double w) {
        double y = 16;
        double x = 74;
        x = sample(g, p.ink(), say("trace-view.read-put-to-its"), x, y, p);
        x = sample(g, StripRaster.mix(p.panel(), p.ink(), 0.22), say("trace-view.as-it-came"), x, y, p);
        x = sample(g, p.accent(), say("trace-view.model-today"), x, y, p);
        Effect e = session.trials().effectProperty().get();
        if (then != null && e != null && x < w - 150) {
            sample(g, p.fuel(), e.tried() ? say("trace-view.with-the-parts-tried")
                    : say("trace-view.after-the-change"), x, y, p);
        }
    }

    private static double sample(GraphicsContext g, Color c, String s, double x, double y, Palette p) {
        line(g, x, y, x + 16, y, c, 3);
        text(g, s, x + 21, y, 12, p.ink(), TextAlignment.LEFT);
        return x + 34 + width(s, 12);
    }
}
