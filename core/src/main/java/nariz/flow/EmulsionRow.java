package nariz.flow;

/**
 * A row of holes round an emulsion tube.
 *
 * @param depthM how far below the fuel level of a still engine, m, 0 or more
 * @param areaM2 area of its holes together, m²
 */
public record EmulsionRow(double depthM, double areaM2) {
}
