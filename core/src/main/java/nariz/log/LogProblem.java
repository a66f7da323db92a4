package nariz.log;

import static nariz.words.CoreWords.say;

/**
 * Something in a log that was kept out, with its place.
 *
 * @param line line in the file, from 1
 * @param column field in the line, from 1; 0 for the whole line
 * @param channel the column's header, or empty
 * @param found what stood there
 * @param done what the reader did about it
 */
public record LogProblem(long line, int column, String channel, String found, String done) {
    /** {@return one line for people} */
    public String text() {
        String where = say("problem.at-line", line) + (column > 0 ? say("problem.column", column) : "")
                + (channel.isEmpty() ? "" : " (" + channel + ")");
        return where + ": " + found + "; " + done;
    }
}
