package nariz.carburetor;

/**
 * A number of a family's model that no build sheet gives: a discharge coefficient or a hidden dimension. Implemented by
 * an enum of the family, whose order is the order in {@link Coefficients}.
 */
public interface Coefficient {
    /** {@return constant name} */
    String name();

    /** {@return place in {@link Coefficients}, from 0} */
    int ordinal();

    /** {@return the value used when nothing better is known, SI} */
    double standard();

    /** {@return standard deviation of its logarithm among carburetors of a family} */
    double spread();
}
