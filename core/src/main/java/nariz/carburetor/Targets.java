package nariz.carburetor;

import java.util.OptionalDouble;

/**
 * The tuner's own target mixtures, kept with the car: a named starting point and what differs from it.
 *
 * @param from key of the starting point
 * @param idle lambda at curb idle
 * @param light lambda at light load
 * @param moderate lambda at moderate load, before the enrichment
 * @param full lambda at full load
 */
public record Targets(String from, OptionalDouble idle, OptionalDouble light, OptionalDouble moderate,
        OptionalDouble full) {
    /** Key of the starting point a sheet has that names none. */
    public static final String USUAL = "balanced";

    /** {@return whether any of them is the tuner's own} */
    public boolean own() {
        return idle.isPresent() || light.isPresent() || moderate.isPresent() || full.isPresent();
    }
}
