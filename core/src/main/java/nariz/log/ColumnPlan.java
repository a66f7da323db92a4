package nariz.log;

import static nariz.text.Message.message;

import nariz.text.Message;

/**
 * What one column of a file means.
 *
 * @param index field in the row, from 0; {@link #ELSEWHERE} when it came from another file
 * @param title its header as written
 * @param channel what it carries
 * @param unit unit as understood, for people; empty for plain numbers
 * @param scale to SI
 * @param certainty how sure the program is by itself
 * @param because what it rests on, for people
 */
public record ColumnPlan(int index, String title, Channel channel, String unit, Scale scale, Certainty certainty,
        Message because) {
    /** Index of a column that came from a file beside the log. */
    public static final int ELSEWHERE = -1;

    /** How sure the program is of a column's meaning. */
    public enum Certainty {
        /** Header and unit say so, or the user does. */
        SURE,
        /** Header or unit says so, the rest is taken from the numbers. */
        LIKELY,
        /** Only the numbers say so. */
        GUESS
    }

    /**
     * The same column as the user confirmed it.
     *
     * @return sure
     */
    public ColumnPlan confirmed() {
        return new ColumnPlan(index, title, channel, unit, scale, Certainty.SURE, message("because.you-said-so"));
    }

    /**
     * The same column with another meaning.
     *
     * @param other channel
     * @param u one of its units
     * @return sure, since the user says so
     */
    public ColumnPlan as(Channel other, Channel.Unit u) {
        return new ColumnPlan(index, title, other, u.name(), new Scale.Linear(u.factor(), u.shift()), Certainty.SURE,
                message("because.you-said-so"));
    }
}
