package nariz.cli;

import java.io.FilterWriter;
import java.io.IOException;
import java.io.Writer;

/**
 * Text for a terminal. Names and notes come from files: a control character in one could move the cursor, recolour or
 * hide what was written, so each is shown as a replacement character.
 */
final class PlainWriter extends FilterWriter {
    private static final char SHOWN = '\uFFFD';
    private boolean carriageReturn;

    PlainWriter(Writer out) {
        super(out);
    }

    private static boolean control(char c) {
        boolean c0 = c < ' ' && c != '\n' && c != '\t';
        boolean c1 = c >= '\u007f' && c <= '\u009f';
        boolean direction = (c >= '\u202a' && c <= '\u202e') || (c >= '\u2066' && c <= '\u2069') || c == '\u200e'
                || c == '\u200f';
        return c0 || c1 || direction || c == '\u2028' || c == '\u2029';
    }

    @Override
    public void write(int c) throws IOException {
        char ch = (char) c;
        if (carriageReturn) {
            // Before a line feed it ends a line, alone it would go back over what was written.
            out.write(ch == '\n' ? '\r' : SHOWN);
            carriageReturn = false;
        }
        if (ch == '\r') {
            carriageReturn = true;
        } else {
            out.write(control(ch) ? SHOWN : ch);
        }
    }

    @Override
    public void write(char[] text, int from, int length) throws IOException {
        for (int i = from; i < from + length; i++) {
            write(text[i]);
        }
    }

    @Override
    public void write(String text, int from, int length) throws IOException {
        for (int i = from; i < from + length; i++) {
            write(text.charAt(i));
        }
    }
}
