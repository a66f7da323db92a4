package nariz.flow;

import nariz.carburetor.Ambient;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Engine;

/**
 * Cylinder filling and the air it asks for.
 *
 * <p>eta_v = g(N) { r/(r-1) - [p_e/p_i + gamma - 1] / [gamma (r-1)] }, the ideal-cycle expression of Heywood (1988),
 * eq. 6.2, with the residual gas of a closed throttle in it, times g(N) = g_peak [1 - a (N/N_peak - 1)²] for wave and
 * friction effects. g_peak, a and N_peak are defaults by cam class (docs/model.md, table "Cylinder filling"), chosen
 * within the range of Heywood fig. 6-9 (peaks of 0.80 to 0.86). m_a = eta_v V_d N/120 p_i/(R T_i) for a four-stroke.
 *
 * <p>An error in eta_v nearly cancels in phi, since fuel follows the same air; it shifts where a circuit starts.
 */
public final class VolumetricEfficiency {
    private static final double GAMMA = 1.35;
    /** Heating of the charge on its way past plate and ports, K. */
    private static final double CHARGE_HEATING_K = 10.0;

    private final double displacementM3;
    private final double compression;
    private final double curvature;
    private final double peak;
    private final double peakRpm;
    private final double exhaustPa;
    private final double chargeK;

    /**
     * Sets up the surface for one engine.
     *
     * @param engine engine
     * @param ambient surrounding air
     * @param k coefficients
     */
    public VolumetricEfficiency(Engine engine, Ambient ambient, Coefficients k) {
        displacementM3 = engine.displacementM3();
        compression = engine.compression();
        curvature = k.of(FlowCoefficient.FILLING_CURVATURE);
        peak = k.of(FlowCoefficient.FILLING) * switch (engine.cam()) {
            case MILD -> 0.82;
            case MEDIUM -> 0.83;
            case BIG -> 0.85;
            case WILD -> 0.87;
        };
        double byCam = switch (engine.cam()) {
            case MILD -> 0.58;
            case MEDIUM -> 0.66;
            case BIG -> 0.68;
            case WILD -> 0.72;
        };
        peakRpm = k.of(FlowCoefficient.FILLING_PEAK) * byCam * engine.redlineRpm();
        exhaustPa = 1.03 * ambient.pressurePa();
        chargeK = ambient.temperatureK() + CHARGE_HEATING_K;
    }

    /**
     * Filling relative to air at manifold state.
     *
     * @param rpm engine speed, rpm, positive
     * @param manifoldPa manifold pressure, Pa absolute, positive
     * @return eta_v, 0.2 to 1
     */
    public double at(double rpm, double manifoldPa) {
        double x = rpm / peakRpm - 1.0;
        double g = peak * (1.0 - curvature * x * x);
        double r1 = compression - 1.0;
        double residual = (exhaustPa / manifoldPa + GAMMA - 1.0) / (GAMMA * r1);
        return Math.clamp(g * (compression / r1 - residual), 0.2, 1.0);
    }

    /**
     * Air the engine draws.
     *
     * @param rpm engine speed, rpm, positive
     * @param manifoldPa manifold pressure, Pa absolute, positive
     * @return mass flow, kg/s
     */
    public double airKgPerS(double rpm, double manifoldPa) {
        return at(rpm, manifoldPa) * displacementM3 * rpm / 120.0 * manifoldPa / (Ambient.R_AIR * chargeK);
    }
}
