package nariz.diagnosis;

import java.util.List;
import nariz.carburetor.PartChange;

/**
 * What an advice comes to, for a list of cars.
 *
 * @param verdict the answer
 * @param changes what was to be changed at once
 */
public record AdviceSummary(Verdict verdict, List<PartChange> changes) {
    /** Copies the list. */
    public AdviceSummary {
        changes = List.copyOf(changes);
    }
}
