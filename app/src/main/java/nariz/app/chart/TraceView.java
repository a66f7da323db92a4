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
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Effect;
import nariz.app.state.Session;
import nariz.app.state.Strips;
import nariz.app.theme.Palette;
import nariz.carburetor.Circuit;
import nariz.estimation.Observation;
import nariz.log.Pyramid;
import nariz.log.Span;
import nariz.workbook.Workbook;

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
    private static final double LEAST_BETWEEN_MARKS = 17;
    /** Marks nearer than this to a strip's edge would run into its neighbour's, px. */
    private static final double EDGE = 5;
    private static final double LEAST_SPAN_S = 0.2;

    private final Session session;
    private final Raster raster = new Raster();
    /** Over the canvas and not drawn into it: one pass over the pixels less. */
    private final ImageView image = new ImageView();
    private final float[] range = new float[2];
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
        setOnKeyPressed(this::key);
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

    private void key(KeyEvent e) {
        if (strips == null || e.isShortcutDown() || e.isAltDown()) {
            return;
        }
        int now = session.cursorProperty().get();
        double at = strips.timeS()[Math.min(now, strips.timeS().length - 1)];
        double page = 0.8 * (toS - fromS);
        double step = e.isShiftDown() ? 1.0 : 0.0;
        switch (e.getCode()) {
            case PLUS, ADD, EQUALS -> zoom(0.7, inView(at) ? at : 0.5 * (fromS + toS));
            case MINUS, SUBTRACT -> zoom(1 / 0.7, inView(at) ? at : 0.5 * (fromS + toS));
            case PAGE_UP -> view(fromS - page, toS - page);
            case PAGE_DOWN -> view(fromS + page, toS + page);
            case LEFT -> session.moveCursor(step > 0 ? index(at - 1) : now - 1);
            case RIGHT -> session.moveCursor(step > 0 ? index(at + 1) : now + 1);
            case HOME -> session.moveCursor(0);
            case END -> session.moveCursor(strips.timeS().length - 1);
            case DIGIT0, NUMPAD0 -> whole();
            case B -> {
                anchorS = at;
                session.select(null);
            }
            case E -> {
                if (!Double.isNaN(anchorS)) {
                    select(at);
                }
            }
            default -> {
                return;
            }
        }
        e.consume();
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
        for (int k = 0; k < places.size(); k++) {
            grid(p, rows.get(k), places.get(k));
        }
        int[] first = columns(pw);
        for (int k = 0; k < places.size(); k++) {
            strip(p, rows.get(k), places.get(k), first);
        }
        if (ribbon) {
            ribbon(p, session.driveProperty().get(), sharp * (room + GAP), ph, first, pw);
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
                for (int k = 0; k < places.size(); k++) {
                    words(g, p, k, places.get(k), w);
                }
                if (session.driveProperty().get() != null) {
                    shares(g, p, session.driveProperty().get(), TOP + room + GAP, w);
                }
            }
            default -> axis(g, p, h);
        }
    }

    /**
     * First sample at or after a time, searched outward from a guess in steps that double: columns lie about evenly,
     * and
     * halving ten million times for each of them would wait for memory most of the time.
     */
    private static int from(double[] t, double timeS, int guess) {
        int at = Math.clamp(guess, 0, t.length - 1);
        int low = at;
        int high = at;
        for (int step = 1; low > 0 && t[low] >= timeS; step *= 2) {
            high = low;
            low = Math.max(0, low - step);
        }
        for (int step = 1; high < t.length && t[high] < timeS; step *= 2) {
            low = high;
            high = Math.min(t.length, high + step);
        }
        int i = Arrays.binarySearch(t, low, high, timeS);
        return i >= 0 ? i : -i - 1;
    }

    /**
     * First sample of every pixel column. Where a column holds many, its ends are moved to the next whole block of the
     * pyramid, by less than a quarter of the column: every sample is still in exactly one.
     */
    private int[] columns(int pw) {
        double[] t = strips.timeS();
        int[] first = new int[pw + 1];
        for (int x = 0; x <= pw; x++) {
            int guess = x < 2 ? x == 0 ? t.length / 2 : first[0] : 2 * first[x - 1] - first[x - 2];
            first[x] = from(t, fromS + (toS - fromS) * x / pw, guess);
        }
        int block = 1;
        while ((first[pw] - first[0]) / pw >= 4 * Pyramid.BLOCK * block) {
            block *= Pyramid.BLOCK;
        }
        for (int x = 0; x <= pw && block > 1; x++) {
            first[x] = Math.min(t.length, (first[x] + block - 1) / block * block);
        }
        return first;
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

    private void grid(Palette p, Strips.Strip s, double[] place) {
        int rule = Raster.argb(p.rule());
        raster.row((int) (sharp * place[0]), rule);
        raster.row((int) (sharp * (place[0] + place[1]) - 1), rule);
        int faint = Raster.argb(mix(p.panel(), p.rule(), 0.5));
        for (double[] m : marks(s, place[1])) {
            raster.row((int) pixelY(s, m[1], place), s.mixture() && m[1] == 1.0 ? rule : faint);
        }
    }

    private void strip(Palette p, Strips.Strip s, double[] place, int[] first) {
        if (s.raw() != null) {
            series(s, s.raw(), place, first, Raster.argb(mix(p.panel(), p.ink(), 0.22)), 1);
        }
        if (s.mixture() && then != null) {
            series(s, then, place, first, Raster.argb(p.fuel()), 2);
        }
        series(s, s.measured(), place, first, Raster.argb(p.ink()), s.mixture() ? 2 : 1);
        if (s.predicted() != null) {
            series(s, s.predicted(), place, first, Raster.argb(p.accent()), 2);
        }
    }

    private static Color mix(Color a, Color b, double share) {
        return a.interpolate(b, share);
    }

    private static double y(Strips.Strip s, double v, double[] place) {
        double share = (Math.clamp(v, s.low(), s.high()) - s.low()) / (s.high() - s.low());
        return place[0] + (place[1] - 2) * (1 - share);
    }

    private double pixelY(Strips.Strip s, double v, double[] place) {
        return sharp * y(s, v, place);
    }

    /** Least to greatest of every pixel column, with the sample before it, so that the line holds together. */
    private void series(Strips.Strip s, Pyramid v, double[] place, int[] first, int color, int least) {
        double[] t = strips.timeS();
        double secondsPerPx = (toS - fromS) / (first.length - 1);
        int thick = (int) Math.round(least * sharp);
        // Blocks can be a sample short at their start: the one before joins the line only where samples are few.
        int pw = first.length - 1;
        int join = first[pw] - first[0] > 4 * Pyramid.BLOCK * pw ? 0 : 1;
        for (int x = 0; x < pw; x++) {
            int from = first[x];
            int to = first[x + 1];
            if (to > from) {
                v.range(from - join, to, range);
                if (!Float.isNaN(range[0])) {
                    raster.column(x, pixelY(s, range[1], place), pixelY(s, range[0], place), color, thick);
                }
            } else if (from > 0 && from < t.length) {
                // Between two samples of a close view: the straight line from one to the next.
                double at = fromS + secondsPerPx * (x + 0.5);
                double share = (at - t[from - 1]) / (t[from] - t[from - 1]);
                double value = v.at(from - 1) + share * (v.at(from) - v.at(from - 1));
                if (!Double.isNaN(value)) {
                    double yy = pixelY(s, value, place);
                    raster.column(x, yy, yy, color, thick);
                }
            }
        }
    }

    private void ribbon(Palette p, Drive d, double top, double bottom, int[] first, int pw) {
        Observation o = d.analysis().observation();
        List<Circuit> ribbons = ribbons(d);
        double[] phi = new double[ribbons.size()];
        for (int x = 0; x < pw; x++) {
            int i = Math.min((first[x] + first[x + 1]) / 2, d.log().size() - 1);
            double total = shares(d, o, i, ribbons, phi);
            if (!(total > 0)) {
                continue;
            }
            double y = bottom;
            for (int k = 0; k < phi.length; k++) {
                double up = (bottom - top) * phi[k] / total;
                if (up > 0.3) {
                    raster.column(x, y - up, y, Raster.argb(shade(p, k)), 1);
                }
                y -= up;
            }
        }
    }

    /** What delivers steadily; the pump's shots are too short for a ribbon. */
    private static List<Circuit> ribbons(Drive d) {
        return d.sheet().carburetor().family().circuits().stream().filter(c -> c.role() != Circuit.Role.PUMP).toList();
    }

    /** Phi of every circuit in the state at a sample, as found; returns the sum. */
    private static double shares(Drive d, Observation o, int i, List<Circuit> ribbons,
            double[] phi) {
        double total = 0;
        for (int k = 0; k < phi.length; k++) {
            Circuit c = ribbons.get(k);
            double f = d.analysis().estimated() ? d.analysis().estimate().correction(c) : 1.0;
            phi[k] = o.phi(c, i) * f;
            total += phi[k];
        }
        return total;
    }

    /** Circuits always stand in the same order from below; neighbours differ in lightness. */
    private static Color shade(Palette p, int k) {
        double[] dark = {0.0, 0.28, 0.06, 0.42, 0.16, 0.34};
        return mix(p.fuel(), p.ink(), dark[k % dark.length]);
    }

    private void shares(GraphicsContext g, Palette p, Drive d, double top, double w) {
        List<Circuit> ribbons = ribbons(d);
        double[] phi = new double[ribbons.size()];
        double total = shares(d, d.analysis().observation(), session.cursorProperty().get(), ribbons, phi);
        int row = 0;
        for (int k = 0; k < phi.length && total > 0; k++) {
            long percent = Math.round(100 * phi[k] / total);
            if (percent > 0 && row < 4) {
                double y = top + 6 + 12 * row++;
                g.setFill(shade(p, k));
                g.fillRect(w - GUTTER + 8, y - 4, 9, 9);
                text(g, say(ribbons.get(k).label()) + " " + percent + " %", w - GUTTER + 22, y, 12, p.ink(),
                        TextAlignment.LEFT);
            }
        }
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

    private String number(Strips.Strip s, double v) {
        return s.mixture() ? session.unitProperty().get().text(v) : Double.isNaN(v) ? "–"
                : String.format(Locale.ROOT, "%." + s.decimals() + "f", s.shown(v));
    }

    /** How much one SI unit of a strip is in what is read out. */
    private double scale(Strips.Strip s) {
        return s.mixture() ? session.unitProperty().get().scale() : s.shown(1) - s.shown(0);
    }

    /** Round numbers of a strip's scale, as many as stand clear of each other; one at least where there is room. */
    private List<double[]> marks(Strips.Strip s, double height) {
        int most = (int) Math.max(1, height / LEAST_BETWEEN_MARKS);
        for (int finer = 0; finer < 4; finer++) {
            List<double[]> out = marks(s, height, most + finer);
            if (!out.isEmpty()) {
                return out.size() > most ? out.subList(out.size() / 2, out.size() / 2 + 1) : out;
            }
        }
        return List.of();
    }

    /** Shown number, SI value and step of each mark. */
    private List<double[]> marks(Strips.Strip s, double height, int most) {
        double scale = scale(s);
        double shift = s.mixture() ? 0 : s.shown(0);
        double low = s.low() * scale + shift;
        double high = s.high() * scale + shift;
        double step = Ticks.step(high - low, most);
        List<double[]> out = new ArrayList<>();
        for (long k = (long) Math.ceil(low / step); k * step <= high; k++) {
            double si = (k * step - shift) / scale;
            double at = (si - s.low()) / (s.high() - s.low()) * height;
            if (at > EDGE && at < height - EDGE) {
                out.add(new double[] {k * step, si, step});
            }
        }
        return out;
    }

    private void scales(GraphicsContext g, Palette p) {
        for (int k = 0; k < places.size(); k++) {
            for (double[] m : marks(rows.get(k), places.get(k)[1])) {
                text(g, Ticks.text(m[0], m[2]), LEFT - 6, TOP + y(rows.get(k), m[1], places.get(k)), 11, p.faint(),
                        TextAlignment.RIGHT);
            }
        }
        if (session.driveProperty().get() != null) {
            text(g, say("trace-view.fuel-from"), LEFT - 6, TOP + room + GAP + RIBBON / 2, 12, p.faint(),
                    TextAlignment.RIGHT);
        }
    }

    private void words(GraphicsContext g, Palette p, int k, double[] place, double w) {
        Strips.Strip s = rows.get(k);
        double top = TOP + place[0];
        double x = w - GUTTER + 8;
        // The name stands over the number where the strip is high enough, beside it where it is not.
        boolean low = place[1] < 36;
        double at = low ? top + place[1] / 2 : top + 26;
        String unit = s.mixture() ? session.unitProperty().get().label() : s.unit();
        int i = Math.min(session.cursorProperty().get(), s.measured().size() - 1);
        Drive d = session.driveProperty().get();
        boolean read = s.mixture() && d != null;
        String value = number(s, read ? d.trace().measuredAround(i) : s.measured().at(i));
        if (!low) {
            text(g, s.label(), x, top + 9, 12, p.ink(), TextAlignment.LEFT);
            text(g, unit.equals(s.label()) ? "" : unit, x + 6 + width(s.label(), 12), top + 9, 12, p.faint(),
                    TextAlignment.LEFT);
        }
        strong(g, value, x, at, 15, p.ink(), TextAlignment.LEFT);
        if (s.predicted() != null) {
            text(g, say("trace-view.model", number(s, read ? d.trace().predictedAround(i) : s.predicted().at(i))),
                    x + 48, at, 12, p.accent(), TextAlignment.LEFT);
        } else if (low) {
            text(g, s.label() + (unit.equals(s.label()) ? "" : " " + unit), x + 48, at, 12, p.faint(),
                    TextAlignment.LEFT);
        }
        if (!counted.isEmpty() && counted.get(k).count() > 0) {
            Pyramid.Statistics c = counted.get(k);
            Span sel = session.selectionProperty().get();
            double rise = s.measured().at(index(sel.toS())) - s.measured().at(index(sel.fromS()));
            String sd = String.format(Locale.ROOT, "%." + (s.decimals() + 1) + "f", Math.abs(scale(s)) * c.sd());
            String[] lines = {say("trace-view.mean", number(s, c.mean()), sd),
                say("trace-view.to", number(s, c.low()), number(s, c.high())),
                String.format(Locale.ROOT, say("trace-view.end-start-f", s.decimals()), scale(s) * rise)};
            for (int n = 0; n < lines.length; n++) {
                // Each line only where it does not reach into the next strip.
                double y = at + 17 + 15 * n;
                if (y + 6 < top + place[1]) {
                    text(g, lines[n], x, y, 12, n == 0 ? p.ink() : p.faint(), TextAlignment.LEFT);
                }
            }
        }
    }

    /** The selected stretch, under everything else. */
    private void selected(Palette p, int pw) {
        Span s = session.selectionProperty().get();
        if (s != null && s.toS() >= fromS && s.fromS() <= toS) {
            int a = (int) Math.clamp(sharp * (xAt(s.fromS()) - LEFT), 0, pw - 1);
            int b = (int) Math.clamp(sharp * (xAt(s.toS()) - LEFT), 0, pw - 1);
            int tint = Raster.argb(mix(p.panel(), p.accent(), 0.14));
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

    private void axis(GraphicsContext g, Palette p, double h) {
        double span = toS - fromS;
        double[] steps = {0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1800, 3600, 7200, 36_000,
            86_400};
        double step = steps[0];
        for (double s : steps) {
            step = s;
            if (span / s < plotWidth() / 70) {
                break;
            }
        }
        double start = strips.timeS()[0];
        for (double t = Math.ceil((fromS - start) / step) * step; t <= toS - start + 1e-9; t += step) {
            double x = xAt(t + start);
            String s = step >= 1 ? String.format(Locale.ROOT, "%d:%02d", (long) t / 60, (long) t % 60)
                    : String.format(Locale.ROOT, "%d:%05.2f", (long) t / 60, t % 60);
            line(g, x, h - BOTTOM, x, h - BOTTOM + 4, p.faint(), 1);
            text(g, s, x, h - BOTTOM + 12, 12, p.faint(), TextAlignment.CENTER);
        }
    }

    /** Notes as small flags on the time they name. */
    private void moments(GraphicsContext g, Palette p) {
        Map<Double, String> flags = new TreeMap<>();
        for (Workbook.Note n : session.notes().notesProperty().get()) {
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
        x = sample(g, mix(p.panel(), p.ink(), 0.22), say("trace-view.as-it-came"), x, y, p);
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
