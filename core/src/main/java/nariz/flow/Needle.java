package nariz.flow;

import java.util.Arrays;

/**
 * A profiled needle: diameters at equally spaced stations from the shoulder down, straight between them.
 */
public final class Needle {
    private final double[] diametersM;
    private final double spacingM;

    /**
     * A needle.
     *
     * @param diametersM diameter at every station, m, from the shoulder down; at least two
     * @param spacingM distance of neighbouring stations, m, positive
     * @throws IllegalArgumentException for less than two stations or no distance
     */
    public Needle(double[] diametersM, double spacingM) {
        if (diametersM.length < 2 || !(spacingM > 0.0)) {
            throw new IllegalArgumentException(diametersM.length + " stations " + spacingM + " m apart");
        }
        this.diametersM = diametersM.clone();
        this.spacingM = spacingM;
    }

    /**
     * Diameter at a place.
     *
     * @param fromShoulderM distance below the shoulder, m; beyond the ends the last slope goes on
     * @return diameter, m, not negative
     */
    public double diameterM(double fromShoulderM) {
        double at = fromShoulderM / spacingM;
        int i = (int) Math.clamp(Math.floor(at), 0, diametersM.length - 2.0);
        return Math.max(0.0, diametersM[i] + (diametersM[i + 1] - diametersM[i]) * (at - i));
    }

    /** {@return distance between the first and the last station, m} */
    public double lengthM() {
        return spacingM * (diametersM.length - 1);
    }

    @Override
    public String toString() {
        return Arrays.toString(diametersM);
    }
}
