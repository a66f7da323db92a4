package nariz.sim;

import nariz.log.DriveLog;

/**
 * A simulated drive and the truth behind it, sample for sample.
 *
 * @param log what the logger recorded
 * @param trueLambda mixture in the cylinders
 * @param truePhi fuel of every circuit as part of phi, {@code [circuit][sample]}
 */
public record SimulatedDrive(DriveLog log, double[] trueLambda, double[][] truePhi) {
}
