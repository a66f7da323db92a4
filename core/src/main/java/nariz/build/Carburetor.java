package nariz.build;

/**
 * The carburetor, or several of one kind.
 *
 * @param family how it works
 * @param count how many of them, 1 or 2
 * @param primary primary side of one carburetor
 * @param secondary secondary side of one carburetor
 * @param opening how the secondary side opens
 * @param pump accelerator pump
 * @param fuelLevelM fuel level as measured, above the family's setting, m
 * @param idleStopTurns idle stop screw, turns in (positive) or out from where it stood in the drive
 */
public record Carburetor(Family family, int count, Barrels primary, Barrels secondary, Opening opening, Pump pump,
        double fuelLevelM, double idleStopTurns) {
    /**
     * One side.
     *
     * @param side which
     * @return its barrels
     */
    public Barrels barrels(SideName side) {
        return side == SideName.PRIMARY ? primary : secondary;
    }
}
