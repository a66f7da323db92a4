package nariz.app.theme;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import javafx.scene.text.Font;

/** The shipped fonts, loaded by file; their digits are tabular. */
public final class Fonts {
    private static final Map<String, Font> CACHE = new ConcurrentHashMap<>();

    private Fonts() {
    }

    /**
     * Text face.
     *
     * @param size px
     * @return font
     */
    public static Font text(double size) {
        return font("text-regular.ttf", size);
    }

    /**
     * Heavier text face.
     *
     * @param size px
     * @return font
     */
    public static Font strong(double size) {
        return font("text-semibold.ttf", size);
    }

    /**
     * Loads every shipped face, so that style sheets find its weights.
     *
     * @return the family's name
     */
    public static String load() {
        strong(14);
        font("text-bold.ttf", 14);
        return text(14).getFamily();
    }

    private static Font font(String file, double size) {
        return CACHE.computeIfAbsent(file + size, k -> {
            Font f = Font.loadFont(Fonts.class.getResource("/nariz/app/fonts/" + file).toExternalForm(), size);
            return f == null ? Font.font(size) : f;
        });
    }
}
