package nariz.sim;

import java.util.Random;

/**
 * What is hidden in a practice engine: the same for a seed and level, so that a class can share one.
 *
 * @param level 1 to 3
 * @param all turns by which every screw was moved
 * @param screw screw that was moved besides, from 0; -1 for none
 * @param by turns by which that one was moved
 * @param leakM2 vacuum leak, m²; 0 for none
 */
public record PracticeUpset(int level, double all, int screw, double by, double leakM2) {
    private static final double LEAK_M2 = 5e-6;

    /**
     * Upsets an engine.
     *
     * @param e engine as its sheet says
     * @param seed draws what is done to it
     * @param level 1 moves all screws alike; 2 one of them besides; 3 opens a leak in half of the engines
     * @return what was done
     */
    public static PracticeUpset of(RunningEngine e, long seed, int level) {
        Random r = new Random(seed * 101 + level);
        double all = Math.rint(8 * (0.25 + 0.25 * r.nextDouble()) * (r.nextInt(3) == 0 ? -0.5 : 1)) / 8;
        int screw = level > 1 && e.trims() > 1 ? r.nextInt(e.trims()) : -1;
        double by = screw < 0 ? 0.0 : (r.nextBoolean() ? 1 : -0.5) * 0.375;
        double leak = level > 2 && r.nextBoolean() ? LEAK_M2 : 0.0;
        for (int i = 0; i < e.trims(); i++) {
            e.turn(i, e.turns(i) + all + (i == screw ? by : 0.0));
        }
        e.leak(leak);
        return new PracticeUpset(level, all, screw, by, leak);
    }
}
