package nariz.sim;

import java.util.Arrays;
import java.util.Random;

/**
 * What is out of balance on a practice engine with several carburetors: the same for a seed.
 *
 * @param stops turns by which every stop screw was moved
 * @param links turns by which every link was moved; the first has none
 */
public record BalanceUpset(double[] stops, double[] links) {
    private static final double STOP_SD = 0.3;
    private static final double LEAST_STOP = -0.45;
    private static final double MOST_STOP = 0.6;
    private static final double LINK_SD = 0.6;
    private static final double MOST_LINK = 1.0;
    /** Share of its idle speed that it runs at all the same, and how often that is drawn. */
    private static final double RUNS = 0.75;
    private static final int TIMES = 12;
    private static final double LIVES_S = 120.0;
    /** What draws the one of a number; idles of the same number are drawn by their level, 1 to 4. */
    private static final int SALT = 5;

    /** Copies the turns. */
    public BalanceUpset {
        stops = stops.clone();
        links = links.clone();
    }

    /**
     * The one of a number, for a practice that others can have as well.
     *
     * @param e engine, its screws where they are to stay; it is not changed
     * @param number any
     * @return what is to be done, the same for the same number
     */
    public static BalanceUpset of(RunningEngine e, long number) {
        return of(e, Seeds.random(number, SALT));
    }

    /**
     * Draws what is done to an engine, so that it still idles.
     *
     * @param e engine, its screws where they are to stay; it is not changed
     * @param r draws
     * @return what is to be done; nothing is moved where the engine would not run with anything that was drawn
     */
    public static BalanceUpset of(RunningEngine e, Random r) {
        int n = e.carburetors();
        for (int k = 0; k < TIMES; k++) {
            double[] stops = new double[n];
            double[] links = new double[n];
            for (int j = 0; j < n; j++) {
                stops[j] = Math.clamp(STOP_SD * r.nextGaussian(), LEAST_STOP, MOST_STOP);
                links[j] = j == 0 ? 0.0 : Math.clamp(LINK_SD * r.nextGaussian(), -MOST_LINK, MOST_LINK);
            }
            BalanceUpset u = new BalanceUpset(stops, links);
            RunningEngine twin = e.copy();
            u.done(twin);
            WhenSettled then = new WhenSettled(twin);
            if (then.now().rpm() > RUNS * e.sheet().engine().idleRpm() && then.keepsRunning(LIVES_S)) {
                return u;
            }
        }
        return new BalanceUpset(new double[n], new double[n]);
    }

    /** {@return whether anything is moved} */
    public boolean any() {
        return Arrays.stream(stops).anyMatch(x -> x != 0.0);
    }

    /**
     * Does it to an engine, which begins as it runs then.
     *
     * @param e engine
     */
    public void done(RunningEngine e) {
        for (int j = 0; j < stops.length; j++) {
            e.stop(j, stops[j]);
            e.link(j, links[j]);
        }
        e.begin();
    }
}
