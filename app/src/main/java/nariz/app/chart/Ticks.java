package nariz.app.chart;

import java.util.Locale;

/** Round numbers for scales. */
final class Ticks {
    private static final double[] ROUND = {1, 2, 5, 10};

    private Ticks() {
    }

    /**
     * The least round step (1, 2 or 5 times a power of ten) that parts a range into no more than so many pieces.
     *
     * @param range length of the scale, positive
     * @param most pieces at most, 1 or more
     * @return the step
     */
    static double step(double range, int most) {
        double least = range / most;
        double power = Math.pow(10, Math.floor(Math.log10(least)));
        for (double r : ROUND) {
            if (r * power >= least * (1 - 1e-9)) {
                return r * power;
            }
        }
        throw new IllegalArgumentException("range " + range + " has no round step");
    }

    /** A number of a scale with as many digits as its step needs. */
    static String text(double value, double step) {
        int decimals = (int) Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
        String s = String.format(Locale.ROOT, "%." + decimals + "f", value);
        return s.matches("-0(?:\\.0*)?") ? s.substring(1) : s;
    }
}
