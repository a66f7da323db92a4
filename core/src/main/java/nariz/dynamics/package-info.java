/**
 * What happens within a second: openings of the throttle ({@link nariz.dynamics.TipIns}), what pump, walls, filling and
 * sensor make of each, and which of them explains a hesitation and what would cure it
 * ({@link nariz.dynamics.OpeningStudy}).
 */
@NullMarked
package nariz.dynamics;

import org.jspecify.annotations.NullMarked;
