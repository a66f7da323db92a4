package nariz.estimation;

import java.util.function.IntPredicate;

/** Finds readings that still swing although every gauge stands still. */
final class Swings {
    private static final double SWING_S = 1.0;
    private static final double SWING_MEAN_S = 0.5;
    private static final double SWING = 0.04;

    private final double[] t;
    private final double[] measured;

    Swings(double[] timeS, double[] measured) {
        t = timeS;
        this.measured = measured;
    }

    /**
     * Flags readings that still swing: mean of the last half second against the same a second earlier. What the walls
     * took up at a tip-in is made good over seconds in which every gauge stands still.
     *
     * @param flags set to {@link Flag#TRANSIENT} where a steady one swings
     * @param atIdle whether a sample is of idle, where twice the swing is allowed
     * @param shortestS shortest time a mean is taken over, s
     */
    void flag(Flag[] flags, IntPredicate atIdle, double shortestS) {
        double mean = Math.max(SWING_MEAN_S, shortestS);
        double apart = Math.max(SWING_S, mean);
        ReadingMean late = new ReadingMean();
        ReadingMean early = new ReadingMean();
        for (int i = 0; i < t.length; i++) {
            late.to(i + 1);
            while (t[late.from] < t[i] - mean) {
                late.drop();
            }
            while (t[early.to] < t[i] - apart) {
                early.to(early.to + 1);
            }
            while (t[early.from] < t[i] - apart - mean) {
                early.drop();
            }
            if (flags[i] == Flag.STEADY && late.count > 0 && early.count > 0) {
                double limit = atIdle.test(i) ? 2.0 * SWING : SWING;
                if (Math.abs(late.mean() / early.mean() - 1.0) > limit) {
                    flags[i] = Flag.TRANSIENT;
                }
            }
        }
    }

    /** Mean of the readings in a window that moves along the log. */
    private final class ReadingMean {
        private int from;
        private int to;
        private double sum;
        private int count;

        void to(int endExclusive) {
            for (; to < endExclusive; to++) {
                count(to, 1);
            }
        }

        void drop() {
            count(from++, -1);
        }

        private void count(int i, int sign) {
            if (!Double.isNaN(measured[i])) {
                sum += sign * measured[i];
                count += sign;
            }
        }

        double mean() {
            return sum / count;
        }
    }
}
