package nariz.app.chart;

import java.nio.IntBuffer;
import java.util.Arrays;
import javafx.scene.image.PixelBuffer;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.paint.Color;

/** Pixels that are filled in plain loops: dense series cost a canvas far more. */
final class Raster {
    private PixelBuffer<IntBuffer> buffer;
    private WritableImage image;
    private int[] pixels = {};
    private int width;
    private int height;

    /** Makes room. */
    void size(int w, int h) {
        if (w != width || h != height) {
            width = w;
            height = h;
            IntBuffer b = IntBuffer.allocate(w * h);
            pixels = b.array();
            buffer = new PixelBuffer<>(w, h, b, PixelFormat.getIntArgbPreInstance());
            image = new WritableImage(buffer);
        }
    }

    static int argb(Color c) {
        return 0xff000000 | (int) Math.round(c.getRed() * 255) << 16 | (int) Math.round(c.getGreen() * 255) << 8
                | (int) Math.round(c.getBlue() * 255);
    }

    void fill(int color) {
        Arrays.fill(pixels, color);
    }

    /** A column from one height to another, both inside; clipped. */
    void column(int x, double y0, double y1, int color, int least) {
        int from = (int) Math.floor(Math.min(y0, y1));
        int to = Math.max(from + least, (int) Math.ceil(Math.max(y0, y1)));
        int end = Math.min(to, height);
        for (int y = Math.max(0, from); y < end; y++) {
            pixels[y * width + x] = color;
        }
    }

    void row(int y, int color) {
        if (y >= 0 && y < height) {
            Arrays.fill(pixels, y * width, (y + 1) * width, color);
        }
    }

    /** Hands what was filled to the image. */
    WritableImage done() {
        buffer.updateBuffer(b -> null);
        return image;
    }
}
