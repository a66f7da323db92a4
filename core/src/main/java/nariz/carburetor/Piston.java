package nariz.carburetor;

/**
 * The piston of a carburetor whose air lifts a needle out of its jet, away from where it rests: it rises late, since a
 * damper holds it back, and the air that cannot get under it yet draws harder on the jet. An instance may hold scratch
 * space: one thread each.
 */
public interface Piston {
    /**
     * Where it rests.
     *
     * @param airKgPerS air through all carburetors, kg/s
     * @return lift as a share of the needle's length, 0 to 1
     */
    double rest(double airKgPerS);

    /**
     * What it leaves of the air's way.
     *
     * @param lift where it stands, 0 to 1
     * @return effective area under all pistons together, m²
     */
    double bridgeM2(double lift);

    /**
     * How hard the air lifts it.
     *
     * @param lift where it stands, 0 to 1
     * @param airKgPerS air through all carburetors, kg/s
     * @return depression under the piston over the one that carries it there: 1 where it rests
     */
    double pull(double lift, double airKgPerS);

    /**
     * What its place does to the mixture.
     *
     * @param lift where it stands, 0 to 1
     * @param airKgPerS air through all carburetors, kg/s
     * @return fuel over what comes where it rests: 1 there
     */
    double fuel(double lift, double airKgPerS);
}
