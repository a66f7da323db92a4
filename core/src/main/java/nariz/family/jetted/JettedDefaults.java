package nariz.family.jetted;

import java.util.List;
import java.util.stream.DoubleStream;
import nariz.carburetor.Engine;
import nariz.flow.EmulsionRow;
import nariz.units.Quantity;
import nariz.units.Units;

/**
 * Starting sizes where a sheet leaves a field out.
 *
 * <p>The venturi passes the largest air at a mean speed of about 58 m/s where a barrel feeds one cylinder, whose air
 * comes in pulses of some three times the mean, and 70 m/s where it feeds several (Heywood 1988, section 7.2, for the
 * venturi's flow). The other sizes follow from it by the proportions at which the standard model delivers the usual
 * targets: rules of thumb, listed as assumed when used.
 *
 * @param boreMm throttle bore, mm
 * @param venturiMm venturi, mm
 * @param alone whether a barrel feeds one cylinder
 */
record JettedDefaults(double boreMm, double venturiMm, boolean alone) {
    /** Holes of a row of an emulsion tube, and what they measure. */
    static final int EMULSION_HOLES = 2;
    static final double EMULSION_HOLE_MM = 1.0;

    static JettedDefaults of(Engine engine, int barrels, boolean two) {
        boolean alone = engine.cylinders() <= barrels;
        double peakM3 = 0.85 * engine.displacementM3() * engine.redlineRpm() / 120.0;
        double speed = alone ? 58.0 : two ? 45.0 : 70.0;
        double venturi = Math.clamp(1e3 * Math.sqrt(4.0 / Math.PI * peakM3 / barrels / speed / (two ? 1.8 : 1.0)), 15.0,
                44.0);
        return new JettedDefaults(Math.rint(venturi / 0.8), Math.rint(venturi), alone);
    }

    String bore(boolean primary) {
        return mm(primary ? boreMm : boreMm + 2);
    }

    String venturi(boolean primary, double boreM) {
        return mm(Math.rint(1e3 * boreM * (primary ? 0.78 : 0.82)));
    }

    /** A stack's jet in hundredths goes with its venturi in millimetres. */
    String mainJet(double venturiM) {
        return mm(Math.rint(20 * venturiM * 1e3 * (alone ? 0.0485 : 0.0545)) / 20);
    }

    String airCorrector(double jetM) {
        return mm(jetM * 1e3 + 0.5);
    }

    String idleJet(boolean primary, double boreM) {
        return mm(Math.rint(40 * (primary ? 0.0112 : 0.0105) * boreM * 1e3) / 40);
    }

    String idleAir() {
        return "1.1 mm";
    }

    String pumpJet() {
        return mm(Math.rint(20 * 0.0095 * boreMm) / 20);
    }

    /** Three holes that follow each other up the wall. */
    List<double[]> holes() {
        double size = Math.rint(10 * Math.clamp(boreMm / 45.0, 0.6, 1.2)) / 10;
        return List.of(new double[] {size, 0.6}, new double[] {size, 1.3}, new double[] {0.8 * size, 2.2});
    }

    /** Four rows of two holes down the tube. */
    static List<EmulsionRow> rows() {
        return DoubleStream.of(4.0, 10.0, 18.0, 28.0).mapToObj(d -> new EmulsionRow(1e-3 * d, EMULSION_HOLES
                * Units.holeArea(1e-3 * EMULSION_HOLE_MM))).toList();
    }

    static String mm(double mm) {
        return Quantity.trim(mm, 3) + " mm";
    }
}
