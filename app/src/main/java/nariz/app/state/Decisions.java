package nariz.app.state;

import java.util.ArrayList;
import java.util.List;
import nariz.log.Span;

/**
 * What the user decided about a drive. It is kept first and shown at once; the analysis is a function of sheet, log and
 * decisions and follows when it can.
 *
 * @param checked causes looked for and not found, keys as in an advice's hypotheses
 * @param excluded stretches that do not count
 */
public record Decisions(List<String> checked, List<Span> excluded) {
    /** Nothing decided. */
    public static final Decisions NONE = new Decisions(List.of(), List.of());

    /** Copies the lists. */
    public Decisions {
        checked = List.copyOf(checked);
        excluded = List.copyOf(excluded);
    }

    /**
     * The same with a cause looked for, or not.
     *
     * @param cause key
     * @param sound whether it was looked for and not found
     * @return new decisions
     */
    public Decisions check(String cause, boolean sound) {
        List<String> all = new ArrayList<>(checked);
        all.remove(cause);
        if (sound) {
            all.add(cause);
        }
        return new Decisions(all, excluded);
    }

    /**
     * The same with a stretch taken out.
     *
     * @param s stretch
     * @return new decisions
     */
    public Decisions without(Span s) {
        List<Span> all = new ArrayList<>(excluded);
        all.add(s);
        return new Decisions(checked, all);
    }

    /**
     * The same with every stretch counting again that holds a moment.
     *
     * @param timeS moment, s in the log
     * @return new decisions
     */
    public Decisions with(double timeS) {
        return new Decisions(checked, excluded.stream().filter(s -> !s.holds(timeS)).toList());
    }
}
