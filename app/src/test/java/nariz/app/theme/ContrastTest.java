package nariz.app.theme;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.scene.paint.Color;
import org.testng.annotations.Test;

/** Words stand out from what they stand on, 4.5 to 1 or more (WCAG 2.2, criterion 1.4.3), in both themes. */
public class ContrastTest {
    private static final double LEAST = 4.5;
    /** What is written on what, by the style sheet's names. */
    private static final List<List<String>> PAIRS = List.of(List.of("ink", "panel"), List.of("ink", "paper"),
            List.of("ink", "accent-soft"), List.of("faint", "panel"), List.of("faint", "paper"), List.of("accent",
            "panel"),
            List.of("accent", "paper"), List.of("panel", "accent"), List.of("rich", "panel"), List.of("caution",
            "panel"),
            List.of("caution", "caution-soft"));

    /** Relative luminance and contrast as WCAG 2.2 defines them. */
    private static double contrast(Color a, Color b) {
        double la = luminance(a);
        double lb = luminance(b);
        return (Math.max(la, lb) + 0.05) / (Math.min(la, lb) + 0.05);
    }

    private static double luminance(Color c) {
        return 0.2126 * linear(c.getRed()) + 0.7152 * linear(c.getGreen()) + 0.0722 * linear(c.getBlue());
    }

    private static double linear(double v) {
        return v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
    }

    private static Map<String, Color> tokens(String theme) throws IOException {
        String css = Files.readString(Path.of("src/main/resources/nariz/app/nariz.css"));
        int from = css.indexOf(".nariz." + theme + " {");
        Matcher m = Pattern.compile("-n-([a-z-]+): (#[0-9a-f]{6})").matcher(css.substring(from, css.indexOf('}',
                from)));
        Map<String, Color> out = new HashMap<>();
        while (m.find()) {
            out.put(m.group(1), Color.web(m.group(2)));
        }
        return out;
    }

    @Test
    public void wordsOfControlsStandOut() throws IOException {
        for (String theme : List.of("day", "night")) {
            Map<String, Color> t = tokens(theme);
            for (List<String> p : PAIRS) {
                assertThat(contrast(t.get(p.get(0)), t.get(p.get(1)))).as("%s on %s by %s", p.get(0), p.get(1), theme)
                        .isGreaterThanOrEqualTo(LEAST);
            }
        }
    }

    /** With more contrast everything written is as strong as the strongest ink. */
    @Test
    public void moreContrastLeavesNothingFaint() {
        for (Palette p : List.of(Palette.DAY, Palette.NIGHT)) {
            Palette s = p.strong();
            for (Color c : List.of(s.ink(), s.faint(), s.fine())) {
                assertThat(contrast(c, s.panel())).isGreaterThanOrEqualTo(7.0);
            }
            assertThat(contrast(s.rule(), s.panel())).isGreaterThanOrEqualTo(LEAST);
        }
    }

    @Test
    public void wordsOfPicturesStandOutAndMatchTheStyleSheet() throws IOException {
        for (Palette p : List.of(Palette.DAY, Palette.NIGHT)) {
            Map<String, Color> t = tokens(p.equals(Palette.DAY) ? "day" : "night");
            for (Color c : List.of(p.ink(), p.faint(), p.accent(), p.rich(), p.lean(), p.fine())) {
                assertThat(contrast(c, p.panel())).as("%s on %s", c, p.panel()).isGreaterThanOrEqualTo(LEAST);
            }
            assertThat(List.of(p.paper(), p.panel(), p.ink(), p.faint(), p.rule(), p.accent(), p.rich())).isEqualTo(
                    List.of(t.get("paper"), t.get("panel"), t.get("ink"), t.get("faint"), t.get("rule"),
                            t.get("accent"), t.get("rich")));
        }
    }
}
