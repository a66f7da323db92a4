package nariz.log;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.text.Message;
import nariz.units.Units;

/** A recorded quantity, the units it may come in and the range it can have; its header words: {@link HeaderWords}. */
public enum Channel {
    /** Time from the start, s. */
    TIME("time_s", "s", -1e9, 1e12, List.of(new Unit("s", 1, 0), new Unit("ms", 1e-3, 0), new Unit("us", 1e-6, 0),
            new Unit("min", 60, 0), new Unit("h", 3600, 0), new Unit("days", 86400, 0))),
    /** Engine speed, rpm. */
    RPM("rpm", "rpm", 0, 15000, List.of(new Unit("rpm", 1, 0), new Unit("1/min", 1, 0), new Unit("min-1", 1, 0),
            new Unit("u/min", 1, 0), new Unit("upm", 1, 0), new Unit("tr/min", 1, 0), new Unit("giri/min", 1, 0),
            new Unit("r/min", 1, 0), new Unit("krpm", 1000, 0), new Unit("rpm x100", 100, 0),
            new Unit("rpm x10", 10, 0), new Unit("rev/s", 60, 0), new Unit("rad/s", 30 / Math.PI, 0))),
    /** Manifold vacuum under ambient, Pa. */
    VACUUM("vacuum_inHg", "inHg", -8e3, 110e3, Pressures.with(new Unit("kpa gauge", -1e3, 0),
            new Unit("mbar gauge", -100, 0), new Unit("psi gauge", -Units.PSI, 0),
            new Unit("inhg gauge", -Units.INHG, 0), new Unit("bar gauge", -1e5, 0))),
    /** Absolute manifold pressure, Pa; the reader turns it into vacuum. */
    MAP("map_kPa", "kPa", 1e3, 120e3, Pressures.with()),
    /** Lambda from the first sensor. */
    LAMBDA("lambda", "", 0.3, 4, Mixtures.LAMBDA),
    /** Air-fuel ratio from the first sensor; the reader turns it into lambda. */
    AFR("afr", "", 3, 60, Mixtures.AFR),
    /** Lambda from the second sensor. */
    LAMBDA_2("lambda2", "", 0.3, 4, Mixtures.LAMBDA),
    /** Air-fuel ratio from the second sensor; the reader turns it into lambda. */
    AFR_2("afr2", "", 3, 60, Mixtures.AFR),
    /** Throttle, 0 at the idle stop to 1 wide open. */
    THROTTLE("tps_pct", "%", -0.1, 1.1, List.of(new Unit("%", 0.01, 0), new Unit("pct", 0.01, 0),
            new Unit("percent", 0.01, 0), new Unit("0..1", 1, 0))),
    /** Road speed, m/s. */
    SPEED("speed_kmh", "km/h", -1, 150, List.of(new Unit("kmh", 1 / 3.6, 0), new Unit("km/h", 1 / 3.6, 0),
            new Unit("kph", 1 / 3.6, 0), new Unit("mph", 0.44704, 0), new Unit("m/s", 1, 0), new Unit("ms-1", 1, 0),
            new Unit("kn", 1852.0 / 3600.0, 0), new Unit("ft/s", 0.3048, 0))),
    /** Coolant temperature, K. */
    COOLANT("coolant_C", "°C", 200, 450, Temperatures.ALL),
    /** Air the engine draws, kg/s. */
    AIRFLOW("airflow_gs", "g/s", 0, 2, List.of(new Unit("kg/h", 1 / 3600.0, 0), new Unit("kg/s", 1, 0),
            new Unit("g/s", 1e-3, 0), new Unit("g/min", 1e-3 / 60, 0), new Unit("lb/min", 0.45359237 / 60, 0),
            new Unit("lb/h", 0.45359237 / 3600, 0))),
    /** Fuel pressure over ambient, Pa. */
    FUEL_PRESSURE("fuel_pressure_kPa", "kPa", 0, 150e3, Pressures.with(new Unit("kpa gauge", 1e3, 0),
            new Unit("mbar gauge", 100, 0), new Unit("psi gauge", Units.PSI, 0), new Unit("bar gauge", 1e5, 0))),
    /** Height above the sea, m. */
    ALTITUDE("altitude_m", "m", -500, 6000, List.of(new Unit("m", 1, 0), new Unit("ft", 0.3048, 0),
            new Unit("km", 1000, 0))),
    /** Oil temperature, K: says whether the engine is warm where no coolant is logged. */
    OIL_TEMPERATURE("oil_C", "°C", 200, 450, Temperatures.ALL),
    /** Temperature of a cylinder head or a spark plug's washer, K: says whether an engine without coolant is warm. */
    HEAD_TEMPERATURE("head_C", "°C", 200, 600, Temperatures.ALL),
    /** Time since the engine was started, s: the last resort to tell a warm engine by. */
    RUN_TIME("run_time_s", "s", 0, 1e6, List.of(new Unit("s", 1, 0), new Unit("min", 60, 0), new Unit("h", 3600, 0),
            new Unit("ms", 1e-3, 0)));

    private final String header;
    private final String shownUnit;
    private final double lowest;
    private final double highest;
    private final List<Unit> units;

    Channel(String header, String shownUnit, double lowest, double highest, List<Unit> units) {
        this.header = header;
        this.shownUnit = shownUnit;
        this.lowest = lowest;
        this.highest = highest;
        this.units = units;
    }

    /** {@return the header this program writes} */
    public String header() {
        return header;
    }

    /** {@return the name for people} */
    public Message label() {
        return message("channel." + name().toLowerCase(Locale.ROOT).replace('_', '-'));
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

    /** {@return units a header may name; the first is not a default where there are several} */
    public List<Unit> units() {
        return units;
    }

    /**
     * Finds a channel by the name it has in profiles: its constant in lower case with hyphens.
     *
     * @param key for example {@code lambda-2}
     * @return the channel, or empty
     */
    public static Optional<Channel> ofKey(String key) {
        return Arrays.stream(values()).filter(c -> c.key().equals(key)).findFirst();
    }

    /** {@return its name in profiles} */
    public String key() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /**
     * Finds a unit of this channel.
     *
     * @param spelling as in a header; letter case, accents and the usual spellings do not matter
     * @return the unit, or empty
     */
    public Optional<Unit> unit(String spelling) {
        String plain = UnitSpellings.plain(spelling);
        String usual = UnitSpellings.usual(plain);
        return units.stream().filter(u -> u.name().equals(plain)).findFirst().or(() -> units.stream().filter(u ->
                u.name().equals(usual)).findFirst());
    }

    /** Units of pressure that gauges show. */
    private static final class Pressures {
        private static final List<Unit> ALL = List.of(new Unit("inhg", Units.INHG, 0), new Unit("kpa", 1e3, 0),
                new Unit("mbar", 100, 0), new Unit("hpa", 100, 0), new Unit("psi", Units.PSI, 0),
                new Unit("bar", 1e5, 0), new Unit("mmhg", 133.3224, 0), new Unit("cmhg", 1333.224, 0),
                new Unit("inh2o", 249.0889, 0), new Unit("mmh2o", 9.80665, 0), new Unit("kg/cm2", 98066.5, 0),
                new Unit("atm", 101325, 0), new Unit("pa", 1, 0));

        static List<Unit> with(Unit... more) {
            List<Unit> all = new ArrayList<>(ALL);
            all.addAll(List.of(more));
            return List.copyOf(all);
        }
    }

    /** Scales of temperature. */
    private static final class Temperatures {
        private static final List<Unit> ALL = List.of(new Unit("c", 1, Units.ZERO_CELSIUS_K),
                new Unit("f", 5.0 / 9.0, Units.ZERO_CELSIUS_K - 32 * 5.0 / 9.0), new Unit("k", 1, 0));
    }

    /**
     * What a gauge may mean by AFR: lambda times the stoichiometric ratio of its fuel, turned into the petrol scale
     * (14.7). Ethanol 9.0 and methanol 6.47: Heywood 1988, table D.4; the blends by mass between 14.7 and 9.0, rounded
     * as gauges have them.
     */
    private static final class Mixtures {
        private static final List<Unit> AFR = List.of(new Unit("", 1, 0), new Unit("afr", 1, 0),
                new Unit("petrol", 1, 0), new Unit("e10 scale", 14.7 / 14.1, 0), new Unit("e85 scale", 14.7 / 9.8, 0),
                new Unit("ethanol scale", 14.7 / 9.0, 0), new Unit("methanol scale", 14.7 / 6.47, 0));
        private static final List<Unit> LAMBDA = List.of(new Unit("", 1, 0), new Unit("lambda", 1, 0));
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
