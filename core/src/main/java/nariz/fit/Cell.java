package nariz.fit;

/**
 * Steady running around one engine speed and vacuum.
 *
 * @param rpm mean speed, rpm
 * @param vacuumPa mean manifold vacuum, Pa
 * @param thetaRad primary plate angle, rad
 * @param airKgPerS air, kg/s
 * @param dwellS time spent, s
 * @param phi measured 1/lambda, mean of the readings
 * @param phiError standard error of that mean from scatter alone
 * @param idle whether this is curb idle
 * @param airMeasured whether the air was metered and not reckoned from filling
 * @param longestSample index of a sample in the middle of the longest stay
 */
public record Cell(double rpm, double vacuumPa, double thetaRad, double airKgPerS, double dwellS, double phi,
        double phiError, boolean idle, boolean airMeasured,
        int longestSample) {
}
