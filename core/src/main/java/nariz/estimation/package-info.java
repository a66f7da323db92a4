/**
 * From a drive to what every circuit delivers: alignment, flags, steady cells and the estimate with its intervals.
 *
 * <p>{@link nariz.estimation.Observation} lines the sensor up with the engine, flags what does not count and gathers
 * steady running into cells of engine speed and vacuum. {@link nariz.estimation.Estimator} finds the correction every
 * circuit needs (1 = as the build sheet says) by generalised least squares with priors; {@link
 * nariz.estimation.Estimate} carries means, covariance and the smooth model error, so that an interval means what it
 * says. Nothing here knows targets or parts to buy; that is {@code nariz.diagnosis}. docs/model.md, sections 3 and 4.
 */
@NullMarked
package nariz.estimation;

import org.jspecify.annotations.NullMarked;
