package nariz.flow;

/**
 * A progression hole in the wall of a bore.
 *
 * @param diameterM diameter, m, positive
 * @param heightM height of its middle above the edge of the shut plate, m
 */
public record ProgressionHole(double diameterM, double heightM) {
}
