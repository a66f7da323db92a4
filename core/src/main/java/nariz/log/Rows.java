package nariz.log;

import java.io.Closeable;
import java.io.IOException;

/** Rows of a table, one after the other, whatever the file they come from. */
interface Rows extends Closeable {
    /** Moves to the next row; false at the end. */
    boolean next() throws IOException;

    /** Line of the row in its file, from 1. */
    long line();

    /** Line of a field in its file,
            from 1; other than {@link #line()} only where a row is put together from several. */
    default long line(int field) {
        return line();
    }

    /** Number of fields. */
    int size();

    /** Text of a field, 0 to size - 1. */
    String get(int field);

    /** Number in a field, as of {@link NumberStyle#number}. */
    default double number(int field, NumberStyle style) {
        return style.number(get(field));
    }
}
