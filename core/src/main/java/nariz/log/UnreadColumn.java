package nariz.log;

import static nariz.text.Message.message;

import java.util.Optional;
import nariz.text.Message;

/**
 * A column of a log that is not read, and what it looks like.
 *
 * @param index field in the row, from 0
 * @param title its header as written
 * @param as how it would be read; empty where no computation uses it or that cannot be told
 * @param looksLike what it seems to be, for people; goes on from the column's name
 */
public record UnreadColumn(int index, String title, Optional<ColumnPlan> as, Message looksLike) {
    /**
     * A column that would be read in some way.
     *
     * @param as how
     * @return the column, named by that
     */
    static UnreadColumn of(ColumnPlan as) {
        Message like = as.unit().isEmpty() ? message("unread.looks-like", as.channel().label())
                : message("unread.looks-like-in", as.channel().label(), as.unit());
        boolean contested = as.because().code().equals("because.another-claims-it");
        return new UnreadColumn(as.index(), as.title(), Optional.of(as), contested ? like.then(Message.literal("; "))
                .then(as.because()) : like);
    }

    /** {@return whether reading it could change an answer} */
    public boolean matters() {
        return as.isPresent();
    }
}
