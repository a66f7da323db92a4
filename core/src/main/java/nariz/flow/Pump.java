package nariz.flow;

import nariz.carburetor.Carburetor;

/**
 * The accelerator pump.
 *
 * @param nozzleM discharge nozzle diameter, one per primary bore, m
 * @param strokeM3 volume of one full stroke, m³ (sheets give ten strokes)
 * @param cam cam shape: {@code early}, {@code standard} or {@code long}
 * @param clearanceM slack at the arm, m
 * @param position which hole of the arm the cam is screwed to, 1 or 2
 */
public record Pump(double nozzleM, double strokeM3, String cam, double clearanceM, int position) {
    private static final double STROKES_MEASURED = 10.0;

    /**
     * The pump of one carburetor.
     *
     * @param c carburetor of a family with these fields
     * @return its pump
     */
    public static Pump of(Carburetor c) {
        return new Pump(c.number("pump.nozzle"), c.number("pump.tenStrokes") / STROKES_MEASURED, c.word("pump.cam"),
                c.number("pump.clearance"), (int) c.number("pump.camPosition"));
    }
}
