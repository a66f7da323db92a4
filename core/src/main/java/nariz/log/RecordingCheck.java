package nariz.log;

import static nariz.text.Message.message;

import java.util.List;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/** Whether a recording that comes from outside is one that this program could have made itself. */
public final class RecordingCheck {
    private static final int FEWEST = 2;

    private RecordingCheck() {
    }

    /**
     * Refuses a recording that no log could have become: without a needed channel, without rows, with a time that does
     * not rise, with numbers that its plan cannot mean.
     *
     * @param source name for messages
     * @param r recording
     * @throws InputProblem with the channel and the row, counted from 1 below the header
     */
    public static void check(String source, Recording r) {
        if (r.size() < FEWEST) {
            throw problem(source, 0, null, message("problem.rows-too-few", r.size()));
        }
        need(source, r, Channel.TIME, Channel.TIME);
        need(source, r, Channel.RPM, Channel.RPM);
        need(source, r, Channel.VACUUM, Channel.MAP);
        need(source, r, Channel.LAMBDA, Channel.AFR);
        for (Channel c : r.channels()) {
            if (c == Channel.TIME) {
                time(source, r.written(c));
            } else if (r.plan().column(c).isEmpty()) {
                throw problem(source, 0, c, message("problem.a-channel-without-a-plan"));
            } else {
                values(source, c, r.si(c));
            }
        }
        for (Recording.Mark m : r.marks()) {
            if (!Double.isFinite(m.timeS())) {
                throw problem(source, 0, Channel.TIME, message("problem.a-mark-without-a-time"));
            }
        }
    }

    private static void need(String source, Recording r, Channel c, Channel or) {
        List<Channel> there = r.channels();
        if (!there.contains(c) && !there.contains(or)) {
            throw problem(source, 0, c, message("problem.no-column-for", c.label()));
        }
    }

    private static void time(String source, double[] t) {
        for (int i = 0; i < t.length; i++) {
            if (!(Double.isFinite(t[i]) && (i == 0 || t[i] > t[i - 1]))) {
                throw problem(source, i + 1, Channel.TIME, message(Double.isNaN(t[i]) ? "problem.no-time"
                        : "problem.a-time-that-does-not-rise"));
            }
        }
    }

    private static void values(String source, Channel c, double[] si) {
        for (int i = 0; i < si.length; i++) {
            if (!Double.isNaN(si[i]) && !(si[i] >= c.lowest() && si[i] <= c.highest())) {
                throw problem(source, i + 1, c, message("problem.outside-what-can-be", si[i], c.label()));
            }
        }
    }

    private static InputProblem problem(String source, long row, @Nullable Channel c, Message found) {
        return new InputProblem(source, row, 0, c == null ? "" : c.key(), found, message("problem.export-it-again"));
    }
}
