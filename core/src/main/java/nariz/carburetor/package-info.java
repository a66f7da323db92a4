/**
 * What the tuner says is fitted: the build sheet, its parts and the reader that turns JSON into it.
 *
 * <p>A {@link nariz.carburetor.BuildSheet} is complete: what the file leaves out is filled with the family's default
 * and named in {@link nariz.carburetor.BuildSheet#assumed()}, so that nothing is invented silently. All values are SI.
 * {@link nariz.carburetor.Part} names every trimmable part and can change one on a sheet. Bad input ends in
 * {@link nariz.carburetor.InputProblem}, which carries file, line, column and remedy.
 */
@NullMarked
package nariz.carburetor;

import org.jspecify.annotations.NullMarked;
