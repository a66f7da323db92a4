/**
 * The family {@code block-metered-4}: removable metering blocks, main jets, a power valve per block; the rear one
 * often plugged.
 */
@NullMarked
package nariz.family.blockmetered;

import org.jspecify.annotations.NullMarked;
