package nariz.idle;

import java.util.List;

/**
 * What a turn of the screws that are moved changes of phi, from what moves have done: a posterior of a straight line
 * through nought.
 *
 * @param perTurn mean, phi a turn, positive
 * @param sd standard deviation
 */
record ScrewGain(double perTurn, double sd) {
    /** What a turn of every screw changes, before it was seen, and its spread. */
    private static final double USUAL = 0.35;
    private static final double USUAL_SD = 0.20;
    private static final double READ_SD = 0.006;
    /** Square of how far a hand is off, turns². */
    private static final double OFF2 = 0.0006;

    /**
     * Of readings.
     *
     * @param readings in the order they were taken
     * @param share of the engine's screws that are moved, 0 to 1
     * @return the gain
     */
    static ScrewGain of(List<IdleReading> readings, double share) {
        double sxx = 0.0;
        double sxy = 0.0;
        double usual = USUAL * share;
        double prior = 1.0 / (USUAL_SD * share * USUAL_SD * share);
        for (int i = 1; i < readings.size(); i++) {
            IdleReading a = readings.get(i - 1);
            IdleReading b = readings.get(i);
            double dx = b.turns() - a.turns();
            boolean read = a.mixed() && b.mixed() && !a.atLimit() && !b.atLimit();
            if (read && dx != 0.0 && a.stop() == b.stop()) {
                // A person is off by a sixteenth now and then: small moves say less.
                double p = 1.0 / (READ_SD * READ_SD * (1.0 + OFF2 / (dx * dx)));
                sxx += p * dx * dx;
                sxy += p * dx * (b.phi() - a.phi());
            }
        }
        return new ScrewGain(Math.max(0.15 * usual, (sxy + prior * usual) / (sxx + prior)), 1.0 / Math.sqrt(sxx
                + prior));
    }
}
