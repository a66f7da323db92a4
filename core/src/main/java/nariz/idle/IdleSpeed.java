package nariz.idle;

import java.util.List;
import java.util.Optional;

/** The idle's speed and the stop screw that makes it, by what turns of it have done. */
final class IdleSpeed {
    private static final double OFF = 0.06;
    /** So much faster than its idle the plates stand far up the slot, and the speed comes before the mixture. */
    private static final double FAR_TOO_FAST = 0.25;
    /** Turns at once: while the plates stand far up the slot, and while the speed is nearly right. */
    private static final double LARGEST = 0.5;
    private static final double SMALL = 0.25;
    private static final double FINEST = 1.0 / 32.0;
    private static final int MOST_MOVES = 8;
    /** Share of the speed that a turn of the stop screws of all carburetors makes, and how little of it counts. */
    private static final double USUAL = 0.6;
    private static final double LEAST = 0.3;
    /** Share of the idle speed a turn that is none: something else holds the plates. */
    private static final double DEAD = 0.1;
    private static final double LEAST_TURNS = 0.1;

    private final List<IdleReading> readings;
    private final List<IdleGuide.Move> moves;
    private final double wantedRpm;

    /**
     * Looks at what was done.
     *
     * @param readings in the order they were taken, at least one
     * @param moves moves made
     * @param wantedRpm speed wanted
     */
    IdleSpeed(List<IdleReading> readings, List<IdleGuide.Move> moves, double wantedRpm) {
        this.readings = readings;
        this.moves = moves;
        this.wantedRpm = wantedRpm;
    }

    private double share() {
        return readings.getLast().rpm() / wantedRpm - 1.0;
    }

    /** {@return how far the last reading is from the speed wanted, share; 0 where it is near enough to be left} */
    double off() {
        return Math.abs(share()) > OFF ? share() : 0.0;
    }

    boolean farTooFast() {
        return share() > FAR_TOO_FAST;
    }

    /**
     * What brings the speed back.
     *
     * @return turns of the stop screw, in is positive; empty where it does nothing, or was turned too often already
     */
    Optional<Double> back() {
        double largest = farTooFast() ? LARGEST : SMALL;
        double turns = Math.rint(Math.clamp(-share() * wantedRpm / rpmPerTurn(), -largest, largest) / FINEST) * FINEST;
        long made = moves.stream().filter(m -> m.kind() == IdleGuide.Kind.STOP).count();
        return off() == 0.0 || turns == 0.0 || dead() || made >= MOST_MOVES ? Optional.empty() : Optional.of(turns);
    }

    private double rpmPerTurn() {
        double usual = USUAL * wantedRpm;
        return answered().map(a -> Math.max(LEAST * usual, a[0] / a[1])).orElse(usual);
    }

    /** {@return whether the last turn of the stop screw left the speed as it was} */
    boolean dead() {
        return answered().filter(a -> Math.abs(a[0]) < DEAD * Math.abs(a[1]) * wantedRpm).isPresent();
    }

    /** What the last turn of the stop screw, the mixture screws left alone, did: rpm, and its turns. */
    private Optional<double[]> answered() {
        for (int i = readings.size() - 1; i > 0; i--) {
            IdleReading a = readings.get(i - 1);
            IdleReading b = readings.get(i);
            if (Math.abs(b.stop() - a.stop()) > LEAST_TURNS && a.turns() == b.turns()) {
                return Optional.of(new double[] {b.rpm() - a.rpm(), b.stop() - a.stop()});
            }
        }
        return Optional.empty();
    }
}
