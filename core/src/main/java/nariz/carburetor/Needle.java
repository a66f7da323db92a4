package nariz.carburetor;

import java.util.List;

/**
 * A profiled needle: diameters at equally spaced stations from the shoulder down, straight between them.
 *
 * @param spacingM distance of neighbouring stations, m, positive
 * @param diametersM diameter at every station from the shoulder, m; at least two
 */
public record Needle(double spacingM, List<Double> diametersM) {
    private static final int FEWEST = 2;

    /**
     * Copies the list.
     *
     * @throws IllegalArgumentException for less than two stations or no distance
     */
    public Needle {
        diametersM = List.copyOf(diametersM);
        if (diametersM.size() < FEWEST || !(spacingM > 0.0)) {
            throw new IllegalArgumentException(diametersM.size() + " stations " + spacingM + " m apart");
        }
    }

    /** {@return how many stations it has} */
    public int stations() {
        return diametersM.size();
    }

    /**
     * Diameter at a place.
     *
     * @param fromShoulderM distance below the shoulder, m; beyond the ends the last slope goes on
     * @return diameter, m, not negative
     */
    public double diameterM(double fromShoulderM) {
        double at = fromShoulderM / spacingM;
        int i = (int) Math.clamp(Math.floor(at), 0, diametersM.size() - 2.0);
        double here = diametersM.get(i);
        return Math.max(0.0, here + (diametersM.get(i + 1) - here) * (at - i));
    }

    /** {@return distance between the first and the last station, m} */
    public double lengthM() {
        return spacingM * (diametersM.size() - 1);
    }
}
