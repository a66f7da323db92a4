package nariz.flow;

import nariz.carburetor.Carburetor;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Stage;
import nariz.units.Units;

/**
 * How far the secondary side stands open, as an equivalent plate angle.
 *
 * <p>Linkage: straight line from the start angle to wide open. Diaphragm and air valve: the linkage angle times an
 * opening that grows from 0 to 1 with the air speed through the carburetor's venturis (primary venturis for the
 * diaphragm, all for the air valve), since both answer to a depression that goes with speed squared against a spring.
 * Start and end speeds are family defaults; a spring of strength s moves both by sqrt(s).
 */
public final class SecondaryOpening {
    private final Opening opening;
    private final double throatM2;
    private final double start;
    private final double end;

    /**
     * Sets up the opening of all carburetors together.
     *
     * @param c carburetor
     * @param k coefficients
     */
    public SecondaryOpening(Carburetor c, Coefficients k) {
        opening = Opening.of(c);
        double primary = throatM2(c, Stage.PRIMARY);
        double secondary = throatM2(c, Stage.SECONDARY);
        double stiff = Math.sqrt(opening.spring());
        switch (opening.kind()) {
            case DIAPHRAGM -> {
                throatM2 = primary;
                start = k.of(FlowCoefficient.DIAPHRAGM_START) * stiff;
                end = k.of(FlowCoefficient.DIAPHRAGM_END) * stiff;
            }
            case AIR_VALVE -> {
                throatM2 = primary + secondary;
                start = k.of(FlowCoefficient.AIR_VALVE_START) * stiff;
                end = k.of(FlowCoefficient.AIR_VALVE_END) * stiff;
            }
            default -> {
                throatM2 = primary;
                start = 0.0;
                end = 0.0;
            }
        }
    }

    private static double throatM2(Carburetor c, Stage stage) {
        return c.count() * c.number(stage.key() + ".bores") * Units.holeArea(c.number(stage.key() + ".venturi"));
    }

    /**
     * Secondary plate angle.
     *
     * @param primaryRad primary plate angle, rad
     * @param airKgPerS air through the carburetors, kg/s
     * @param airDensity upstream density, kg/m³
     * @return equivalent secondary plate angle, rad
     */
    public double angle(double primaryRad, double airKgPerS, double airDensity) {
        double rest = opening.restRad();
        double span = ThrottlePlate.WIDE_OPEN - opening.startRad();
        double linkage = Math.clamp((primaryRad - opening.startRad()) / span, 0.0, 1.0);
        if (end > 0.0 && linkage > 0.0) {
            double speed = airKgPerS / (airDensity * throatM2);
            linkage *= Math.clamp((speed - start) / (end - start), 0.0, 1.0);
        }
        return rest + (ThrottlePlate.WIDE_OPEN - rest) * linkage;
    }
}
