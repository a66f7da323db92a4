package nariz.sim;

import nariz.carburetor.Cam;

/**
 * What a mixture gives at idle: torque falls off either side of the mixture of most torque, more steeply to lean, and
 * beyond the lean limit cylinders miss (Heywood 1988, sections 9.4.3 and 15.4.2). A cam with more overlap leaves more
 * burnt gas and misses earlier.
 *
 * @param lambdaLimit where every other cycle misses
 */
record TorqueOfMixture(double lambdaLimit) {
    private static final double BEST = 0.90;
    private static final double RICH_FALL = 1.2;
    private static final double LEAN_FALL = 2.4;
    /** Richer than this the plugs suffer too. */
    private static final double SOOTS = 0.68;
    private static final double SOOT_FALL = 2.5;
    private static final double MISS_WIDTH = 0.03;

    static TorqueOfMixture of(Cam cam) {
        return new TorqueOfMixture(switch (cam) {
            case MILD -> 1.26;
            case MEDIUM -> 1.21;
            case BIG -> 1.15;
            case WILD -> 1.10;
        });
    }

    /** {@return share of the most torque, 0 to 1, cylinders that miss left out} */
    double share(double lambda) {
        double d = lambda - BEST;
        double eta = 1.0 - (d < 0 ? RICH_FALL : LEAN_FALL) * d * d - SOOT_FALL * Math.max(0.0, SOOTS - lambda);
        return Math.max(0.0, eta) * (1.0 - misses(lambda));
    }

    /** {@return share of the cycles that do not burn, 0 to 1} */
    double misses(double lambda) {
        return 1.0 / (1.0 + Math.exp((lambdaLimit - lambda) / MISS_WIDTH));
    }
}
