package nariz.model;

import java.util.Random;

/** A value for every {@link Coefficient}; immutable. */
public final class Coefficients {
    /** Standard values. */
    public static final Coefficients STANDARD = new Coefficients(standard());

    private final double[] values;

    private Coefficients(double[] values) {
        this.values = values;
    }

    private static double[] standard() {
        Coefficient[] all = Coefficient.values();
        double[] v = new double[all.length];
        for (Coefficient c : all) {
            v[c.ordinal()] = c.standard();
        }
        return v;
    }

    /**
     * One value.
     *
     * @param c which
     * @return SI value
     */
    public double of(Coefficient c) {
        return values[c.ordinal()];
    }

    /**
     * The same with one value scaled.
     *
     * @param c which
     * @param logFactor natural logarithm of the factor
     * @return new coefficients
     */
    public Coefficients scaled(Coefficient c, double logFactor) {
        double[] v = values.clone();
        v[c.ordinal()] *= Math.exp(logFactor);
        return new Coefficients(v);
    }

    /**
     * A carburetor of the family: every value scaled by exp(share s z), s its spread and z standard normal, at most
     * two deviations away.
     *
     * @param r source of chance
     * @param share part of the spreads, 1 = as listed
     * @return new coefficients
     */
    public static Coefficients drawn(Random r, double share) {
        Coefficients out = STANDARD;
        for (Coefficient c : Coefficient.values()) {
            out = out.scaled(c, share * c.spread() * Math.clamp(r.nextGaussian(), -2.0, 2.0));
        }
        return out;
    }
}
