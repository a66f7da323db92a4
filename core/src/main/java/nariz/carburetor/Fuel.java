package nariz.carburetor;

/**
 * The fuel.
 *
 * @param name for the record
 * @param stoichAfr stoichiometric air-fuel ratio by mass
 * @param densityKgPerM3 density, kg/m³
 */
public record Fuel(String name, double stoichAfr, double densityKgPerM3) {
}
