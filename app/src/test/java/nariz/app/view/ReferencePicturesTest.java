package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import javafx.scene.control.Button;
import javafx.scene.control.ToggleButton;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;
import javax.imageio.ImageIO;
import nariz.app.Png;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.log.LogWriter;
import nariz.sim.Demo;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import org.testng.annotations.Test;

/**
 * The pictures of the demos beside small ones that were looked at: means over squares of {@value #SQUARE} px, so that
 * neither the toolkit's smoothing nor a hair's breadth counts, and a mark that moved or a curve that is gone does.
 *
 * <p>Drawn anew, after looking at what changed, with {@code NARIZ_REFERENCES=src/test/resources} in the environment.
 */
public class ReferencePicturesTest extends FreshWindow {
    private static final int SQUARE = 8;
    /** A square is another one when a colour differs by so much of 255. */
    private static final int TELLING = 22;
    /** Share of the squares that may be others. */
    private static final double FEW = 0.01;

    @Test
    public void picturesOfTheDemosLookAsTheyDidWhenTheyWereLookedAt() throws IOException {
        demo(Demo.ESTATE);
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        compare("stream", "fuel-stream");
        compare("plane", "plane");
        compare("effect", "effect");
        Hands.run(() -> session.goTo(Stops.POWER));
        compare("enrichment", "enrichment");
        show("pulls");
        compare("pulls", "pulls");
        demo(Demo.ROADSTER);
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        show("holes");
        compare("holes", "holes");
        demo(Demo.SMALL_FOUR);
        Stop pull = Stops.all().stream().filter(s -> "needle-pull".equals(s.id())).findFirst().orElseThrow();
        Hands.run(() -> session.goTo(pull));
        show("needle");
        compare("needle", "needle");
    }

    @Test
    public void anotherMomentAndAnotherStopAreOtherPictures() throws IOException {
        demo(Demo.ESTATE);
        Hands.run(() -> session.goTo(Stops.POWER));
        show("stream");
        assertThat(differ(small("fuel-stream"), reference("stream"))).isGreaterThan(3 * FEW);
        assertThat(differ(small("plane"), reference("plane"))).isGreaterThan(3 * FEW);
    }

    /** A pump changes nothing of steady running: its effect is drawn of the openings. */
    @Test
    public void effectOfAPumpIsThatOnTheOpenings() throws IOException {
        Path sheet = Files.createTempDirectory("nariz").resolve("weak.json");
        Files.writeString(sheet, DemoDrive.sheetJson().replace("37 thou", "34 thou").replace("3.5 inHg", "6.5 inHg")
                .replace("\"nozzle\": \"35 thou\"", "\"nozzle\": \"20 thou\""));
        BuildSheet weak = BuildSheetReader.read(sheet);
        Path log = sheet.resolveSibling("weak.csv");
        LogWriter.write(new EngineSimulator(weak, DemoDrive.SEED, Map.of(), 3).withPump(weak.carburetor().family()
                .pumpSetting(weak).orElseThrow()).drive(DriveScript.twelveMinutes().then(DriveScript.openings()), 20,
                "stabs").log(), log);
        Hands.run(() -> session.open().files(sheet, log));
        Hands.waitFor("the drive with stabs", () -> session.busyProperty().get().isEmpty() && session.driveProperty()
                .get() != null && session.driveProperty().get().log().name().equals("weak.csv"));
        Hands.run(() -> session.goTo(Stops.PUMP));
        compare("effect-of-a-pump", "effect");
        assertThat(differ(small("effect"), reference("effect"))).isGreaterThan(3 * FEW);
    }

    private void demo(Demo d) {
        Hands.run(() -> session.open().demo(d));
        Hands.waitFor("the demo", () -> session.busyProperty().get().isEmpty() && session.driveProperty().get() != null
                && session.driveProperty().get().sheet().name().equals(d.sheet().name()));
        Hands.run(() -> {
            if (stage.getScene().lookup("#tour-skip") instanceof Button skip
                    && skip.getParent().isVisible()) {
                skip.fire();
            }
        });
        Hands.settle();
    }

    private void show(String picture) {
        Hands.run(() -> ((ToggleButton) stage.getScene().lookup("#show-" + picture)).fire());
        Hands.settle();
    }

    private void compare(String name, String node) throws IOException {
        Hands.settle();
        BufferedImage now = small(node);
        String write = System.getenv().getOrDefault("NARIZ_REFERENCES", "");
        if (!write.isEmpty()) {
            Path file = Path.of(write).resolve("nariz/app/view/reference").resolve(name + ".png");
            Files.createDirectories(file.getParent());
            int w = now.getWidth();
            Png.write(file, w, now.getHeight(), now.getRGB(0, 0, w, now.getHeight(), null, 0, w));
            return;
        }
        assertThat(differ(now, reference(name))).as("share of %s that looks otherwise", name).isLessThan(FEW);
    }

    private static BufferedImage reference(String name) throws IOException {
        try (InputStream in = ReferencePicturesTest.class.getResourceAsStream("reference/" + name + ".png")) {
            assertThat(in).as("reference picture %s", name).isNotNull();
            return ImageIO.read(in);
        }
    }

    /** Means over squares of what a node shows. */
    private BufferedImage small(String node) {
        WritableImage full = Hands.onInterface(() -> stage.getScene().lookup("#" + node).snapshot(null, null));
        int w = (int) full.getWidth() / SQUARE;
        int h = (int) full.getHeight() / SQUARE;
        BufferedImage out = new BufferedImage(w, h, BufferedImage.TYPE_INT_RGB);
        PixelReader pixels = full.getPixelReader();
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                out.setRGB(x, y, mean(pixels, x * SQUARE, y * SQUARE));
            }
        }
        return out;
    }

    private static int mean(PixelReader pixels, int x0, int y0) {
        int r = 0;
        int g = 0;
        int b = 0;
        for (int y = y0; y < y0 + SQUARE; y++) {
            for (int x = x0; x < x0 + SQUARE; x++) {
                int p = pixels.getArgb(x, y);
                r += p >> 16 & 0xff;
                g += p >> 8 & 0xff;
                b += p & 0xff;
            }
        }
        int n = SQUARE * SQUARE;
        return ((r / n) << 16) | ((g / n) << 8) | (b / n);
    }

    /** Share of squares that differ tellingly; all of them where the sizes do. */
    private static double differ(BufferedImage a, BufferedImage b) {
        if (Math.abs(a.getWidth() - b.getWidth()) > 1 || Math.abs(a.getHeight() - b.getHeight()) > 1) {
            return 1.0;
        }
        int w = Math.min(a.getWidth(), b.getWidth());
        int h = Math.min(a.getHeight(), b.getHeight());
        int others = 0;
        for (int y = 0; y < h; y++) {
            for (int x = 0; x < w; x++) {
                int p = a.getRGB(x, y);
                int q = b.getRGB(x, y);
                int most = Math.max(Math.abs((p >> 16 & 0xff) - (q >> 16 & 0xff)), Math.max(Math.abs((p >> 8 & 0xff)
                        - (q >> 8 & 0xff)), Math.abs((p & 0xff) - (q & 0xff))));
                others += most > TELLING ? 1 : 0;
            }
        }
        return others / (double) (w * h);
    }
}
