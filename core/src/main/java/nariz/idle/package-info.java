/**
 * Setting an idle beside the running engine: which move next and why ({@link nariz.idle.IdleGuide}), what the readings
 * so far say of where the best lies ({@link nariz.idle.IdleCurve}), and how several carburetors are balanced
 * ({@link nariz.idle.ThrottleBalance}).
 */
@NullMarked
package nariz.idle;

import org.jspecify.annotations.NullMarked;
