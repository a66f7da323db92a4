package nariz.app.state;

import java.util.List;
import nariz.diagnosis.Change;
import nariz.diagnosis.Status;

/**
 * The words of one stop, all in one shape.
 *
 * @param state state of the stop
 * @param brief state in a word or two, with the size of the error where there is one
 * @param sentence verdict in one sentence
 * @param confidence how sure, and what it could be confused with
 * @param changes changes that belong to this stop
 * @param toRead drive that would read it, or empty
 */
public record StopWords(Status state, String brief, String sentence, String confidence, List<Change> changes,
        String toRead) {
    /** Copies the list. */
    public StopWords {
        changes = List.copyOf(changes);
    }
}
