package nariz.app.chart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.event.Event;
import javafx.scene.Scene;
import javafx.scene.image.WritableImage;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.StackPane;
import javafx.scene.paint.Color;
import nariz.app.Toolkit;
import nariz.app.state.Session;
import nariz.app.state.Strips;
import nariz.app.theme.Palette;
import nariz.log.Pyramid;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The trace as it is seen: what is in the samples is on the screen, at its place, however long the log. */
public class TracePixelsTest {
    private static final int WIDE = 1100;
    private static final int HIGH = 500;
    private static final int SAMPLES = 2_000_000;
    private static final double STEP_S = 0.02;
    /** Ends of the plot in the picture, as the trace lays it out: scale on the left, read-outs on the right. */
    private static final int LEFT = 62;
    private static final int RIGHT = WIDE - 168;
    private static final int TOP = 42;

    private TraceView view;
    private final int[] spikes = {17, 400_123, 1_000_000, 1_999_990};

    @BeforeClass
    void open() {
        Toolkit.start();
        on(() -> {
            view = new TraceView(new Session(Platform::runLater));
            new Scene(new StackPane(view), WIDE, HIGH);
            view.show(strips());
            return null;
        });
    }

    private static <T> T on(Supplier<T> s) {
        FutureTask<T> task = new FutureTask<>(s::get);
        Platform.runLater(task);
        try {
            return task.get(60, TimeUnit.SECONDS);
        } catch (InterruptedException | java.util.concurrent.ExecutionException
                 | java.util.concurrent.TimeoutException e) {
            throw new AssertionError(e);
        }
    }

    /** A quiet mixture with single readings at the end of the scale, and a speed that rises from end to end. */
    private Strips strips() {
        Random r = new Random(9);
        double[] t = new double[SAMPLES];
        float[] mixture = new float[SAMPLES];
        float[] rpm = new float[SAMPLES];
        for (int i = 0; i < SAMPLES; i++) {
            t[i] = i * STEP_S;
            mixture[i] = (float) (0.95 + 0.01 * r.nextDouble());
            rpm[i] = 6000f * i / SAMPLES;
        }
        for (int s : spikes) {
            mixture[s] = 1.29f;
        }
        return new Strips(t, List.of(new Strips.Strip("mixture", new Pyramid(mixture), null, null, 0.7, 1.3),
                new Strips.Strip("rpm", new Pyramid(rpm), null, null, 0, 6000)));
    }

    private WritableImage seen() {
        return on(() -> {
            view.getParent().layout();
            view.layout();
            return view.snapshot(null, null);
        });
    }

    private static boolean ink(WritableImage image, int x, int y) {
        Color c = image.getPixelReader().getColor(x, y);
        Color ink = Palette.DAY.ink();
        return Math.abs(c.getRed() - ink.getRed()) + Math.abs(c.getGreen() - ink.getGreen())
                + Math.abs(c.getBlue() - ink.getBlue()) < 0.15;
    }

    private int x(double timeS) {
        return (int) Math.round(LEFT + (RIGHT - LEFT) * (timeS - view.fromS()) / (view.toS() - view.fromS()));
    }

    @DataProvider
    Object[][] spans() {
        return new Object[][] {{SAMPLES * STEP_S}, {7200.0}, {900.0}, {61.0}, {7.0}, {0.9}};
    }

    @Test(dataProvider = "spans")
    public void oneReadingInMillionsIsSeenAtItsPlaceInEveryZoom(double spanS) {
        for (int s : spikes) {
            double at = s * STEP_S;
            on(() -> {
                view.view(at - spanS * 0.4, at + spanS * 0.6);
                return null;
            });
            WritableImage image = seen();
            int x = x(at);
            // Blocks of a pyramid may move it by a quarter of a column, rounding by one more.
            boolean found = false;
            for (int dx = -2; dx <= 2; dx++) {
                for (int y = TOP; y < TOP + 14 && x + dx >= LEFT && x + dx < RIGHT; y++) {
                    found |= ink(image, x + dx, y);
                }
            }
            assertThat(found).as("reading %d in %.1f s around column %d", s, spanS, x).isTrue();
        }
    }

    @Test
    public void quietReadingsStandWhereTheyAreAndNowhereElse() {
        on(() -> {
            view.view(2000, 3000);
            return null;
        });
        WritableImage image = seen();
        // The mixture has 2.4 of 3.4 parts of what is left of the height; 0.95 lies five twelfths up its scale.
        double high = (HIGH - TOP - 22 - 6) * 2.4 / 3.4;
        int middle = (int) (TOP + high * (1 - (0.955 - 0.7) / 0.6));
        int inked = 0;
        for (int x = LEFT + 5; x < RIGHT - 5; x++) {
            boolean here = false;
            for (int y = middle - 4; y <= middle + 4; y++) {
                here |= ink(image, x, y);
            }
            inked += here ? 1 : 0;
            for (int y = TOP + 4; y < middle - 12; y++) {
                assertThat(ink(image, x, y)).as("column %d, row %d", x, y).isFalse();
            }
        }
        assertThat(inked).isEqualTo(RIGHT - LEFT - 10);
    }

    @Test
    public void wheelKeepsTheMomentUnderThePointerWhereItIs() {
        on(() -> {
            view.view(1000, 5000);
            return null;
        });
        double pointer = LEFT + 0.3 * (RIGHT - LEFT);
        double before = 1000 + 0.3 * 4000;
        for (double turn : new double[] {40, 40, 120, -40, -80}) {
            on(() -> {
                Event.fireEvent(view, new ScrollEvent(ScrollEvent.SCROLL, pointer, 200, pointer, 200, false, false,
                        false, false, false, false, 0, turn, 0, turn, ScrollEvent.HorizontalTextScrollUnits.NONE, 0,
                        ScrollEvent.VerticalTextScrollUnits.NONE, 0, 0, null));
                return null;
            });
            double now = view.fromS() + 0.3 * (view.toS() - view.fromS());
            assertThat(now).isEqualTo(before, within(1e-6));
        }
        assertThat(view.toS() - view.fromS()).isLessThan(4000);
    }

    @Test
    public void dragMovesTheLogWithTheHandAndStopsAtItsEnds() {
        on(() -> {
            view.view(1000, 2000);
            return null;
        });
        drag(600, 500);
        assertThat(view.fromS()).isEqualTo(1000 + 1000.0 * 100 / (RIGHT - LEFT), within(1.0));
        assertThat(view.toS() - view.fromS()).isEqualTo(1000, within(1e-6));
        for (int i = 0; i < 20; i++) {
            drag(100, 900);
        }
        assertThat(view.fromS()).isZero();
        assertThat(view.toS()).isEqualTo(1000, within(1e-6));
        on(() -> {
            view.view(SAMPLES * STEP_S - 500, SAMPLES * STEP_S + 500);
            return null;
        });
        assertThat(view.toS()).isLessThanOrEqualTo(SAMPLES * STEP_S);
        assertThat(view.toS() - view.fromS()).isEqualTo(1000, within(1e-6));
    }

    private void drag(double from, double to) {
        on(() -> {
            mouse(MouseEvent.MOUSE_PRESSED, from);
            for (int i = 1; i <= 5; i++) {
                mouse(MouseEvent.MOUSE_DRAGGED, from + (to - from) * i / 5);
            }
            mouse(MouseEvent.MOUSE_RELEASED, to);
            return null;
        });
    }

    private void mouse(javafx.event.EventType<MouseEvent> type, double x) {
        Event.fireEvent(view, new MouseEvent(type, x, 200, x, 200, MouseButton.PRIMARY, 1, false, false, false, false,
                true, false, false, true, false, false, null));
    }

    @Test
    public void nothingIsShownCloserThanASampleOrWiderThanTheRun() {
        on(() -> {
            view.view(500, 500);
            return null;
        });
        assertThat(view.toS() - view.fromS()).isEqualTo(0.2, within(1e-9));
        on(() -> {
            view.view(-1e9, 1e9);
            return null;
        });
        assertThat(view.fromS()).isZero();
        assertThat(view.toS()).isEqualTo((SAMPLES - 1) * STEP_S, within(1e-6));
    }

    @Test
    public void bothColourSetsAndEverySizeAreDrawnWithoutGaps() {
        on(() -> {
            view.view(0, 2000);
            view.paletteProperty().set(Palette.NIGHT);
            return null;
        });
        WritableImage night = seen();
        Color ground = Palette.NIGHT.panel();
        int odd = 0;
        // Along a line between two strips everything is ground: image and panes around it meet without a seam.
        for (int x = 4; x < WIDE - 4; x++) {
            Color c = night.getPixelReader().getColor(x, HIGH - 21);
            odd += Math.abs(c.getRed() - ground.getRed()) + Math.abs(c.getGreen() - ground.getGreen()) < 0.4 ? 0 : 1;
        }
        assertThat(odd).as("pixels that are neither ground nor tick").isLessThan(40);
        on(() -> {
            view.paletteProperty().set(Palette.DAY);
            return null;
        });
    }

    @Test
    public void columnsOfARasterAreWhereTheyWerePut() {
        Raster r = new Raster();
        r.size(5, 7);
        r.fill(1);
        r.column(2, 5.2, 1.7, 9, 1);
        r.column(3, 3, 3, 8, 2);
        r.column(4, -4, 99, 7, 1);
        r.row(6, 3);
        r.row(-1, 4);
        WritableImage image = on(r::done);
        int[] pixels = new int[35];
        image.getPixelReader().getPixels(0, 0, 5, 7, javafx.scene.image.PixelFormat.getIntArgbPreInstance(), pixels, 0,
                5);
        int[] columnTwo = new int[7];
        Arrays.setAll(columnTwo, y -> pixels[5 * y + 2]);
        assertThat(columnTwo).containsExactly(1, 9, 9, 9, 9, 9, 3);
        assertThat(pixels[5 * 3 + 3]).isEqualTo(8);
        assertThat(pixels[5 * 4 + 3]).isEqualTo(8);
        assertThat(pixels[5 * 5 + 3]).isEqualTo(1);
        assertThat(pixels[4]).isEqualTo(7);
        assertThat(pixels[5 * 6 + 4]).isEqualTo(3);
    }
}
