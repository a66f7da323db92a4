package nariz.carburetor;

/** An accelerator pump that is worked: remembers its stroke and what waits in its chamber. */
@FunctionalInterface
public interface PumpModel {
    /**
     * Moves the plate and lets fuel out.
     *
     * @param thetaRad plate angle at the end of the step, rad from idle
     * @param dtS step, s, positive
     * @return mean delivery over the step, kg/s
     */
    double step(double thetaRad, double dtS);
}
