package nariz.log;

import java.util.ArrayList;
import java.util.List;

/** A growing column of numbers in packed chunks: ten million readings take some fifteen megabytes, not eighty. */
final class Column {
    private final List<byte[]> chunks = new ArrayList<>();
    private double[] open = new double[4096];
    private int used;
    private int packed;

    void add(double v) {
        if (used == open.length) {
            if (used == ColumnChunk.SIZE) {
                chunks.add(ColumnChunk.pack(open, used));
                packed += used;
                used = 0;
            } else {
                open = java.util.Arrays.copyOf(open, 4 * open.length);
            }
        }
        open[used++] = v;
    }

    /** Takes the last number back; there is one that was not taken back before. */
    void dropLast() {
        used--;
    }

    double last() {
        return open[used - 1];
    }

    int size() {
        return packed + used;
    }

    /** All of it as chunks, the last one shorter. */
    List<byte[]> chunks() {
        List<byte[]> out = new ArrayList<>(chunks);
        if (used > 0) {
            out.add(ColumnChunk.pack(open, used));
        }
        return out;
    }
}
