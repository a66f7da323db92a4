/**
 * What families with a fixed venturi, transfer slot and booster share: {@link nariz.family.metered.MeteredFamily} with
 * the sheet's fields and defaults, {@link nariz.family.metered.MeteredCircuits} and
 * {@link nariz.family.metered.MeteredParts}. The physics is in {@link nariz.flow}.
 */
@NullMarked
package nariz.family.metered;

import org.jspecify.annotations.NullMarked;
