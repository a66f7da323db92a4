/**
 * The family {@code block-metered-4}: removable metering blocks, main jets, a power valve per block; the rear one
 * often plugged.
 */
package nariz.family.blockmetered;
