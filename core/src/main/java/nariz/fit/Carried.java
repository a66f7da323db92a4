package nariz.fit;

import java.util.ArrayList;
import java.util.List;
import nariz.model.Circuit;
import nariz.model.Coefficient;

/**
 * What one drive taught about a carburetor, as the starting point for the next: mean and covariance of the estimate's
 * unknowns and the enrichment's opening.
 *
 * @param mean posterior mean in the order of {@link #names()}; the array is shared
 * @param covariance posterior covariance, rows and columns in the same order; the array is shared
 * @param shiftPa how much earlier (positive) the enrichment opens than rated, Pa
 * @param shiftSdPa its standard deviation, Pa
 */
public record Carried(double[] mean, double[][] covariance, double shiftPa, double shiftSdPa) {
    /** {@return what each unknown is: levels of circuits, slope, coefficients in spreads, plate position} */
    public static List<String> names() {
        List<String> out = new ArrayList<>();
        for (Circuit c : Circuit.values()) {
            out.add(c.label() + " level");
        }
        out.add("main slope");
        for (Coefficient c : Coefficient.values()) {
            out.add(c.name().toLowerCase(java.util.Locale.ROOT).replace('_', ' '));
        }
        out.add("plate position");
        return out;
    }
}
