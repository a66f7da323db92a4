/** The family {@code rod-metered-4}: stepped rods hanging in the primary jets from a vacuum piston. */
@NullMarked
package nariz.family.rodmetered;

import org.jspecify.annotations.NullMarked;
