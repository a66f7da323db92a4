package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.Arrays;
import java.util.Locale;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.diagnosis.Strategy;
import nariz.estimation.Flag;
import nariz.live.LiveReadings;
import nariz.text.Measure;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * The running engine, to be read from two metres: mixture, speed and vacuum in large figures, each with its last half
 * minute and its spread; below, which circuit feeds it now. A pull that has to be stopped takes the whole picture.
 */
public final class LivePicture extends Picture {
    private static final double LOW = 0.70;
    private static final double HIGH = 1.20;
    private static final double STRIP_SHARE = 0.36;
    private static final int GAP_PX = 12;
    /** Slower than this, in idle speeds, is idle. */
    private static final double FASTEST_IDLE = 1.3;

    private final Session session;

    /**
     * The picture of what runs.
     *
     * @param session what to show
     */
    public LivePicture(Session session) {
        super(say("live-picture.name"), say("live-picture.help"));
        this.session = session;
        WeakListeners.attach(session.live().nowProperty(), this, (o, was, is) -> {
            redraw();
            // A hundred times a second is no use to a screen reader.
            if (is != null && (was == null || Math.floor(is.timeS()) != Math.floor(was.timeS()))) {
                setAccessibleText(say("live-picture.says", mixture(is.lambda()), Math.rint(is.rpm()), vacuum(is)));
            }
        });
        WeakListeners.attach(session.unitProperty(), this, (o, was, is) -> redraw());
        WeakListeners.attach(session.live().sheetProperty(), this, (o, was, is) -> redraw());
    }

    private String mixture(double lambda) {
        if (Double.isNaN(lambda)) {
            return "–";
        }
        return session.unitProperty().get().text(lambda);
    }

    private static String vacuum(LiveReadings.Now n) {
        return Double.isNaN(n.vacuumPa()) ? "–" : say(Message.of(Measure.bareVacuum(n.vacuumPa())));
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        LiveReadings.@Nullable Now n = session.live().nowProperty().get();
        if (n == null) {
            strong(g, session.live().sheetProperty().get() == null ? say("live-picture.nothing") : say(
                    "live-picture.waits"), w / 2, h / 2, 22, p.faint(), TextAlignment.CENTER);
            return;
        }
        double foot = Math.max(84, 0.2 * h);
        double row = (h - foot) / 3;
        boolean judged = n.flag() == Flag.STEADY;
        row(g, p, 0, row, w, say("live-picture.mixture"), mixture(n.lambda()), n.mixture(), n.strip(), 3, new double[] {
            LOW, HIGH}, Double.isNaN(n.lambda()) || !judged ? p.ink() : p.of(n.lambda() / target(n,
                    session.live().sheetProperty().get()) - 1));
        row(g, p, row, row, w, say("live-picture.speed"), Double.isNaN(n.rpm()) ? "–" : String.format(Locale.ROOT,
                "%.0f", n.rpm()), n.speed(), n.strip(), 1, range(n.strip()[1], 120), p.ink());
        row(g, p, 2 * row, row, w, say("live-picture.vacuum") + ", " + say(Message.of(Measure.VACUUM_UNIT)), vacuum(n),
                n.vacuum(), n.strip(), 2, range(n.strip()[2],
                4e3), p.ink());
        feet(g, p, n, h - foot, foot, w);
        if (n.lean()) {
            g.setFill(p.lean());
            g.fillRect(0, 0, w, h);
            strong(g, say("live-picture.lift"), w / 2, 0.42 * h, Math.min(0.3 * h, w / 6), p.panel(),
                    TextAlignment.CENTER);
            strong(g, say("live-picture.lean-under-load"), w / 2, 0.66 * h, Math.min(30, w / 22), p.panel(),
                    TextAlignment.CENTER);
        }
    }

    /** Mixture wanted at this load; idle apart. */
    private static double target(LiveReadings.Now n, @Nullable BuildSheet s) {
        if (s == null) {
            return 1.0;
        }
        return Strategy.of(s).at(n.rpm() < FASTEST_IDLE * s.engine().idleRpm(), n.vacuumPa(), s);
    }

    private static double[] range(double[] v, double least) {
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (double x : v) {
            if (!Double.isNaN(x)) {
                low = Math.min(low, x);
                high = Math.max(high, x);
            }
        }
        double middle = low > high ? 0 : 0.5 * (low + high);
        double half = Math.max(0.55 * (high - low), 0.5 * least);
        return new double[] {middle - half, middle + half};
    }

    private void row(GraphicsContext g, Palette p, double y, double h, double w, String name, String value,
            LiveReadings.Trend t, double[][] strip, int channel, double[] range, Color c) {
        double left = w * (1 - STRIP_SHARE);
        text(g, name, 16, y + 18, 15, p.faint(), TextAlignment.LEFT);
        double size = Math.min(0.78 * h, 0.26 * left);
        strong(g, value, left - 22, y + h / 2 + 4, size, c, TextAlignment.RIGHT);
        String spread = spread(channel, t);
        text(g, spread, 16, y + h - 16, 15, p.ink(), TextAlignment.LEFT);
        double top = y + 10;
        double tall = h - 20;
        g.setFill(p.paper());
        g.fillRect(left, top, w - left - 12, tall);
        double width = w - left - 12;
        strip(g, strip, channel, range, new double[] {left, top, width, tall}, c);
        if (channel == 3) {
            double one = top + tall * (1 - (1.0 - LOW) / (HIGH - LOW));
            line(g, left, one, left + width, one, p.faint(), 1, 4, 4);
        }
        line(g, 0, y + h, w, y + h, p.rule(), 1);
    }

    /** A span for every column of pixels: strokes are too slow for thousands of readings a frame. */
    private static void strip(GraphicsContext g, double[][] strip, int channel, double[] range, double[] at, Color c) {
        int columns = (int) at[2];
        double[] low = new double[columns];
        double[] high = new double[columns];
        Arrays.fill(low, Double.POSITIVE_INFINITY);
        Arrays.fill(high, Double.NEGATIVE_INFINITY);
        for (int i = 0; i < strip[0].length; i++) {
            double v = strip[channel][i];
            int x = (int) Math.clamp((columns - 1) * (1 - strip[0][i] / LiveReadings.BACK_S), 0, columns - 1.0);
            if (!Double.isNaN(v)) {
                double y = at[1] + at[3] * (1 - Math.clamp((v - range[0]) / (range[1] - range[0]), 0, 1));
                low[x] = Math.min(low[x], y);
                high[x] = Math.max(high[x], y);
            }
        }
        g.setFill(c);
        int before = -1;
        for (int x = 0; x < columns; x++) {
            if (low[x] > high[x]) {
                continue;
            }
            double from = low[x];
            double to = high[x];
            if (before >= 0 && x - before < GAP_PX) {
                // The line goes on from the column before.
                from = Math.min(from, high[before]);
                to = Math.max(to, low[before]);
            }
            double left = before >= 0 && x - before < GAP_PX ? before + 1 : x;
            g.fillRect(at[0] + left, from - 1, x + 1 - left, to - from + 2);
            before = x;
        }
    }

    private String spread(int channel, LiveReadings.Trend t) {
        if (Double.isNaN(t.sd())) {
            return "";
        }
        String sd = channel == 3 ? String.format(Locale.ROOT, "± %.3f λ", t.sd()) : channel == 1 ? String.format(
                Locale.ROOT, "± %.0f", t.sd()) : "± " + say(Message.of(Measure.vacuumSpread(t.sd())));
        double size = Math.max(t.sd(), channel == 3 ? 0.004 : channel == 1 ? 4 : 150);
        double drift = Double.isNaN(t.perS()) ? 0 : t.perS() * LiveReadings.TREND_S / size;
        return sd + "   " + say(drift > 2 ? "live-picture.rises" : drift < -2 ? "live-picture.falls"
                : "live-picture.holds");
    }

    /** Which circuit speaks, warm or not, whether the moment counts. */
    private void feet(GraphicsContext g, Palette p, LiveReadings.Now n, double y, double h, double w) {
        BuildSheet s = session.live().sheetProperty().get();
        if (s == null) {
            return;
        }
        text(g, say("live-picture.fuel-from"), 16, y + 18, 15, p.faint(), TextAlignment.LEFT);
        double x = 16;
        double wide = w - 32;
        double bar = y + 32;
        double tall = Math.min(30, h - 58);
        for (Circuit c : s.carburetor().family().circuits()) {
            double share = n.shares()[c.index()];
            if (share < 0.01) {
                continue;
            }
            double part = share * wide;
            g.setFill(c.lowSpeed() ? clear(p.fuel(), 0.55) : p.fuel());
            g.fillRect(x, bar, part - 2, tall);
            String label = say(c.label()) + " " + Math.round(100 * share) + " %";
            if (width(label, 15) < part - 12) {
                strong(g, label, x + 6, bar + tall / 2, 15, p.ink(), TextAlignment.LEFT);
            }
            x += part;
        }
        String state = say(n.warm() ? "live-picture.warm" : "live-picture.cold") + "   ·   " + say("live-picture.flag-"
                + n.flag().name().toLowerCase(Locale.ROOT));
        strong(g, state, 16, y + h - 14, 15, n.warm() ? p.ink() : p.lean(), TextAlignment.LEFT);
        text(g, say("live-picture.rows", n.rows()), w - 16, y + h - 14,
                13, p.faint(), TextAlignment.RIGHT);
    }
}
