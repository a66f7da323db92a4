package nariz.app.plot;

import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.geometry.VPos;
import javafx.scene.AccessibleRole;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;
import nariz.app.theme.Fonts;
import nariz.app.theme.Palette;

/** A canvas that fills its place and redraws at most once a pulse. */
public abstract class Picture extends Region {
    private final Canvas canvas = new Canvas();
    private final ObjectProperty<Palette> palette = new SimpleObjectProperty<>(Palette.DAY);

    /**
     * Sets up the picture.
     *
     * @param name accessible name
     * @param help accessible help: what it shows and which keys work
     */
    protected Picture(String name, String help) {
        getChildren().add(canvas);
        setFocusTraversable(true);
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setAccessibleText(name);
        setAccessibleHelp(help);
        getStyleClass().add("picture");
        palette.addListener((o, was, is) -> redraw());
        focusedProperty().addListener((o, was, is) -> redraw());
    }

    /** {@return colours in use} */
    public final ObjectProperty<Palette> paletteProperty() {
        return palette;
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
        canvas.setWidth(w);
        canvas.setHeight(h);
        GraphicsContext g = canvas.getGraphicsContext2D();
        Palette p = palette.get();
        g.setFill(p.panel());
        g.fillRect(0, 0, w, h);
        g.setTextBaseline(VPos.CENTER);
        draw(g, p, w, h);
        g.setStroke(isFocused() ? p.accent() : p.rule());
        g.setLineWidth(isFocused() ? 2 : 1);
        g.setLineDashes();
        g.strokeRect(0.5, 0.5, w - 1, h - 1);
    }

    /**
     * Draws.
     *
     * @param g where
     * @param p colours
     * @param w width, px
     * @param h height, px
     */
    protected abstract void draw(GraphicsContext g, Palette p, double w, double h);

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

    /** Width of text in the heavier face, px. */
    static double width(String s, double size) {
        Text t = new Text(s);
        t.setFont(Fonts.strong(size));
        return t.getLayoutBounds().getWidth();
    }

    static void line(GraphicsContext g, double x0, double y0, double x1, double y1, Color c, double width,
            double... dashes) {
        g.setStroke(c);
        g.setLineWidth(width);
        g.setLineDashes(dashes);
        g.strokeLine(x0, y0, x1, y1);
        g.setLineDashes();
    }

    static Color clear(Color c, double opacity) {
        return Color.color(c.getRed(), c.getGreen(), c.getBlue(), opacity);
    }
}
