package nariz.units;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/** A kind of quantity, with the units a build sheet or a log may write it in and the SI factor of each. */
public enum Dimension {
    /** Diameters of holes, jets, bores; SI metre. */
    LENGTH("thou", Units.THOU, "mm", 1e-3, "1/100mm", 1e-5, "in", 25.4e-3, "m", 1.0),
    /** Pressure differences and absolute pressures; SI pascal. */
    PRESSURE("inHg", Units.INHG, "kPa", 1e3, "mbar", 100.0, "hPa", 100.0, "psi", Units.PSI, "bar", 1e5, "Pa", 1.0),
    /** Displacement and pump stroke; SI cubic metre. */
    VOLUME("L", 1e-3, "cc", 1e-6, "cm3", 1e-6, "cuin", 16.387064e-6, "m3", 1.0),
    /** Plate angles; SI radian. */
    ANGLE("deg", Units.DEG, "rad", 1.0),
    /** Screw turns, counted out from lightly seated. */
    TURNS("turns", 1.0, "turn", 1.0),
    /** Engine speed, revolutions a minute (kept as such inside). */
    SPEED("rpm", 1.0),
    /** Density; SI kg/m³. */
    DENSITY("kg/m3", 1.0, "g/cc", 1000.0, "kg/L", 1000.0),
    /** Temperature; SI kelvin. Celsius and Fahrenheit have an offset and are handled by {@link Quantity}. */
    TEMPERATURE("K", 1.0, "C", 1.0, "F", 5.0 / 9.0),
    /** A number without a unit. */
    COUNT("", 1.0),
    /** Mixture; SI lambda, air-fuel ratio on the petrol scale. */
    MIXTURE("lambda", 1.0, "AFR", 1.0 / Units.PETROL_GAUGE_STOICH);

    private final Map<String, Double> factors = new LinkedHashMap<>();

    Dimension(Object... unitsAndFactors) {
        for (int i = 0; i < unitsAndFactors.length; i += 2) {
            factors.put((String) unitsAndFactors[i], (Double) unitsAndFactors[i + 1]);
        }
    }

    /**
     * Finds a unit by its spelling, letter case ignored.
     *
     * @param unit spelling, for example {@code "inhg"}
     * @return the canonical spelling, or empty when this dimension has no such unit
     */
    public Optional<String> unit(String unit) {
        return factors.keySet().stream().filter(u -> u.equalsIgnoreCase(unit)).findFirst();
    }

    /**
     * Converts to SI.
     *
     * @param value number in {@code unit}
     * @param unit canonical spelling, as {@link #unit} returns it
     * @return the SI value
     */
    public double toSi(double value, String unit) {
        double shift = switch (unit) {
            case "C" -> Units.ZERO_CELSIUS_K;
            case "F" -> Units.ZERO_CELSIUS_K - 32.0 * 5.0 / 9.0;
            default -> 0.0;
        };
        return value * Objects.requireNonNull(factors.get(unit), unit) + shift;
    }

    /** {@return the units this dimension can be written in, for messages} */
    public String choices() {
        return String.join(", ", factors.keySet());
    }
}
