/**
 * What families with stacks of jet, emulsion tube and air corrector and with progression holes share:
 * {@link nariz.family.jetted.JettedFamily} with the sheet, {@link nariz.family.jetted.JettedDefaults},
 * {@link nariz.family.jetted.JettedCircuits} and {@link nariz.family.jetted.JettedParts}. The physics is in
 * {@link nariz.flow}.
 */
@NullMarked
package nariz.family.jetted;

import org.jspecify.annotations.NullMarked;
