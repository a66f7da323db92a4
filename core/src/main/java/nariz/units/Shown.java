package nariz.units;

import java.util.Locale;

/**
 * Units in which people are shown numbers. Files, command-line options and what programs read keep the units their
 * formats name.
 *
 * @param pressure unit of manifold vacuum and of the ratings of valves and springs
 * @param size unit of holes, jets and rods
 * @param road units of speed, height and temperature
 */
public record Shown(Pressure pressure, Size size, Road road) {
    /** What a gauge and a parts box in inches say. */
    public static final Shown USUAL = new Shown(Pressure.INHG, Size.THOU, Road.METRIC);

    /** Units of vacuum. */
    public enum Pressure {
        /** Inches of mercury. */
        INHG("inHg", Units.INHG, 1),
        /** Kilopascal. */
        KPA("kPa", 1e3, 1),
        /** Millibar. */
        MBAR("mbar", 100.0, 0),
        /** Pounds a square inch. */
        PSI("psi", Units.PSI, 1);

        private final String label;
        private final double pa;
        private final int decimals;

        Pressure(String label, double pa, int decimals) {
            this.label = label;
            this.pa = pa;
            this.decimals = decimals;
        }

        /** {@return its spelling} */
        public String label() {
            return label;
        }

        /** {@return Pa in one} */
        public double pa() {
            return pa;
        }

        /** {@return digits behind the point that a gauge has} */
        public int decimals() {
            return decimals;
        }
    }

    /** Units of holes. */
    public enum Size {
        /** Thousandths of an inch. */
        THOU("thou", Units.THOU, 1),
        /** Millimetre. */
        MM("mm", 1e-3, 2);

        private final String label;
        private final double m;
        private final int decimals;

        Size(String label, double m, int decimals) {
            this.label = label;
            this.m = m;
            this.decimals = decimals;
        }

        /** {@return its spelling} */
        public String label() {
            return label;
        }
    }

    /** Units of the road and the weather. */
    public enum Road {
        /** km/h, m, °C. */
        METRIC("km/h", 1 / 3.6, "m", 1.0, "°C", 1.0, 0.0),
        /** mph, ft, °F. */
        IMPERIAL("mph", 0.44704, "ft", 0.3048, "°F", 5.0 / 9.0, 32.0);

        private final String speed;
        private final double mPerS;
        private final String height;
        private final double m;
        private final String heat;
        private final double kelvin;
        private final double ice;

        Road(String speed, double mPerS, String height, double m, String heat, double kelvin, double ice) {
            this.speed = speed;
            this.mPerS = mPerS;
            this.height = height;
            this.m = m;
            this.heat = heat;
            this.kelvin = kelvin;
            this.ice = ice;
        }

        /** {@return unit of speed} */
        public String speed() {
            return speed;
        }

        /** {@return m/s in one unit of speed} */
        public double mPerS() {
            return mPerS;
        }

        /** {@return unit of height} */
        public String height() {
            return height;
        }

        /** {@return m in one unit of height} */
        public double heightM() {
            return m;
        }

        /** {@return unit of temperature} */
        public String heat() {
            return heat;
        }

        /**
         * A temperature in this unit.
         *
         * @param k K
         * @return degrees
         */
        public double degrees(double k) {
            return (k - Units.ZERO_CELSIUS_K) / kelvin + ice;
        }

        /**
         * A temperature back in kelvin.
         *
         * @param degrees in this unit
         * @return K
         */
        public double kelvin(double degrees) {
            return (degrees - ice) * kelvin + Units.ZERO_CELSIUS_K;
        }
    }

    /**
     * A vacuum, or the rating of a valve, as people read it.
     *
     * @param pa Pa
     * @return for example {@code "6.5 inHg"}
     */
    public String vacuum(double pa) {
        return bare(pa) + " " + pressure.label;
    }

    /**
     * A vacuum to aim at or above, to the next round number a gauge can be held to.
     *
     * @param pa Pa
     * @return its number alone, for example {@code "16"}
     */
    public String atLeast(double pa) {
        return Quantity.trim(round() * Math.ceil(pa / pressure.pa / round() - 1e-9), 1);
    }

    /**
     * A vacuum to stay at or below, to the round number before it.
     *
     * @param pa Pa
     * @return its number alone
     */
    public String atMost(double pa) {
        return Quantity.trim(round() * Math.floor(pa / pressure.pa / round() + 1e-9), 1);
    }

    /** {@return unit of vacuum} */
    public String pressureLabel() {
        return pressure.label;
    }

    private double round() {
        return switch (pressure) {
            case PSI -> 0.5;
            case MBAR -> 10;
            default -> 1;
        };
    }

    /**
     * The rating of a valve or a spring: stamped in halves of the usual unit at most, and told as it is stamped there.
     *
     * @param pa Pa
     * @return for example {@code "6.5 inHg"}
     */
    public String rating(double pa) {
        return pressure == Pressure.INHG ? Quantity.trim(pa / pressure.pa, 1) + " " + pressure.label : vacuum(pa);
    }

    /**
     * A vacuum without its unit.
     *
     * @param pa Pa
     * @return for example {@code "6.5"}
     */
    public String bare(double pa) {
        return String.format(Locale.ROOT, "%." + pressure.decimals + "f", pa / pressure.pa);
    }

    /**
     * By how much a vacuum scatters: a digit more than what it is the spread of.
     *
     * @param pa Pa
     * @return for example {@code "0.08 inHg"}
     */
    public String spread(double pa) {
        return String.format(Locale.ROOT, "%." + (pressure.decimals + 1) + "f %s", pa / pressure.pa, pressure.label);
    }

    /**
     * The diameter of a hole as people read it.
     *
     * @param m m
     * @return for example {@code "37 thou"} or {@code "0.94 mm"}
     */
    public String sizeOf(double m) {
        return (size == Size.THOU ? Quantity.trim(m / Units.THOU, 1)
                : String.format(Locale.ROOT, "%." + size.decimals + "f", m / size.m)) + " " + size.label;
    }
}
