package nariz.carburetor;

/**
 * A progression hole in the wall of a bore, as a sheet has it.
 *
 * @param diameterM diameter, m, positive
 * @param heightM height of its middle above the edge of the shut plate, m
 */
public record ProgressionHole(double diameterM, double heightM) {
}
