package nariz.estimation;

/**
 * How the main circuit's delivery against the sheet changes with airflow: 0 where the jets alone are off, positive
 * where
 * it grows with air as too small an air bleed makes it.
 *
 * @param perDoubling change of delivered over sheet fuel for twice the air, share
 * @param low lower end of the 90 % interval
 * @param high upper end
 */
public record Slope(double perDoubling, double low, double high) {
}
