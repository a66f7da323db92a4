package nariz.dynamics;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntToDoubleFunction;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * Finds openings of the throttle in a drive and measures what the mixture did after each.
 *
 * <p>An opening begins where, within {@value #WITHIN_S} s, the throttle opens by {@value #OPENS} of its travel or, with
 * no throttle channel, vacuum falls by {@value #FALLS_PA} Pa; the next one is looked for a second later. The mixture is
 * judged against the settled mixture that the carburetor found delivers in the same states, so that a cruise that is
 * lean anyway does not count as the pump's. Readings are put to their moment, but not sharpened: what is shorter than
 * the sensor's lag reads too small.
 */
public final class TipIns {
    /** Excess of lambda that counts as lean, share. */
    public static final double COUNTS = 0.05;
    /** Excess that a driver feels as hesitation, share; judgement. */
    public static final double FELT = 0.10;
    /**
     * Lambda from where on an opening loses torque that is felt: the mean effective pressure is within a few per cent
     * of its best from 0.8 to 1.05 and falls ever faster beyond (Heywood 1988, section 15.4.2).
     */
    public static final double WEAK = 1.05;
    /**
     * Lambda from where on too much shot is called rich: sound pumps make openings 20 % richer than settled for a
     * moment. Judgement; many sensors end a little below.
     */
    public static final double HEAVY = 0.70;
    private static final double MOVED_PA = 1e4;
    private static final double SOON_S = 3.0;
    private static final double LARGE = 0.35;
    private static final double LARGE_PA = 30e3;
    private static final int FEWEST_EACH = 3;
    private static final double T90 = 1.86;
    private static final double LEAST_SPREAD = 0.02;
    private static final double WITHIN_S = 0.35;
    private static final double OPENS = 0.07;
    private static final double FALLS_PA = 10e3;
    private static final double APART_S = 1.0;
    private static final double JUDGED_S = 1.5;
    private static final double BEFORE_S = 0.3;
    /** A sensor that reads less than this stands in no overrun's gas, lambda. */
    private static final double PLAIN = 1.06;
    private static final double CLOSED = 0.04;
    private static final double CLOSED_LOAD = 0.45;

    private TipIns() {
    }

    /**
     * Finds them.
     *
     * @param o drive made ready
     * @param settled phi that the carburetor found delivers, settled, at a sample's state; NaN where it cannot be said
     * @return openings in the order of time
     */
    public static List<TipIn> of(Observation o, IntToDoubleFunction settled) {
        List<TipIn> out = new ArrayList<>();
        DriveLog log = o.log();
        double[] t = log.timeS();
        double[] lever = log.has(Channel.THROTTLE) ? log.values(Channel.THROTTLE) : null;
        int[] firstReading = firstReadings(o);
        double idle = lever == null ? Double.NaN : closed(o, lever);
        int from = 0;
        double notBefore = Double.NEGATIVE_INFINITY;
        for (int i = 1; i < t.length; i++) {
            while (t[i] - t[from] > WITHIN_S) {
                from++;
            }
            boolean opens = lever == null ? log.vacuumPa()[from] - log.vacuumPa()[i] > FALLS_PA
                    : lever[i] - lever[from] > OPENS && log.vacuumPa()[from] - log.vacuumPa()[i] > 0.3 * FALLS_PA;
            if (opens && t[from] >= notBefore && runs(log, from)) {
                out.add(measure(o, settled, from, lever, idle, firstReading));
                notBefore = t[i] + APART_S;
            }
        }
        return out;
    }

    /** Whether the engine runs at a sample that counts, with its vacuum read. */
    static boolean runs(DriveLog log, int i) {
        return log.rpm()[i] > 300 && !Double.isNaN(log.vacuumPa()[i]) && !log.excluded(i);
    }

    /** Lever at closed throttle: what it reads on the overrun and at idle. */
    private static double closed(Observation o, double[] lever) {
        double least = Double.POSITIVE_INFINITY;
        for (int i = 0; i < lever.length; i++) {
            boolean shut = o.flag(i) == Flag.OVERRUN || (o.cellOf(i) >= 0 && o.cells().get(o.cellOf(i)).idle());
            if (shut && lever[o.stateOf(i)] < least) {
                least = lever[o.stateOf(i)];
            }
        }
        return least;
    }

    /** For every state the first reading that belongs to it or to a later one. */
    private static int[] firstReadings(Observation o) {
        int n = o.log().size();
        int[] out = new int[n];
        int reading = 0;
        for (int s = 0; s < n; s++) {
            while (reading < n - 1 && o.stateOf(reading) < s) {
                reading++;
            }
            out[s] = reading;
        }
        return out;
    }

    private static TipIn measure(Observation o, IntToDoubleFunction settled, int s, double @Nullable [] lever,
            double closed, int[] firstReading) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        double leastVacuum = log.vacuumPa()[s];
        double most = lever == null ? Double.NaN : lever[s];
        for (int i = s; i < t.length && t[i] - t[s] < 0.5; i++) {
            leastVacuum = Math.min(leastVacuum, log.vacuumPa()[i]);
            most = lever == null ? most : Math.max(most, lever[i]);
        }
        int first = firstReading[s];
        double readFrom = ownFrom(o, settled, first, s);
        double readTo = closesAfter(log, s, leastVacuum, lever, most);
        double leanest = 0;
        double felt = 0;
        double richest = 0;
        double heavy = 0;
        double after = Double.NaN;
        double lasts = 0;
        for (int i = first; i < t.length - 1 && t[o.stateOf(i)] - t[s] < JUDGED_S; i++) {
            double e = excess(o, settled, i);
            double at = t[o.stateOf(i)] - t[s];
            if (Double.isNaN(e) || !(at >= readFrom && t[i] - t[s] <= readTo)) {
                continue;
            }
            leanest = Math.max(leanest, e);
            felt = 1.0 / o.measuredPhi(i) > WEAK ? Math.max(felt, e) : felt;
            richest = Math.max(richest, -e);
            heavy = 1.0 / o.measuredPhi(i) < HEAVY ? Math.max(heavy, -e) : heavy;
            if (e > COUNTS) {
                after = Double.isNaN(after) ? Math.max(0, at) : after;
                lasts += t[i + 1] - t[i];
            }
        }
        double load = 1 - log.vacuumPa()[s] / o.sheet().ambient().pressurePa();
        boolean shut = lever == null ? load < CLOSED_LOAD : lever[s] < closed + CLOSED;
        return new TipIn(s, t[s], log.rpm()[s], log.vacuumPa()[s], leastVacuum, lever == null ? Double.NaN
                : most - lever[s], shut, readFrom, readTo, leanest, felt, richest, heavy, after, lasts);
    }

    /** A blip between gears ends where the foot comes off: what follows is the overrun's. */
    private static double closesAfter(DriveLog log, int s, double leastVacuum, double @Nullable [] lever, double most) {
        double[] t = log.timeS();
        double middle = 0.5 * (log.vacuumPa()[s] + leastVacuum);
        boolean reached = false;
        for (int i = s; i < t.length && t[i] - t[s] < JUDGED_S; i++) {
            boolean low = log.vacuumPa()[i] < middle;
            boolean foot = lever == null || lever[i] > lever[s] + 0.5 * (most - lever[s]);
            reached |= low && foot;
            if (reached && !(low && foot)) {
                return t[i] - t[s];
            }
        }
        return JUDGED_S;
    }

    /**
     * When a throttle is opened on the overrun the sensor still stands in the overrun's lean gas, and its lag draws
     * that
     * out. What was lean before the opening and has not once come back since is not the tip-in's.
     */
    private static double ownFrom(Observation o, IntToDoubleFunction settled, int first, int s) {
        double[] t = o.log().timeS();
        boolean lean = false;
        for (int i = first; i >= 0 && t[first] - t[i] < BEFORE_S; i--) {
            double e = excess(o, settled, i);
            // What the settled carburetor would deliver on the overrun is nothing to go by; the reading itself is.
            lean |= Double.isNaN(e) ? !(1.0 / o.measuredPhi(i) < PLAIN) : e > COUNTS;
        }
        if (!lean) {
            return Double.NEGATIVE_INFINITY;
        }
        for (int i = first; i < t.length && t[o.stateOf(i)] - t[s] < JUDGED_S; i++) {
            double e = excess(o, settled, i);
            if (e <= COUNTS) {
                return Math.max(0, t[o.stateOf(i)] - t[s]);
            }
        }
        return Double.NaN;
    }

    /**
     * Openings of one kind: a nozzle shows in the large ones from closed throttle, slack in the small.
     *
     * @param fromClosed whether they began at closed throttle, with the whole stroke of the pump to go
     * @param large whether the throttle opened by more than {@value #LARGE} of its travel, or without a throttle
     * channel vacuum fell by more than {@value #LARGE_PA} Pa
     * @param count how many
     * @param lean how many of them read lean enough to be felt
     * @param leanest middle of their leanest readings, share
     */
    public record Kind(boolean fromClosed, boolean large, int count, int lean, double leanest) {
        /** {@return it in words} */
        public Message words() {
            return message("tip-ins." + (fromClosed ? "closed" : "part") + (large ? "-large" : "-small"), count, lean,
                    100.0 * leanest);
        }
    }

    /**
     * Parts openings into their kinds.
     *
     * @param events openings, those that cannot be told from the overrun before apart
     * @return kinds of which there are any, from closed throttle first, large ones first
     */
    public static List<Kind> kinds(List<TipIn> events) {
        List<Kind> out = new ArrayList<>();
        for (boolean closed : new boolean[] {true, false}) {
            for (boolean large : new boolean[] {true, false}) {
                List<TipIn> own = events.stream().filter(t -> !Double.isNaN(t.readFromS()) && t.fromClosed() == closed
                        && large(t) == large).toList();
                if (!own.isEmpty()) {
                    double[] v = own.stream().mapToDouble(TipIn::leanest).sorted().toArray();
                    out.add(new Kind(closed, large, own.size(), (int) own.stream().filter(TipIn::lean).count(),
                            v[v.length / 2]));
                }
            }
        }
        return out;
    }

    private static boolean large(TipIn t) {
        return Double.isNaN(t.opened()) ? t.fromVacuumPa() - t.toVacuumPa() > LARGE_PA : t.opened() > LARGE;
    }

    /**
     * How much leaner openings read that follow another closely: a pump whose check valve hangs has not refilled.
     *
     * @param events openings in the order of time
     * @return mean difference of the leanest readings, low and high of 90 % (Welch, Biometrika 34, 1947, p. 28; the
     *     quantile of eight degrees of freedom); empty with fewer than {@value #FEWEST_EACH} of either kind
     */
    public static Optional<double[]> soonAgain(List<TipIn> events) {
        List<Double> soon = new ArrayList<>();
        List<Double> rested = new ArrayList<>();
        for (int k = 0; k < events.size(); k++) {
            TipIn e = events.get(k);
            if (!Double.isNaN(e.readFromS()) && e.fromClosed()) {
                boolean follows = k > 0 && e.atS() - events.get(k - 1).atS() < SOON_S;
                (follows ? soon : rested).add(e.leanest());
            }
        }
        if (soon.size() < FEWEST_EACH || rested.size() < FEWEST_EACH) {
            return Optional.empty();
        }
        double d = mean(soon) - mean(rested);
        double reach = T90 * Math.sqrt(variance(soon) / soon.size() + variance(rested) / rested.size());
        return Optional.of(new double[] {d, d - reach, d + reach});
    }

    private static double mean(List<Double> v) {
        return v.stream().mapToDouble(x -> x).average().orElse(Double.NaN);
    }

    private static double variance(List<Double> v) {
        double mean = mean(v);
        // Openings differ by this at least, however alike two of them came out.
        return Math.max(LEAST_SPREAD * LEAST_SPREAD, v.stream().mapToDouble(x -> (x - mean) * (x - mean)).sum()
                / (v.size() - 1));
    }

    /**
     * Whether the throttle was opened shortly before a moment: pump and walls still speak then.
     *
     * @param o drive made ready
     * @param s sample of the state
     * @param withinS how long before, s
     * @return whether vacuum was higher by {@value #MOVED_PA} Pa within that
     */
    static boolean moved(Observation o, int s, double withinS) {
        double[] t = o.log().timeS();
        double[] v = o.log().vacuumPa();
        for (int i = s; i >= 0 && t[s] - t[i] < withinS; i--) {
            if (v[i] - v[s] > MOVED_PA) {
                return true;
            }
        }
        return false;
    }

    /**
     * How much leaner a reading is than the settled mixture of its state.
     *
     * @param o drive made ready
     * @param settled phi that the carburetor found delivers, settled, at a sample's state
     * @param reading sample of the reading
     * @return share, positive is lean; NaN where either is missing or the throttle is shut
     */
    public static double excess(Observation o, IntToDoubleFunction settled, int reading) {
        if (o.flag(reading) == Flag.OVERRUN || o.flag(reading) == Flag.MISSING) {
            return Double.NaN;
        }
        return settled.applyAsDouble(o.stateOf(reading)) / o.measuredPhi(reading) - 1.0;
    }
}
