package nariz.app.state;

import java.util.Arrays;
import java.util.List;
import nariz.diagnosis.Analysis;
import nariz.dynamics.TipIn;
import nariz.estimation.Observation;

/**
 * Openings of the throttle with the mixture after each, made ready for drawing.
 *
 * @param events in the order of time
 * @param excess how much leaner than settled, share, by event and step; NaN where nothing was read; shared, not copied
 */
public record TipInSeries(List<TipIn> events, float[][] excess) {
    /** First moment shown, s from the beginning of the opening. */
    public static final double FROM_S = -0.3;
    /** Time between steps, s. */
    public static final double STEP_S = 0.05;
    /** Number of steps. */
    public static final int STEPS = 41;

    /** Copies the list. */
    public TipInSeries {
        events = List.copyOf(events);
    }

    static TipInSeries of(Analysis a) {
        List<TipIn> events = a.tipIns();
        float[][] out = new float[events.size()][STEPS];
        for (int k = 0; k < out.length; k++) {
            Arrays.fill(out[k], Float.NaN);
            fill(a, events.get(k), out[k]);
        }
        return new TipInSeries(events, out);
    }

    /** The last reading that belongs to a state of each step. */
    private static void fill(Analysis a, TipIn e, float[] out) {
        Observation o = a.observation();
        double[] t = o.log().timeS();
        double end = e.atS() + FROM_S + STEPS * STEP_S;
        int i = o.log().indexAt(e.atS() + FROM_S);
        for (; i < t.length && t[o.stateOf(i)] < end; i++) {
            int step = (int) Math.floor((t[o.stateOf(i)] - e.atS() - FROM_S) / STEP_S);
            double at = t[o.stateOf(i)] - e.atS();
            if (step >= 0 && at >= e.readFromS() && t[i] - e.atS() <= e.readToS()) {
                out[step] = (float) a.excess(i);
            }
        }
        int last = STEPS;
        while (last > 0 && Float.isNaN(out[last - 1])) {
            last--;
        }
        // A slow logger leaves steps between its readings.
        for (int k = 1; k < last; k++) {
            if (Float.isNaN(out[k])) {
                out[k] = out[k - 1];
            }
        }
    }

    /**
     * Middle of all openings at a step.
     *
     * @param step step
     * @return median of excess, NaN where nothing was read
     */
    public double median(int step) {
        double[] v = Arrays.stream(excess).mapToDouble(e -> e[step]).filter(x -> !Double.isNaN(x)).sorted().toArray();
        return v.length == 0 ? Double.NaN : v[v.length / 2];
    }

    /** {@return openings after which it reads lean enough to be felt} */
    public List<TipIn> lean() {
        return events.stream().filter(TipIn::lean).toList();
    }

    /**
     * The opening nearest a moment.
     *
     * @param timeS time, s in the log
     * @return its index, or -1 when none is within three seconds
     */
    public int near(double timeS) {
        int best = -1;
        double least = 3;
        for (int k = 0; k < events.size(); k++) {
            double d = Math.abs(events.get(k).atS() - timeS);
            if (d < least) {
                least = d;
                best = k;
            }
        }
        return best;
    }
}
