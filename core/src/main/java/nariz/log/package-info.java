/**
 * What was recorded: channels over time, how they are read from delimited text and what is wrong with them.
 *
 * <p>{@link nariz.log.LogReader} turns a file into a {@link nariz.log.DriveLog}: SI, one value per sample and channel,
 * NaN where a reading is missing, times strictly rising. Rows and cells that cannot be used are kept out and listed as
 * {@link nariz.log.LogProblem} with line and column; a file that cannot be a drive at all ends in
 * {@link nariz.carburetor.InputProblem}. What its columns are is read from a vocabulary of header words and units;
 * what is only likely becomes a {@link nariz.log.Proposal}, and what is not read an {@link nariz.log.UnreadColumn},
 * told with the answer. {@link nariz.log.RecordingCheck} judges recordings from elsewhere. {@link nariz.log.LogWriter}
 * writes the same format. docs/formats/drive-log.md describes it.
 */
@NullMarked
package nariz.log;

import org.jspecify.annotations.NullMarked;
