/**
 * What the tuner says is fitted: the build sheet, its parts and the reader that turns JSON into it.
 *
 * <p>A {@link nariz.build.BuildSheet} is complete: what the file leaves out is filled with the family's default and
 * named in {@link nariz.build.BuildSheet#assumed()}, so that nothing is invented silently. All values are SI.
 * {@link nariz.build.Part} names every trimmable part and can change one on a sheet. Bad input ends in
 * {@link nariz.build.InputProblem}, which carries file, line, column and remedy.
 */
package nariz.build;
