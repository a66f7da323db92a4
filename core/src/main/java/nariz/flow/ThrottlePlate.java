package nariz.flow;

import nariz.carburetor.Coefficients;
import nariz.units.Units;

/**
 * The butterfly of one bore and the venturi above it, as one effective area.
 *
 * <p>Open area A = (pi D²/4) (1 - cos(theta + theta0)/cos theta0) (Heywood 1988, eq. 7.18 without the shaft terms),
 * theta counted from closed, theta0 = 10° the plate's lean when closed, plus a closed-plate clearance and any bypass
 * hole. Plate (coefficient 0.8) and venturi (A_v/sqrt(zeta), zeta = 0.35 for the unrecovered part) act in series:
 * 1/A_e² = 1/(C A)² + zeta/A_v²; a venturi that feeds one cylinder loses {@link FlowCoefficient#PULSE} times as much,
 * since its air comes in pulses and the loss goes with the square. Edge travel, which uncovers the transfer slot, is
 * y = (D/2) [sin(theta + theta0) - sin theta0].
 */
public final class ThrottlePlate {
    /** Widest plate angle from closed, rad. */
    public static final double WIDE_OPEN = 80.0 * Units.DEG;
    private static final double LEAN = 10.0 * Units.DEG;
    private static final double COS_LEAN = Math.cos(LEAN);
    private static final double SIN_LEAN = Math.sin(LEAN);

    private final double boreAreaM2;
    private final double radiusM;
    private final double extraM2;
    private final double venturiTerm;
    private final double discharge;

    /**
     * Sets up one bore.
     *
     * @param b side it belongs to
     * @param k coefficients
     */
    public ThrottlePlate(Barrels b, Coefficients k) {
        this(b.throat().boreM(), b.throat().venturiM(), b.throat().plateHoleM(), b.throat().pulses()
                ? k.of(FlowCoefficient.PULSE) : 1.0, k);
    }

    /**
     * Sets up one bore with an even flow.
     *
     * @param boreM diameter at the plate, m
     * @param venturiM diameter of the narrowest place above it, m
     * @param plateHoleM diameter of a hole in the plate, m; 0 for none
     * @param k coefficients
     */
    public ThrottlePlate(double boreM, double venturiM, double plateHoleM, Coefficients k) {
        this(boreM, venturiM, plateHoleM, 1.0, k);
    }

    private ThrottlePlate(double boreM, double venturiM, double plateHoleM, double pulse, Coefficients k) {
        boreAreaM2 = Units.holeArea(boreM);
        radiusM = 0.5 * boreM;
        extraM2 = k.of(FlowCoefficient.PLATE_CLEARANCE) * boreAreaM2 + Units.holeArea(plateHoleM);
        double throat = Units.holeArea(venturiM);
        discharge = k.of(FlowCoefficient.PLATE_DISCHARGE);
        venturiTerm = pulse * k.of(FlowCoefficient.VENTURI_LOSS) / (throat * throat);
    }

    /**
     * Effective flow area of plate and venturi in series.
     *
     * @param thetaRad plate angle from closed, 0 to {@link #WIDE_OPEN}
     * @return C A, m²
     */
    public double effectiveArea(double thetaRad) {
        double open = boreAreaM2 * (1.0 - Math.cos(thetaRad + LEAN) / COS_LEAN) + extraM2;
        double plate = discharge * open;
        return plate / Math.sqrt(1.0 + venturiTerm * plate * plate);
    }

    /**
     * How far the plate's edge has moved up the bore wall.
     *
     * @param thetaRad plate angle from closed
     * @return edge travel, m
     */
    public double edgeTravel(double thetaRad) {
        return radiusM * (Math.sin(thetaRad + LEAN) - SIN_LEAN);
    }
}
