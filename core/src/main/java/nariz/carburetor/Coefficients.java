package nariz.carburetor;

import java.util.Arrays;
import java.util.List;
import java.util.Random;

/** A value for every {@link Coefficient} of a family; immutable. */
public final class Coefficients {
    private final double[] values;

    private Coefficients(double[] values) {
        this.values = values;
    }

    /**
     * Standard values.
     *
     * @param all every coefficient, in the order of their {@link Coefficient#ordinal()}
     * @return coefficients
     */
    public static Coefficients standard(Coefficient... all) {
        return new Coefficients(Arrays.stream(all).mapToDouble(Coefficient::standard).toArray());
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
     * The same with another value.
     *
     * @param c which
     * @param value SI value, positive
     * @return new coefficients
     */
    public Coefficients with(Coefficient c, double value) {
        double[] v = values.clone();
        v[c.ordinal()] = value;
        return new Coefficients(v);
    }

    /**
     * A carburetor of the family: every value scaled by exp(share s z), s its spread and z standard normal, at most
     * two deviations away.
     *
     * @param all the family's coefficients
     * @param r source of chance
     * @param share part of the spreads, 1 = as listed
     * @return new coefficients
     */
    public Coefficients drawn(List<Coefficient> all, Random r, double share) {
        Coefficients out = this;
        for (Coefficient c : all) {
            out = out.scaled(c, share * c.spread() * Math.clamp(r.nextGaussian(), -2.0, 2.0));
        }
        return out;
    }
}
