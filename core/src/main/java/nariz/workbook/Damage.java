package nariz.workbook;

import java.util.Optional;
import nariz.text.Message;

/**
 * Something in a workbook that is not what was written.
 *
 * @param table where it stood
 * @param key key of the row; empty for a whole table or the file
 * @param run run that is affected, if it is one
 * @param text for people
 */
public record Damage(String table, String key, Optional<Long> run, Message text) {
}
