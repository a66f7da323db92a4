/**
 * What a drive holds and what it lacks: the readings still to be made, ticked off as far as the drive covers them
 * ({@link nariz.coverage.DrivePlan#of}).
 */
@NullMarked
package nariz.coverage;

import org.jspecify.annotations.NullMarked;
