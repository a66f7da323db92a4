package nariz.estimation;

/**
 * Where the unknowns of an estimate stand in its vector: a level for every circuit, the slope of the metering circuit's
 * level over the logarithm of the airflow, and what bends the equations.
 *
 * @param circuits how many circuits there are
 * @param metering index of the circuit whose level may change with airflow
 * @param bends how many coefficients there are, the plate position with them
 */
record Unknowns(int circuits, int metering, int bends) {
    int slope() {
        return circuits;
    }

    int firstBend() {
        return circuits + 1;
    }

    int count() {
        return circuits + 1 + bends;
    }
}
