package nariz.carburetor;

/**
 * The engine.
 *
 * @param displacementM3 swept volume of all cylinders, m³
 * @param cylinders number of cylinders, 1 to 16
 * @param compression geometric compression ratio, 6 to 16
 * @param cam cam class
 * @param idleRpm warm idle speed, rpm
 * @param redlineRpm highest speed, rpm
 * @param manifold kind in the user's words, for the record
 * @param vacuumAdvance whether ignition advance has a vacuum part; decides the light-load target
 * @param automatic whether the transmission is an automatic
 */
public record Engine(double displacementM3, int cylinders, double compression, Cam cam, double idleRpm,
        double redlineRpm, String manifold, boolean vacuumAdvance, boolean automatic) {
}
