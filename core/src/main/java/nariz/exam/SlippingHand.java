package nariz.exam;

import java.util.Random;
import nariz.practice.FollowedGuide;
import nariz.practice.Hand;

/**
 * A person with a screwdriver, who is a sixteenth of a turn off every fifth time, turns the wrong way in six of a
 * hundred moves and something else in another six.
 */
final class SlippingHand implements Hand {
    private static final double OTHER_WAY = 0.06;
    private static final double ELSEWHERE = 0.12;
    /** Smaller moves are made with care, turns. */
    private static final double LEAST = 0.06;
    private static final int OFF_EVERY = 5;
    private static final double OFF = 1.0 / 16.0;

    private final Random random;

    /** Moves of an exam: those that slipped, and whether that was said. */
    static final class Tally {
        private int slips;
        private int told;
        private int plain;
        private int alarms;
        private int later;

        /**
         * Counts a move.
         *
         * @param slipped whether it was made otherwise than asked
         * @param said whether it was doubted
         */
        void count(boolean slipped, boolean said) {
            slips += slipped ? 1 : 0;
            told += slipped && said ? 1 : 0;
            plain += slipped ? 0 : 1;
            alarms += !slipped && said ? 1 : 0;
        }

        /**
         * Counts all that was done while a guide was followed.
         *
         * @param f the guide, followed
         */
        void count(FollowedGuide f) {
            f.made().forEach(m -> count(m.slipped(), m.said()));
            for (FollowedGuide.Made m : f.doubtedLater()) {
                later += m.slipped() ? 1 : 0;
                alarms += m.slipped() ? 0 : 1;
            }
        }

        /** {@return slips that were recognised by what was read later} */
        int later() {
            return later;
        }

        /** {@return moves that slipped} */
        int slips() {
            return slips;
        }

        /** {@return those of them that were recognised at once} */
        int told() {
            return told;
        }

        /** {@return moves made as asked} */
        int plain() {
            return plain;
        }

        /** {@return those of them that were doubted} */
        int alarms() {
            return alarms;
        }
    }

    /**
     * A hand.
     *
     * @param random draws what it does
     */
    SlippingHand(Random random) {
        this.random = random;
    }

    @Override
    public Turn turn(double by) {
        double chance = random.nextDouble();
        double off = random.nextInt(OFF_EVERY) == 0 ? (random.nextBoolean() ? OFF : -OFF) : 0.0;
        if (Math.abs(by) <= LEAST || chance >= ELSEWHERE) {
            return new Turn(Deed.ASKED, by + off);
        }
        return chance < OTHER_WAY ? new Turn(Deed.OTHER_WAY, -by) : new Turn(Deed.ELSEWHERE, by);
    }

    /** {@return another one of n than this, drawn; from 0} */
    int another(int than, int n) {
        return (than + 1 + random.nextInt(n - 1)) % n;
    }
}
