package nariz.flow;

import nariz.carburetor.Coefficients;
import nariz.units.Units;

/**
 * Power enrichment of one bore: a power valve beside the jet, or rods that lift out of it.
 *
 * <p>Opening o = clamp((r + w/2 - v)/w, 0, 1) with rating r, manifold vacuum v and ramp w = 1.5 inHg: a spring against
 * a diaphragm or piston opens over a band, not at a line. Valve: area o A_channel beside the jet. Rods: jet area less
 * the rod's, which goes from the cruise to the power step as the rods lift.
 */
public final class Enrichment {
    private final double ratingPa;
    private final double rampPa;
    private final double closedM2;
    private final double extraM2;

    /**
     * Sets up one bore.
     *
     * @param b side it belongs to
     * @param k coefficients
     */
    public Enrichment(Barrels b, Coefficients k) {
        rampPa = k.of(FlowCoefficient.ENRICHMENT_RAMP);
        double channel = k.of(FlowCoefficient.CHANNEL_DISCHARGE);
        ratingPa = b.enrichment().opensPa();
        double jet = Units.holeArea(b.main().jetM());
        if (b.enrichment().hasRods()) {
            closedM2 = jet - Units.holeArea(b.enrichment().rodCruiseM());
            extraM2 = channel * (Units.holeArea(b.enrichment().rodCruiseM()) - Units.holeArea(
                    b.enrichment().rodPowerM()));
        } else {
            closedM2 = jet;
            extraM2 = ratingPa > 0.0 ? channel * Units.holeArea(b.enrichment().channelM()) : 0.0;
        }
    }

    /**
     * How far it is open.
     *
     * @param vacuumPa manifold vacuum, Pa
     * @param shiftPa how much later (negative) or earlier (positive) than its rating it opens, Pa
     * @return 0 to 1
     */
    public double opening(double vacuumPa, double shiftPa) {
        if (ratingPa <= 0.0) {
            return 0.0;
        }
        return Math.clamp((ratingPa + shiftPa + 0.5 * rampPa - vacuumPa) / rampPa, 0.0, 1.0);
    }

    /** {@return jet area that is always open, m²} */
    public double closedM2() {
        return closedM2;
    }

    /** {@return area added when fully open, m²} */
    public double extraM2() {
        return extraM2;
    }
}
