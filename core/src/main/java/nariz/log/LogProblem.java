package nariz.log;

import static nariz.text.Message.message;

import nariz.text.Message;

/**
 * Something in a log that was kept out, with its place.
 *
 * @param line line in the file, from 1
 * @param column field in the line, from 1; 0 for the whole line
 * @param channel the column's header, or empty
 * @param found what stood there
 * @param done what the reader did about it
 */
public record LogProblem(long line, int column, String channel, Message found, Message done) {
    /** {@return one line for people} */
    public Message text() {
        Message where = message("problem.at-line", line).then(column > 0 ? message("problem.column", column)
                : Message.NONE).then(Message.literal(channel.isEmpty() ? ": " : " (" + channel + "): "));
        return where.then(found).then(Message.literal("; ")).then(done);
    }
}
