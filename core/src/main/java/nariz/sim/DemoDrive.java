package nariz.sim;

import nariz.carburetor.BuildSheet;

/** The first of the demos, the estate car: short for {@link Demo#ESTATE}. */
public final class DemoDrive {
    /** Seed of the demo's engine and of its noise. */
    public static final long SEED = 21421;

    private DemoDrive() {
    }

    /** {@return the sheet as shipped, JSON} */
    public static String sheetJson() {
        return Demo.ESTATE.sheetJson();
    }

    /** {@return the sheet as shipped} */
    public static BuildSheet sheet() {
        return Demo.ESTATE.sheet();
    }

    /** {@return the drive, always the same} */
    public static SimulatedDrive drive() {
        return Demo.ESTATE.drive();
    }

    /**
     * The same engine and road with other parts fitted, for trying a change.
     *
     * @param fitted parts
     * @param noiseSeed draws noise and dropouts
     * @return the drive
     */
    public static SimulatedDrive drive(BuildSheet fitted, long noiseSeed) {
        return Demo.ESTATE.drive(fitted, noiseSeed);
    }

    /** {@return the demo's car on another day with an air cleaner that chokes at large airflow} */
    public static SimulatedDrive withCleaner() {
        return Demo.ESTATE.withCleaner();
    }

    /**
     * The same engine driven again on another day with other parts.
     *
     * @param fitted parts
     * @param round how often it was driven before
     * @return the drive
     */
    public static SimulatedDrive again(BuildSheet fitted, int round) {
        return Demo.ESTATE.again(fitted, round);
    }
}
