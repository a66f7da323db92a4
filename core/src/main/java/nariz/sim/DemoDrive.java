package nariz.sim;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;

/**
 * The demo: a made-up straight-six estate car prepared for a hill-climb, on one block-metered four-barrel, and its
 * twelve-minute drive. Two calibration errors are hidden in the sheet's parts; {@code docs/accuracy.md} names them.
 */
public final class DemoDrive {
    /** Seed of the demo's engine and of its noise. */
    public static final long SEED = 21421;
    /** Richer by seven percent where it breathes most. */
    private static final double CLEANER = 0.8;
    private static final String SHEET = "/nariz/demo/hillclimb-estate.json";

    private DemoDrive() {
    }

    /** {@return the sheet as shipped, JSON} */
    public static String sheetJson() {
        try (InputStream in = DemoDrive.class.getResourceAsStream(SHEET)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** {@return the sheet as shipped} */
    public static BuildSheet sheet() {
        return BuildSheetReader.parse("hillclimb-estate.json", sheetJson());
    }

    /** {@return the drive, always the same} */
    public static SimulatedDrive drive() {
        return drive(sheet(), SEED);
    }

    /**
     * The same engine and road with other parts fitted, for trying a change.
     *
     * @param fitted parts
     * @param noiseSeed draws noise and dropouts
     * @return the drive
     */
    public static SimulatedDrive drive(BuildSheet fitted, long noiseSeed) {
        return new EngineSimulator(fitted, SEED, Map.of(), noiseSeed).drive(DriveScript.twelveMinutes(), 20,
                "hillclimb-estate.csv");
    }

    /**
     * The demo's car on another day with an air cleaner that chokes at large airflow, for comparing.
     *
     * @return the drive, always the same
     */
    public static SimulatedDrive withCleaner() {
        return new EngineSimulator(sheet(), SEED, Map.of(Fault.AIR_CLEANER, CLEANER), SEED + 2).drive(
                DriveScript.twelveMinutes().varied(new Random(2)), 20, "with the air cleaner.csv");
    }

    /**
     * The same engine driven again on another day with other parts, as a tuner would prove a change.
     *
     * @param fitted parts
     * @param round how often it was driven before
     * @return the drive
     */
    public static SimulatedDrive again(BuildSheet fitted, int round) {
        return new EngineSimulator(fitted, SEED, Map.of(), SEED + 2 + round).drive(DriveScript.twelveMinutes()
                .varied(new Random(2 + round)), 20, "hillclimb-estate, round " + (round + 1) + ".csv");
    }
}
