package nariz.units;

/**
 * Conversion factors, each the SI value of one unit. Sources: NIST Special Publication 811 (2008), appendix B.8.
 */
public final class Units {
    /** One inch of mercury at 0 °C, Pa. */
    public static final double INHG = 3386.389;
    /** One pound-force per square inch, Pa. */
    public static final double PSI = 6894.757;
    /** One thousandth of an inch, m. */
    public static final double THOU = 25.4e-6;
    /** One degree of arc, rad. */
    public static final double DEG = Math.PI / 180.0;
    /** Ice point, K. */
    public static final double ZERO_CELSIUS_K = 273.15;
    /** The air-fuel ratio that gauges marked for petrol call stoichiometric; lambda 1 on such a gauge. */
    public static final double PETROL_GAUGE_STOICH = 14.7;

    private Units() {
    }

    /**
     * Area of a round hole.
     *
     * @param diameterM diameter, m, not negative
     * @return area, m²
     */
    public static double holeArea(double diameterM) {
        return 0.25 * Math.PI * diameterM * diameterM;
    }
}
