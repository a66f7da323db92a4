package nariz.diagnosis;

import nariz.carburetor.Ambient;
import nariz.units.Units;

/**
 * What another altitude or temperature does to a carburetor that is left as it is.
 *
 * <p>At the same volume of air the depression in the venturi goes with density, so fuel through a jet goes with its
 * square root and air with density itself: lambda goes with sqrt(density) (elementary carburetor, Heywood 1988, sect.
 * 7.2.2). The jet area that restores the mixture goes the same way, its diameter with the fourth root. Pressure by
 * altitude is that of the standard atmosphere, p = 101325 Pa (1 - 2.25577e-5 h)^5.25588, h in m (ISO 2533:1975);
 * humidity is left out.
 */
public final class AirDensity {
    private static final double HIGHEST_M = 6000;
    private static final double LOWEST_M = -500;

    private AirDensity() {
    }

    /**
     * Air at a place.
     *
     * @param altitudeM height above the sea, -500 to 6000 m
     * @param temperatureC temperature, °C, above -60
     * @return the air there
     * @throws IllegalArgumentException when one is out of range
     */
    public static Ambient at(double altitudeM, double temperatureC) {
        if (!(altitudeM >= LOWEST_M && altitudeM <= HIGHEST_M)) {
            throw new IllegalArgumentException("altitude " + altitudeM + " m, allowed -500 to 6000");
        }
        if (!(temperatureC > -60 && temperatureC < 70)) {
            throw new IllegalArgumentException("temperature " + temperatureC + " °C, allowed -60 to 70");
        }
        return new Ambient(101_325 * Math.pow(1 - 2.25577e-5 * altitudeM, 5.25588), temperatureC
                + Units.ZERO_CELSIUS_K);
    }

    /**
     * Lambda there over lambda here with the same parts.
     *
     * @param here air the mixture was right in
     * @param there other air
     * @return ratio; under 1 is richer
     */
    public static double lambdaRatio(Ambient here, Ambient there) {
        return Math.sqrt(there.densityKgPerM3() / here.densityKgPerM3());
    }

    /**
     * The jet that restores the mixture.
     *
     * @param jetM diameter here, m
     * @param here air the mixture was right in
     * @param there other air
     * @return diameter there, m
     */
    public static double jetM(double jetM, Ambient here, Ambient there) {
        return jetM * Math.sqrt(lambdaRatio(here, there));
    }
}
