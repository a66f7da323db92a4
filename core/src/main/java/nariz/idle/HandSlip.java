package nariz.idle;

import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What a hand did other than it was asked, by what it would have changed: log likelihoods of the change of phi, speed
 * and vacuum under each, set beside that of the move as asked.
 */
final class HandSlip {
    private static final double ODDS = Math.log(20.0);
    /** Speed and vacuum alone answer a slip and a flat curve much alike. */
    private static final double UNREAD_ODDS = Math.log(400.0);
    private static final double LOST_PER_PHI = 0.06;
    private static final double LOST_PER_PHI2 = 1.2;
    /** What phi drifts by from one reading to the next. */
    private static final double STILL = 0.006;
    private static final double OFF_TURNS = 1.0 / 16.0;
    private static final double OFF_CHANCE = 0.1;
    /** Share by which a gain differs from one place of the screw to another. */
    private static final double UNEVEN = 0.3;
    /** Steps over the gain's distribution, in its standard deviations. */
    private static final double FURTHEST = 2.5;
    private static final double FINE = 0.25;
    /** Share of the speed that a turn of the stop screw makes; judgement. */
    static final double STOP_SPEED = 0.6;

    private HandSlip() {
    }

    /**
     * Weighs what was done.
     *
     * @param before reading before the move
     * @param after reading after it
     * @param asked turns that were asked for
     * @param g phi that a turn changes
     * @param curve what was read so far; null before the second reading
     * @return what it looks like, or empty where it fits what was asked
     */
    static Optional<IdleGuide.Slip> of(IdleReading before, IdleReading after, double asked, ScrewGain g,
            @Nullable IdleCurve curve) {
        double as = mixture(curve, before, after, asked, g);
        double wrong = mixture(curve, before, after, -asked, g);
        double nothing = mixture(curve, before, after, 0.0, g);
        double stopped = stopped(before, after, asked);
        double best = Math.max(wrong, Math.max(nothing, stopped));
        if (best - as < (before.mixed() ? ODDS : UNREAD_ODDS)) {
            return Optional.empty();
        }
        return Optional.of(best == wrong ? IdleGuide.Slip.WRONG_WAY : best == stopped ? IdleGuide.Slip.STOP_SCREW
                : IdleGuide.Slip.NOTHING);
    }

    /**
     * Log likelihood of what changed where a hand changed the mixture alone: speed follows the curve read so far, and
     * vacuum goes with it, by about half the share.
     *
     * @param turned turns that the screws would have been turned
     */
    private static double mixture(@Nullable IdleCurve curve, IdleReading a, IdleReading b, double turned,
            ScrewGain g) {
        boolean mixed = follows(a, b);
        // What was read of the mixture says where the speed should be, whoever turned what.
        double moved = mixed ? b.phi() - a.phi() : g.perTurn() * turned;
        double sum = mixed ? answered(moved, turned, g, Math.hypot(Math.hypot(a.phiSd(), b.phiSd()), STILL)) : 0.0;
        double unsure = mixed ? 0.0 : spread(g) * g.perTurn() * Math.abs(turned);
        double lost = curve == null || !a.mixed() ? 0.0 : curve.lost(a.phi()) - curve.lost(a.phi() + moved);
        double speed = Math.log(b.rpm() / a.rpm());
        // Far from its best an engine loses with the square of the way; it never gains so.
        double fallen = speed < lost ? LOST_PER_PHI2 * moved * moved : 0.0;
        sum += normal(speed - lost, Math.hypot(Math.hypot(a.rpmSd() / a.rpm(), b.rpmSd() / b.rpm()), 0.005
                + LOST_PER_PHI * (Math.abs(moved) + unsure) + fallen));
        return sum + vacuum(a, b, 0.5 * speed, 0.003 + 0.3 * Math.abs(speed));
    }

    /**
     * Log likelihood of a change of phi after so many turns: a screw that enriches does not lean, however little it
     * does, so its gain is taken as lognormal; and a hand is a sixteenth off now and then.
     */
    private static double answered(double moved, double turned, ScrewGain g, double sd) {
        if (turned == 0.0) {
            return normal(moved, sd);
        }
        double ln = Math.sqrt(Math.log(1.0 + spread(g) * spread(g)));
        double sum = 0.0;
        double all = 0.0;
        for (int off = -1; off <= 1; off++) {
            for (double z = -FURTHEST; z <= FURTHEST; z += FINE) {
                double w = Math.exp(-0.5 * z * z) * (off == 0 ? 1.0 : OFF_CHANCE);
                double to = turned + off * OFF_TURNS;
                sum += w * Math.exp(normal(moved - g.perTurn() * Math.exp(ln * z - 0.5 * ln * ln) * to, sd));
                all += w;
            }
        }
        return Math.log(Math.max(1e-12, sum / all));
    }

    /** Standard deviation of what a turn does here over its mean. */
    private static double spread(ScrewGain g) {
        return Math.hypot(g.sd() / g.perTurn(), UNEVEN);
    }

    /** The same where the stop screw was turned: speed and vacuum part, the mixture goes where the plates send it. */
    private static double stopped(IdleReading a, IdleReading b, double asked) {
        double size = Math.abs(asked);
        double sum = follows(a, b) ? normal(b.phi() - a.phi(), 0.02 + 0.4 * size) : 0.0;
        double speed = Math.log(b.rpm() / a.rpm());
        return sum + normal(speed, 0.01 + STOP_SPEED * size) + vacuum(a, b, -0.4 * speed, 0.005 + 0.4
                * Math.abs(speed));
    }

    /** Whether the mixture was read before and after, and the sensor was free to show a difference. */
    private static boolean follows(IdleReading a, IdleReading b) {
        return a.mixed() && b.mixed() && !(a.atLimit() && b.atLimit());
    }

    private static double vacuum(IdleReading a, IdleReading b, double expected, double sd) {
        if (Double.isNaN(a.vacuumPa()) || Double.isNaN(b.vacuumPa())) {
            return 0.0;
        }
        return normal(Math.log(b.vacuumPa() / a.vacuumPa()) - expected, Math.hypot(sd, Math.hypot(a.vacuumSd() / a
                .vacuumPa(), b.vacuumSd() / b.vacuumPa())));
    }

    private static double normal(double d, double sd) {
        return -0.5 * d * d / (sd * sd) - Math.log(sd);
    }
}
