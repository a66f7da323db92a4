package nariz.app.state;

import java.nio.file.Path;
import nariz.log.Proposal;

/**
 * A log whose columns are not all clear.
 *
 * @param sheetFile build sheet
 * @param logFile log
 * @param proposal what the columns seem to be
 * @param why what is not clear, for people
 */
public record ColumnsQuestion(Path sheetFile, Path logFile, Proposal proposal, String why) {
}
