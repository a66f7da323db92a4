package nariz.workbook;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.function.Supplier;

/** A stream that refuses to go on after so many bytes, however many come. */
final class LimitedStream extends FilterInputStream {
    private final Supplier<? extends RuntimeException> tooLong;
    private long left;

    LimitedStream(InputStream in, long most, Supplier<? extends RuntimeException> tooLong) {
        super(in);
        this.tooLong = tooLong;
        left = most;
    }

    private void count(long n) {
        left -= Math.max(0, n);
        if (left < 0) {
            throw tooLong.get();
        }
    }

    @Override
    public int read() throws IOException {
        int b = super.read();
        count(b < 0 ? 0 : 1);
        return b;
    }

    @Override
    public int read(byte[] b, int off, int len) throws IOException {
        int n = super.read(b, off, len);
        count(n);
        return n;
    }
}
