/**
 * One drive against another, like with like: steady running of both at matched engine speed and vacuum, the difference
 * in mixture with its interval, and where it matters. Answers what a change, an air cleaner or another day did. Start
 * at {@link nariz.comparison.RunComparison#of}; both drives must be of the same vehicle and analysed.
 */
@NullMarked
package nariz.comparison;

import org.jspecify.annotations.NullMarked;
