package nariz.dynamics;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import java.util.function.IntToDoubleFunction;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.DriveLog;
import nariz.units.Units;

/**
 * At which vacuum the enrichment is seen to open and to shut, and how often it does.
 *
 * <p>For every state the carburetor found says what it would deliver with the enrichment shut, c, and open, p. With the
 * readings r of blocks of {@value #BLOCK_S} s, y = ln(r/c) = o g d + a + b v + k ln m + s q + e; d = ln(p/c), o the
 * part that is open, clamp((v0 + w/2 - v)/w, 0, 1) with the ramp w = {@value #RAMP_INHG} inHg; g how much of what the
 * model says it really adds, a, b, k, s what the model misses in level, along vacuum v, along air m and in the second
 * stage's share q (their spreads are {@link #PRIOR_SD}), e the scatter of a block. v0 is v_o after the enrichment was
 * surely shut and v_o + h after it was surely open: springs and pistons have friction. The marginal likelihood of
 * (v_o, h) on a grid, linear Gaussian in the rest (Box &amp; Tiao, Bayesian Inference in Statistical Analysis, 1973,
 * 2.7), times a prior around the part's rating (nine in ten within {@value #STAMPED_SD} inHg, the others {@value
 * #OTHER_SD}) gives opening and hysteresis with their intervals. Moments shortly after the throttle was opened are
 * left out.
 */
public final class EnrichmentStudy {
    private static final double BLOCK_S = 0.25;
    private static final double RAMP_INHG = 1.5;
    /** Gain, level, slope for an inHg, slope for ln air, level of the second stage's share. */
    private static final double[] PRIOR_MEAN = {1.0, 0.0, 0.0, 0.0, 0.0};
    private static final double[] PRIOR_SD = {0.25, 0.05, 0.006, 0.05, 0.10};
    /** Most parts open where they are stamped; some are not what they are stamped. */
    private static final double STAMPED_SD = 0.4;
    private static final double OTHER_SD = 2.5;
    private static final double OTHER = 0.10;
    /** Where around the rating readings are used, and how far it can be off, inHg. */
    private static final double AROUND = 6.0;
    private static final double STEP = 0.1;
    private static final double[] HYSTERESIS = {0.0, 0.3, 0.6, 0.9, 1.2, 1.6, 2.0, 2.5};
    /** Prior of the hysteresis falls with this, inHg. */
    private static final double HYSTERESIS_SCALE = 0.6;
    /** Vacuum that moves faster than this says little of a line, inHg/s. */
    private static final double QUICK = 2.5;
    private static final double SETTLES_S = 1.5;
    /** Least scatter of a block, and how far neighbours share it, s. */
    private static final double LEAST_SCATTER = 0.012;
    private static final double SHARED_S = 4.0;
    /** Brings ln air to about nought. */
    private static final double MIDDLE_AIR = 3.0;
    private static final double LEAST_ADDED = 0.02;
    private static final int FEWEST_BLOCKS = 24;
    private static final double LOWEST = 0.5;
    private static final double LEAST_GAIN = 0.3;
    private static final double JUDGED_S = 2.0;
    private static final double OPPOSITE = 0.25;
    private static final double CLOSE_PA = 1.5 * Units.INHG;
    /** An opening this soon after a shutting is flutter, s. */
    private static final double FLUTTER_S = 2.0;

    private final Observation o;
    private final double ratedInHg;
    private final List<Block> blocks;

    private EnrichmentStudy(Observation o, double ratedInHg, List<Block> blocks) {
        this.o = o;
        this.ratedInHg = ratedInHg;
        this.blocks = blocks;
    }

    /**
     * Readings of a moment: vacuum in inHg, ln of read over shut, ln of open over shut, ln air, part of second stage.
     */
    private record Block(int sample, double vacuum, double y, double added, double logAir, double secondShare,
            Since since) {
        Block after(Since way) {
            return new Block(sample, vacuum, y, added, logAir, secondShare, way);
        }

        /** What the model may be wrong by here. */
        double[] row(double open, double ratedInHg) {
            return new double[] {added * open, 1.0, vacuum - ratedInHg, logAir, secondShare};
        }
    }

    /**
     * What was seen.
     *
     * @param opensPa vacuum at which it is half open as vacuum falls, Pa: mean, low and high of 90 %
     * @param shutsPa the same as vacuum rises, Pa
     * @param openings how often it opens on this drive
     * @param flutters how often within {@value #FLUTTER_S} s of having shut
     * @param openS time open, s
     * @param adds what it adds when open, ln of the fuel with it shut, mean over the readings
     * @param stuckShut stretches of at least {@value #JUDGED_S} s under the line in which nothing was added
     * @param stuckOpen stretches of that length above it in which it still was
     * @param judged stretches that could tell
     * @param moments what was read, in the order of time; shared, not copied
     */
    public record Seen(double[] opensPa, double[] shutsPa, int openings, int flutters, double openS, double adds,
            int stuckShut, int stuckOpen, int judged, List<Moment> moments) {
        /** Half the band over which it opens, Pa. */
        public static final double HALF_BAND_PA = 0.5 * RAMP_INHG * Units.INHG;

        /** {@return whether the line is read closely enough to act on: within 1.5 inHg} */
        public boolean close() {
            return opensPa[2] - opensPa[1] <= CLOSE_PA;
        }
    }

    /**
     * One reading near the line.
     *
     * @param sample sample of its state
     * @param vacuumPa manifold vacuum, Pa
     * @param share part of the enrichment that was read, about 0 to 1; noise goes beyond
     * @param rising whether it was open before
     */
    public record Moment(int sample, double vacuumPa, double share, boolean rising) {
    }

    /**
     * Studies a drive.
     *
     * @param o drive
     * @param shut settled phi at a sample's state with the enrichment shut
     * @param open the same with it open
     * @param ratedPa vacuum under which it opens as rated, Pa; positive
     * @param cancelled asked now and then
     * @return what was seen; empty where too little was read on either side of the line
     */
    public static Optional<Seen> of(Observation o, IntToDoubleFunction shut, IntToDoubleFunction open, double ratedPa,
            BooleanSupplier cancelled) {
        double rated = ratedPa / Units.INHG;
        EnrichmentStudy s = new EnrichmentStudy(o, rated, blocks(o, shut, open, rated));
        return s.blocks.size() < FEWEST_BLOCKS ? Optional.empty() : Optional.of(s.seen(cancelled));
    }

    private static List<Block> blocks(Observation o, IntToDoubleFunction shut, IntToDoubleFunction open,
            double rated) {
        double[] t = o.log().timeS();
        List<Block> out = new ArrayList<>();
        Since since = new Since();
        int from = 0;
        while (from < t.length) {
            int to = from + 1;
            while (to < t.length && t[to] - t[from] < BLOCK_S) {
                to++;
            }
            since.passes(o.log().vacuumPa(), from, to);
            Optional<Block> b = block(o, shut, open, rated, from, to);
            if (b.isPresent()) {
                out.add(b.get().after(since));
                since = new Since();
            }
            from = to;
        }
        return out;
    }

    /** Where the vacuum went since the last block, which says whether the enrichment was open on the way. */
    private static final class Since {
        private double least = Double.POSITIVE_INFINITY;
        private double most = Double.NEGATIVE_INFINITY;
        private boolean mostLast;

        void passes(double[] vacuumPa, int from, int to) {
            for (int i = from; i < to; i++) {
                double v = vacuumPa[i] / Units.INHG;
                if (v >= most) {
                    most = v;
                    mostLast = true;
                }
                if (v <= least) {
                    least = v;
                    mostLast = false;
                }
            }
        }

        boolean open(boolean before, double opensFully, double shutsFully) {
            boolean opened = least < opensFully;
            boolean shut = most > shutsFully;
            if (opened && shut) {
                return !mostLast;
            }
            return opened || (before && !shut);
        }
    }

    private static Optional<Block> block(Observation o, IntToDoubleFunction shut, IntToDoubleFunction open,
            double rated, int from, int to) {
        double[] sum = new double[5];
        int n = 0;
        double least = Double.POSITIVE_INFINITY;
        double most = Double.NEGATIVE_INFINITY;
        for (int i = from; i < to; i++) {
            int s = o.stateOf(i);
            double vacuum = o.log().vacuumPa()[s] / Units.INHG;
            double c = shut.applyAsDouble(s);
            double p = open.applyAsDouble(s);
            boolean counts = o.flag(i) == Flag.STEADY || o.flag(i) == Flag.TRANSIENT;
            if (counts && Math.abs(vacuum - rated) <= AROUND && o.measuredPhi(i) > 0.0 && c > 0.0 && p > 0.0
                    && o.airKgPerS(s) > 0.0) {
                sum[0] += vacuum;
                sum[1] += Math.log(o.measuredPhi(i) * o.film().settles(s) / c);
                sum[2] += Math.log(p / c);
                sum[3] += Math.log(o.airKgPerS(s));
                sum[4] += secondShare(o, s);
                n++;
            }
            least = Math.min(least, vacuum);
            most = Math.max(most, vacuum);
        }
        double span = Math.max(1e-3, o.log().timeS()[to - 1] - o.log().timeS()[from]);
        boolean slow = most - least <= Math.max(0.5, QUICK * span) && !TipIns.moved(o, o.stateOf(from), SETTLES_S);
        return n == 0 || !slow || sum[2] / n < LEAST_ADDED ? Optional.empty()
                : Optional.of(new Block(o.stateOf(from + (to - from) / 2),
                sum[0] / n, sum[1] / n, sum[2] / n, sum[3] / n + MIDDLE_AIR, sum[4] / n, new Since()));
    }

    private static double secondShare(Observation o, int s) {
        double second = 0.0;
        double all = 0.0;
        for (Circuit c : o.sheet().carburetor().family().circuits()) {
            double phi = o.phi(c, s);
            all += phi;
            second += c.stage() == Stage.SECONDARY ? phi : 0.0;
        }
        return all > 0.0 ? second / all : 0.0;
    }

    private Seen seen(BooleanSupplier cancelled) {
        int steps = (int) Math.round(2 * AROUND / STEP) + 1;
        double[][] log = new double[steps][HYSTERESIS.length];
        double scatter = scatter();
        LinearFit.Sums rest = shut();
        double most = Double.NEGATIVE_INFINITY;
        double[] best = {ratedInHg, 0.0};
        boolean[] rising = new boolean[blocks.size()];
        for (int k = 0; k < steps; k++) {
            if (cancelled.getAsBoolean()) {
                throw new CancellationException("analysis was cancelled");
            }
            double opens = ratedInHg - AROUND + k * STEP;
            for (int h = 0; h < HYSTERESIS.length; h++) {
                log[k][h] = opens < LOWEST ? Double.NEGATIVE_INFINITY : fit(open(opens, HYSTERESIS[h], rising),
                        rest, scatter).logEvidence() + Math.log(prior(opens)) - HYSTERESIS[h] / HYSTERESIS_SCALE;
                if (log[k][h] > most) {
                    most = log[k][h];
                    best = new double[] {opens, HYSTERESIS[h]};
                }
            }
        }
        double[] opening = new double[steps];
        double[] shutting = new double[steps + (int) Math.round(HYSTERESIS[HYSTERESIS.length - 1] / STEP)];
        double sum = 0.0;
        for (int k = 0; k < steps; k++) {
            for (int h = 0; h < HYSTERESIS.length; h++) {
                double p = Math.exp(log[k][h] - most);
                opening[k] += p;
                shutting[k + (int) Math.round(HYSTERESIS[h] / STEP)] += p;
                sum += p;
            }
        }
        double[] open = open(best[0], best[1], rising);
        return counted(interval(opening, sum), interval(shutting, sum), open, rising, fit(open, rest, scatter).mean());
    }

    private double prior(double opens) {
        double z = opens - ratedInHg;
        return (1.0 - OTHER) / STAMPED_SD * Math.exp(-0.5 * z * z / (STAMPED_SD * STAMPED_SD))
                + OTHER / OTHER_SD * Math.exp(-0.5 * z * z / (OTHER_SD * OTHER_SD));
    }

    /** Scatter of blocks about their neighbours in vacuum, as it would be for independent blocks. */
    private double scatter() {
        double sum = 0.0;
        int n = 0;
        for (int i = 1; i < blocks.size(); i++) {
            Block a = blocks.get(i - 1);
            Block b = blocks.get(i);
            if (Math.abs(a.vacuum() - b.vacuum()) < 0.5) {
                sum += (b.y() - a.y()) * (b.y() - a.y()) / 2.0;
                n++;
            }
        }
        double own = n == 0 ? 0.03 : Math.sqrt(sum / n);
        return Math.max(LEAST_SCATTER, own) * Math.sqrt(SHARED_S / BLOCK_S);
    }

    /** How far it is open at every block, for a line and its hysteresis. */
    private double[] open(double opens, double hysteresis, boolean[] rising) {
        double[] out = new double[blocks.size()];
        boolean wasOpen = false;
        for (int i = 0; i < out.length; i++) {
            double v = blocks.get(i).vacuum();
            wasOpen = blocks.get(i).since().open(wasOpen, opens - 0.5 * RAMP_INHG, opens + hysteresis + 0.5
                    * RAMP_INHG);
            rising[i] = wasOpen;
            double line = wasOpen ? opens + hysteresis : opens;
            out[i] = Math.clamp((line + 0.5 * RAMP_INHG - v) / RAMP_INHG, 0.0, 1.0);
        }
        return out;
    }

    /** Only what the enrichment adds depends on the line: the sums of the rest are taken once. */
    private LinearFit fit(double[] open, LinearFit.Sums rest, double scatter) {
        int n = PRIOR_SD.length;
        double[][] xx = new double[n][];
        double[] xy = rest.xy().clone();
        for (int r = 0; r < n; r++) {
            xx[r] = rest.xx()[r].clone();
        }
        for (int i = 0; i < open.length; i++) {
            Block k = blocks.get(i);
            double x = k.added() * open[i];
            if (x != 0.0) {
                xx[0][0] += x * x;
                xx[1][0] += x;
                xx[2][0] += x * (k.vacuum() - ratedInHg);
                xx[3][0] += x * k.logAir();
                xx[4][0] += x * k.secondShare();
                xy[0] += x * k.y();
            }
        }
        return LinearFit.of(new LinearFit.Sums(xx, xy, rest.yy()), scatter, PRIOR_MEAN, PRIOR_SD);
    }

    /** Sums with the enrichment shut everywhere. */
    private LinearFit.Sums shut() {
        return LinearFit.Sums.of(blocks.stream().map(k -> new LinearFit.Row(k.row(0.0, ratedInHg), k.y())).toList(),
                PRIOR_SD.length);
    }

    private double[] interval(double[] p, double sum) {
        double mean = 0.0;
        double before = 0.0;
        double low = Double.NaN;
        double high = Double.NaN;
        for (int k = 0; k < p.length; k++) {
            double at = ratedInHg - AROUND + k * STEP;
            mean += at * p[k] / sum;
            double after = before + p[k] / sum;
            low = before < 0.05 && after >= 0.05 ? at : low;
            high = before < 0.95 && after >= 0.95 ? at : high;
            before = after;
        }
        return new double[] {mean * Units.INHG, low * Units.INHG, high * Units.INHG};
    }

    private Seen counted(double[] opens, double[] shuts, double[] open, boolean[] rising, double[] mean) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        boolean isOpen = false;
        int openings = 0;
        int flutters = 0;
        double openS = 0.0;
        double shutAt = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < t.length; i++) {
            double v = log.vacuumPa()[i];
            if (!isOpen && v < opens[0]) {
                isOpen = true;
                openings++;
                flutters += t[i] - shutAt < FLUTTER_S ? 1 : 0;
            } else if (isOpen && v > shuts[0]) {
                isOpen = false;
                shutAt = t[i];
            }
            openS += isOpen && i > 0 ? Math.min(1.0, t[i] - t[i - 1]) : 0.0;
        }
        List<Moment> moments = new ArrayList<>();
        double added = 0.0;
        for (int i = 0; i < open.length; i++) {
            Block k = blocks.get(i);
            double rest = k.y();
            double[] row = k.row(0.0, ratedInHg);
            for (int c = 1; c < row.length; c++) {
                rest -= row[c] * mean[c];
            }
            double full = k.added() * Math.max(LEAST_GAIN, mean[0]);
            added += full / open.length;
            moments.add(new Moment(k.sample(), k.vacuum() * Units.INHG, rest / full, rising[i]));
        }
        int[] stuck = stuck(moments, open);
        return new Seen(opens, shuts, openings, flutters, openS, added, stuck[0], stuck[1], stuck[2],
                List.copyOf(moments));
    }

    /** Stretches in which it does the opposite of what the vacuum asks: rods that stick, a valve that hangs. */
    private int[] stuck(List<Moment> moments, double[] open) {
        double[] t = o.log().timeS();
        int[] out = new int[3];
        int from = 0;
        while (from < open.length) {
            int to = from;
            boolean wantsOpen = open[from] >= 1.0;
            double sum = 0.0;
            while (to < open.length && open[to] >= 1.0 == wantsOpen && (open[to] >= 1.0 || open[to] <= 0.0)
                    && (to == from || t[moments.get(to).sample()] - t[moments.get(to - 1).sample()] < 4 * BLOCK_S)) {
                sum += moments.get(to).share();
                to++;
            }
            to = Math.max(to, from + 1);
            if (t[moments.get(to - 1).sample()] - t[moments.get(from).sample()] >= JUDGED_S) {
                out[2]++;
                out[0] += wantsOpen && sum / (to - from) < OPPOSITE ? 1 : 0;
                out[1] += !wantsOpen && sum / (to - from) > 1.0 - OPPOSITE ? 1 : 0;
            }
            from = to;
        }
        return out;
    }
}
