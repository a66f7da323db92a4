package nariz.estimation;

import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficient;
import nariz.carburetor.Family;

/**
 * What one drive taught about a carburetor, as the starting point for the next: mean and covariance of the estimate's
 * unknowns and the enrichment's opening.
 *
 * @param names what each unknown is, see {@link #names(Family)}
 * @param mean posterior mean in that order; the array is shared
 * @param covariance posterior covariance, rows and columns in the same order; the array is shared
 * @param shiftPa how much earlier (positive) the enrichment opens than rated, Pa
 * @param shiftSdPa its standard deviation, Pa
 */
public record EarlierEstimate(List<String> names, double[] mean, double[][] covariance, double shiftPa,
        double shiftSdPa) {
    /** Copies the list. */
    public EarlierEstimate {
        names = List.copyOf(names);
    }

    /**
     * What each unknown is: levels of circuits, slope, coefficients in spreads, plate position.
     *
     * @param family family of the carburetor
     * @return names for files, the same in every language
     */
    public static List<String> names(Family family) {
        List<String> out = new ArrayList<>();
        for (Circuit c : family.circuits()) {
            out.add(c.id().replace('-', ' ') + " level");
        }
        out.add("main slope");
        for (Coefficient c : family.coefficients()) {
            out.add(c.name().toLowerCase(java.util.Locale.ROOT).replace('_', ' '));
        }
        out.add("plate position");
        return out;
    }
}
