package nariz.flow;

/**
 * Root of a function that changes sign once over a bracket: false position with the end that stays reweighed by how
 * straight the function is (Anderson and Bjorck 1973, BIT 13, 253-264), by a half where it is not (Illinois; Dahlquist
 * and Bjorck 1974, section 6.4.2); needs no derivative and never leaves the bracket.
 *
 * <p>Such steps gather on one side of the root. Once two are next to each other the following one is a bracket's width
 * further on, where the sign has changed as a rule and the work is done.
 *
 * <p>A base class and not a function argument: the elements solve millions of balances and keep their parameters in
 * fields, so that nothing is allocated.
 */
abstract class BracketedRoot {
    private static final int MOST = 50;
    /** Functions that are still not found by then have a step: the bracket is halved from there on. */
    private static final int HALVED_FROM = 14;
    /** Steps nearer than this share of the width are next to each other. */
    private static final double NEXT = 0.5;
    /** Least distance of a step from the ends, and how far on the sign is looked for; shares of the width. */
    private static final double INSIDE = 0.4;
    private static final double BEYOND = 0.999;

    /** The function whose root is sought; rises with x over the bracket. */
    abstract double imbalance(double x);

    /**
     * Finds the root.
     *
     * @param low where the function is negative; returned when it is not
     * @param high where it is positive; returned when it is not
     * @param width bracket width at which to stop
     * @return x with imbalance(x) = 0 to within width, and much nearer where the function is smooth: whoever takes
     *     differences over small steps would see the ends of brackets otherwise
     */
    final double root(double low, double high, double width) {
        double a = low;
        double b = high;
        double atA = imbalance(a);
        double atB = imbalance(b);
        if (atA >= 0.0) {
            return a;
        }
        if (atB <= 0.0) {
            return b;
        }
        double fa = atA;
        double fb = atB;
        double last = Double.NaN;
        for (int i = 0; i < MOST && b - a > width; i++) {
            double c = i < HALVED_FROM ? next(a, b, fa, fb, last, width) : 0.5 * (a + b);
            double fc = imbalance(c);
            if (fc == 0.0) {
                return c;
            }
            if (fc > 0.0) {
                fa *= last == b ? straight(fc, fb) : 1.0;
                b = c;
                fb = fc;
                atB = fc;
            } else {
                fb *= last == a ? straight(fc, fa) : 1.0;
                a = c;
                fa = fc;
                atA = fc;
            }
            last = c;
        }
        return (a * atB - b * atA) / (atB - atA);
    }

    private static double next(double a, double b, double fa, double fb, double last, double width) {
        double c = Math.clamp((a * fb - b * fa) / (fb - fa), a + INSIDE * width, b - INSIDE * width);
        return Math.abs(c - last) > NEXT * width || Double.isNaN(last) ? c : last == a ? a + BEYOND * width
                : b - BEYOND * width;
    }

    /** What the end that stays counts, when the other one has moved twice. */
    private static double straight(double is, double was) {
        double m = 1.0 - is / was;
        return m > 0.0 ? m : 0.5;
    }
}
