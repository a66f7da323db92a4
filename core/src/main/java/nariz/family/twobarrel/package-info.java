/**
 * The family {@code block-metered-2}: the primary side of a block-metered four-barrel alone; one to three of them make
 * a set.
 */
@NullMarked
package nariz.family.twobarrel;

import org.jspecify.annotations.NullMarked;
