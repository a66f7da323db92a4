package nariz.text;

import nariz.units.Shown;

/**
 * A quantity in a message: an SI number and how it is told.
 *
 * @param kind how it is told
 * @param si SI value; of no account for the kinds that are a unit alone
 */
public record Measure(Kind kind, double si) {
    /** How a quantity is told. */
    public enum Kind {
        /** Vacuum or rating with its unit. */
        VACUUM,
        /** Vacuum without its unit. */
        VACUUM_BARE,
        /** By how much a vacuum scatters, with its unit. */
        VACUUM_SPREAD,
        /** Vacuum to aim at or above: the next round number, without its unit. */
        AT_LEAST,
        /** Vacuum to stay at or below: the round number before it, without its unit. */
        AT_MOST,
        /** Unit of vacuum. */
        VACUUM_UNIT,
        /** Rating of a valve or spring: as it is stamped where the unit is the stamped one. */
        RATING,
        /** Diameter of a hole with its unit. */
        SIZE
    }

    /** Unit of vacuum by itself. */
    public static final Measure VACUUM_UNIT = new Measure(Kind.VACUUM_UNIT, 0.0);

    /**
     * A vacuum.
     *
     * @param pa Pa
     * @return told with its unit
     */
    public static Measure vacuum(double pa) {
        return new Measure(Kind.VACUUM, pa);
    }

    /**
     * A vacuum.
     *
     * @param pa Pa
     * @return told without its unit
     */
    public static Measure bareVacuum(double pa) {
        return new Measure(Kind.VACUUM_BARE, pa);
    }

    /**
     * By how much a vacuum scatters.
     *
     * @param pa Pa
     * @return told with its unit and a digit more than the vacuum
     */
    public static Measure vacuumSpread(double pa) {
        return new Measure(Kind.VACUUM_SPREAD, pa);
    }

    /**
     * A vacuum to aim at or above.
     *
     * @param pa Pa
     * @return told as a round number without its unit
     */
    public static Measure atLeast(double pa) {
        return new Measure(Kind.AT_LEAST, pa);
    }

    /**
     * A vacuum to stay at or below.
     *
     * @param pa Pa
     * @return told as a round number without its unit
     */
    public static Measure atMost(double pa) {
        return new Measure(Kind.AT_MOST, pa);
    }

    /**
     * The rating of a valve or a spring.
     *
     * @param pa Pa
     * @return told as it is stamped
     */
    public static Measure rating(double pa) {
        return new Measure(Kind.RATING, pa);
    }

    /**
     * The diameter of a hole.
     *
     * @param m m
     * @return told with its unit
     */
    public static Measure size(double m) {
        return new Measure(Kind.SIZE, m);
    }

    String in(Shown units) {
        return switch (kind) {
            case VACUUM -> units.vacuum(si);
            case VACUUM_BARE -> units.bare(si);
            case VACUUM_SPREAD -> units.spread(si);
            case AT_LEAST -> units.atLeast(si);
            case AT_MOST -> units.atMost(si);
            case VACUUM_UNIT -> units.pressureLabel();
            case RATING -> units.rating(si);
            case SIZE -> units.sizeOf(si);
        };
    }
}
