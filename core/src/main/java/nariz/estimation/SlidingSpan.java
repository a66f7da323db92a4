package nariz.estimation;

/**
 * Greatest less least of the values in a moving window, O(1) a step (monotone queues; Lemire 2006, section 3). Memory
 * is bounded by the window, not by the log.
 */
final class SlidingSpan {
    private final Queue high = new Queue(1);
    private final Queue low = new Queue(-1);

    void add(int index, double v) {
        if (!Double.isNaN(v)) {
            high.add(index, v);
            low.add(index, v);
        }
    }

    void dropBefore(int index) {
        high.dropBefore(index);
        low.dropBefore(index);
    }

    double span() {
        return high.empty() ? 0.0 : high.first() - low.first();
    }

    /** Candidates for the greatest (sign 1) or the least (sign -1), in a ring that grows when it is full. */
    private static final class Queue {
        private static final int SMALLEST = 64;

        private final int sign;
        private int[] index = new int[SMALLEST];
        private double[] value = new double[SMALLEST];
        private int head;
        private int size;

        Queue(int sign) {
            this.sign = sign;
        }

        boolean empty() {
            return size == 0;
        }

        double first() {
            return value[head];
        }

        void add(int i, double v) {
            while (size > 0 && sign * value[at(size - 1)] <= sign * v) {
                size--;
            }
            if (size == index.length) {
                grow();
            }
            index[at(size)] = i;
            value[at(size)] = v;
            size++;
        }

        void dropBefore(int i) {
            while (size > 0 && index[head] < i) {
                head = at(1);
                size--;
            }
        }

        /** Place of the k-th candidate; the length is a power of two. */
        private int at(int k) {
            return (head + k) & (index.length - 1);
        }

        private void grow() {
            int[] moreIndex = new int[2 * size];
            double[] moreValue = new double[2 * size];
            for (int k = 0; k < size; k++) {
                moreIndex[k] = index[at(k)];
                moreValue[k] = value[at(k)];
            }
            index = moreIndex;
            value = moreValue;
            head = 0;
        }
    }
}
