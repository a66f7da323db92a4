package nariz.sim;

import java.util.Optional;
import java.util.Random;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;

/**
 * What is hidden in a practice engine: the same for a seed and level, so that a class can share one.
 *
 * @param level 0 to 4
 * @param all turns by which every screw was moved
 * @param screw screw that was moved besides, from 0; -1 for none
 * @param by turns by which that one was moved
 * @param leakM2 vacuum leak, m²; 0 for none
 * @param part idle feed that is not what the sheet says: from what it says to what is fitted; empty where it is
 */
public record PracticeUpset(int level, double all, int screw, double by, double leakM2, Optional<PartChange> part) {
    /** Nothing was done. */
    public static final PracticeUpset NONE = new PracticeUpset(0, 0.0, -1, 0.0, 0.0, Optional.empty());
    /** Area of the leak for the engine's displacement, m²/m³: much the same share of any idle's air. */
    private static final double LEAK_PER_M3 = 1.6e-3;
    /** Slower than this share of its idle it does not keep running. */
    private static final double LEAST_OF_IDLE = 0.75;
    private static final int MOST_OTHERWISE = 8;
    /** Long enough for what lope and missing cylinders can do to it, s. */
    private static final double LIVES_S = 120.0;
    /** Steps by which a wrong part is off. */
    private static final int STEPS = 2;

    /**
     * Upsets an engine; it begins as it runs then.
     *
     * @param e engine as its sheet says
     * @param seed draws what is done to it
     * @param level 0 does nothing; 1 moves all screws alike; 2 one of them besides; 3 opens a leak in half of the
     *     engines; 4 has the wrong idle feed in it where the family has one, and else what 3 has
     * @return what was done
     */
    public static PracticeUpset of(RunningEngine e, long seed, int level) {
        if (level == 0) {
            return NONE;
        }
        Random r = Seeds.random(seed, level);
        double all = Math.rint(8 * (0.25 + 0.25 * r.nextDouble()) * (r.nextInt(3) == 0 ? -0.5 : 1)) / 8;
        Optional<PartChange> part = level > 3 ? wrong(e, r.nextBoolean()) : Optional.empty();
        int screw = level > 1 && part.isEmpty() && e.trims() > 1 ? r.nextInt(e.trims()) : -1;
        double by = screw < 0 ? 0.0 : (r.nextBoolean() ? 1 : -0.5) * 0.375;
        double leak = level > 2 && part.isEmpty() && r.nextBoolean() ? LEAK_PER_M3
                * e.sheet().engine().displacementM3() : 0.0;
        double[] as = e.allTurns();
        PracticeUpset u = new PracticeUpset(level, all, screw, by, leak, part).done(e, as);
        double runs = speed(e);
        // Nobody learns on an engine that dies: the same the other way, as rich as it takes; then as lean, for one that
        // drowns.
        for (int k = 0; k < 2 * MOST_OTHERWISE && runs < LEAST_OF_IDLE; k++) {
            boolean richer = k < MOST_OTHERWISE;
            double moved = richer ? Math.abs(all) + 0.25 * k : -0.25 * (k + 1 - MOST_OTHERWISE);
            PracticeUpset other = new PracticeUpset(level, moved, screw, richer ? Math.abs(by) : -Math.abs(by), leak,
                    part.isEmpty() ? part : wrong(e, richer)).done(e, as);
            double speed = speed(e);
            u = speed > runs ? other : u;
            runs = Math.max(runs, speed);
        }
        u.done(e, as);
        e.begin();
        return u;
    }

    /** Settled speed over the idle on the sheet; half of it where the engine dies all the same. */
    private static double speed(RunningEngine e) {
        double share = new WhenSettled(e).now().rpm() / e.sheet().engine().idleRpm();
        return new WhenSettled(e).keepsRunning(LIVES_S) ? share : 0.5 * share;
    }

    private PracticeUpset done(RunningEngine e, double[] from) {
        for (int i = 0; i < e.trims(); i++) {
            e.turn(i, from[i] + all + (i == screw ? by : 0.0));
        }
        e.leak(leakM2);
        part.ifPresent(p -> e.fit(p.part().fit(e.sheet(), p.side(), p.to())));
        return this;
    }

    /** The idle feed some sizes richer or leaner. */
    private static Optional<PartChange> wrong(RunningEngine e, boolean richer) {
        return feed(e).map(l -> new PartChange(l.part(), l.stage(), l.fitted(e.sheet()), l.fitted(e.sheet())
                + (richer ? STEPS : -STEPS) * l.step()));
    }

    /**
     * The idle feed of a practice engine's carburetor.
     *
     * @param e engine
     * @return its ladder; empty where the family has none
     */
    public static Optional<Ladder> feed(RunningEngine e) {
        return Ladder.of(e.sheet()).stream().filter(l -> l.part().role() == Part.Role.IDLE_FUEL
                && l.stage() == Stage.PRIMARY).findFirst();
    }

    /**
     * Whether what was hidden beside the screws has been put right.
     *
     * @param e engine now
     * @return false while a leak is open or the wrong part is in it
     */
    public boolean cured(RunningEngine e) {
        return !e.leaks() && part.map(p -> Math.abs(p.part().of(e.fitted().carburetor(), p.side()) - p.from()) < 1e-6)
                .orElse(true);
    }
}
