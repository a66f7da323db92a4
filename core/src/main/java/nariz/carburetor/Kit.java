package nariz.carburetor;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What the tuner has at hand. Sizes are in {@link Part#unit()}, rising.
 *
 * @param have sizes in the box: preferred, since nothing has to be bought
 * @param ladder sizes that can be had at all; a part that is not named comes in the usual steps
 * @param drill parts the tuner is willing to drill out: only upward, and never back
 */
public record Kit(Map<Part, List<Double>> have, Map<Part, List<Double>> ladder, Set<Part> drill) {
    /** Nothing known: usual steps, everything bought. */
    public static final Kit NONE = new Kit(Map.of(), Map.of(), Set.of());

    /** Copies the collections. */
    public Kit {
        have = copy(have);
        ladder = copy(ladder);
        drill = Set.copyOf(drill);
    }

    private static Map<Part, List<Double>> copy(Map<Part, List<Double>> map) {
        Map<Part, List<Double>> out = new LinkedHashMap<>();
        map.forEach((k, v) -> out.put(k, v.stream().sorted().toList()));
        return Map.copyOf(out);
    }

    /**
     * The same with sizes in the units of a family's parts.
     *
     * @param parts parts of the family
     * @return a new kit
     */
    Kit in(List<Part> parts) {
        return new Kit(in(parts, have), in(parts, ladder), drill);
    }

    private static Map<Part, List<Double>> in(List<Part> parts, Map<Part, List<Double>> sizes) {
        Map<Part, List<Double>> out = new LinkedHashMap<>();
        sizes.forEach((p, all) -> {
            Part own = parts.stream().filter(p::equals).findFirst().orElse(p);
            out.put(own, own.si() == p.si() ? all : all.stream().map(v -> v * p.si() / own.si()).toList());
        });
        return out;
    }

    /** {@return whether anything is known} */
    public boolean known() {
        return !have.isEmpty() || !ladder.isEmpty() || !drill.isEmpty();
    }

    /**
     * Whether a size lies in the box.
     *
     * @param part part
     * @param size in its unit
     * @return true when it need not be bought
     */
    public boolean has(Part part, double size) {
        return have.getOrDefault(part, List.of()).stream().anyMatch(v -> Math.abs(v - size) < 1e-6);
    }

    /**
     * Whether a size is reached with a drill.
     *
     * @param part part
     * @param from size now
     * @param to size wanted
     * @return true when the tuner drills this part and the hole grows
     */
    public boolean drills(Part part, double from, double to) {
        return drill.contains(part) && to > from && !has(part, to);
    }
}
