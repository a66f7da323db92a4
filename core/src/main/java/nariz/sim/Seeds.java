package nariz.sim;

import java.util.Random;
import java.util.SplittableRandom;

/**
 * Seeds for the engines and people of numbered cases. {@link Random} started from neighbouring numbers begins with
 * nearly the same draw (a linear congruential step carries a small difference over as a small difference), so forty
 * cases seeded one after the other would share the first thing that is drawn about them: an idle circuit lean in all of
 * them, say, or a first move that slips. The numbers of an exam or a practice are therefore spread over all 64 bits
 * first, as splittable generators do (Steele, Lea and Flood 2014, Fast splittable pseudorandom number generators,
 * OOPSLA '14).
 */
public final class Seeds {
    private Seeds() {
    }

    /**
     * Spreads the number of a case.
     *
     * @param number any
     * @return the same for the same number, and unlike that of its neighbours
     */
    public static long spread(long number) {
        return new SplittableRandom(number).nextLong();
    }

    /**
     * A generator for one thing about a case.
     *
     * @param number number of the case
     * @param salt which thing; others draw nothing in common
     * @return a generator that is its own
     */
    public static Random random(long number, long salt) {
        return new Random(spread(spread(number) + salt));
    }
}
