package nariz.flow;

import nariz.carburetor.Carburetor;

/**
 * How the secondary side opens.
 *
 * @param kind linkage, diaphragm or air valve
 * @param startRad primary plate angle at which the secondary side starts to open, rad
 * @param restRad how far the secondary plates stand open at idle, rad
 * @param spring spring strength against the family's standard spring, 1 = standard
 */
public record Opening(OpeningKind kind, double startRad, double restRad, double spring) {
    /**
     * The opening of a carburetor with a second stage.
     *
     * @param c carburetor of a family with these fields
     * @return its opening
     */
    public static Opening of(Carburetor c) {
        return new Opening(OpeningKind.ofKey(c.word("secondaryOpening.kind")), c.number("secondaryOpening.start"),
                c.number("secondaryOpening.restAngle"), c.number("secondaryOpening.spring"));
    }
}
