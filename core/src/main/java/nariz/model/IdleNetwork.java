package nariz.model;

import nariz.build.Barrels;
import nariz.build.Fuel;
import nariz.units.Units;

/**
 * Idle and transfer system of one bore: feed restriction, air bleed, curb-idle port and transfer slot around one well.
 *
 * <p>Unknown is the depression s in the idle well, Pa below the bowl. Fuel I = C_i A_i sqrt(2 rho_f (s - x - l))
 * comes through the feed restriction out of the main well (depression x, see {@link MainWell}) over a lift l. Air
 * B = (C_b A_b + C_a A_above) sqrt(2 rho_a s) comes through the bleed and through the part of the slot still above
 * the plate. The froth leaves through port and uncovered slot: (I + B) (I/rho_f + B/rho_a) = 2 (C_o A_o)² dp, the
 * homogeneous two-phase orifice relation (Wallis 1969, section 2), dp = p0 - s - p_m limited to the choked drop
 * 0.472 (p0 - s). The left side grows with s and the right side falls, so the balance has one root.
 *
 * <p>Slot and port dimensions are family defaults, since no sheet gives them; the estimator's corrections absorb
 * their error (docs/model.md, table "Dimensions no sheet gives").
 */
public final class IdleNetwork {
    private static final double FEED_C = 0.75;
    private static final double BLEED_C = 0.75;
    private static final double OUT_C = 0.6;
    private static final double ABOVE_C = 0.24;
    private static final double LIFT_M = 0.018;
    private static final double GRAVITY = 9.81;
    private static final double PORT_M2_PER_TURN = 0.27e-6;
    private static final double PORT_LIMIT_M2 = 2.5e-6;
    private static final double SLOT_WIDTH_M = 0.37e-3;
    private static final double SLOT_HEIGHT_M = 4.8e-3;
    private static final double SLOT_START_M = 0.33e-3;
    private static final double SLOT_SOFTNESS_M = 0.25e-3;

    private final ThrottlePlate plate;
    private final double fuelDensity;
    private final double airDensity;
    private final double ambientPa;
    private final double feed;
    private final double bleed;
    private final double port;
    private final double liftPa;

    private double fuelKgPerS;
    private double portShare;

    /**
     * Sets up one bore.
     *
     * @param b side it belongs to
     * @param plate its plate
     * @param fuel fuel
     * @param ambientPa barometric pressure, Pa
     * @param airDensity air density above the plates, kg/m³
     * @param levelM fuel level above its setting, m
     */
    public IdleNetwork(Barrels b, ThrottlePlate plate, Fuel fuel, double ambientPa, double airDensity,
            double levelM) {
        this.plate = plate;
        this.fuelDensity = fuel.densityKgPerM3();
        this.airDensity = airDensity;
        this.ambientPa = ambientPa;
        feed = FEED_C * Units.holeArea(b.idleFeedM());
        bleed = BLEED_C * Units.holeArea(b.idleBleedM());
        double open = PORT_M2_PER_TURN * b.screwTurns();
        // A needle stops mattering once its ring is wider than the hole behind it.
        port = OUT_C * open / Math.sqrt(1.0 + (open / PORT_LIMIT_M2) * (open / PORT_LIMIT_M2));
        liftPa = fuelDensity * GRAVITY * (LIFT_M - levelM);
    }

    /**
     * Balances the well.
     *
     * @param thetaRad plate angle, rad
     * @param manifoldPa manifold pressure, Pa absolute
     * @param mainWellPa depression of the main well, Pa, not negative
     * @return fuel through the feed restriction, kg/s, not negative
     */
    public double solve(double thetaRad, double manifoldPa, double mainWellPa) {
        double slot = OUT_C * SLOT_WIDTH_M * slotBelow(thetaRad);
        double above = ABOVE_C * SLOT_WIDTH_M * SLOT_HEIGHT_M - ABOVE_C / OUT_C * slot;
        double out = port + slot;
        portShare = out > 0.0 ? port / out : 0.0;
        double dead = mainWellPa + liftPa;
        double top = ambientPa - manifoldPa;
        if (out <= 0.0 || dead >= top) {
            fuelKgPerS = 0.0;
            return 0.0;
        }
        double s = root(dead, top, out, bleed + Math.max(above, 0.0), manifoldPa, mainWellPa);
        fuelKgPerS = feedFlow(s, mainWellPa);
        return fuelKgPerS;
    }

    private double root(double low, double high, double out, double air, double manifoldPa, double mainWellPa) {
        // Illinois variant of false position (Dahlquist and Bjorck 1974, section 6.4.2): bracketed, no derivative.
        double a = low;
        double b = high;
        double fa = imbalance(a, out, air, manifoldPa, mainWellPa);
        double fb = imbalance(b, out, air, manifoldPa, mainWellPa);
        if (fa >= 0.0) {
            return a;
        }
        for (int i = 0; i < 40 && b - a > 0.5; i++) {
            double c = (a * fb - b * fa) / (fb - fa);
            double fc = imbalance(c, out, air, manifoldPa, mainWellPa);
            if (fc > 0.0) {
                b = c;
                fb = fc;
                fa *= 0.5;
            } else {
                a = c;
                fa = fc;
                fb *= 0.5;
            }
            if (Math.abs(fc) < 1e-14) {
                return c;
            }
        }
        return 0.5 * (a + b);
    }

    private double imbalance(double s, double out, double air, double manifoldPa, double mainWellPa) {
        double i = feedFlow(s, mainWellPa);
        double b = air * Math.sqrt(2.0 * airDensity * s);
        double upstream = ambientPa - s;
        double drop = Math.min(upstream - manifoldPa, (1.0 - CompressibleFlow.CRITICAL) * upstream);
        double left = (i + b) * (i / fuelDensity + b / airDensity);
        return Math.sqrt(left) - out * Math.sqrt(2.0 * Math.max(drop, 0.0));
    }

    private double feedFlow(double s, double mainWellPa) {
        double drive = s - mainWellPa - liftPa;
        return drive > 0.0 ? feed * Math.sqrt(2.0 * fuelDensity * drive) : 0.0;
    }

    /** Uncovered slot height below the plate edge, m; the ends are rounded over a quarter of a millimetre. */
    private double slotBelow(double thetaRad) {
        double e = plate.edgeTravel(thetaRad) - SLOT_START_M;
        double rounded = softPlus(e) - softPlus(e - SLOT_HEIGHT_M);
        return Math.clamp(rounded, 0.0, SLOT_HEIGHT_M);
    }

    private static double softPlus(double e) {
        double x = e / SLOT_SOFTNESS_M;
        return x > 30.0 ? e : SLOT_SOFTNESS_M * Math.log1p(Math.exp(x));
    }

    /** {@return the share of the last solution's fuel that leaves through the curb-idle port, 0 to 1} */
    public double portShare() {
        return portShare;
    }

    /** {@return the last solution's fuel, kg/s} */
    public double fuelKgPerS() {
        return fuelKgPerS;
    }
}
