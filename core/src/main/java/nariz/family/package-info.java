/**
 * Families of carburetors, one package each behind {@link nariz.carburetor.Family}; what several share stands beside
 * them. To add one: a package here, a line in {@code META-INF/services/nariz.carburetor.Family}, its words in the
 * bundles, its fields in docs/formats, its tests. Nothing outside these packages names a circuit or a part.
 */
@NullMarked
package nariz.family;

import org.jspecify.annotations.NullMarked;
