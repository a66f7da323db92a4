package nariz.flow;

import nariz.carburetor.Carburetor;
import nariz.carburetor.PumpModel;
import nariz.carburetor.PumpSetting;
import nariz.carburetor.Stage;
import nariz.units.Units;

/**
 * Accelerator pump: volume displaced by the cam over the plate's movement, let out through the nozzles at no more than
 * their rate, the rest pending in the chamber.
 *
 * <p>Displaced: V = V_stroke L(theta), L the cam's lift from 0 to 1, with slack at the arm taken off the start (1 mm
 * of clearance is about 4° of plate). Rate limit: C A sqrt(2 rho_f p_s) per nozzle, p_s = 25 kPa the override spring.
 */
public final class AcceleratorPump implements PumpModel {
    private static final double SPRING_PA = 25e3;
    private static final double NOZZLE_C = 0.7;
    /** How much later the second position of a cam begins, judgement. */
    private static final double LATER_RAD = 5.0 * Units.DEG;
    private static final double RAD_PER_M_CLEARANCE = 4.0 * Units.DEG / 1e-3;
    /** Lift that a real linkage takes up before the diaphragm stirs. */
    public static final double USUAL_PLAY = 0.002;

    private final PumpSetting set;
    private final double play;
    private double pendingKg;
    private double highestLift;

    /**
     * Sets up the pumps of all carburetors together.
     *
     * @param c carburetor
     * @param densityKgPerM3 fuel density, kg/m³
     * @param play lift below which nothing stirs, 0 to 1; 0 where the plate's path is free of noise already: what is
     *     held back until then comes out in one step
     */
    public AcceleratorPump(Carburetor c, double densityKgPerM3, double play) {
        this(setting(c, densityKgPerM3), play);
    }

    /**
     * Sets up pumps that do the same on the whole.
     *
     * @param p what they do
     * @param play lift below which nothing stirs, 0 to 1
     */
    public AcceleratorPump(PumpSetting p, double play) {
        this.play = play;
        set = p;
    }

    /**
     * What a sheet says of the pumps of all carburetors together.
     *
     * @param c carburetor
     * @param densityKgPerM3 fuel density, kg/m³
     * @return the setting
     */
    public static PumpSetting setting(Carburetor c, double densityKgPerM3) {
        Pump p = Pump.of(c);
        double rate = c.count() * c.number(Stage.PRIMARY.key() + ".bores") * nozzleKgPerS(p.nozzleM(), densityKgPerM3);
        double full = switch (p.cam()) {
            case "early" -> 40.0 * Units.DEG;
            case "long" -> 70.0 * Units.DEG;
            default -> 55.0 * Units.DEG;
        };
        return new PumpSetting(rate, p.strokeM3() * c.count() * densityKgPerM3, full, slackRad(p.clearanceM())
                + (p.position() > 1 ? LATER_RAD : 0.0), PumpSetting.USUAL_REFILL_S, PumpSetting.STRAIGHT);
    }

    /**
     * Most that a discharge nozzle passes.
     *
     * @param nozzleM diameter, m
     * @param densityKgPerM3 fuel density, kg/m³
     * @return kg/s
     */
    public static double nozzleKgPerS(double nozzleM, double densityKgPerM3) {
        return NOZZLE_C * Units.holeArea(nozzleM) * Math.sqrt(2.0 * densityKgPerM3 * SPRING_PA);
    }

    /**
     * Plate travel that slack takes up.
     *
     * @param clearanceM slack at the arm or rod, m
     * @return rad
     */
    public static double slackRad(double clearanceM) {
        return clearanceM * RAD_PER_M_CLEARANCE;
    }

    @Override
    public double step(double thetaRad, double dtS) {
        double lift = set.lift(thetaRad);
        if (lift > highestLift + play) {
            pendingKg += (lift - highestLift) * set.strokeKg();
            highestLift = lift;
        } else if (lift < highestLift) {
            // The chamber refills as the plate closes; what is pending is drawn back with it.
            pendingKg = Math.max(0.0, pendingKg - (highestLift - lift) * set.strokeKg());
            highestLift = lift;
        }
        double out = Math.min(pendingKg, set.rateKgPerS() * dtS);
        pendingKg -= out;
        return out / dtS;
    }
}
