package nariz.build;

/**
 * How the secondary side opens.
 *
 * @param kind linkage, diaphragm or air valve
 * @param startRad primary plate angle at which the secondary side starts to open, rad
 * @param restRad how far the secondary plates stand open at idle, rad
 * @param spring spring strength against the family's standard spring, 1 = standard
 */
public record Opening(OpeningKind kind, double startRad, double restRad, double spring) {
}
