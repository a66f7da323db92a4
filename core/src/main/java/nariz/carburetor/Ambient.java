package nariz.carburetor;

/**
 * Air around the car.
 *
 * @param pressurePa barometric pressure, Pa absolute
 * @param temperatureK temperature, K
 */
public record Ambient(double pressurePa, double temperatureK) {
    /** Specific gas constant of air, J/(kg K) (Heywood 1988, p. 912). */
    public static final double R_AIR = 287.0;

    /** {@return air density, kg/m³} */
    public double densityKgPerM3() {
        return pressurePa / (R_AIR * temperatureK);
    }
}
