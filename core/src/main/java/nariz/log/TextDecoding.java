package nariz.log;

import static nariz.text.Message.message;

import java.io.BufferedInputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CoderResult;
import java.nio.charset.StandardCharsets;
import nariz.carburetor.InputProblem;

/**
 * Finds out how a text is encoded: byte-order mark, UTF-16 by its zero bytes, UTF-8 where the beginning is valid UTF-8,
 * else Latin-1, in which no byte is wrong.
 */
final class TextDecoding {
    private static final int PEEK = 65536;
    private static final int MOST_ODD = 20;

    private TextDecoding() {
    }

    /** Opens a text; the stream must support mark and is positioned at its start. */
    static BufferedReader open(String source, BufferedInputStream in) throws IOException {
        in.mark(PEEK);
        byte[] head = in.readNBytes(PEEK - 1);
        in.reset();
        if (head.length == 0) {
            throw new InputProblem(source, 1, 1, "", message("problem.an-empty-file"),
                    message("problem.export-the-log-again-a-header"));
        }
        Charset charset = charset(head);
        in.skipNBytes(mark(head));
        rejectNonText(source, new String(head, charset));
        // 64 Ki characters of look-ahead fit whatever the encoding: the layout is judged from them.
        return new BufferedReader(new InputStreamReader(in, charset), 2 * PEEK);
    }

    private static int mark(byte[] b) {
        if (starts(b, 0xef, 0xbb, 0xbf)) {
            return 3;
        }
        return starts(b, 0xff, 0xfe) || starts(b, 0xfe, 0xff) ? 2 : 0;
    }

    private static boolean starts(byte[] b, int... with) {
        for (int i = 0; i < with.length; i++) {
            if (i >= b.length || (b[i] & 0xff) != with[i]) {
                return false;
            }
        }
        return true;
    }

    private static Charset charset(byte[] b) {
        if (starts(b, 0xff, 0xfe)) {
            return StandardCharsets.UTF_16LE;
        }
        if (starts(b, 0xfe, 0xff)) {
            return StandardCharsets.UTF_16BE;
        }
        int[] zero = new int[2];
        for (int i = 0; i < b.length; i++) {
            zero[i & 1] += b[i] == 0 ? 1 : 0;
        }
        // Latin letters and digits have a zero in every other byte.
        if (zero[1] > 0.4 * b.length / 2 && zero[0] == 0) {
            return StandardCharsets.UTF_16LE;
        }
        if (zero[0] > 0.4 * b.length / 2 && zero[1] == 0) {
            return StandardCharsets.UTF_16BE;
        }
        CoderResult r = StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(b), CharBuffer.allocate(b.length),
                false);
        return r.isError() ? StandardCharsets.ISO_8859_1 : StandardCharsets.UTF_8;
    }

    private static void rejectNonText(String source, String head) {
        long line = 1;
        int odd = 0;
        for (int i = 0; i < head.length(); i++) {
            char c = head.charAt(i);
            line += c == '\n' ? 1 : 0;
            odd += c < 9 || (c > 13 && c < 32) ? 1 : 0;
            if (c == 0 || odd > MOST_ODD) {
                throw new InputProblem(source, line, i + 1, "", message("problem.bytes-that-are-not-text"),
                        message("problem.this-looks-like-a-binary-file"));
            }
        }
    }
}
