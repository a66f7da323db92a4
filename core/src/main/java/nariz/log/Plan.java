package nariz.log;

import static nariz.text.Message.message;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import nariz.text.Message;

/**
 * How a table of readings is to be taken: what every column means and where time comes from. Made by
 * {@link LogReader#propose} with what the file itself tells, confirmed or corrected by the user, and remembered for the
 * next file from the same source.
 *
 * @param columns columns that are used; one with {@link Channel#TIME} unless {@code rateHz} is given
 * @param rateHz samples a second where no column carries time; 0 otherwise
 * @param events field with event marks, from 0; -1 for none
 * @param signature header of the source, by which a plan is found again
 */
public record Plan(List<ColumnPlan> columns, double rateHz, int events, String signature) {
    /** The fastest rate a log is believed to have, Hz. */
    public static final double FASTEST_HZ = 1e5;

    /** Copies the list. */
    public Plan {
        columns = columns.stream().sorted(Comparator.comparingInt(ColumnPlan::index)).toList();
    }

    /**
     * The column of a channel.
     *
     * @param c channel
     * @return it, or empty
     */
    public Optional<ColumnPlan> column(Channel c) {
        return columns.stream().filter(p -> p.channel() == c).findFirst();
    }

    /** {@return whether nothing was guessed} */
    public boolean certain() {
        return columns.stream().allMatch(c -> c.certainty() == ColumnPlan.Certainty.SURE);
    }

    /** {@return the plan as the user agreed to it} */
    public Plan confirmed() {
        return new Plan(columns.stream().map(ColumnPlan::confirmed).toList(), rateHz, events, signature);
    }

    /**
     * The plan with one column taken otherwise.
     *
     * @param changed its new meaning
     * @return a new plan; another column that carried the same channel is no longer used
     */
    public Plan with(ColumnPlan changed) {
        List<ColumnPlan> kept = new java.util.ArrayList<>(columns.stream()
                .filter(c -> c.index() != changed.index() && c.channel() != changed.channel()).toList());
        kept.add(changed);
        return new Plan(kept, changed.channel() == Channel.TIME ? 0.0 : rateHz, events, signature);
    }

    /**
     * The plan without a column.
     *
     * @param index field, from 0
     * @return a new plan
     */
    public Plan without(int index) {
        return new Plan(columns.stream().filter(c -> c.index() != index).toList(), rateHz, events, signature);
    }

    /**
     * The plan with time reckoned from a sample rate.
     *
     * @param hz samples a second, positive
     * @return a new plan without a time column
     */
    public Plan atRate(double hz) {
        return new Plan(columns.stream().filter(c -> c.channel() != Channel.TIME).toList(), hz, events, signature);
    }

    /** {@return what is missing for an analysis, in words; empty when nothing is} */
    public List<Message> missing() {
        List<Message> out = new java.util.ArrayList<>();
        if (rateHz <= 0 && column(Channel.TIME).isEmpty()) {
            out.add(message("plan.time-or-a-rate"));
        }
        if (column(Channel.RPM).isEmpty()) {
            out.add(message("plan.engine-speed"));
        }
        if (column(Channel.VACUUM).isEmpty() && column(Channel.MAP).isEmpty()) {
            out.add(message("plan.vacuum-or-pressure"));
        }
        if (column(Channel.LAMBDA).isEmpty() && column(Channel.AFR).isEmpty()) {
            out.add(message("plan.lambda-or-afr"));
        }
        return out;
    }
}
