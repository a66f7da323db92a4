package nariz.fit;

/** Greatest less least of the values in a moving window, O(1) a step (monotone queues; Lemire 2006, section 3). */
final class SlidingSpan {
    private final int[] high;
    private final int[] low;
    private final double[] highValue;
    private final double[] lowValue;
    private int highHead;
    private int highTail;
    private int lowHead;
    private int lowTail;

    SlidingSpan(int capacity) {
        high = new int[capacity];
        low = new int[capacity];
        highValue = new double[capacity];
        lowValue = new double[capacity];
    }

    void add(int index, double v) {
        if (Double.isNaN(v)) {
            return;
        }
        while (highTail > highHead && highValue[highTail - 1] <= v) {
            highTail--;
        }
        high[highTail] = index;
        highValue[highTail++] = v;
        while (lowTail > lowHead && lowValue[lowTail - 1] >= v) {
            lowTail--;
        }
        low[lowTail] = index;
        lowValue[lowTail++] = v;
    }

    void dropBefore(int index) {
        while (highHead < highTail && high[highHead] < index) {
            highHead++;
        }
        while (lowHead < lowTail && low[lowHead] < index) {
            lowHead++;
        }
    }

    double span() {
        return highHead == highTail ? 0.0 : highValue[highHead] - lowValue[lowHead];
    }
}
