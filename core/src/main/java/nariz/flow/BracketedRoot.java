package nariz.flow;

/**
 * Root of a function that changes sign once over a bracket: Illinois variant of false position (Dahlquist and
 * Bjorck 1974, section 6.4.2); needs no derivative and never leaves the bracket.
 *
 * <p>A base class and not a function argument: the elements solve millions of balances and keep their parameters in
 * fields, so that nothing is allocated.
 */
abstract class BracketedRoot {
    private static final int MOST = 50;

    /** The function whose root is sought; rises with x over the bracket. */
    abstract double imbalance(double x);

    /**
     * Finds the root.
     *
     * @param low where the function is negative; returned when it is not
     * @param high where it is positive; returned when it is not
     * @param width bracket width at which to stop
     * @return x with imbalance(x) = 0 to within width
     */
    final double root(double low, double high, double width) {
        double a = low;
        double b = high;
        double fa = imbalance(a);
        double fb = imbalance(b);
        if (fa >= 0.0) {
            return a;
        }
        if (fb <= 0.0) {
            return b;
        }
        for (int i = 0; i < MOST && b - a > width; i++) {
            double c = (a * fb - b * fa) / (fb - fa);
            double fc = imbalance(c);
            if (fc == 0.0) {
                return c;
            }
            if (fc > 0.0) {
                b = c;
                fb = fc;
                fa *= 0.5;
            } else {
                a = c;
                fa = fc;
                fb *= 0.5;
            }
        }
        return 0.5 * (a + b);
    }
}
