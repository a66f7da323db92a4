package nariz.flow;

import nariz.carburetor.Coefficient;

/**
 * A number of the model as one family has it: its own usual value and its own spread.
 *
 * @param of which number
 * @param standard the value used when nothing better is known, SI
 * @param spread standard deviation of its logarithm among carburetors of the family
 */
public record FamilyCoefficient(FlowCoefficient of, double standard, double spread) implements Coefficient {
    @Override
    public String name() {
        return of.name();
    }

    @Override
    public int ordinal() {
        return of.ordinal();
    }

    @Override
    public String toString() {
        return name();
    }
}
