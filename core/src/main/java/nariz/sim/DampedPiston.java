package nariz.sim;

import java.util.Random;
import nariz.carburetor.DamperSetting;
import nariz.carburetor.Piston;

/**
 * A piston on its way: the oil resists it partly as a dashpot does and partly as an orifice, F = a v + b v², it sticks
 * a little before it moves, and dampers differ in their clearance by a quarter; the estimator knows one law at a time
 * and no friction. Inertia is left out: a piston of 0.2 kg answers within a hundredth of a second.
 */
final class DampedPiston {
    /** Share of the resistance that is a dashpot's where the air lifts twice the weight. */
    private static final double DASHPOT = 0.6;
    /** Lift at which a damper's time constant is meant: the depression goes with the square of lift. */
    private static final double AT_LIFT = 0.15;
    /** Share of its weight that holds a piston which stands still. */
    private static final double STICKS = 0.04;

    private final Piston piston;
    private final double riseS;
    private final double fallS;
    private double lift = Double.NaN;

    /**
     * A piston where the first step's air carries it.
     *
     * @param piston what lifts it and what it does to the fuel
     * @param damper how it is held back on the whole
     * @param seed draws its clearance
     */
    DampedPiston(Piston piston, DamperSetting damper, long seed) {
        this.piston = piston;
        riseS = damper.riseS() * Math.exp(0.25 * new Random(seed * 53 + 11).nextGaussian());
        fallS = damper.fallS();
    }

    /**
     * What plates and piston pass together: two restrictions in a row, A = (1/A_p² + 1/A_b²)^(-1/2).
     *
     * @param platesM2 effective area of the plates, m²
     * @return of both, m²
     */
    double inARow(double platesM2) {
        double bridge = Double.isNaN(lift) ? platesM2 * 1e3 : piston.bridgeM2(lift);
        return platesM2 * bridge / Math.hypot(platesM2, bridge);
    }

    /**
     * Moves it.
     *
     * @param airKgPerS air through all carburetors, kg/s
     * @param dtS step, s
     * @return fuel over what would come with the piston at rest
     */
    double step(double airKgPerS, double dtS) {
        double rest = piston.rest(airKgPerS);
        if (Double.isNaN(lift)) {
            lift = rest;
        }
        if (lift >= rest) {
            lift = rest + (lift - rest) * Math.exp(-dtS / fallS);
        } else {
            double force = piston.pull(lift, airKgPerS) - 1.0 - STICKS;
            double a = DASHPOT * riseS / AT_LIFT;
            double b = (1.0 - DASHPOT) * riseS * riseS / (AT_LIFT * AT_LIFT);
            double speed = force <= 0.0 ? 0.0 : (Math.sqrt(a * a + 4.0 * b * force) - a) / (2.0 * b);
            lift = Math.min(rest, lift + speed * dtS);
        }
        return piston.fuel(lift, airKgPerS);
    }
}
