package nariz.idle;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.ToDoubleFunction;
import org.hipparchus.special.Erf;

/**
 * What readings at several positions say of how speed and vacuum answer to the mixture: a posterior over curves.
 *
 * <p>Over u (phi = 1/lambda where it is read, otherwise turns) speed and vacuum both follow y = b (1 - A s((u - m)/w)),
 * s(t) = t² within 1.5 and straight beyond, w another one on the lean side than on the rich: near its best an engine
 * loses with the square of the distance, and leans out faster than it floods (Heywood 1988, section 9.4). b is free for
 * every position of the stop screw and for each of the two readings, A normal around {@value #DROP} with as much
 * spread, cut at nought; both are integrated out in closed form. m and the two widths are gone through on a grid: the
 * posterior is exact for the grid, which has no local optimum to be caught in.
 */
final class IdleCurve {
    private static final double DROP = 0.03;
    private static final double[] WIDTHS = {0.11, 0.16, 0.23, 0.33};
    private static final double[] LEANER = {0.45, 0.65, 0.9};
    /** Turns that change phi about as much as 1; a width in turns is one in phi times this. */
    private static final double TURNS_PER_PHI = 2.4;
    /** Where engines idle best, phi. */
    static final double USUAL_PHI = 1.11;
    private static final double USUAL_SD = 0.07;
    private static final double STEP_PHI = 0.004;
    private static final double REACH_PHI = 0.30;
    /** Beyond where anything was read, turns. */
    private static final double REACH_TURNS = 1.0;
    private static final double STEP_TURNS = 1.0 / 48.0;
    /** What speed and vacuum drift by, as a share, however long one averages. */
    private static final double DRIFT = 0.0008;
    /** What a hand is off by, turns: a sixteenth one time in five. */
    private static final double HAND_TURNS = 0.028;
    private static final double USUAL_WIDTH_PHI = 0.19;
    private static final double USUAL_WIDTH_TURNS = 0.45;
    /** A curve's shape is good to this share of what is lost: far down a flank a reading says little of the middle. */
    private static final double SHAPE_SD = 0.2;
    /** Hypotheses below this share are left out of what a reading may teach. */
    private static final double LEAST_WEIGHT = 1e-5;
    /** Hypotheses below this share are left out of an average. */
    private static final double NEGLIGIBLE = 1e-7;
    /** Readings that are tried, evenly over where any hypothesis expects one. */
    private static final int OUTCOMES = 24;
    /** Standard deviations beyond which a reading is not expected. */
    private static final double FAR = 4.0;

    private final boolean mixed;
    private final double[] best;
    private final double[] rich;
    private final double[] lean;
    private final double[] weight;
    /** Share of the speed lost at a distance of one width, per hypothesis. */
    private final double[] drop;
    /** Its standard deviation, no more than leaves it positive. */
    private final double[] dropSd;
    private double logEvidence;

    private IdleCurve(boolean mixed, double[] best, double[] rich, double[] lean) {
        this.mixed = mixed;
        this.best = best;
        this.rich = rich;
        this.lean = lean;
        weight = new double[best.length];
        drop = new double[best.length];
        dropSd = new double[best.length];
    }

    /**
     * Weighs the readings.
     *
     * @param readings at least one; all with a mixture, or none counts as having one
     * @return the posterior
     */
    static IdleCurve of(List<IdleReading> readings) {
        return readings.stream().allMatch(IdleReading::mixed) ? over(readings, true, USUAL_PHI - REACH_PHI, USUAL_PHI
                + REACH_PHI) : inTurns(readings, least(readings), most(readings));
    }

    private static double least(List<IdleReading> readings) {
        return readings.stream().mapToDouble(IdleReading::turns).min().orElse(0.0);
    }

    private static double most(List<IdleReading> readings) {
        return readings.stream().mapToDouble(IdleReading::turns).max().orElse(0.0);
    }

    /**
     * Weighs readings by their turns alone.
     *
     * @param readings at least one
     * @param low fewest turns that anything was read at, on any path that is set beside this one
     * @param high most
     * @return the posterior; its evidence compares with that of others between the same bounds
     */
    static IdleCurve inTurns(List<IdleReading> readings, double low, double high) {
        return over(readings, false, low - REACH_TURNS, high + REACH_TURNS);
    }

    /**
     * Several posteriors as one.
     *
     * @param curves at least one, all in turns
     * @param shifts turns that are added to the places of each
     * @param weights probabilities of each, of the same length
     * @return their average
     */
    static IdleCurve averaged(List<IdleCurve> curves, double[] shifts, double[] weights) {
        List<double[]> all = new ArrayList<>();
        double sum = 0.0;
        for (int i = 0; i < curves.size(); i++) {
            IdleCurve c = curves.get(i);
            for (int h = 0; h < c.best.length; h++) {
                double w = weights[i] * c.weight[h];
                if (w > NEGLIGIBLE) {
                    all.add(new double[] {c.best[h] + shifts[i], c.rich[h], c.lean[h], w, c.drop[h], c.dropSd[h]});
                    sum += w;
                }
            }
        }
        IdleCurve out = new IdleCurve(false, column(all, 0), column(all, 1), column(all, 2));
        for (int h = 0; h < out.best.length; h++) {
            out.weight[h] = all.get(h)[3] / sum;
            out.drop[h] = all.get(h)[4];
            out.dropSd[h] = all.get(h)[5];
        }
        return out;
    }

    private static IdleCurve over(List<IdleReading> readings, boolean mixed, double low, double high) {
        double step = mixed ? STEP_PHI : STEP_TURNS;
        double scale = mixed ? 1.0 : TURNS_PER_PHI;
        List<double[]> all = new ArrayList<>();
        for (double m = low; m <= high; m += step) {
            for (double w : WIDTHS) {
                for (double l : LEANER) {
                    all.add(new double[] {m, scale * w, scale * w * l});
                }
            }
        }
        IdleCurve c = new IdleCurve(mixed, column(all, 0), column(all, 1), column(all, 2));
        Shown speed = Shown.of(readings, mixed, IdleReading::rpm, IdleReading::rpmSd);
        Shown vacuum = Shown.of(readings, mixed, IdleReading::vacuumPa, IdleReading::vacuumSd);
        double top = Double.NEGATIVE_INFINITY;
        for (int h = 0; h < c.best.length; h++) {
            double off = (c.best[h] - USUAL_PHI) / USUAL_SD;
            c.weight[h] = (mixed ? -0.5 * off * off : 0.0) + c.evidence(h, speed, vacuum);
            top = Math.max(top, c.weight[h]);
        }
        double sum = 0.0;
        for (int h = 0; h < c.best.length; h++) {
            c.weight[h] = Math.exp(c.weight[h] - top);
            sum += c.weight[h];
        }
        c.logEvidence = top + Math.log(sum);
        for (int h = 0; h < c.best.length; h++) {
            c.weight[h] /= sum;
        }
        return c;
    }

    /** {@return logarithm of what the readings are worth under all curves, but for what does not depend on places} */
    double logEvidence() {
        return logEvidence;
    }

    private static double[] column(List<double[]> all, int at) {
        return all.stream().mapToDouble(a -> a[at]).toArray();
    }

    /** Where on the axis of the curve a reading stands. */
    double at(IdleReading r) {
        return mixed ? r.phi() : r.turns();
    }

    boolean mixed() {
        return mixed;
    }

    private double shape(int h, double u) {
        double t = Math.abs(u - best[h]) / (u > best[h] ? rich[h] : lean[h]);
        return t < 1.5 ? t * t : 3.0 * t - 2.25;
    }

    /**
     * Speed or vacuum of all readings that have one.
     *
     * @param at place of each on the axis
     * @param ln its logarithm
     * @param precision of that: its own scatter, drift, and what the shape is good to there
     * @param stop which position of the stop screw, from 0
     * @param stops how many there are
     */
    private record Shown(double[] at, double[] ln, double[] precision, int[] stop, int stops) {
        static Shown of(List<IdleReading> all, boolean mixed, ToDoubleFunction<IdleReading> y,
                ToDoubleFunction<IdleReading> sd) {
            List<IdleReading> readings = all.stream().filter(r -> !Double.isNaN(y.applyAsDouble(r))).toList();
            List<Double> stops = readings.stream().map(IdleReading::stop).distinct().toList();
            int[] stop = readings.stream().mapToInt(r -> stops.indexOf(r.stop())).toArray();
            double[] ln = readings.stream().mapToDouble(r -> Math.log(y.applyAsDouble(r))).toArray();
            double[] best = new double[stops.size()];
            Arrays.fill(best, Double.NEGATIVE_INFINITY);
            for (int i = 0; i < ln.length; i++) {
                best[stop[i]] = Math.max(best[stop[i]], ln[i]);
            }
            double[] precision = new double[ln.length];
            for (int i = 0; i < ln.length; i++) {
                IdleReading r = readings.get(i);
                double lost = best[stop[i]] - ln[i];
                double own = Math.hypot(DRIFT, sd.applyAsDouble(r) / y.applyAsDouble(r));
                // A hand that is off moves the reading along the slope.
                double hand = mixed ? 0.0 : HAND_TURNS * 2.0 * Math.sqrt(DROP * lost) / USUAL_WIDTH_TURNS;
                precision[i] = 1.0 / (own * own + SHAPE_SD * SHAPE_SD * lost * lost + hand * hand);
            }
            return new Shown(readings.stream().mapToDouble(mixed ? IdleReading::phi : IdleReading::turns).toArray(),
                    ln, precision, stop, stops.size());
        }
    }

    /** Log evidence of a hypothesis; its drop is set to the posterior mean on the way. */
    private double evidence(int h, Shown speed, Shown vacuum) {
        double sum = evidence(h, speed);
        double ofSpeed = drop[h];
        if (vacuum.ln().length > 0) {
            sum += evidence(h, vacuum);
            drop[h] = 0.5 * (ofSpeed + drop[h]);
        }
        return sum;
    }

    private double evidence(int h, Shown y) {
        double yy = 0.0;
        double ss = 0.0;
        double ys = 0.0;
        for (int stop = 0; stop < y.stops(); stop++) {
            double p = 0.0;
            double pl = 0.0;
            double ps = 0.0;
            double pll = 0.0;
            double pss = 0.0;
            double pls = 0.0;
            for (int i = 0; i < y.ln().length; i++) {
                if (y.stop()[i] == stop) {
                    double w = y.precision()[i];
                    double ln = y.ln()[i];
                    double s = shape(h, y.at()[i]);
                    p += w;
                    pl += w * ln;
                    ps += w * s;
                    pll += w * ln * ln;
                    pss += w * s * s;
                    pls += w * ln * s;
                }
            }
            yy += pll - pl * pl / p;
            ss += pss - ps * ps / p;
            ys += -(pls - pl * ps / p);
        }
        double prior = 1.0 / (DROP * DROP);
        double precision = ss + prior;
        double mean = (ys + prior * DROP) / precision;
        drop[h] = Math.max(0.2 * DROP, mean);
        dropSd[h] = Math.min(1.0 / Math.sqrt(precision), 0.8 * drop[h]);
        double positive = 0.5 * Erf.erfc(-mean * Math.sqrt(precision / 2.0));
        return -0.5 * (yy + prior * DROP * DROP - precision * mean * mean) - 0.5 * Math.log(precision / prior)
                + Math.log(Math.max(1e-12, positive));
    }

    /**
     * How likely a change of speed was, before it was read.
     *
     * @param ln logarithm of the speed after over the speed before
     * @param from place on the axis before
     * @param to place after
     * @param sd of the reading of ln, with what the shapes do not say
     * @return density over the posterior of curves
     */
    double density(double ln, double from, double to, double sd) {
        double sum = 0.0;
        for (int h = 0; h < best.length; h++) {
            if (weight[h] > LEAST_WEIGHT) {
                double d = shape(h, from) - shape(h, to);
                double s = Math.hypot(sd, dropSd[h] * d);
                double z = (ln - drop[h] * d) / s;
                sum += weight[h] * Math.exp(-0.5 * z * z) / s;
            }
        }
        return sum;
    }

    /**
     * What an idle is finished by.
     *
     * @param school school
     * @param phi mixture aimed at, 1/lambda
     * @param bend how phi bends over turns, as {@link Reach#bend}
     */
    record Aim(School school, double phi, double bend) {
    }

    /** Where a school finishes on a curve. */
    private double finish(int h, Aim aim) {
        return switch (aim.school()) {
            case HIGHEST_VACUUM, HIGHEST_SPEED -> best[h];
            case LEAN_BEST -> best[h] - lean[h] * distance(School.LITTLE / drop[h]);
            case MIDDLE -> middle(h, distance(School.DROP / drop[h]), aim.bend());
            case MIXTURE -> mixed ? aim.phi() : best[h];
        };
    }

    /** Middle between two places so many widths from the best: a person counts turns, and those bend. */
    private double middle(int h, double widths, double bend) {
        double half = 0.5 * (rich[h] + lean[h]) * widths;
        return best[h] + 0.5 * (rich[h] - lean[h]) * widths + (mixed ? bend * half * half : 0.0);
    }

    /** Widths from the best at which the shape reaches a value. */
    private static double distance(double value) {
        return value < 2.25 ? Math.sqrt(value) : (value + 2.25) / 3.0;
    }

    /** {@return how far a turn takes the mixture, phi, by how narrow a curve in turns is} */
    double phiPerTurn() {
        double width = 0.0;
        for (int h = 0; h < best.length; h++) {
            width += weight[h] * Math.log(rich[h]);
        }
        return USUAL_WIDTH_PHI / Math.exp(width);
    }

    /**
     * Where a school finishes, and how sure that is.
     *
     * @param u place on the axis: phi or turns
     * @param sd standard deviation
     */
    record Finish(double u, double sd) {
    }

    Finish finish(Aim aim) {
        double mean = 0.0;
        double square = 0.0;
        for (int h = 0; h < best.length; h++) {
            double f = finish(h, aim);
            mean += weight[h] * f;
            square += weight[h] * f * f;
        }
        return new Finish(mean, Math.sqrt(Math.max(0.0, square - mean * mean)));
    }

    /** Expected share of the speed that is lost at a place against the best. */
    double lost(double u) {
        double sum = 0.0;
        for (int h = 0; h < best.length; h++) {
            sum += weight[h] * drop[h] * shape(h, u);
        }
        return sum;
    }

    /** Curve of the speed lost, for a picture: mean and standard deviation at a place. */
    double[] lostBand(double u) {
        double mean = lost(u);
        double square = 0.0;
        for (int h = 0; h < best.length; h++) {
            double y = drop[h] * shape(h, u);
            square += weight[h] * y * y;
        }
        return new double[] {mean, Math.sqrt(Math.max(0.0, square - mean * mean))};
    }

    /**
     * By how much a reading at a place would be expected to lower the variance of the finish: var f less the mean of
     * var(f | y) over what may be read, y the speed there against the speed now. Taken over the whole grid, with what
     * is not known of A in y: one reading on a flank moves place, width and drop together, and a linear predictor
     * credits it with too little where it tells them apart and with too much where it does not.
     *
     * @param u place read
     * @param now place of the last reading, against which it is seen
     * @param aim what it is finished by
     * @param sd of a reading of the difference, as a share
     * @return variance that is expected to go, in squares of the axis
     */
    double teaches(double u, double now, Aim aim, double sd) {
        int n = (int) Arrays.stream(weight).filter(w -> w > LEAST_WEIGHT).count();
        // Without what is left out: f is near 1, and a share of 0.0005 too little would pass for a variance.
        double whole = Arrays.stream(weight).filter(w -> w > LEAST_WEIGHT).sum();
        // Weight, finish, mean and standard deviation of the reading by hypothesis.
        double[][] of = new double[n][];
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        double mean = 0.0;
        double square = 0.0;
        int k = 0;
        for (int h = 0; h < best.length; h++) {
            if (weight[h] > LEAST_WEIGHT) {
                double f = finish(h, aim);
                double d = shape(h, now) - shape(h, u);
                double s = Math.hypot(sd, dropSd[h] * d);
                double w = weight[h] / whole;
                of[k] = new double[] {w, f, drop[h] * d, s};
                low = Math.min(low, of[k][2] - 2.0 * s);
                high = Math.max(high, of[k][2] + 2.0 * s);
                mean += w * f;
                square += w * f * f;
                k++;
            }
        }
        return square - mean * mean - left(of, low, high);
    }

    /** Mean over readings between two bounds of the variance of the finish once one is known. */
    private static double left(double[][] of, double low, double high) {
        double left = 0.0;
        double all = 0.0;
        for (int k = 0; k < OUTCOMES; k++) {
            double y = low + (k + 0.5) * (high - low) / OUTCOMES;
            double p = 0.0;
            double pf = 0.0;
            double pff = 0.0;
            for (double[] h : of) {
                double z = (y - h[2]) / h[3];
                double q = z * z > FAR * FAR ? 0.0 : h[0] * Math.exp(-0.5 * z * z) / h[3];
                p += q;
                pf += q * h[1];
                pff += q * h[1] * h[1];
            }
            if (p > 0.0) {
                left += pff - pf * pf / p;
                all += p;
            }
        }
        return all > 0.0 ? left / all : 0.0;
    }

    /** Most and least likely place of the best, for words: the 5 and 95 % points. */
    double[] bounds(Aim aim) {
        double[] f = new double[best.length];
        Integer[] order = new Integer[best.length];
        for (int h = 0; h < best.length; h++) {
            f[h] = finish(h, aim);
            order[h] = h;
        }
        Arrays.sort(order, (a, b) -> Double.compare(f[a], f[b]));
        double sum = 0.0;
        double low = Double.NaN;
        for (int h : order) {
            sum += weight[h];
            if (Double.isNaN(low) && sum >= 0.05) {
                low = f[h];
            }
            if (sum >= 0.95) {
                return new double[] {low, f[h]};
            }
        }
        return new double[] {low, f[order[order.length - 1]]};
    }
}
