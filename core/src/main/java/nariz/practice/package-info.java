/** Practice at the running engine: what a hand made of it against what was possible and what the guide makes of it. */
@NullMarked
package nariz.practice;

import org.jspecify.annotations.NullMarked;
