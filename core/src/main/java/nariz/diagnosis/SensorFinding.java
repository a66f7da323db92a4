package nariz.diagnosis;

/**
 * How late the readings are, as found from the log. The two trade against each other: their sum is known better.
 *
 * @param lagS first-order lag, s
 * @param exhaustL exhaust volume ahead of the sensor, litres
 */
public record SensorFinding(double lagS, double exhaustL) {
}
