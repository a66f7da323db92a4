package nariz.idle;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.hipparchus.special.Erf;

/**
 * What is believed of the airflow of several carburetors, after some readings and some turns of their stops or links.
 *
 * <p>State: z, ln of each carburetor's flow, and c, a level that all have in common in one reading (speed, the meter's
 * scale). A reading is y_j = z_j + c + e_j, e_j of standard deviation s; a turn x of carburetor j's screw makes
 * z_j += b x. Given b, s and what the hand did this is linear and Gaussian, and z follows from a Kalman filter (Kalman,
 * J. Basic Eng. 82, 1960, here by scalar updates); b and s are unknown and lie on grids, and what the hand did
 * ({@link Act}) is a label for each turn, of which every likely sequence is kept. All are weighed by prior and evidence
 * (Hoeting, Madigan, Raftery and Volinsky 1999, Bayesian model averaging). One thread at a time.
 */
final class BalancePosterior {
    /** Ln of the flow that a turn makes: lognormal; a link of 30 mm on a plate that stands open 3 to 8 degrees. */
    private static final double USUAL_PER_TURN = 0.35;
    private static final double PER_TURN_SPREAD = 0.75;
    private static final double FEWEST_PER_TURN = 0.05;
    private static final double MOST_PER_TURN = 1.8;
    private static final int GAINS = 15;
    /** What a meter held on a mouth by hand is off by, share of the flow, and how likely each is. */
    private static final double[] READ_SD = {0.01, 0.02, 0.04};
    private static final double[] READ_PRIOR = {0.25, 0.5, 0.25};
    /** Spread of what is found, ln of flow, and of the common level once the mean of a reading is taken off. */
    private static final double FOUND_SD = 0.3;
    private static final double LEVEL_SD = 0.5;
    /** A hand is a sixteenth of a turn off one time in five, turns²; a link done up again moves a little, ln. */
    private static final double HAND_VAR = 0.2 / 256.0;
    private static final double SETTLES_SD = 0.004;
    /** One carburetor's screw does so much more or less than another's, as a share. */
    private static final double UNEVEN = 0.15;
    /** Factor of the variance of rounding where the same figure comes again. */
    private static final double HIDDEN = 25.0;
    /** What mixture and drift make of the speed beside the air, ln, and as a share of the change. */
    private static final double SPEED_SD = 0.02;
    private static final double SPEED_SHAPE = 0.4;
    private static final double OTHER_WAY = 0.06;
    private static final double OTHER_ONE = 0.06;
    private static final double NOTHING = 0.02;
    private static final int MOST_PATHS = 16;
    private static final double LEAST_PATH = 1e-4;

    private final int carburetors;
    private List<Track> tracks;
    /** Whether a turn was made that no reading has followed yet. */
    private boolean open;

    /** What a hand did where it was asked to turn one screw. */
    enum Act {
        /** As asked. */
        ASKED,
        /** The other way. */
        OTHER_WAY,
        /** Another carburetor's. */
        OTHER_ONE,
        /** Nothing that moves a plate. */
        NOTHING
    }

    /**
     * What was done at the latest turn.
     *
     * @param act the likeliest
     * @param carburetor whose screw, from 0
     * @param probability of it
     * @param asked probability that it was done as asked
     */
    record Done(Act act, int carburetor, double probability, double asked) {
    }

    /** An act at a carburetor, from 0. */
    private record Deed(Act act, int carburetor) {
    }

    /**
     * One sequence of acts.
     *
     * @param number below {@value #MOST_PATHS} between a reading and the next turn; another for every sequence
     */
    private record Path(int number, Deed last, double[] turns) {
    }

    /**
     * One sequence of acts with one gain and one spread of readings.
     *
     * @param moved ln by which all the air has changed since the latest reading
     */
    private record Track(Path path, double perTurn, double readSd, double[] mean, double[][] cov, double ln,
            double moved) {
        /** The same state for another path or weight. */
        Track copy(Path p, double weight, double air) {
            double[][] c = new double[cov.length][];
            Arrays.setAll(c, i -> cov[i].clone());
            return new Track(p, perTurn, readSd, mean.clone(), c, weight, air);
        }

        Track read(double weight) {
            return new Track(path, perTurn, readSd, mean, cov, weight, 0.0);
        }

        /** What a carburetor passes of all the air, as this track has it. */
        double share(int carburetor) {
            double sum = 0.0;
            for (int i = 0; i + 1 < mean.length; i++) {
                sum += Math.exp(mean[i] - mean[carburetor]);
            }
            return 1.0 / sum;
        }
    }

    BalancePosterior(int carburetors) {
        this.carburetors = carburetors;
        tracks = new ArrayList<>();
        Path none = new Path(0, new Deed(Act.ASKED, -1), new double[carburetors]);
        for (int g = 0; g < GAINS; g++) {
            double b = FEWEST_PER_TURN * Math.pow(MOST_PER_TURN / FEWEST_PER_TURN, g / (GAINS - 1.0));
            double z = Math.log(b / USUAL_PER_TURN) / PER_TURN_SPREAD;
            for (int s = 0; s < READ_SD.length; s++) {
                double[][] cov = new double[carburetors + 1][carburetors + 1];
                for (int i = 0; i < carburetors; i++) {
                    cov[i][i] = FOUND_SD * FOUND_SD;
                }
                tracks.add(new Track(none, b, READ_SD[s], new double[carburetors + 1], cov, -0.5 * z * z + Math.log(
                        READ_PRIOR[s]), 0.0));
            }
        }
    }

    /**
     * A turn was made, by a hand that now and then does otherwise.
     *
     * @param carburetor whose screw was to be turned, from 0
     * @param by turns, positive opens
     */
    void turned(int carburetor, double by) {
        if (open) {
            // Turned again and again without a reading, what the hand may have done would grow without bound.
            prune();
        }
        List<Track> next = new ArrayList<>();
        for (Track t : tracks) {
            next.add(after(t, Act.ASKED, carburetor, by, 1.0 - OTHER_WAY - OTHER_ONE - NOTHING));
            next.add(after(t, Act.OTHER_WAY, carburetor, -by, OTHER_WAY));
            next.add(after(t, Act.NOTHING, carburetor, 0.0, NOTHING));
            for (int i = 0; i < carburetors; i++) {
                if (i != carburetor) {
                    next.add(after(t, Act.OTHER_ONE, i, by, OTHER_ONE / (carburetors - 1)));
                }
            }
        }
        tracks = next;
        open = true;
    }

    /** Every stop was turned alike: the shares stay, but for what moves anyhow. */
    void turnedAll(double by) {
        tracks.replaceAll(t -> {
            double[] turns = Arrays.stream(t.path().turns()).map(x -> x + by).toArray();
            Track moved = t.copy(new Path(t.path().number(), t.path().last(), turns), t.ln(), t.moved() + t
                    .perTurn() * by);
            for (int i = 0; i < carburetors; i++) {
                moved.cov()[i][i] += t.perTurn() * t.perTurn() * HAND_VAR + SETTLES_SD * SETTLES_SD;
            }
            return moved;
        });
    }

    private Track after(Track t, Act act, int carburetor, double by, double chance) {
        double[] turns = t.path().turns().clone();
        turns[carburetor] += by;
        Path path = new Path(MOST_PATHS * (Act.values().length * carburetor + act.ordinal()) + t.path().number(),
                new Deed(act, carburetor), turns);
        Track moved = t.copy(path, t.ln() + Math.log(chance), t.moved() + t.share(carburetor) * t.perTurn() * by);
        moved.mean()[carburetor] += t.perTurn() * by;
        moved.cov()[carburetor][carburetor] += by == 0.0 ? 0.0 : t.perTurn() * t.perTurn() * (HAND_VAR + UNEVEN * UNEVEN
                * by * by);
        for (int i = 0; i < carburetors; i++) {
            moved.cov()[i][i] += SETTLES_SD * SETTLES_SD;
        }
        return moved;
    }

    /**
     * Takes a reading.
     *
     * @param flow of each carburetor, one unit for all, positive
     * @param step what the figures are rounded to, same unit; 0 where they are not
     * @param air ln by which all the air has changed since the latest reading, as the speed has it; NaN where that is
     *     not known
     * @param same carburetors whose figure is the same as in the reading before and that nobody turned: rounding hides
     *     the same again, and nothing was learnt
     */
    void read(double[] flow, double step, double air, boolean[] same) {
        double level = Arrays.stream(flow).map(Math::log).average().orElse(0.0);
        tracks.replaceAll(t -> {
            Arrays.fill(t.cov()[carburetors], 0.0);
            for (double[] row : t.cov()) {
                row[carburetors] = 0.0;
            }
            t.mean()[carburetors] = 0.0;
            t.cov()[carburetors][carburetors] = LEVEL_SD * LEVEL_SD;
            double ln = t.ln() + (open && !Double.isNaN(air) ? speed(air, t.moved()) : 0.0);
            for (int j = 0; j < carburetors; j++) {
                double rounded = step / flow[j];
                double more = same[j] ? HIDDEN : 1.0;
                ln += update(t, j, Math.log(flow[j]) - level, t.readSd() * t.readSd() + more * rounded * rounded
                        / 12.0);
            }
            return t.read(ln);
        });
        prune();
        open = false;
    }

    /** Log density of a change of the speed: the shares do not tell which of two was turned, the speed does. */
    private static double speed(double air, double moved) {
        double sd = Math.hypot(SPEED_SD, SPEED_SHAPE * Math.max(Math.abs(air), Math.abs(moved)));
        double off = (air - moved) / sd;
        return -0.5 * off * off - Math.log(sd);
    }

    /** One scalar observation z_j + c; {@return its log density} */
    private double update(Track t, int j, double y, double variance) {
        int n = carburetors + 1;
        double[][] p = t.cov();
        double[] gain = new double[n];
        for (int i = 0; i < n; i++) {
            gain[i] = p[i][j] + p[i][carburetors];
        }
        double s = gain[j] + gain[carburetors] + variance;
        double off = y - t.mean()[j] - t.mean()[carburetors];
        for (int i = 0; i < n; i++) {
            t.mean()[i] += gain[i] / s * off;
        }
        for (int i = 0; i < n; i++) {
            for (int k = 0; k < n; k++) {
                p[i][k] -= gain[i] * gain[k] / s;
            }
        }
        return -0.5 * (off * off / s + Math.log(s));
    }

    /** Lets go of sequences of acts that nothing speaks for any more, and numbers those that stay anew. */
    private void prune() {
        double top = tracks.stream().mapToDouble(Track::ln).max().orElse(0.0);
        Map<Integer, Double> weight = new HashMap<>();
        double sum = 0.0;
        for (Track t : tracks) {
            double w = Math.exp(t.ln() - top);
            weight.merge(t.path().number(), w, Double::sum);
            sum += w;
        }
        double least = LEAST_PATH * sum;
        List<Integer> kept = weight.entrySet().stream().filter(e -> e.getValue() > least).sorted(Comparator
                .comparingDouble((Map.Entry<Integer, Double> e) -> e.getValue()).reversed()).limit(MOST_PATHS).map(
                        Map.Entry::getKey).toList();
        double all = Math.log(kept.stream().mapToDouble(k -> weight.getOrDefault(k, 0.0)).sum()) + top;
        List<Track> next = new ArrayList<>();
        for (Track t : tracks) {
            int at = kept.indexOf(t.path().number());
            if (at >= 0) {
                Path p = t.path();
                next.add(new Track(new Path(at, p.last(), p.turns()), t.perTurn(), t.readSd(), t.mean(), t.cov(), t.ln()
                        - all, t.moved()));
            }
        }
        tracks = next;
    }

    /** {@return what the latest turn most likely was; meaningless before the reading that follows it} */
    Done latest() {
        Map<Deed, Double> by = new HashMap<>();
        tracks.forEach(t -> by.merge(t.path().last(), Math.exp(t.ln()), Double::sum));
        Map.Entry<Deed, Double> best = by.entrySet().stream().max(Map.Entry.comparingByValue()).orElseThrow();
        double asked = by.entrySet().stream().filter(e -> e.getKey().act() == Act.ASKED).mapToDouble(
                Map.Entry::getValue).sum();
        return new Done(best.getKey().act(), best.getKey().carburetor(), best.getValue(), asked);
    }

    /** {@return turns of every screw since it was found, along the likeliest sequence of acts} */
    double[] turns() {
        Map<Integer, Double> weight = new HashMap<>();
        tracks.forEach(t -> weight.merge(t.path().number(), Math.exp(t.ln()), Double::sum));
        int best = weight.entrySet().stream().max(Map.Entry.comparingByValue()).orElseThrow().getKey();
        return tracks.stream().filter(t -> t.path().number() == best).findFirst().orElseThrow().path().turns().clone();
    }

    /** How far a carburetor is off in one track, ln, and the variance of it. */
    private double[] off(Track t, int j, boolean toMean) {
        double mean = 0.0;
        double variance = 0.0;
        for (int i = 0; i < carburetors; i++) {
            double a = weight(i, j, toMean);
            mean += a * t.mean()[i];
            for (int k = 0; k < carburetors; k++) {
                variance += a * weight(k, j, toMean) * t.cov()[i][k];
            }
        }
        return new double[] {mean, Math.max(0.0, variance)};
    }

    /** Weight of z_i in how far j is off: from the mean of all, or from the first. */
    private double weight(int i, int j, boolean toMean) {
        double reference = toMean ? 1.0 / carburetors : i == 0 ? 1.0 : 0.0;
        return (i == j ? 1.0 : 0.0) - reference;
    }

    /**
     * How far a carburetor is off.
     *
     * @param off ln of its flow over what it should be, mean
     * @param sd standard deviation
     * @param within probability that it is within the tolerance
     * @param moves E[b d], what a turn does times how far it is off
     * @param moves2 E[b²], the square of what a turn does
     */
    record Off(double off, double sd, double within, double moves, double moves2) {
        /** {@return by how much so many turns lower the mean square of what it is off} */
        double gains(double by, double share) {
            return -2.0 * by * share * moves - by * by * share * share * moves2;
        }
    }

    /**
     * How far a carburetor is off.
     *
     * @param j which, from 0
     * @param toMean whether the mean of all is what it should have, or the first
     * @param tolerance ln of flow
     * @return what is believed
     */
    Off off(int j, boolean toMean, double tolerance) {
        double mean = 0.0;
        double square = 0.0;
        double within = 0.0;
        double moves = 0.0;
        double moves2 = 0.0;
        for (Track t : tracks) {
            double w = Math.exp(t.ln());
            double[] d = off(t, j, toMean);
            mean += w * d[0];
            square += w * (d[0] * d[0] + d[1]);
            double sd = Math.sqrt(d[1]) + 1e-9;
            within += w * (phi((tolerance - d[0]) / sd) - phi((-tolerance - d[0]) / sd));
            moves += w * t.perTurn() * d[0];
            moves2 += w * t.perTurn() * t.perTurn();
        }
        return new Off(mean, Math.sqrt(Math.max(0.0, square - mean * mean)), within, moves, moves2);
    }

    /** {@return what a turn does to ln of a carburetor's flow, mean} */
    double perTurn() {
        return tracks.stream().mapToDouble(t -> Math.exp(t.ln()) * t.perTurn()).sum();
    }

    /** {@return whether a turn was made that no reading has followed yet} */
    boolean open() {
        return open;
    }

    /** Distribution function of the normal distribution, by its error function. */
    private static double phi(double x) {
        return 0.5 * Erf.erfc(-x / Math.sqrt(2.0));
    }
}
