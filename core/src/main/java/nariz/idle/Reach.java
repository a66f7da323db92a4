package nariz.idle;

/**
 * How far what trims an idle can be turned, and how the mixture answers over that.
 *
 * @param least fewest turns it can stand at
 * @param most most turns anybody would turn it to
 * @param bend how phi = 1/lambda bends over the turns: half its second derivative over the square of the first, with
 *     the sign turned, in 1/phi
 */
public record Reach(double least, double most, double bend) {
    /**
     * Mixture screws, counted from their seat. A port that opens behind a feed of fixed size passes less and less for a
     * turn: with q the share of the feed's own flow that passes, the bend is 1.5 q/(1 - q²) over phi with the port
     * away, 0.2 to 0.6 where that is two to three times what idles best.
     */
    public static final Reach SCREWS = new Reach(0.0, 6.0, 0.3);
    /** Jets whose height is counted from a datum: nothing limits what passes the needle but the jet itself. */
    public static final Reach JETS = new Reach(-6.0, 6.0, 0.0);

    /**
     * What trims an idle.
     *
     * @param fromDatum whether it is counted from a datum, as jets are
     * @return how far it can be turned
     */
    public static Reach of(boolean fromDatum) {
        return fromDatum ? JETS : SCREWS;
    }
}
