/**
 * A practice engine: a car, its driver and its sensors, simulated in time, with calibration errors and faults that are
 * known because they were put there.
 *
 * <p>It makes the demo drive and the drives behind docs/accuracy.md. It uses the elements of {@code nariz.flow} as its
 * carburetor but adds what the estimator does not model: circuits that stray from their equations by smooth random
 * curves ({@link nariz.sim.Quirks}), filling that ripples with speed, manifold filling, wall film, pump, lope,
 * transport delay and lag of the sensor, noise, drift, rails, dropouts. Nothing in {@code nariz.estimation} reads its
 * hidden state. Start with {@link nariz.sim.EngineSimulator} and {@link nariz.sim.DemoDrive}.
 */
@NullMarked
package nariz.sim;

import org.jspecify.annotations.NullMarked;
