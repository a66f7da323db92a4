package nariz.flow;

import nariz.carburetor.Coefficients;
import nariz.carburetor.Fuel;
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
 * <p>The slot may be a row of progression holes ({@link Passages}); A_above is then the holes the plate has not passed.
 * Slot and port dimensions are family defaults, since no sheet gives them; the estimator's corrections absorb
 * their error (docs/model.md, table "Dimensions no sheet gives").
 */
public final class IdleNetwork extends BracketedRoot {
    private static final double GRAVITY = 9.81;
    private static final double NEAR_PA = 0.5;

    private final ThrottlePlate plate;
    private final double fuelDensity;
    private final double airDensity;
    private final double ambientPa;
    private final double feed;
    private final double bleed;
    private final double port;
    private final double liftPa;
    private final double outC;
    private final double aboveC;
    private final Passages passages;
    private final double passagesM2;

    private double outM2;
    private double airM2;
    private double manifoldPa;
    private double mainWellPa;

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
     * @param k coefficients
     */
    public IdleNetwork(Barrels b, ThrottlePlate plate, Fuel fuel, double ambientPa, double airDensity,
            double levelM, Coefficients k) {
        this.plate = plate;
        this.fuelDensity = fuel.densityKgPerM3();
        this.airDensity = airDensity;
        this.ambientPa = ambientPa;
        feed = k.of(FlowCoefficient.IDLE_FEED_DISCHARGE) * Units.holeArea(b.idle().feedM());
        bleed = k.of(FlowCoefficient.IDLE_BLEED_DISCHARGE) * Units.holeArea(b.idle().bleedM());
        double open = k.of(FlowCoefficient.PORT_PER_TURN) * b.idle().screwTurns();
        // A needle stops mattering once its ring is wider than the hole behind it.
        double bare = open / k.of(FlowCoefficient.PORT_LIMIT);
        outC = k.of(FlowCoefficient.PORT_DISCHARGE);
        aboveC = k.of(FlowCoefficient.UPPER_SLOT_DISCHARGE);
        passages = Passages.of(b.idle(), k);
        passagesM2 = passages.totalM2();
        port = outC * open / Math.sqrt(1.0 + bare * bare);
        liftPa = fuelDensity * GRAVITY * (k.of(FlowCoefficient.IDLE_LIFT) - levelM);
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
        double below = passages.belowM2(plate.edgeTravel(thetaRad));
        double slot = outC * below;
        double above = aboveC * (passagesM2 - below);
        double out = port + slot;
        portShare = out > 0.0 ? port / out : 0.0;
        double dead = mainWellPa + liftPa;
        double top = ambientPa - manifoldPa;
        if (out <= 0.0 || dead >= top) {
            fuelKgPerS = 0.0;
            return 0.0;
        }
        outM2 = out;
        airM2 = bleed + Math.max(above, 0.0);
        this.manifoldPa = manifoldPa;
        this.mainWellPa = mainWellPa;
        fuelKgPerS = feedFlow(root(dead, top, NEAR_PA));
        return fuelKgPerS;
    }

    @Override
    double imbalance(double s) {
        double i = feedFlow(s);
        double b = airM2 * Math.sqrt(2.0 * airDensity * s);
        double upstream = ambientPa - s;
        double drop = Math.min(upstream - manifoldPa, (1.0 - CompressibleFlow.CRITICAL) * upstream);
        double left = (i + b) * (i / fuelDensity + b / airDensity);
        return Math.sqrt(left) - outM2 * Math.sqrt(2.0 * Math.max(drop, 0.0));
    }

    private double feedFlow(double s) {
        double drive = s - mainWellPa - liftPa;
        return drive > 0.0 ? feed * Math.sqrt(2.0 * fuelDensity * drive) : 0.0;
    }

    /** Uncovered slot height below the plate edge, m; NaN where there are holes in its place. */
    double slotBelow(double thetaRad) {
        return passages.belowM(plate.edgeTravel(thetaRad));
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
