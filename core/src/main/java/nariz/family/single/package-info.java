/** The family {@code single-venturi}. */
@NullMarked
package nariz.family.single;

import org.jspecify.annotations.NullMarked;
