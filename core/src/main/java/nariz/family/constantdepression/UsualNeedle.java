package nariz.family.constantdepression;

import java.util.ArrayList;
import java.util.List;
import nariz.units.Quantity;
import nariz.units.Units;

/**
 * A needle for a sheet that gives none: clearance that grows with lift as the air does, so that the mixture stays near
 * one value. Its numbers were set by trial so that the standard carburetor ({@link nariz.flow.NeedleModel}) comes out
 * between lambda 0.91 and 1.03 everywhere on a 1.3 litre four and a 3.4 litre six; a starting point, listed as assumed
 * when used.
 */
final class UsualNeedle {
    private static final int STATIONS = 13;
    /** Air through a millimetre of lift of a bore's width, over fuel through a square millimetre, at lambda 1. */
    private static final double AREA_PER_LIFT = 2.65e-3;
    private static final double GAP_M = 0.35e-3;
    private static final double RICHER = 0.02;

    private UsualNeedle() {
    }

    /**
     * Diameters.
     *
     * @param jetM jet diameter, m
     * @param spacingM distance of stations, m
     * @param boreM bore, m
     * @return thirteen texts with units
     */
    static List<String> diameters(double jetM, double spacingM, double boreM) {
        List<String> out = new ArrayList<>();
        double above = Double.POSITIVE_INFINITY;
        for (int i = 0; i < STATIONS; i++) {
            double lift = i * spacingM + GAP_M;
            double share = (double) i / (STATIONS - 1);
            double narrow = 1.0 + 0.75 * Math.exp(-i / 1.6);
            double area = AREA_PER_LIFT * lift * boreM * narrow * (1.0 + RICHER * Math.max(0.0, share - 0.35) / 0.65);
            double d = Math.min(above, Math.sqrt(Math.max(0.04 * jetM * jetM, jetM * jetM - 4.0 / Math.PI * area)));
            above = Math.rint(10 * d / Units.THOU) / 10 * Units.THOU;
            out.add(Quantity.trim(above / Units.THOU, 1) + " thou");
        }
        return out;
    }
}
