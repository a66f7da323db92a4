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
 * @param unread columns that are not used, with what they look like; none where the user chose the columns
 */
public record Plan(List<ColumnPlan> columns, double rateHz, int events, String signature,
        List<UnreadColumn> unread) {
    /** The fastest rate a log is believed to have, Hz. */
    public static final double FASTEST_HZ = 1e5;

    /** Copies the lists; what is used is not unread. */
    public Plan {
        List<ColumnPlan> used = columns;
        unread = unread.stream().filter(u -> used.stream().noneMatch(c -> c.index() == u.index())).toList();
        columns = columns.stream().sorted(Comparator.comparingInt(ColumnPlan::index)).toList();
    }

    /**
     * A plan that leaves nothing to be told about other columns.
     *
     * @param columns columns that are used
     * @param rateHz samples a second where no column carries time; 0 otherwise
     * @param events field with event marks, from 0; -1 for none
     * @param signature header of the source
     */
    public Plan(List<ColumnPlan> columns, double rateHz, int events, String signature) {
        this(columns, rateHz, events, signature, List.of());
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

    /** {@return the plan with what is sure alone; the rest of it is unread, with what it looks like} */
    public Plan onlySure() {
        List<UnreadColumn> left = new java.util.ArrayList<>(unread);
        columns.stream().filter(c -> c.certainty() != ColumnPlan.Certainty.SURE).forEach(c -> left.add(
                UnreadColumn.of(c)));
        left.sort(Comparator.comparingInt(UnreadColumn::index));
        return new Plan(columns.stream().filter(c -> c.certainty() == ColumnPlan.Certainty.SURE).toList(), rateHz,
                events, signature, left);
    }

    /** {@return the plan taken as it was proposed, likely or not: nobody looked at its columns one by one} */
    public Plan taken() {
        return new Plan(columns.stream().map(c -> new ColumnPlan(c.index(), c.title(), c.channel(), c.unit(), c.scale(),
                ColumnPlan.Certainty.SURE, c.because())).toList(), rateHz, events, signature, unread);
    }

    /** {@return the plan as the user agreed to it} */
    public Plan confirmed() {
        return new Plan(columns.stream().map(ColumnPlan::confirmed).toList(), rateHz, events, signature, unread);
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
        return new Plan(kept, changed.channel() == Channel.TIME ? 0.0 : rateHz, events, signature, unread);
    }

    /**
     * The plan without a column.
     *
     * @param index field, from 0
     * @return a new plan
     */
    public Plan without(int index) {
        return new Plan(columns.stream().filter(c -> c.index() != index).toList(), rateHz, events, signature, unread);
    }

    /**
     * The plan with time reckoned from a sample rate.
     *
     * @param hz samples a second, positive
     * @return a new plan without a time column
     */
    public Plan atRate(double hz) {
        return new Plan(columns.stream().filter(c -> c.channel() != Channel.TIME).toList(), hz, events, signature,
                unread);
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
