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
    static Optional<IdleGuide.Slip> of(IdleReading before, IdleReading after, double asked, IdleGuide.Gain g,
            @Nullable IdleCurve curve) {
        double size = Math.hypot(g.sd(), 0.3 * g.perTurn()) * Math.abs(asked);
        double as = mixture(curve, before, after, g.perTurn() * asked, size);
        double wrong = mixture(curve, before, after, -g.perTurn() * asked, size);
        double nothing = mixture(curve, before, after, 0.0, 0.0);
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
     * @param dPhi change of phi that would be expected
     * @param sd its standard deviation
     */
    private static double mixture(@Nullable IdleCurve curve, IdleReading a, IdleReading b, double dPhi,
            double sd) {
        double sum = 0.0;
        if (a.mixed() && b.mixed()) {
            sum += normal(b.phi() - a.phi() - dPhi, Math.hypot(Math.hypot(a.phiSd(), b.phiSd()), 0.006 + sd));
        }
        double lost = curve == null || !a.mixed() ? 0.0 : curve.lost(a.phi()) - curve.lost(a.phi() + dPhi);
        double speed = Math.log(b.rpm() / a.rpm());
        sum += normal(speed - lost, Math.hypot(Math.hypot(a.rpmSd() / a.rpm(), b.rpmSd() / b.rpm()), 0.005
                + LOST_PER_PHI * (Math.abs(dPhi) + sd)));
        return sum + vacuum(a, b, 0.5 * speed, 0.003 + 0.3 * Math.abs(speed));
    }

    /** The same where the stop screw was turned: speed and vacuum part, the mixture goes where the plates send it. */
    private static double stopped(IdleReading a, IdleReading b, double asked) {
        double size = Math.abs(asked);
        double sum = a.mixed() && b.mixed() ? normal(b.phi() - a.phi(), 0.02 + 0.4 * size) : 0.0;
        double speed = Math.log(b.rpm() / a.rpm());
        return sum + normal(speed, 0.01 + STOP_SPEED * size) + vacuum(a, b, -0.4 * speed, 0.005 + 0.4
                * Math.abs(speed));
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
