package nariz.app.plot;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.session.Effect;
import nariz.app.session.Session;
import nariz.app.session.Strips;
import nariz.app.theme.Palette;
import nariz.fit.Observation;
import nariz.log.Pyramid;
import nariz.log.Span;
import nariz.model.Circuit;
import nariz.store.Workbook;

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
    private static final int TILE = 16;
    private static final double LEAST_SPAN_S = 0.2;
    private static final List<Circuit> RIBBONS = List.of(Circuit.IDLE, Circuit.TRANSFER, Circuit.MAIN, Circuit.POWER,
            Circuit.SECONDARY_IDLE, Circuit.SECONDARY_MAIN);

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
        super("Trace", "The log in strips. Plus and minus zoom, Page Up and Page Down pan, 0 shows the whole run, left "
                + "and right move the cursor; B and E mark a stretch to measure.");
        this.session = session;
        image.setMouseTransparent(true);
        image.setManaged(false);
        getChildren().add(image);
        session.driveProperty().addListener((o, was, is) -> open(is));
        session.effectProperty().addListener((o, was, is) -> overlay(is));
        session.cursorProperty().addListener((o, was, is) -> follow());
        session.selectionProperty().addListener((o, was, is) -> redraw());
        session.unitProperty().addListener((o, was, is) -> redraw());
        session.notesProperty().addListener((o, was, is) -> redraw());
        addEventHandler(ScrollEvent.SCROLL, this::wheel);
        setOnMousePressed(this::press);
        setOnMouseDragged(this::drag);
        setOnMouseReleased(this::release);
        setOnKeyPressed(this::key);
        setMinSize(350, 220);
        open(session.driveProperty().get());
    }

    private void open(Session.Drive d) {
        show(d == null ? null : d.strips());
        overlay(session.effectProperty().get());
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

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h) {
        strong(g, "Trace", 14, 16, 14, p.ink(), TextAlignment.LEFT);
        image.setVisible(strips != null);
        if (strips == null) {
            text(g, "Nothing is open.", 14, 44, 14, p.faint(), TextAlignment.LEFT);
            return;
        }
        int pw = (int) plotWidth();
        int ph = (int) (h - TOP - BOTTOM);
        boolean ribbon = session.driveProperty().get() != null;
        double room = ph - (ribbon ? RIBBON + GAP : 0);
        List<double[]> places = places(room);
        raster.size(pw, ph);
        raster.fill(Raster.argb(p.panel()));
        selected(p, pw, (int) room);
        for (int k = 0; k < places.size(); k++) {
            grid(p, rows.get(k), places.get(k));
        }
        int[] first = columns(pw);
        // A few columns through all strips, then the next few: pixels of one column lie a whole row apart in memory.
        for (int x = 0; x < pw; x += TILE) {
            for (int k = 0; k < places.size(); k++) {
                strip(p, rows.get(k), places.get(k), first, x, Math.min(pw, x + TILE));
            }
        }
        if (ribbon) {
            ribbon(p, session.driveProperty().get(), room + GAP, ph, first, pw);
        }
        cursor(p, pw, ph);
        image.setImage(raster.done());
        image.relocate(LEFT, TOP);
        count();
        for (int k = 0; k < places.size(); k++) {
            words(g, p, k, places.get(k), w);
        }
        if (ribbon) {
            shares(g, p, session.driveProperty().get(), TOP + room + GAP, w);
        }
        selection(g, p);
        axis(g, p, h);
        moments(g, p);
        lines(g, p, w);
    }

    /**
     * First sample of every pixel column. Where a column holds many, its ends are moved to the next whole block of the
     * pyramid, by less than a quarter of the column: every sample is still in exactly one.
     */
    private int[] columns(int pw) {
        double[] t = strips.timeS();
        int[] first = new int[pw + 1];
        for (int x = 0; x <= pw; x++) {
            int i = Arrays.binarySearch(t, fromS + (toS - fromS) * x / pw);
            first[x] = i >= 0 ? i : -i - 1;
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
        raster.row((int) place[0], rule);
        raster.row((int) (place[0] + place[1] - 1), rule);
        if (s.mixture()) {
            raster.row((int) y(s, 1.0, place), rule);
        }
    }

    private void strip(Palette p, Strips.Strip s, double[] place, int[] first, int x0, int x1) {
        if (s.raw() != null) {
            series(s, s.raw(), place, first, x0, x1, Raster.argb(mix(p.panel(), p.ink(), 0.22)), 1);
        }
        if (s.mixture() && then != null) {
            series(s, then, place, first, x0, x1, Raster.argb(p.fuel()), 2);
        }
        series(s, s.measured(), place, first, x0, x1, Raster.argb(p.ink()), s.mixture() ? 2 : 1);
        if (s.predicted() != null) {
            series(s, s.predicted(), place, first, x0, x1, Raster.argb(p.accent()), 2);
        }
    }

    private static Color mix(Color a, Color b, double share) {
        return a.interpolate(b, share);
    }

    private static double y(Strips.Strip s, double v, double[] place) {
        double share = (Math.clamp(v, s.low(), s.high()) - s.low()) / (s.high() - s.low());
        return place[0] + (place[1] - 2) * (1 - share);
    }

    /** Least to greatest of every pixel column, with the sample before it, so that the line holds together. */
    private void series(Strips.Strip s, Pyramid v, double[] place, int[] first, int x0, int x1, int color,
            int least) {
        double[] t = strips.timeS();
        double secondsPerPx = (toS - fromS) / (first.length - 1);
        // Blocks can be a sample short at their start: the one before joins the line only where samples are few.
        int join = first[x1] - first[x0] > 4 * Pyramid.BLOCK * (x1 - x0) ? 0 : 1;
        for (int x = x0; x < x1; x++) {
            int from = first[x];
            int to = first[x + 1];
            if (to > from) {
                v.range(from - join, to, range);
                if (!Float.isNaN(range[0])) {
                    raster.column(x, y(s, range[1], place), y(s, range[0], place), color, least);
                }
            } else if (from > 0 && from < t.length) {
                // Between two samples of a close view: the straight line from one to the next.
                double at = fromS + secondsPerPx * (x + 0.5);
                double share = (at - t[from - 1]) / (t[from] - t[from - 1]);
                double value = v.at(from - 1) + share * (v.at(from) - v.at(from - 1));
                if (!Double.isNaN(value)) {
                    double yy = y(s, value, place);
                    raster.column(x, yy, yy, color, least);
                }
            }
        }
    }

    private void ribbon(Palette p, Session.Drive d, double top, double bottom, int[] first, int pw) {
        Observation o = d.analysis().observation();
        double[] phi = new double[RIBBONS.size()];
        for (int x = 0; x < pw; x++) {
            int i = Math.min((first[x] + first[x + 1]) / 2, d.log().size() - 1);
            double total = shares(d, o, i, phi);
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

    /** Phi of every circuit in the state at a sample, as found; returns the sum. */
    private static double shares(Session.Drive d, Observation o, int i, double[] phi) {
        double total = 0;
        for (int k = 0; k < phi.length; k++) {
            Circuit c = RIBBONS.get(k);
            double f = d.analysis().estimated() ? d.analysis().estimate().correction(c) : 1.0;
            phi[k] = o.phi(c, i) * f;
            total += phi[k];
        }
        return total;
    }

    /** Circuits always stand in the same order from below; neighbours differ in lightness. */
    private static Color shade(Palette p, int k) {
        double[] dark = {0.0, 0.28, 0.06, 0.42, 0.16, 0.34};
        return mix(p.fuel(), p.ink(), dark[k]);
    }

    private void shares(GraphicsContext g, Palette p, Session.Drive d, double top, double w) {
        double[] phi = new double[RIBBONS.size()];
        double total = shares(d, d.analysis().observation(), session.cursorProperty().get(), phi);
        text(g, "fuel from", LEFT - 6, top + RIBBON / 2, 12, p.faint(), TextAlignment.RIGHT);
        int row = 0;
        for (int k = 0; k < phi.length && total > 0; k++) {
            long percent = Math.round(100 * phi[k] / total);
            if (percent > 0 && row < 4) {
                double y = top + 6 + 12 * row++;
                g.setFill(shade(p, k));
                g.fillRect(w - GUTTER + 8, y - 4, 9, 9);
                text(g, RIBBONS.get(k).label() + " " + percent + " %", w - GUTTER + 22, y, 12, p.ink(),
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
                : String.format(Locale.ROOT, "%." + s.decimals() + "f", v);
    }

    private void words(GraphicsContext g, Palette p, int k, double[] place, double w) {
        Strips.Strip s = rows.get(k);
        double top = TOP + place[0];
        double middle = top + place[1] / 2;
        text(g, s.label(), LEFT - 6, middle - 7, 12, p.ink(), TextAlignment.RIGHT);
        text(g, s.mixture() ? session.unitProperty().get().label() : s.unit(), LEFT - 6, middle + 7, 11, p.faint(),
                TextAlignment.RIGHT);
        double x = w - GUTTER + 8;
        int i = Math.min(session.cursorProperty().get(), s.measured().size() - 1);
        strong(g, number(s, s.measured().at(i)), x, middle - (counted.isEmpty() ? 0 : 8), 15, p.ink(),
                TextAlignment.LEFT);
        if (s.predicted() != null) {
            text(g, "model " + number(s, s.predicted().at(i)), x + 48, middle - (counted.isEmpty() ? 0 : 8), 12,
                    p.accent(), TextAlignment.LEFT);
        }
        if (!counted.isEmpty() && counted.get(k).count() > 0) {
            Pyramid.Statistics c = counted.get(k);
            double scale = s.mixture() ? session.unitProperty().get().scale() : 1.0;
            Span sel = session.selectionProperty().get();
            double rise = s.measured().at(index(sel.toS())) - s.measured().at(index(sel.fromS()));
            String sd = String.format(Locale.ROOT, "%." + (s.decimals() + 1) + "f", scale * c.sd());
            text(g, "mean " + number(s, c.mean()) + " ± " + sd, x, middle + 8, 12, p.ink(), TextAlignment.LEFT);
            if (place[1] > 58) {
                text(g, number(s, c.low()) + " to " + number(s, c.high()), x, middle + 23, 12, p.faint(),
                        TextAlignment.LEFT);
                text(g, String.format(Locale.ROOT, "end − start %+." + s.decimals() + "f", scale * rise), x,
                        middle + 38, 12, p.faint(), TextAlignment.LEFT);
            }
        }
    }

    /** The selected stretch, under everything else. */
    private void selected(Palette p, int pw, int room) {
        Span s = session.selectionProperty().get();
        if (s != null && s.toS() >= fromS && s.fromS() <= toS) {
            int a = (int) Math.clamp(xAt(s.fromS()) - LEFT, 0, pw - 1);
            int b = (int) Math.clamp(xAt(s.toS()) - LEFT, 0, pw - 1);
            int tint = Raster.argb(mix(p.panel(), p.accent(), 0.14));
            for (int x = a; x <= b; x++) {
                raster.column(x, 0, room, x == a || x == b ? Raster.argb(p.accent()) : tint, 1);
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
        for (Workbook.Note n : session.notesProperty().get()) {
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
            int x = (int) Math.clamp(xAt(t) - LEFT, 0, pw - 2);
            raster.column(x, 0, ph, Raster.argb(p.accent()), 1);
            raster.column(x + 1, 0, ph, Raster.argb(p.accent()), 1);
        }
    }

    /** What the lines of the mixture are. */
    private void lines(GraphicsContext g, Palette p, double w) {
        double y = 16;
        double x = 74;
        x = sample(g, p.ink(), "read, put to its moment", x, y, p);
        x = sample(g, mix(p.panel(), p.ink(), 0.22), "as it came", x, y, p);
        x = sample(g, p.accent(), "model today", x, y, p);
        Effect e = session.effectProperty().get();
        if (then != null && e != null && x < w - 150) {
            sample(g, p.fuel(), e.tried() ? "with the parts tried" : "after the change", x, y, p);
        }
    }

    private static double sample(GraphicsContext g, Color c, String s, double x, double y, Palette p) {
        line(g, x, y, x + 16, y, c, 3);
        text(g, s, x + 21, y, 12, p.ink(), TextAlignment.LEFT);
        return x + 34 + width(s, 12);
    }
}
