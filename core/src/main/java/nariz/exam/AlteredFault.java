package nariz.exam;

import java.util.Locale;
import java.util.Random;
import nariz.flow.CompressibleFlow;
import nariz.sim.Fault;
import nariz.units.Units;

/**
 * A fault put into the log of another simulator's sound engine, by what it does there.
 *
 * <p>An exhaust leak: readings times 1 + size (idle air/air)^law. A vacuum leak: unmetered air, size of it as a share
 * of the idle's, through {@link nariz.sim.EngineSimulator}. An air cleaner takes law Pa at the largest airflow, less
 * with the square of the air; bowls are vented outside it, so that this adds to what draws the fuel: a venturi, whose
 * own signal goes with the square too, is richer by size at all flows; a piston, whose signal stays the same, with
 * the square root of 1 + drop/signal. A supply that runs short: a bowl of
 * law cubic metres that the pump can fill no faster than size times the largest demand; a level below half takes its
 * share of the head, and so of the fuel by the square root (Bernoulli).
 *
 * @param kind {@code EXHAUST_LEAK}, {@code VACUUM_LEAK}, {@code AIR_CLEANER} or {@code FALLING_FUEL_LEVEL}
 * @param size how much of it, without a unit; see above
 * @param law exponent, Pa or m3; see above
 */
record AlteredFault(Fault kind, double size, double law) {
    /** Kinds in the order in which they are drawn. */
    static final Fault[] KINDS = {Fault.EXHAUST_LEAK, Fault.VACUUM_LEAK, Fault.AIR_CLEANER, Fault.FALLING_FUEL_LEVEL};
    private static final double PETROL_KG_PER_M3 = 745;
    /** Signal of a booster at the largest airflow, about. */
    private static final double SIGNAL_PA = 14e3;
    /** Depression under a piston, at any airflow. */
    private static final double PISTON_PA = 2e3;
    /** The float shuts its needle over the last of the level. */
    private static final double FLOAT = 0.15;
    /** Above this share of the level the head is as good as whole. */
    private static final double LOW = 0.5;
    private static final double EMPTY = 0.05;

    /**
     * Draws a fault.
     *
     * @param r draws
     * @param kind which
     * @param piston whether a piston's depression draws the fuel, and no venturi's
     * @return one that is felt on most engines
     */
    static AlteredFault draw(Random r, Fault kind, boolean piston) {
        double u = r.nextDouble();
        double v = r.nextDouble();
        return switch (kind) {
            case EXHAUST_LEAK -> new AlteredFault(kind, 0.07 + 0.13 * u, 1.1 + 0.8 * v);
            case VACUUM_LEAK -> new AlteredFault(kind, 0.08 + 0.14 * u, 0.0);
            case AIR_CLEANER -> {
                double pa = 300 + 700 * u;
                double richer = 0.04 + 0.08 * u;
                yield piston ? new AlteredFault(kind, Math.sqrt(1.0 + pa / PISTON_PA) - 1.0, pa)
                        : new AlteredFault(kind, richer, (0.8 + 0.4 * v) * SIGNAL_PA * (Math.pow(1.0 + richer, 2)
                        - 1.0));
            }
            case FALLING_FUEL_LEVEL -> new AlteredFault(kind, 0.3 + 0.4 * u, 60e-6 + 120e-6 * v);
            default -> throw new IllegalArgumentException("found " + kind + ". No drive is altered by it.");
        };
    }

    /**
     * Strength of a vacuum leak for {@link nariz.sim.EngineSimulator}.
     *
     * @param idleAirKgPerS what the engine draws at idle, kg/s
     * @param ambientPa Pa
     * @param ambientK K
     * @param manifoldPa at idle, Pa
     * @return holes of 4 mm, by area; 0 of any other fault
     */
    double holes(double idleAirKgPerS, double ambientPa, double ambientK, double manifoldPa) {
        return kind != Fault.VACUUM_LEAK ? 0.0 : size * idleAirKgPerS / (0.7 * Units.holeArea(4e-3)
                * CompressibleFlow.flux(ambientPa, ambientK, manifoldPa));
    }

    /** {@return factor on what the main circuits give} */
    double main(boolean piston, double airOverLargest) {
        if (kind != Fault.AIR_CLEANER) {
            return 1.0;
        }
        return piston ? Math.sqrt(1.0 + vacuumPa(airOverLargest) / PISTON_PA) : 1.0 + size;
    }

    /** {@return factor on the reading, at this share of the idle's air or more} */
    double reads(double airOverIdle) {
        return kind == Fault.EXHAUST_LEAK ? 1.0 + size * Math.pow(Math.max(1.0, airOverIdle), -law) : 1.0;
    }

    /** {@return vacuum more than without it, Pa} */
    double vacuumPa(double airOverLargest) {
        return kind == Fault.AIR_CLEANER ? law * airOverLargest * airOverLargest : 0.0;
    }

    /**
     * Share of the metered fuel that comes while the supply runs short.
     *
     * @param timeS times, s, rising
     * @param demandKgPerS what the carburetor would give with a full bowl, kg/s
     * @return 0 to 1 by row; 1 throughout with any other fault
     */
    double[] supplied(double[] timeS, double[] demandKgPerS) {
        double[] out = new double[timeS.length];
        double most = 0.0;
        for (double d : demandKgPerS) {
            most = Math.max(most, d);
        }
        double level = 1.0;
        for (int i = 0; i < out.length; i++) {
            out[i] = kind == Fault.FALLING_FUEL_LEVEL ? Math.sqrt(Math.min(1.0, level / LOW)) : 1.0;
            if (kind == Fault.FALLING_FUEL_LEVEL && i + 1 < out.length) {
                double in = size * most * Math.clamp((1.0 - level) / FLOAT, 0.0, 1.0);
                double change = (in - out[i] * demandKgPerS[i]) / PETROL_KG_PER_M3 / law;
                level = Math.clamp(level + change * (timeS[i + 1] - timeS[i]), EMPTY, 1.0);
            }
        }
        return out;
    }

    /** {@return a fault in the words of the reports} */
    static String name(Fault kind) {
        return kind.name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }

    @Override
    public String toString() {
        return name(kind) + " " + Math.round(100 * size) + " %";
    }
}
