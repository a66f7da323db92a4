package nariz.estimation;

import nariz.carburetor.BuildSheet;
import nariz.carburetor.Cam;

/**
 * What valve overlap does to a wideband sensor: charge passes unburnt and a cylinder diluted with residual gas leaves
 * oxygen, so the sensor reads leaner than the mixture is.
 *
 * <p>b(N, v) = b_cam (N_idle/N)² min(1.2, v/v_idle), as a share of phi: the valves are open together for a time that
 * falls with speed N, and what is left of residual gas falls with vacuum v (Heywood 1988, section 6.4). b_cam is a
 * default by cam, not from a book: 0.9, 1.7, 3.2 and 4.8 % at idle for mild, medium, big and wild cams, with half of
 * it as standard deviation. On engines of an independent simulator the sensor read 0.8 to 2 % lean at idle with mild
 * and medium cams, a fifth of that on the transfer slot.
 */
public final class Overlap {
    /** Standard deviation over size. */
    static final double DOUBT = 0.5;
    private static final double MOST_VACUUM = 1.2;

    private final double atIdle;
    private final double idleRpm;
    private final double idleVacuumPa;

    private Overlap(double atIdle, double idleRpm, double idleVacuumPa) {
        this.atIdle = atIdle;
        this.idleRpm = idleRpm;
        this.idleVacuumPa = idleVacuumPa;
    }

    /**
     * For an engine.
     *
     * @param sheet its cam and idle speed
     * @param idleVacuumPa vacuum at idle, Pa
     * @return what its overlap does
     */
    static Overlap of(BuildSheet sheet, double idleVacuumPa) {
        return new Overlap(atIdle(sheet.engine().cam()), sheet.engine().idleRpm(), Math.max(1.0, idleVacuumPa));
    }

    /**
     * What a sensor shows of a mixture at curb idle.
     *
     * @param phi mixture that is burnt, 1/lambda
     * @param cam cam class
     * @return the same as it is read, no richer
     */
    public static double shownAtIdle(double phi, Cam cam) {
        return phi * (1.0 - atIdle(cam));
    }

    private static double atIdle(Cam cam) {
        return switch (cam) {
            case MILD -> 0.009;
            case MEDIUM -> 0.017;
            case BIG -> 0.032;
            case WILD -> 0.048;
        };
    }

    /**
     * How much too lean the sensor reads.
     *
     * @param rpm speed, rpm
     * @param vacuumPa manifold vacuum, Pa
     * @return share of phi that is missing from the reading, 0 or more
     */
    double bias(double rpm, double vacuumPa) {
        double slower = Math.min(1.0, idleRpm / rpm);
        return atIdle * slower * slower * Math.clamp(vacuumPa / idleVacuumPa, 0.0, MOST_VACUUM);
    }
}
