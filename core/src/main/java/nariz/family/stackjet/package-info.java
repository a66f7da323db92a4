/** The family {@code stack-jet}. */
@NullMarked
package nariz.family.stackjet;

import org.jspecify.annotations.NullMarked;
