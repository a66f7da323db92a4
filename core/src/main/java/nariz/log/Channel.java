package nariz.log;

import java.util.List;
import nariz.units.Units;

/** A recorded quantity, the header words that name it, the units it may come in and the range it can have. */
public enum Channel {
    /** Time from the start, s. */
    TIME("time_s", "time", "s", -1e9, 1e12, List.of("time", "t", "timestamp", "elapsed"),
            List.of(new Unit("s", 1, 0), new Unit("sec", 1, 0), new Unit("ms", 1e-3, 0))),
    /** Engine speed, rpm. */
    RPM("rpm", "engine speed", "rpm", 0, 15000, List.of("rpm", "enginespeed", "engine"),
            List.of(new Unit("rpm", 1, 0), new Unit("1/min", 1, 0))),
    /** Manifold vacuum under ambient, Pa. */
    VACUUM("vacuum_inHg", "manifold vacuum", "inHg", -8e3, 110e3, List.of("vacuum", "vac", "manifoldvacuum"),
            List.of(new Unit("inhg", Units.INHG, 0), new Unit("kpa", 1e3, 0), new Unit("mbar", 100, 0),
                    new Unit("hpa", 100, 0), new Unit("psi", 6894.757, 0))),
    /** Absolute manifold pressure, Pa; the reader turns it into vacuum. */
    MAP("map_kPa", "manifold pressure", "kPa", 1e3, 120e3, List.of("map", "manifoldpressure"),
            List.of(new Unit("kpa", 1e3, 0), new Unit("inhg", Units.INHG, 0), new Unit("mbar", 100, 0),
                    new Unit("hpa", 100, 0), new Unit("psi", 6894.757, 0))),
    /** Lambda from the first sensor. */
    LAMBDA("lambda", "lambda", "", 0.3, 4, List.of("lambda", "lam", "lambda1"), List.of(new Unit("", 1, 0))),
    /** Air-fuel ratio from the first sensor; the reader turns it into lambda. */
    AFR("afr", "AFR", "", 3, 60, List.of("afr", "afr1", "airfuelratio"), List.of(new Unit("", 1, 0))),
    /** Lambda from the second sensor. */
    LAMBDA_2("lambda2", "second lambda", "", 0.3, 4, List.of("lambda2"), List.of(new Unit("", 1, 0))),
    /** Air-fuel ratio from the second sensor; the reader turns it into lambda. */
    AFR_2("afr2", "second AFR", "", 3, 60, List.of("afr2"), List.of(new Unit("", 1, 0))),
    /** Throttle, 0 at the idle stop to 1 wide open. */
    THROTTLE("tps_pct", "throttle", "%", -0.1, 1.1, List.of("tps", "throttle", "throttleposition"),
            List.of(new Unit("pct", 0.01, 0), new Unit("%", 0.01, 0), new Unit("percent", 0.01, 0))),
    /** Road speed, m/s. */
    SPEED("speed_kmh", "road speed", "km/h", -1, 150, List.of("speed", "roadspeed", "vehiclespeed"),
            List.of(new Unit("kmh", 1 / 3.6, 0), new Unit("km/h", 1 / 3.6, 0), new Unit("kph", 1 / 3.6, 0),
                    new Unit("mph", 0.44704, 0), new Unit("m/s", 1, 0))),
    /** Coolant temperature, K. */
    COOLANT("coolant_C", "coolant", "°C", 200, 450, List.of("coolant", "coolanttemperature", "ect", "water"),
            List.of(new Unit("c", 1, Units.ZERO_CELSIUS_K), new Unit("degc", 1, Units.ZERO_CELSIUS_K),
                    new Unit("°c", 1, Units.ZERO_CELSIUS_K),
                    new Unit("f", 5.0 / 9.0, Units.ZERO_CELSIUS_K - 32 * 5.0 / 9.0),
                    new Unit("degf", 5.0 / 9.0, Units.ZERO_CELSIUS_K - 32 * 5.0 / 9.0))),
    /** Air the engine draws, kg/s. */
    AIRFLOW("airflow_gs", "airflow", "g/s", 0, 2, List.of("airflow", "maf", "massairflow", "airmass"),
            List.of(new Unit("kg/h", 1 / 3600.0, 0), new Unit("kgh", 1 / 3600.0, 0), new Unit("kg/s", 1, 0),
                    new Unit("g/s", 1e-3, 0), new Unit("gs", 1e-3, 0), new Unit("lb/min", 0.45359237 / 60, 0))),
    /** Fuel pressure over ambient, Pa. */
    FUEL_PRESSURE("fuel_pressure_kPa", "fuel pressure", "kPa", 0, 150e3,
            List.of("fuelpressure", "fuelpress", "petrolpressure"),
            List.of(new Unit("kpa", 1e3, 0), new Unit("psi", 6894.757, 0), new Unit("bar", 1e5, 0),
                    new Unit("mbar", 100, 0)));

    private final String header;
    private final String label;
    private final String shownUnit;
    private final double lowest;
    private final double highest;
    private final List<String> words;
    private final List<Unit> units;

    Channel(String header, String label, String shownUnit, double lowest, double highest, List<String> words,
            List<Unit> units) {
        this.header = header;
        this.label = label;
        this.shownUnit = shownUnit;
        this.lowest = lowest;
        this.highest = highest;
        this.words = words;
        this.units = units;
    }

    /** {@return the header this program writes} */
    public String header() {
        return header;
    }

    /** {@return the name for people} */
    public String label() {
        return label;
    }

    /** {@return the unit shown in messages} */
    public String shownUnit() {
        return shownUnit;
    }

    /** {@return the lowest SI value a sensor can mean} */
    public double lowest() {
        return lowest;
    }

    /** {@return the highest SI value a sensor can mean} */
    public double highest() {
        return highest;
    }

    /** {@return header words, lower case without spaces} */
    public List<String> words() {
        return words;
    }

    /** {@return units a header may name; the first is not a default where there are several} */
    public List<Unit> units() {
        return units;
    }

    /**
     * A unit of a channel: SI = value * factor + shift.
     *
     * @param name lower case
     * @param factor SI per unit
     * @param shift added after scaling
     */
    public record Unit(String name, double factor, double shift) {
    }
}
