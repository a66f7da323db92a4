package nariz.estimation;

import java.util.Arrays;

/** Fuel that the sheet promises of each circuit over a drive, sum_i w_i phi_ic(0). */
final class SheetFuel {
    private final double[] fuel;
    private final double least;

    /**
     * Sums it up.
     *
     * @param standard phi of the standard carburetor with the sheet's parts, by cell and circuit
     * @param weight of each cell
     * @param least mean phi under which a circuit was hardly used
     */
    SheetFuel(double[][] standard, double[] weight, double least) {
        fuel = new double[standard[0].length];
        for (int i = 0; i < weight.length; i++) {
            for (int c = 0; c < fuel.length; c++) {
                fuel[c] += weight[i] * standard[i][c];
            }
        }
        this.least = least * Arrays.stream(weight).sum();
    }

    double of(int circuit) {
        return fuel[circuit];
    }

    /** {@return whether the drive used it enough to say more than its level} */
    boolean used(int circuit) {
        return fuel[circuit] >= least;
    }
}
