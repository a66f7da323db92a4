package nariz.app;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import javax.imageio.ImageIO;

/** Writes pictures with the JDK's own encoder. */
public final class Png {
    private Png() {
    }

    public static void write(Path file, int width, int height, int[] argb) throws IOException {
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        image.setRGB(0, 0, width, height, argb, 0, width);
        ImageIO.write(image, "png", file.toFile());
    }
}
