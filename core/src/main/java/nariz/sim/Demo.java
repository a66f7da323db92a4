package nariz.sim;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;

/**
 * The demos: made-up cars with their twelve-minute drives. Calibration errors are hidden in the parts of each;
 * {@code docs/accuracy.md} names them. Their engines are chosen so that each ends in tune: parts cannot cure every
 * engine that is made up.
 */
public enum Demo {
    /** A straight-six estate car prepared for a hill-climb, on one four-barrel. */
    ESTATE("hillclimb-estate", "Hill-climb estate, straight six", 21421),
    /** A V6 kit roadster with three twin-chokes, one barrel a cylinder. */
    ROADSTER("kit-roadster", "V6 kit roadster", 138),
    /** A small four with two constant-depression carburetors. */
    SMALL_FOUR("small-four", "Small four, two carburetors", 4);

    /** Richer by seven percent where it breathes most. */
    private static final double CLEANER = 0.8;

    private final String id;
    private final String car;
    private final long seed;

    Demo(String id, String car, long seed) {
        this.id = id;
        this.car = car;
        this.seed = seed;
    }

    /** {@return name of its files} */
    public String id() {
        return id;
    }

    /**
     * Finds a demo.
     *
     * @param id name of its files
     * @return the demo, or empty
     */
    public static Optional<Demo> ofId(String id) {
        return Arrays.stream(values()).filter(d -> d.id.equals(id)).findFirst();
    }

    /**
     * The demo of a sheet.
     *
     * @param sheet a build sheet
     * @return the demo whose car has this name, or empty
     */
    public static Optional<Demo> of(BuildSheet sheet) {
        return Arrays.stream(values()).filter(d -> d.car.equals(sheet.name())).findFirst();
    }

    /** {@return the sheet as shipped, JSON} */
    public String sheetJson() {
        try (InputStream in = Demo.class.getResourceAsStream("/nariz/demo/" + id + ".json")) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** {@return the sheet as shipped} */
    public BuildSheet sheet() {
        return BuildSheetReader.parse(id + ".json", sheetJson());
    }

    /** {@return the drive, always the same} */
    public SimulatedDrive drive() {
        return drive(sheet(), seed);
    }

    /**
     * The same engine and road with other parts fitted, for trying a change.
     *
     * @param fitted parts
     * @param noiseSeed draws noise and dropouts
     * @return the drive
     */
    public SimulatedDrive drive(BuildSheet fitted, long noiseSeed) {
        return new EngineSimulator(fitted, seed, Map.of(), noiseSeed).drive(DriveScript.twelveMinutes(), 20, id
                + ".csv");
    }

    /**
     * The demo's car on another day with an air cleaner that chokes at large airflow, for comparing.
     *
     * @return the drive, always the same
     */
    public SimulatedDrive withCleaner() {
        return new EngineSimulator(sheet(), seed, Map.of(Fault.AIR_CLEANER, CLEANER), seed + 2).drive(
                DriveScript.twelveMinutes().varied(new Random(2)), 20, "with the air cleaner.csv");
    }

    /**
     * The same engine driven again on another day with other parts, as a tuner would prove a change.
     *
     * @param fitted parts
     * @param round how often it was driven before
     * @return the drive
     */
    public SimulatedDrive again(BuildSheet fitted, int round) {
        return new EngineSimulator(fitted, seed, Map.of(), seed + 2 + round).drive(DriveScript.twelveMinutes()
                .varied(new Random(2 + round)), 20, id + ", round " + (round + 1) + ".csv");
    }
}
