package nariz.dynamics;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;
import java.util.function.IntToDoubleFunction;
import java.util.function.ToDoubleFunction;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.estimation.WallFilm;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.text.Message;

/**
 * Pulls at full load: the mixture of each, and of all together against engine speed, against time and from one pull to
 * the next.
 *
 * <p>Over blocks of {@value #BLOCK_S} s from {@value #SETTLES_S} s into every pull, y = ln(lambda/target) with the
 * walls settled, and for c and d ln of lambda over that of the carburetor found, is a + b (n -
 * n0)/1000 + c (t - t0) + d k + u_k + e, with engine speed n, time t in the pull, k the pulls before it and u_k what
 * makes one pull differ from another (sd {@value #PULLS_DIFFER}). A jet or bleed shows in b, a supply that runs dry in
 * c, heat in d; pulls in one gear run through speed and time together, and the posterior's spreads (linear Gaussian,
 * priors {@link #PRIOR_SD}) say how far they can be told apart. Blocks of one second count as one; the doubt about
 * the trend that the correction for the walls makes widens b and c, and what it leaves, {@value #WALLS_LEAVE} a second,
 * c.
 */
public final class PullStudy {
    private static final double LOAD = 0.88;
    private static final double GAP_S = 0.3;
    private static final double SHORTEST_S = 2.0;
    private static final double BLOCK_S = 0.25;
    private static final double SETTLES_S = 1.0;
    /** Level, for 1000 rpm, for a second, for a pull more. */
    private static final double[] PRIOR_SD = {0.3, 0.06, 0.04, 0.03};
    private static final double PULLS_DIFFER = 0.015;
    private static final double WALLS_LEAVE = 0.003;
    /** Pump and walls have had their say by then, s into a pull. */
    private static final double STOP_FROM_S = 3.0;
    private static final double LEAST_SCATTER = 0.015;
    private static final double SHARED_S = 1.0;
    private static final double Z90 = 1.6449;
    /** Leaner than this over the target, and than {@value #NEVER_OVER}, for {@value #TOO_LONG_S} s: stop the pull. */
    private static final double TOO_LEAN = 0.10;
    private static final double NEVER_OVER = 1.0;
    private static final double TOO_LONG_S = 0.5;
    private static final double LEAST_KMH = 20.0;

    private PullStudy() {
    }

    /**
     * One pull.
     *
     * @param sample sample of the state at which it begins
     * @param atS time of that, s in the log
     * @param seconds how long it lasts, s
     * @param fromRpm engine speed at its beginning
     * @param toRpm engine speed at its end
     * @param error mean of lambda over target, less 1, from {@value #STOP_FROM_S} s on, when pump and walls have had
     *     their say; NaN where it was shorter or not read
     * @param leanest leanest mean of {@value #TOO_LONG_S} s, lambda over target less 1
     * @param acceleration mean of the road speed's, m/s²; NaN where speed was not logged
     * @param kmhPerThousand road speed for 1000 rpm, km/h; NaN where speed was not logged
     * @param stopAfterS from its beginning to where it ought to have been stopped, since it ran too lean; NaN if never
     * @param course what was read along it, every {@value #BLOCK_S} s once it has settled
     */
    public record Pull(int sample, double atS, double seconds, double fromRpm, double toRpm, double error,
            double leanest, double acceleration, double kmhPerThousand, double stopAfterS, List<Point> course) {
        /** Copies the list. */
        public Pull {
            course = List.copyOf(course);
        }

        /** {@return its error in words} */
        public Message words() {
            return Double.isNaN(error) ? message("dynamics.too-short") : inWords(error);
        }
    }

    /**
     * A moment of a pull.
     *
     * @param rpm engine speed
     * @param afterS from its beginning, s
     * @param error lambda over target, less 1
     */
    public record Point(double rpm, double afterS, double error) {
    }

    /**
     * A trend of all pulls together.
     *
     * @param mean change of lambda, share
     * @param low low end of its 90 % interval
     * @param high high end
     */
    public record Trend(double mean, double low, double high) {
        /** The same with one more standard error. */
        Trend widened(double sd) {
            double half = Math.hypot(high - mean, Z90 * sd);
            return new Trend(mean, mean - half, mean + half);
        }

        /** {@return whether the interval leaves out none at all} */
        public boolean told() {
            return low > 0.0 || high < 0.0;
        }
    }

    /**
     * What the pulls of a drive show.
     *
     * @param pulls in the order of time
     * @param perThousand with engine speed, for 1000 rpm
     * @param perSecond with time inside a pull, for a second
     * @param perPull from one pull to the next
     */
    public record Finding(List<Pull> pulls, Trend perThousand, Trend perSecond, Trend perPull) {
        /** Copies the list. */
        public Finding {
            pulls = List.copyOf(pulls);
        }

        /** {@return the first pull that ought to have been stopped} */
        public Optional<Pull> tooLean() {
            return pulls.stream().filter(p -> !Double.isNaN(p.stopAfterS())).findFirst();
        }
    }

    /** Means of a stretch of a pull; walls is ln of metered over burnt. */
    private record Block(double rpm, double inPullS, int pull, double y, double model, double walls) {
    }

    /**
     * Studies a drive.
     *
     * @param o drive
     * @param settled phi that the carburetor found delivers, settled, at a sample's state
     * @param target lambda wanted at a manifold vacuum, Pa
     * @return what was found; empty where there was no pull
     */
    public static Optional<Finding> of(Observation o, IntToDoubleFunction settled, DoubleUnaryOperator target) {
        List<int[]> spans = spans(o);
        if (spans.isEmpty()) {
            return Optional.empty();
        }
        List<Block> blocks = new ArrayList<>();
        List<Pull> pulls = new ArrayList<>();
        for (int[] span : spans) {
            List<Block> own = blocks(o, span, pulls.size(), settled, target);
            blocks.addAll(own);
            pulls.add(pull(o, span, own, target));
        }
        // Speeds and loads differ between moments and pulls: what the carburetor does along them is not time's.
        Trend[] beyondModel = trends(blocks, Block::model);
        Trend[] walls = trends(blocks, Block::walls);
        return Optional.of(new Finding(pulls, trends(blocks, b -> b.y() - b.walls())[1].widened(doubt(walls[1])),
                beyondModel[2].widened(doubt(walls[2])), beyondModel[3]));
    }

    private static double doubt(Trend walls) {
        return WallFilm.TREND_DOUBT * walls.mean();
    }

    /**
     * A mixture against its target.
     *
     * @param share lambda over target, less 1
     * @return it in words
     */
    public static Message inWords(double share) {
        long percent = Math.round(100.0 * Math.abs(share));
        return percent == 0 ? message("dynamics.on-target") : message(share > 0.0 ? "dynamics.lean" : "dynamics.rich",
                percent);
    }

    private static List<int[]> spans(Observation o) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        double limit = (1.0 - LOAD) * o.sheet().ambient().pressurePa();
        double idle = 1.5 * o.sheet().engine().idleRpm();
        List<int[]> out = new ArrayList<>();
        int from = -1;
        int last = -1;
        for (int i = 0; i <= t.length; i++) {
            boolean under = i < t.length && log.vacuumPa()[i] < limit && log.rpm()[i] > idle;
            if (from >= 0 && (i == t.length || (!under && t[i] - t[last] > GAP_S))) {
                if (t[last] - t[from] >= SHORTEST_S) {
                    out.add(new int[] {from, last});
                }
                from = -1;
            }
            if (under) {
                from = from < 0 ? i : from;
                last = i;
            }
        }
        return out;
    }

    /** Whether a reading is one: at the rail it still says lean. */
    private static boolean reads(Observation o, int i) {
        return switch (o.flag(i)) {
            case STEADY, TRANSIENT, RAIL -> o.measuredPhi(i) > 0.0;
            default -> false;
        };
    }

    /** As burnt, walls and all: that is what pistons feel. */
    private static double error(Observation o, int i, DoubleUnaryOperator target) {
        int s = o.stateOf(i);
        return -Math.log(o.measuredPhi(i) * target.applyAsDouble(o.log().vacuumPa()[s]));
    }

    private static List<Block> blocks(Observation o, int[] span, int pull, IntToDoubleFunction settled,
            DoubleUnaryOperator target) {
        double[] t = o.log().timeS();
        List<Block> out = new ArrayList<>();
        double[] sum = new double[5];
        int n = 0;
        double since = Double.NaN;
        for (int i = span[0]; i < t.length && o.stateOf(i) <= span[1]; i++) {
            int s = o.stateOf(i);
            if (s < span[0] || t[s] - t[span[0]] < SETTLES_S || !reads(o, i) || o.flag(i) == Flag.RAIL) {
                continue;
            }
            since = Double.isNaN(since) ? t[s] : since;
            if (t[s] - since >= BLOCK_S) {
                out.add(new Block(sum[0] / n, sum[1] / n, pull, sum[2] / n, sum[3] / n, sum[4] / n));
                sum = new double[5];
                n = 0;
                since = t[s];
            }
            sum[0] += o.log().rpm()[s];
            sum[1] += t[s] - t[span[0]];
            sum[2] += error(o, i, target);
            sum[3] -= Math.log(o.measuredPhi(i) * o.film().settles(s) / settled.applyAsDouble(s));
            sum[4] += Math.log(o.film().settles(s));
            n++;
        }
        if (n > 0) {
            out.add(new Block(sum[0] / n, sum[1] / n, pull, sum[2] / n, sum[3] / n, sum[4] / n));
        }
        return out;
    }

    private static Pull pull(Observation o, int[] span, List<Block> blocks, DoubleUnaryOperator target) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        double error = Math.expm1(blocks.stream().filter(b -> b.inPullS() >= STOP_FROM_S).mapToDouble(Block::y)
                .average().orElse(Double.NaN));
        double leanest = Double.NEGATIVE_INFINITY;
        double stop = Double.NaN;
        int from = span[0];
        double sum = 0.0;
        double lambda = 0.0;
        int n = 0;
        for (int i = span[0]; i < t.length && o.stateOf(i) <= span[1]; i++) {
            if (o.stateOf(i) < span[0] || !reads(o, i)
                    || t[o.stateOf(i)] - t[span[0]] < STOP_FROM_S) {
                from = i + 1;
                sum = 0.0;
                lambda = 0.0;
                n = 0;
                continue;
            }
            sum += error(o, i, target);
            lambda += 1.0 / o.measuredPhi(i);
            n++;
            while (from < i && t[i] - t[from + 1] >= TOO_LONG_S) {
                sum -= error(o, from, target);
                lambda -= 1.0 / o.measuredPhi(from);
                n--;
                from++;
            }
            if (t[i] - t[from] >= TOO_LONG_S - 1e-9) {
                leanest = Math.max(leanest, sum / n);
                boolean over = sum / n > TOO_LEAN && lambda / n > NEVER_OVER;
                stop = over && Double.isNaN(stop) ? t[i] - t[span[0]] : stop;
            }
        }
        double acceleration = Double.NaN;
        double gear = Double.NaN;
        if (log.has(Channel.SPEED)) {
            double[] v = log.values(Channel.SPEED);
            double d = v[span[1]] - v[span[0]];
            acceleration = d / (t[span[1]] - t[span[0]]);
            boolean moves = v[span[1]] * 3.6 > LEAST_KMH;
            gear = moves ? 3600.0 * v[span[1]] / log.rpm()[span[1]] : Double.NaN;
        }
        return new Pull(span[0], t[span[0]], t[span[1]] - t[span[0]], log.rpm()[span[0]], log.rpm()[span[1]], error,
                Math.expm1(leanest), acceleration, gear, stop, blocks.stream().map(b -> new Point(b.rpm(), b.inPullS(),
                        Math.expm1(b.y()))).toList());
    }

    /** Level and the three trends; prior alone where there are no readings. */
    private static Trend[] trends(List<Block> blocks, ToDoubleFunction<Block> of) {
        double rpm = blocks.stream().mapToDouble(Block::rpm).average().orElse(0.0);
        double time = blocks.stream().mapToDouble(Block::inPullS).average().orElse(0.0);
        int pulls = blocks.stream().mapToInt(Block::pull).max().orElse(-1) + 1;
        double[] priorSd = Arrays.copyOf(PRIOR_SD, PRIOR_SD.length + pulls);
        Arrays.fill(priorSd, PRIOR_SD.length, priorSd.length, PULLS_DIFFER);
        List<LinearFit.Row> rows = new ArrayList<>();
        for (Block k : blocks) {
            double[] x = new double[priorSd.length];
            x[0] = 1.0;
            x[1] = (k.rpm() - rpm) / 1000.0;
            x[2] = k.inPullS() - time;
            x[3] = k.pull();
            x[PRIOR_SD.length + k.pull()] = 1.0;
            rows.add(new LinearFit.Row(x, of.applyAsDouble(k)));
        }
        double[] priorMean = new double[priorSd.length];
        // The scatter about the line follows from the line: three turns settle it.
        double scatter = 2.0 * LEAST_SCATTER;
        LinearFit fit = LinearFit.of(rows, scatter, priorMean, priorSd);
        for (int turn = 0; turn < 3; turn++) {
            fit = LinearFit.of(rows, scatter * Math.sqrt(SHARED_S / BLOCK_S), priorMean, priorSd);
            double squares = 0.0;
            for (LinearFit.Row k : rows) {
                double e = k.y();
                for (int r = 0; r < priorSd.length; r++) {
                    e -= fit.mean()[r] * k.x()[r];
                }
                squares += e * e;
            }
            scatter = Math.max(LEAST_SCATTER, Math.sqrt(squares / Math.max(1, rows.size() - 1)));
        }
        Trend[] out = new Trend[PRIOR_SD.length];
        for (int r = 0; r < out.length; r++) {
            double sd = Math.hypot(fit.sd(r), r == 2 ? WALLS_LEAVE : 0.0);
            out[r] = new Trend(fit.mean()[r], fit.mean()[r] - Z90 * sd, fit.mean()[r] + Z90 * sd);
        }
        return out;
    }
}
