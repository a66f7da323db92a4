package nariz.app.chart;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.geometry.Rectangle2D;
import javafx.geometry.VPos;
import javafx.scene.AccessibleRole;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;
import javafx.scene.transform.Scale;
import nariz.app.theme.Fonts;
import nariz.app.theme.Palette;

/**
 * A drawing that fills its place and is redrawn at most once a pulse. It is drawn into one canvas, or into several that
 * leave free what something else covers: in software rendering every pixel of a canvas is filled, laid over the page
 * and shown, whether or not anybody sees it.
 */
public abstract class Picture extends Region {
    private static final int MOST_WIDTHS = 500;
    /** Laying out a text takes longer than drawing it, and the same few are asked for in every frame. */
    private static final Map<Measured, Double> WIDTHS = new LinkedHashMap<>(64, 0.75F, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Measured, Double> eldest) {
            return size() > MOST_WIDTHS;
        }
    };

    private record Measured(String text, double size) {
    }

    private final List<PictureKey> keys = new ArrayList<>();
    private final List<Canvas> canvases = new ArrayList<>();
    private final Scale fine = new Scale(1, 1);
    private final DoubleProperty sharpness = new SimpleDoubleProperty(1);
    private final ObjectProperty<Palette> palette = new SimpleObjectProperty<>(Palette.DAY);

    /**
     * Sets up the picture.
     *
     * @param name accessible name
     * @param help accessible help: what it shows and which keys work
     */
    protected Picture(String name, String help) {
        sharpness.addListener((o, was, is) -> redraw());
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setAccessibleText(name);
        setAccessibleHelp(help);
        getStyleClass().add("picture");
        palette.addListener((o, was, is) -> redraw());
        focusedProperty().addListener((o, was, is) -> redraw());
        setOnKeyPressed(e -> keys.stream().filter(k -> k.keys().stream().anyMatch(c -> c.match(e))).findFirst()
                .ifPresent(k -> {
                    k.run().run();
                    e.consume();
                }));
    }

    /** Says what a key does while the picture has the focus. */
    protected final void on(PictureKey key) {
        keys.add(key);
    }

    /** {@return what keys do while the picture has the focus} */
    public final List<PictureKey> keys() {
        return List.copyOf(keys);
    }

    /** {@return colours in use} */
    public final ObjectProperty<Palette> paletteProperty() {
        return palette;
    }

    /** {@return how many pixels of the screen one px of the picture takes} */
    public final DoubleProperty sharpnessProperty() {
        return sharpness;
    }

    /** Asks for a redraw in the next pulse. */
    protected final void redraw() {
        setNeedsLayout(true);
    }

    @Override
    protected final void layoutChildren() {
        double w = Math.floor(getWidth());
        double h = Math.floor(getHeight());
        if (w < 40 || h < 30) {
            return;
        }
        // Where the page is magnified the canvas has as many pixels as are shown, or it would look blurred.
        double by = sharpness.get();
        fine.setX(1 / by);
        fine.setY(1 / by);
        Palette p = palette.get();
        prepare(p, w, h);
        List<Rectangle2D> panes = panes(w, h);
        while (canvases.size() < panes.size()) {
            Canvas c = new Canvas();
            c.getTransforms().add(fine);
            canvases.add(c);
            getChildren().addFirst(c);
        }
        for (int i = 0; i < canvases.size(); i++) {
            canvases.get(i).setVisible(i < panes.size());
            if (i < panes.size()) {
                draw(canvases.get(i), panes.get(i), i, by, p, w, h);
            }
        }
    }

    /** The picture as seen through one pane. */
    private void draw(Canvas canvas, Rectangle2D pane, int number, double by, Palette p, double w, double h) {
        canvas.setWidth(Math.ceil(pane.getWidth() * by));
        canvas.setHeight(Math.ceil(pane.getHeight() * by));
        canvas.relocate(pane.getMinX(), pane.getMinY());
        GraphicsContext g = canvas.getGraphicsContext2D();
        g.setTransform(by, 0, 0, by, -by * pane.getMinX(), -by * pane.getMinY());
        g.setFill(p.panel());
        g.fillRect(0, 0, w, h);
        g.setTextBaseline(VPos.CENTER);
        draw(g, p, w, h, number);
        Color edge = isFocused() ? p.accent() : p.rule();
        double thick = isFocused() ? 2 : 1;
        line(g, 0.5, 0.5, w - 0.5, 0.5, edge, thick);
        line(g, 0.5, h - 0.5, w - 0.5, h - 0.5, edge, thick);
        line(g, 0.5, 0.5, 0.5, h - 0.5, edge, thick);
        line(g, w - 0.5, 0.5, w - 0.5, h - 0.5, edge, thick);
    }

    /**
     * Gets ready what the drawing needs, once before it.
     *
     * @param p colours
     * @param w width, px
     * @param h height, px
     */
    protected void prepare(Palette p, double w, double h) {
    }

    /**
     * Where the picture is drawn.
     *
     * @param w width, px
     * @param h height, px
     * @return the whole of it, or parts that do not overlap
     */
    protected List<Rectangle2D> panes(double w, double h) {
        return List.of(new Rectangle2D(0, 0, w, h));
    }

    /**
     * Draws what can be seen through a pane, in the coordinates of the picture; what lies outside the pane is cut off.
     *
     * @param g where
     * @param p colours
     * @param w width of the picture, px
     * @param h its height, px
     * @param pane place in {@link #panes}
     */
    protected abstract void draw(GraphicsContext g, Palette p, double w, double h, int pane);

    /** Writes text with its middle line at y. */
    static void text(GraphicsContext g, String s, double x, double y, double size, Color c, TextAlignment align) {
        g.setFont(Fonts.text(size));
        g.setTextAlign(align);
        g.setFill(c);
        g.fillText(s, x, y);
    }

    /** The same in the heavier face. */
    static void strong(GraphicsContext g, String s, double x, double y, double size, Color c, TextAlignment align) {
        g.setFont(Fonts.strong(size));
        g.setTextAlign(align);
        g.setFill(c);
        g.fillText(s, x, y);
    }

    /** Text on a ground of its own, so that it can be read over marks; returns the place it takes. */
    static Rectangle2D plate(GraphicsContext g, Palette p, String s, double x, double y, Color c,
            TextAlignment align) {
        double wide = width(s, 12);
        double left = align == TextAlignment.RIGHT ? x - wide : align == TextAlignment.CENTER ? x - wide / 2 : x;
        g.setFill(clear(p.panel(), 0.82));
        g.fillRoundRect(left - 3, y - 8, wide + 6, 16, 6, 6);
        text(g, s, x, y, 12, c, align);
        return new Rectangle2D(left - 3, y - 8, wide + 6, 16);
    }

    /** Width of text in the heavier face, px. */
    static double width(String s, double size) {
        return WIDTHS.computeIfAbsent(new Measured(s, size), m -> {
            Text t = new Text(m.text());
            t.setFont(Fonts.strong(m.size()));
            return t.getLayoutBounds().getWidth();
        });
    }

    /**
     * Words in lines that fit.
     *
     * @param s text
     * @param size of the face, px
     * @param wide room, px
     * @return lines; a word that is wider than the room stands alone
     */
    static List<String> lines(String s, double size, double wide) {
        List<String> out = new ArrayList<>();
        StringBuilder line = new StringBuilder();
        for (String word : s.split(" ")) {
            if (!line.isEmpty() && width(line + " " + word, size) > wide) {
                out.add(line.toString());
                line.setLength(0);
            }
            line.append(line.isEmpty() ? "" : " ").append(word);
        }
        out.add(line.toString());
        return out;
    }

    static void line(GraphicsContext g, double x0, double y0, double x1, double y1, Color c, double width,
            double... dashes) {
        if (dashes.length == 0 && (x0 == x1 || y0 == y1)) {
            // The same pixels as a stroke with square ends, without the renderer's general path.
            g.setFill(c);
            g.fillRect(Math.min(x0, x1) - width / 2, Math.min(y0, y1) - width / 2, Math.abs(x1 - x0) + width,
                    Math.abs(y1 - y0) + width);
            return;
        }
        g.setStroke(c);
        g.setLineWidth(width);
        g.setLineDashes(dashes);
        g.strokeLine(x0, y0, x1, y1);
        g.setLineDashes();
    }

    /** What is to come, as an open ring: what is stands beside it filled. */
    static void ring(GraphicsContext g, Palette p, double x, double y) {
        g.setFill(p.panel());
        g.fillOval(x - 4, y - 4, 8, 8);
        g.setStroke(p.ink());
        g.setLineWidth(1.6);
        g.strokeOval(x - 4, y - 4, 8, 8);
    }

    static Color clear(Color c, double opacity) {
        return Color.color(c.getRed(), c.getGreen(), c.getBlue(), opacity);
    }
}
