/**
 * What a drive holds and what it lacks: the moments at which the throttle is opened, with what the mixture did in the
 * second after ({@link nariz.coverage.TipIns#of}), and the readings still to be made, ticked off as far as the drive
 * covers
 * them ({@link nariz.coverage.DrivePlan#of}). Both take an analysed drive and describe it; which part of the pump
 * answers for a hesitation needs more than one log and is not said here.
 */
@NullMarked
package nariz.coverage;

import org.jspecify.annotations.NullMarked;
