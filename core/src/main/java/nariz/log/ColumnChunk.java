package nariz.log;

import java.nio.ByteBuffer;
import java.util.Arrays;

/**
 * A stretch of one column as bytes, exactly. Readings have few decimals: scaled to whole numbers, the differences of
 * neighbours fit into one or two bytes each (variable-length integers with the sign folded in, as in Protocol Buffers'
 * "ZigZag" encoding). Where a chunk has more decimals than {@link #MOST_DECIMALS}, its doubles are stored as they are.
 *
 * <p>Byte 0: decimals, or {@link #RAW}. Bytes 1 to 4: number of values. Then code 0 for a missing reading, else one
 * plus
 * the folded difference from the value before.
 */
public final class ColumnChunk {
    /** Values a chunk takes. */
    public static final int SIZE = 65536;
    private static final int MOST_DECIMALS = 6;
    private static final int RAW = 255;
    private static final double LARGEST = 1L << 50;
    private static final long MISSING = Long.MIN_VALUE;
    private static final double[] POWERS = {1, 10, 100, 1e3, 1e4, 1e5, 1e6};

    private ColumnChunk() {
    }

    /**
     * Packs values.
     *
     * @param values numbers, NaN for missing ones
     * @param count how many of them, from the first
     * @return bytes
     */
    public static byte[] pack(double[] values, int count) {
        long[] whole = new long[count];
        int decimals = scale(values, whole);
        if (decimals == RAW) {
            ByteBuffer out = ByteBuffer.allocate(5 + 8 * count).put((byte) RAW).putInt(count);
            for (int i = 0; i < count; i++) {
                out.putDouble(values[i]);
            }
            return out.array();
        }
        byte[] out = new byte[5 + 10 * count];
        ByteBuffer.wrap(out).put((byte) decimals).putInt(count);
        int at = 5;
        long last = 0;
        for (int i = 0; i < count; i++) {
            long code = 0;
            if (whole[i] != MISSING) {
                long d = whole[i] - last;
                code = ((d << 1) ^ (d >> 63)) + 1;
                last = whole[i];
            }
            while ((code & ~0x7fL) != 0) {
                out[at++] = (byte) ((code & 0x7f) | 0x80);
                code >>>= 7;
            }
            out[at++] = (byte) code;
        }
        return Arrays.copyOf(out, at);
    }

    /** Fewest decimals with which every value comes back bit for bit, and the values so scaled. */
    private static int scale(double[] values, long[] whole) {
        int d = 0;
        for (int i = 0; i < whole.length; i++) {
            double v = values[i];
            if (Double.isNaN(v)) {
                whole[i] = MISSING;
                continue;
            }
            double scaled = Math.rint(v * POWERS[d]);
            // Minus nought is not whole: its bits do not come back.
            if (!(Math.abs(scaled) < LARGEST) || Double.doubleToRawLongBits(scaled / POWERS[d] + 0.0)
                    != Double.doubleToRawLongBits(v)) {
                if (++d > MOST_DECIMALS) {
                    return RAW;
                }
                i = -1;
                continue;
            }
            whole[i] = (long) scaled;
        }
        return d;
    }

    /**
     * Number of values in a chunk.
     *
     * @param chunk bytes
     * @return count
     */
    public static int count(byte[] chunk) {
        return ByteBuffer.wrap(chunk).getInt(1);
    }

    /**
     * Unpacks values.
     *
     * @param chunk bytes from {@link #pack}
     * @param out receives them
     * @param from index of the first
     * @return how many
     * @throws IllegalArgumentException when the bytes are not a chunk
     */
    public static int unpack(byte[] chunk, double[] out, int from) {
        try {
            ByteBuffer in = ByteBuffer.wrap(chunk);
            int decimals = in.get() & 0xff;
            int count = in.getInt();
            if (decimals == RAW) {
                for (int i = 0; i < count; i++) {
                    out[from + i] = in.getDouble();
                }
                return count;
            }
            double power = POWERS[decimals];
            int at = 5;
            long last = 0;
            for (int i = 0; i < count; i++) {
                long code = 0;
                int shift = 0;
                byte b;
                do {
                    b = chunk[at++];
                    code |= (long) (b & 0x7f) << shift;
                    shift += 7;
                } while (b < 0);
                if (code == 0) {
                    out[from + i] = Double.NaN;
                } else {
                    long z = code - 1;
                    last += (z >>> 1) ^ -(z & 1);
                    out[from + i] = last / power;
                }
            }
            return count;
        } catch (IndexOutOfBoundsException | java.nio.BufferUnderflowException e) {
            throw new IllegalArgumentException("bytes that are not a chunk of readings", e);
        }
    }
}
