package nariz.idle;

import java.util.Optional;

/**
 * What a hand did other than it was asked, by what it would have changed: log likelihoods of the change of phi, speed
 * and vacuum under each, set beside that of the move as asked.
 */
final class HandSlip {
    private static final double ODDS = Math.log(20.0);
    /** Speed and vacuum alone answer a slip and a flat curve much alike. */
    private static final double UNREAD_ODDS = Math.log(60.0);
    /**
     * A best that lies elsewhere looks like a turn the wrong way: of what looked so, one in six was. Without a mixture
     * it is {@link HandPaths} that tells it; here it stands against the stop screw.
     */
    private static final double WRONG_UNREAD = 3.0;
    /** Nobody slips twice running as easily as once. */
    private static final double AGAIN = Math.log(20.0);
    /** What the shapes of curves leave of a change of speed. */
    private static final double UNREAD_SD = 0.005;
    /** And of a large one, as a share of it. */
    private static final double UNREAD_SHAPE = 0.25;
    /**
     * Vacuum against speed where the mixture makes both: the work of a cycle stays, so the charge and with it the
     * manifold pressure p falls as the speed rises, less what friction takes: d ln V = 0.85 p/V d ln N.
     */
    private static final double CHARGE = 0.85;
    private static final double CHARGE_SD = 0.2;
    private static final double AMBIENT_PA = 1e5;
    /** Where the stop screw makes the speed, the charge hardly changes: vacuum as a share of the speed, either way. */
    private static final double STOP_VACUUM = 0.1;
    /** What vacuum drifts by from one reading to the next, as a share. */
    private static final double VACUUM_DRIFT = 0.0015;
    /** Logarithm's standard deviation of what a turn of a stop screw makes: one of three carburetors makes less. */
    private static final double STOP_SPREAD = 0.5;
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
    /** So near the end of a sensor's range some of what it averages is cut off, phi. */
    private static final double CUT_OFF = 0.03;
    /** How far beyond that end an engine that still runs may be, phi: any of it as likely. */
    private static final double HIDDEN_PHI = 0.3;
    /** Share of the speed that a turn of the stop screw makes; judgement. */
    private static final double ONE_STOP_SPEED = 0.4;

    private HandSlip() {
    }

    /**
     * Weighs what was done.
     *
     * @param before reading before the move
     * @param after reading after it
     * @param asked turns that were asked for
     * @param g phi that a turn changes
     * @param curve what was read so far
     * @param doubted moves doubted one after the other before this one: nobody slips again and again
     * @return what it looks like, or empty where it fits what was asked
     */
    static Optional<IdleGuide.Slip> of(IdleReading before, IdleReading after, double asked, ScrewGain g,
            IdleCurve curve, int doubted) {
        double as = mixture(curve, before, after, asked, g);
        double wrong = mixture(curve, before, after, -asked, g) - (before.mixed() ? 0.0 : WRONG_UNREAD);
        // Without a mixture nothing turned and a flat top are one.
        double nothing = before.mixed() ? mixture(curve, before, after, 0.0, g) : Double.NEGATIVE_INFINITY;
        double stopped = stopped(before, after, asked);
        double best = Math.max(wrong, Math.max(nothing, stopped));
        if (best - as < (before.mixed() ? ODDS : UNREAD_ODDS) + doubted * AGAIN) {
            return Optional.empty();
        }
        if (best == wrong) {
            // Without a mixture it is for what is read later to tell.
            return before.mixed() ? Optional.of(IdleGuide.Slip.WRONG_WAY) : Optional.empty();
        }
        return Optional.of(best == stopped ? IdleGuide.Slip.STOP_SCREW : IdleGuide.Slip.NOTHING);
    }

    /**
     * Log likelihood of what changed where a hand changed the mixture alone: speed follows the curve read so far, and
     * vacuum goes with it, by about half the share.
     *
     * @param turned turns that the screws would have been turned
     */
    private static double mixture(IdleCurve curve, IdleReading a, IdleReading b, double turned, ScrewGain g) {
        if (!a.mixed()) {
            return unread(curve, a, b, turned);
        }
        if (b.mixed() && (a.atLimit() || b.atLimit())) {
            return pastTheEnd(curve, a, b, turned, g);
        }
        boolean mixed = b.mixed();
        // What was read of the mixture says where the speed should be, whoever turned what.
        double moved = mixed ? b.phi() - a.phi() : g.perTurn() * turned;
        double sum = mixed ? answered(moved, turned, g, Math.hypot(Math.hypot(a.phiSd(), b.phiSd()), STILL)) : 0.0;
        double unsure = mixed ? 0.0 : spread(g) * g.perTurn() * Math.abs(turned);
        double lost = curve.lost(a.phi()) - curve.lost(a.phi() + moved);
        double speed = Math.log(b.rpm() / a.rpm());
        // Far from its best an engine loses with the square of the way; it never gains so.
        double fallen = speed < lost ? LOST_PER_PHI2 * moved * moved : 0.0;
        sum += normal(speed - lost, Math.hypot(Math.hypot(a.rpmSd() / a.rpm(), b.rpmSd() / b.rpm()), 0.005
                + LOST_PER_PHI * (Math.abs(moved) + unsure) + fallen));
        return sum + charged(a, b, speed);
    }

    /**
     * The same where the sensor stood at the end of its range before or after: what it shows is the least that changed,
     * and how far beyond the end the engine was, the turns say alone.
     */
    private static double pastTheEnd(IdleCurve curve, IdleReading a, IdleReading b, double turned, ScrewGain g) {
        double moved = g.perTurn() * turned;
        double unsure = spread(g) * Math.abs(moved);
        double from = from(a, b, moved);
        double to = from + moved;
        double lost = curve.lost(from) - curve.lost(to);
        double speed = Math.log(b.rpm() / a.rpm());
        double away = Math.abs(from - IdleCurve.USUAL_PHI);
        double home = Math.abs(to - IdleCurve.USUAL_PHI);
        // On its way home an engine may gain more than the curve has, and on its way out lose more; never the reverse.
        double far = home < away == speed > lost ? LOST_PER_PHI2 * (Math.abs(away * away - home * home) + 2.0
                * Math.max(away, home) * unsure) : 0.0;
        double sum = shows(a, b) ? atLeast(b.phi() - a.phi(), turned, g) : 0.0;
        sum += normal(speed - lost, Math.hypot(Math.hypot(a.rpmSd() / a.rpm(), b.rpmSd() / b.rpm()), 0.005
                + LOST_PER_PHI * (Math.abs(moved) + unsure) + far));
        return sum + charged(a, b, speed);
    }

    /** Where the move began, as far as it is known: from the reading that is free, or else from the sensor's end. */
    private static double from(IdleReading a, IdleReading b, double moved) {
        if (shows(a, b)) {
            return a.atLimit() ? b.phi() - moved : a.phi();
        }
        double end = a.atLimit() ? a.phi() : b.phi();
        boolean homeward = end > IdleCurve.USUAL_PHI == moved < 0.0;
        return homeward ? end - moved : end;
    }

    /** Log likelihood of a change of phi of which the sensor's end hides some. */
    private static double atLeast(double shown, double turned, ScrewGain g) {
        if (turned == 0.0 || Math.signum(shown) != Math.signum(turned)) {
            return answered(shown, turned, g, STILL);
        }
        double ln = Math.sqrt(Math.log(1.0 + spread(g) * spread(g)));
        double sum = 0.0;
        double all = 0.0;
        for (double z = -FURTHEST; z <= FURTHEST; z += FINE) {
            double w = Math.exp(-0.5 * z * z);
            sum += g.perTurn() * Math.exp(ln * z - 0.5 * ln * ln) * Math.abs(turned) >= Math.abs(shown) ? w : 0.0;
            all += w;
        }
        return Math.log(Math.max(1e-12, sum / all / HIDDEN_PHI));
    }

    /** The same by speed and vacuum alone: what every curve that is still possible would have done there. */
    private static double unread(IdleCurve curve, IdleReading a, IdleReading b, double turned) {
        double speed = Math.log(b.rpm() / a.rpm());
        double sd = Math.hypot(Math.hypot(a.rpmSd() / a.rpm(), b.rpmSd() / b.rpm()), Math.hypot(UNREAD_SD,
                UNREAD_SHAPE * speed));
        double sum = 0.0;
        for (int off = -1; off <= 1; off++) {
            double w = off == 0 ? 1.0 - 2.0 * OFF_CHANCE : OFF_CHANCE;
            sum += w * curve.density(speed, a.turns(), a.turns() + turned + off * OFF_TURNS, sd);
        }
        return Math.log(Math.max(1e-12, sum)) + charged(a, b, speed);
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
        double speed = Math.abs(Math.log(b.rpm() / a.rpm()));
        // Lognormal in what a turn makes, and either way alike.
        double least = Math.max(speed, 0.002);
        double z = Math.log(least / (ONE_STOP_SPEED * size)) / STOP_SPREAD;
        sum += -0.5 * z * z - Math.log(2.0 * STOP_SPREAD * least);
        return sum + vacuum(a, b, 0.0, STOP_VACUUM * speed);
    }

    /** Log likelihood of the change of vacuum where the mixture changed the speed. */
    private static double charged(IdleReading a, IdleReading b, double speed) {
        double share = Double.isNaN(a.vacuumPa()) ? 0.0 : CHARGE * Math.max(0.2, (AMBIENT_PA - a.vacuumPa()) / a
                .vacuumPa());
        return vacuum(a, b, share * speed, CHARGE_SD * share * Math.abs(speed));
    }

    /** Whether the mixture was read before and after, and the sensor was free to show a difference. */
    private static boolean follows(IdleReading a, IdleReading b) {
        return a.mixed() && b.mixed() && (!(a.atLimit() || b.atLimit()) || shows(a, b));
    }

    /** Whether one of two readings is clear of the end of the range at which the other stands. */
    private static boolean shows(IdleReading a, IdleReading b) {
        return !(a.atLimit() && b.atLimit()) && Math.abs(b.phi() - a.phi()) > CUT_OFF;
    }

    private static double vacuum(IdleReading a, IdleReading b, double expected, double sd) {
        if (Double.isNaN(a.vacuumPa()) || Double.isNaN(b.vacuumPa())) {
            return 0.0;
        }
        return normal(Math.log(b.vacuumPa() / a.vacuumPa()) - expected, Math.hypot(VACUUM_DRIFT + sd, Math.hypot(a
                .vacuumSd() / a.vacuumPa(), b.vacuumSd() / b.vacuumPa())));
    }

    private static double normal(double d, double sd) {
        return -0.5 * d * d / (sd * sd) - Math.log(sd);
    }
}
