package nariz.log;

import java.util.Arrays;

/** Growing array of doubles; boxing ten million samples would cost more than the log. */
final class DoubleList {
    private double[] values = new double[4096];
    private int size;

    void add(double v) {
        if (size == values.length) {
            values = Arrays.copyOf(values, size + (size >> 1));
        }
        values[size++] = v;
    }

    double last() {
        return values[size - 1];
    }

    int size() {
        return size;
    }

    double[] toArray() {
        return Arrays.copyOf(values, size);
    }
}
