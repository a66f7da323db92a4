package nariz.app.state;

import java.nio.file.Path;
import nariz.log.Proposal;

/**
 * A log whose columns are not all clear.
 *
 * @param sheet build sheet
 * @param logFile log
 * @param proposal what the columns seem to be
 * @param why what is not clear, for people
 */
public record ColumnsQuestion(SheetText sheet, Path logFile, Proposal proposal, String why) {
}
