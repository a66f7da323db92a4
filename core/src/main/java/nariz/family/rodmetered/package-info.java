/** The family {@code rod-metered-4}: stepped rods hanging in the primary jets from a vacuum piston. */
package nariz.family.rodmetered;
