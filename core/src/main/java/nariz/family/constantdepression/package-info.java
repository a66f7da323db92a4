/**
 * The family {@code constant-depression}: airflow lifts a piston, the piston a profiled needle in its jet; one to three
 * carburetors. The physics is in {@link nariz.flow.NeedleModel}.
 */
@NullMarked
package nariz.family.constantdepression;

import org.jspecify.annotations.NullMarked;
