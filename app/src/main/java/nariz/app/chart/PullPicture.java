package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import java.util.Optional;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.theme.Palette;
import nariz.dynamics.PullStudy;

/** Every pull at full load, its mixture against the target along engine speed, a tick for every second of it. */
public final class PullPicture extends SteppedPicture {
    private static final double LEFT = 62;
    private static final double RIGHT = 232;
    private static final double TOP = 40;
    private static final double BOTTOM = 40;
    private static final double LEANEST = 0.20;
    private static final double RICHEST = -0.20;
    private static final double STOP = 0.10;
    private static final double NEAR_PX = 24;
    private static final int MOST_LISTED = 9;

    /**
     * Sets up the picture.
     *
     * @param session what to show
     */
    public PullPicture(Session session) {
        super(session, say("pull-picture.name"), say("pull-picture.help"));
    }

    private List<PullStudy.Pull> pulls() {
        Drive d = session().driveProperty().get();
        return d == null ? List.of() : d.analysis().advice().dynamics().pulls().map(PullStudy.Finding::pulls).orElse(
                List.of()).stream().filter(p -> !p.course().isEmpty()).toList();
    }

    @Override
    void step(boolean next) {
        List<PullStudy.Pull> all = next ? pulls() : pulls().reversed();
        int now = session().cursorProperty().get();
        Optional<PullStudy.Pull> to = all.stream().filter(p -> next ? p.sample() > now : p.sample() < now).findFirst();
        to.ifPresent(p -> session().moveCursor(p.sample()));
    }

    @Override
    void pick(double px, double py) {
        Drive d = session().driveProperty().get();
        double least = NEAR_PX * NEAR_PX;
        double at = Double.NaN;
        for (PullStudy.Pull pull : pulls()) {
            for (PullStudy.Point q : pull.course()) {
                double dx = x(q.rpm(), getWidth()) - px;
                double dy = y(q.error(), getHeight()) - py;
                if (dx * dx + dy * dy < least) {
                    least = dx * dx + dy * dy;
                    at = pull.atS() + q.afterS();
                }
            }
        }
        if (d != null && !Double.isNaN(at)) {
            session().moveCursor(d.log().indexAt(at));
        }
    }

    private double slowest() {
        return pulls().stream().flatMap(p -> p.course().stream()).mapToDouble(PullStudy.Point::rpm).min().orElse(1000);
    }

    private double fastest() {
        return pulls().stream().flatMap(p -> p.course().stream()).mapToDouble(PullStudy.Point::rpm).max().orElse(6000);
    }

    private double x(double rpm, double w) {
        double low = 500 * Math.floor(slowest() / 500);
        double high = Math.max(low + 1000, 500 * Math.ceil(fastest() / 500));
        return LEFT + (w - LEFT - RIGHT) * (rpm - low) / (high - low);
    }

    private static double y(double error, double h) {
        return TOP + (h - TOP - BOTTOM) * (LEANEST - Math.clamp(error, RICHEST, LEANEST)) / (LEANEST - RICHEST);
    }

    /** The pull the cursor is in, or -1. */
    private int near(List<PullStudy.Pull> pulls) {
        double now = session().driveProperty().get().log().timeS()[session().cursorProperty().get()];
        for (int k = 0; k < pulls.size(); k++) {
            PullStudy.Pull p = pulls.get(k);
            if (now >= p.atS() - 0.5 && now <= p.atS() + p.seconds() + 0.5) {
                return k;
            }
        }
        return -1;
    }

    @Override
    protected void draw(GraphicsContext g, Palette p, double w, double h, int pane) {
        strong(g, say("pull-picture.title"), 14, 18, 14, p.ink(), TextAlignment.LEFT);
        List<PullStudy.Pull> pulls = pulls();
        if (pulls.isEmpty()) {
            text(g, say(session().driveProperty().get() == null ? "stab-picture.nothing-is-open"
                    : "pull-picture.nothing"), 14, 44, 14, p.faint(), TextAlignment.LEFT);
            return;
        }
        axes(g, p, w, h);
        int near = near(pulls);
        for (int k = 0; k < pulls.size(); k++) {
            if (k != near) {
                course(g, p, pulls.get(k), k + 1, p.fine(), 1.6, w, h);
            }
        }
        if (near >= 0) {
            course(g, p, pulls.get(near), near + 1, p.accent(), 2.6, w, h);
        }
        list(g, p, pulls, near, w, h);
    }

    private void axes(GraphicsContext g, Palette p, double w, double h) {
        g.setFill(clear(p.lean(), 0.10));
        g.fillRect(LEFT, TOP, w - LEFT - RIGHT, y(STOP, h) - TOP);
        for (int percent = -20; percent <= 20; percent += 5) {
            double y = y(percent / 100.0, h);
            line(g, LEFT, y, w - RIGHT, y, percent == 0 ? p.ink() : p.rule(), percent == 0 ? 1.2 : 0.8);
            text(g, percent == 0 ? say("pull-picture.target") : Math.abs(percent) + " %", LEFT - 6, y, 12, p.faint(),
                    TextAlignment.RIGHT);
        }
        strong(g, say("pull-picture.stop"), LEFT + 6, TOP + 10, 12, p.lean(), TextAlignment.LEFT);
        strong(g, say("stab-picture.rich"), LEFT + 6, h - BOTTOM - 10, 12, p.rich(), TextAlignment.LEFT);
        double low = 500 * Math.floor(slowest() / 500);
        double high = Math.max(low + 1000, 500 * Math.ceil(fastest() / 500));
        for (double rpm = low; rpm <= high; rpm += 500) {
            double x = x(rpm, w);
            line(g, x, TOP, x, h - BOTTOM, p.rule(), 0.8);
            if (rpm % 1000 == 0) {
                text(g, Long.toString(Math.round(rpm)), x, h - BOTTOM + 12, 12, p.faint(), TextAlignment.CENTER);
            }
        }
        text(g, say("pull-picture.rpm"), w - RIGHT, h - 12, 12, p.faint(), TextAlignment.RIGHT);
    }

    private void course(GraphicsContext g, Palette p, PullStudy.Pull pull, int number, Color c, double width, double w,
            double h) {
        PullStudy.Point before = null;
        for (PullStudy.Point q : pull.course()) {
            double x = x(q.rpm(), w);
            double y = y(q.error(), h);
            if (before != null) {
                line(g, x(before.rpm(), w), y(before.error(), h), x, y, c, width);
                if (Math.floor(q.afterS()) > Math.floor(before.afterS())) {
                    line(g, x, y - 5, x, y + 5, c, width);
                }
            }
            before = q;
        }
        if (before != null) {
            plate(g, p, Integer.toString(number), x(before.rpm(), w) + 8, y(before.error(), h), c, TextAlignment.LEFT);
        }
    }

    private static void list(GraphicsContext g, Palette p, List<PullStudy.Pull> pulls, int near, double w, double h) {
        double x = w - RIGHT + 18;
        double y = TOP + 4;
        for (int k = 0; k < Math.min(pulls.size(), MOST_LISTED) && y < h - 50; k++) {
            PullStudy.Pull q = pulls.get(k);
            String line = say("pull-picture.line", k + 1, (int) q.atS() / 60, q.atS() % 60, q.seconds(),
                    say(q.words()));
            text(g, line, x, y, 12.5, k == near ? p.accent() : p.ink(), TextAlignment.LEFT);
            y += 18;
        }
        text(g, say("pull-picture.ticks"), x, h - 30, 12, p.faint(), TextAlignment.LEFT);
        text(g, say("pull-picture.keys"), x, h - 12, 12, p.faint(), TextAlignment.LEFT);
    }
}
