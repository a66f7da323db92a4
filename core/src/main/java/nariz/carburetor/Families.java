package nariz.carburetor;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.Set;
import java.util.function.Predicate;

/** The families there are, in the order of their registry, {@code META-INF/services/nariz.carburetor.Family}. */
public final class Families {
    private static final List<Family> ALL = List.copyOf(ServiceLoader.load(Family.class, Families.class
            .getClassLoader()).stream().map(ServiceLoader.Provider::get).toList());
    private static final Map<String, Part> PARTS = parts0();
    private static final List<Part> BY_UNIT = ALL.stream().flatMap(f -> f.parts().stream()).filter(distinct()).toList();

    private Families() {
    }

    private static Predicate<Part> distinct() {
        Set<String> seen = new HashSet<>();
        return p -> seen.add(p.key() + " " + p.unit());
    }

    private static Map<String, Part> parts0() {
        Map<String, Part> out = new LinkedHashMap<>();
        ALL.forEach(f -> f.parts().forEach(p -> out.putIfAbsent(p.key(), p)));
        return out;
    }

    /** {@return every family; the first is the one a new sheet starts with} */
    public static List<Family> all() {
        return ALL;
    }

    /** {@return keys of all families, for messages} */
    public static List<String> keys() {
        return ALL.stream().map(Family::key).toList();
    }

    /**
     * Finds a family.
     *
     * @param key as in files
     * @return the family, or empty
     */
    public static Optional<Family> ofKey(String key) {
        return ALL.stream().filter(f -> f.key().equals(key)).findFirst();
    }

    /**
     * Finds a part by the unit it is told in: families tell the same part in units of their own.
     *
     * @param key as in files
     * @param unit as in files
     * @return the part, or empty
     */
    public static Optional<Part> part(String key, String unit) {
        return BY_UNIT.stream().filter(p -> p.key().equals(key) && p.unit().equals(unit)).findFirst();
    }

    /** {@return every part of every family, each once} */
    public static List<Part> parts() {
        return new ArrayList<>(PARTS.values());
    }

    /**
     * Finds a part of any family.
     *
     * @param key as in files
     * @return the part, or empty
     */
    public static Optional<Part> part(String key) {
        return Optional.ofNullable(PARTS.get(key));
    }
}
