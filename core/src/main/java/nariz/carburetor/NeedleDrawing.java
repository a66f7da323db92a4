package nariz.carburetor;

import java.util.List;

/**
 * A needle in its jet, as a sheet has it.
 *
 * @param jetM jet diameter, m
 * @param spacingM distance of neighbouring stations, m
 * @param diametersM diameter at every station from the shoulder, m
 */
public record NeedleDrawing(double jetM, double spacingM, List<Double> diametersM) {
    /** Copies the list. */
    public NeedleDrawing {
        diametersM = List.copyOf(diametersM);
    }
}
