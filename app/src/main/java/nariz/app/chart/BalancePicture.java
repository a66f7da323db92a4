package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Locale;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.TextAlignment;
import nariz.app.state.BalanceWork;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.estimation.Estimate;
import nariz.idle.ThrottleBalance;
import org.jspecify.annotations.Nullable;

/**
 * Where every carburetor stands: how far off it is believed to be with its 90 % interval, what the latest reading alone
 * said, and where the turn that is asked for is to take it.
 */
public final class BalancePicture extends Picture {
    private static final double LEFT = 214;
    private static final double RIGHT = 30;
    private static final double TOP = 64;
    private static final double FOOT = 54;
    private static final double LEAST_SPAN = 0.10;
    private static final double MOST_SPAN = 0.60;
    /** Height of a row at most: a row is two figures and a scale, however few there are. */
    private static final double MOST_ROW = 190;

    private final Session session;

    /**
     * The picture of carburetors being balanced.
     *
     * @param session what to show
     */
    public BalancePicture(Session session) {
        super(say("balance-picture.name"), say("balance-picture.help"));
        this.session = session;
        WeakListeners.attach(session.live().balance().stepProperty(), this, (o, was, is) -> {
            tell(is);
            redraw();
        });
    }

    /** What is seen, for those who do not see it. */
    private void tell(BalanceWork.@Nullable Step s) {
        StringBuilder b = new StringBuilder(say("balance-picture.name"));
        for (int j = 0; s != null && j < s.shares().size(); j++) {
            b.append("; ").append(say("balance-panel.carburetor", j + 1)).append(": ").append(percent(s.shares().get(j)
                    .off()));
        }
        setAccessibleText(b.toString());
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        strong(g, say("balance-picture.name"), 14, 18, 16, p.ink(), TextAlignment.LEFT);
        BalanceWork.@Nullable Step s = session.live().balance().stepProperty().get();
        if (s == null || s.shares().isEmpty()) {
            text(g, say("balance-picture.empty"), 14, 44, 15, p.faint(), TextAlignment.LEFT);
            return;
        }
        List<ThrottleBalance.Share> shares = s.shares();
        double span = shares.stream().mapToDouble(x -> Math.max(Math.abs(x.off()) + Estimate.Z90 * x.sd(), Math.abs(x
                .read()))).max().orElse(0.0);
        Axis a = new Axis(Math.clamp(1.15 * span, LEAST_SPAN, MOST_SPAN), w);
        double row = Math.min(MOST_ROW, (h - TOP - FOOT) / shares.size());
        double floor = TOP + row * shares.size();
        scale(g, p, a, floor);
        boolean toFirst = s.stage() != ThrottleBalance.Stage.LINKS_OFF;
        for (int j = 0; j < shares.size(); j++) {
            row(g, p, a, s, j, TOP + row * (j + 0.5), row);
        }
        String against = say(toFirst ? "balance-picture.to-first" : "balance-picture.to-mean");
        text(g, against, a.x(0), floor + 40, 13, p.faint(), TextAlignment.CENTER);
    }

    private record Axis(double span, double w) {
        double x(double off) {
            return LEFT + (Math.clamp(off, -span, span) + span) / (2 * span) * (w - LEFT - RIGHT);
        }
    }

    /** The band in which it is balanced, and round shares. */
    private static void scale(GraphicsContext g, Palette p, Axis a, double floor) {
        g.setFill(clear(p.accent(), 0.14));
        g.fillRect(a.x(-ThrottleBalance.TOLERANCE), TOP, a.x(ThrottleBalance.TOLERANCE) - a.x(
                -ThrottleBalance.TOLERANCE), floor - TOP);
        double step = a.span() > 0.3 ? 0.2 : a.span() > 0.14 ? 0.1 : 0.05;
        for (int k = (int) Math.floor(-a.span() / step); k <= a.span() / step; k++) {
            double off = k * step;
            if (Math.abs(off) <= a.span()) {
                line(g, a.x(off), TOP, a.x(off), floor, k == 0 ? p.ink() : p.rule(), k == 0 ? 1.6 : 1);
                text(g, percent(off), a.x(off), floor + 16, 13, p.faint(), TextAlignment.CENTER);
            }
        }
        text(g, say("balance-picture.too-little"), LEFT, TOP - 14, 14, p.ink(), TextAlignment.LEFT);
        text(g, say("balance-picture.too-much"), a.w() - RIGHT, TOP - 14, 14, p.ink(), TextAlignment.RIGHT);
    }

    private static void row(GraphicsContext g, Palette p, Axis a, BalanceWork.Step s, int j, double y, double height) {
        ThrottleBalance.Share share = s.shares().get(j);
        boolean asked = s.move().kind() == ThrottleBalance.Kind.TURN && s.move().carburetor() == j;
        boolean reference = s.stage() != ThrottleBalance.Stage.LINKS_OFF && j == 0;
        double size = Math.clamp(height / 4, 20, 40);
        // Words stand beside the scale: nothing lies over a mark, and they are read from two metres.
        text(g, say("balance-panel.carburetor", j + 1), 16, y - 0.62 * size, 0.5 * size, p.ink(), TextAlignment.LEFT);
        strong(g, reference ? say("balance-picture.reference") : percent(share.off()), 16, y + 0.32 * size, reference
                ? 0.7 * size : size, asked ? p.accent() : p.ink(), TextAlignment.LEFT);
        double half = Estimate.Z90 * share.sd();
        line(g, a.x(share.off() - half), y, a.x(share.off() + half), y, p.ink(), 5);
        g.setStroke(p.faint());
        g.setLineWidth(2);
        g.strokeOval(a.x(share.read()) - 6, y - 6, 12, 12);
        g.setFill(asked ? p.accent() : p.ink());
        g.fillOval(a.x(share.off()) - 9, y - 9, 18, 18);
        if (asked && !s.expected().isEmpty()) {
            double to = a.x(s.expected().get(j));
            double from = a.x(share.off());
            double below = y + 22;
            line(g, from, below, to, below, p.accent(), 3);
            double way = Math.signum(to - from);
            line(g, to, below, to - 9 * way, below - 6, p.accent(), 3);
            line(g, to, below, to - 9 * way, below + 6, p.accent(), 3);
        }
    }

    private static String percent(double off) {
        return String.format(Locale.ROOT, "%+.0f %%", 100 * off).replace("-0 %", "0 %").replace("+0 %", "0 %");
    }
}
