package nariz.carburetor;

/**
 * How the dampers of pistons hold them back.
 *
 * @param riseS time constant of a rise near where the piston comes to rest, s
 * @param fallS time constant of a fall, which a damper resists little, s
 */
public record DamperSetting(double riseS, double fallS) {
    /** Fall of a piston that is free in its chamber, s; judgement. */
    public static final double USUAL_FALL_S = 0.08;
}
