package nariz.flow;

import nariz.carburetor.Ambient;

/**
 * Air through a restriction, choking included: Heywood (1988), appendix C, eqs. C.8 and C.9 with gamma = 1.4.
 *
 * <p>m = C A p0 / sqrt(R T0) Psi(p/p0); Psi = sqrt{2 gamma/(gamma-1) [r^(2/gamma) - r^((gamma+1)/gamma)]} above the
 * critical ratio 0.528, constant 0.6847 below it.
 */
public final class CompressibleFlow {
    /** Pressure ratio at which air reaches the speed of sound in the restriction. */
    public static final double CRITICAL = 0.528;
    private static final double GAMMA = 1.4;
    private static final double CHOKED = Math.sqrt(GAMMA) * Math.pow(2.0 / (GAMMA + 1.0),
            (GAMMA + 1.0) / (2.0 * (GAMMA - 1.0)));

    private CompressibleFlow() {
    }

    /**
     * The flow function.
     *
     * @param ratio downstream over upstream pressure; values outside [0, 1] are taken as the nearer end
     * @return Psi, 0 to 0.6847
     */
    public static double psi(double ratio) {
        if (ratio <= CRITICAL) {
            return CHOKED;
        }
        if (ratio >= 1.0) {
            return 0.0;
        }
        // r^(1/1.4) once; the second power is it times r.
        double root = Math.pow(ratio, 1.0 / GAMMA);
        return Math.sqrt(2.0 * GAMMA / (GAMMA - 1.0) * (root * root - root * ratio));
    }

    /**
     * Mass flow for each m² of effective area.
     *
     * @param upstreamPa upstream stagnation pressure, Pa absolute
     * @param upstreamK upstream temperature, K
     * @param downstreamPa downstream pressure, Pa absolute
     * @return kg/(s m²)
     */
    public static double flux(double upstreamPa, double upstreamK, double downstreamPa) {
        return upstreamPa / Math.sqrt(Ambient.R_AIR * upstreamK) * psi(downstreamPa / upstreamPa);
    }
}
