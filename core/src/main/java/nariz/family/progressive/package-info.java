/** The family {@code progressive-twin}. */
@NullMarked
package nariz.family.progressive;

import org.jspecify.annotations.NullMarked;
