package nariz.build;

/**
 * The accelerator pump.
 *
 * @param nozzleM discharge nozzle diameter, one per primary bore, m
 * @param strokeM3 volume of one full stroke, m³ (sheets give ten strokes)
 * @param cam cam shape: {@code early}, {@code standard} or {@code long}
 * @param clearanceM slack at the arm, m
 */
public record Pump(double nozzleM, double strokeM3, String cam, double clearanceM) {
}
