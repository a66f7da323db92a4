package nariz.app.state;

import java.util.List;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.estimation.Cell;
import nariz.estimation.Flag;
import nariz.estimation.Observation;

/**
 * Display series of a drive, computed once beside the interface thread: measured and predicted lambda by sample of the
 * engine's state. Every picture means by a moment what the engine did then, so a reading stands where it belongs, not
 * where the sensor came to see it.
 */
public final class Trace {
    /** Half of the time a steady read-out is the mean of: single readings scatter by two per cent. */
    private static final double AROUND_S = 0.25;

    private final Observation observation;
    private final float[] measured;
    private final float[] predicted;

    private Trace(Observation observation, float[] measured, float[] predicted) {
        this.observation = observation;
        this.measured = measured;
        this.predicted = predicted;
    }

    static Trace of(Analysis a) {
        Observation o = a.observation();
        int n = o.log().size();
        float[] measured = new float[n];
        float[] predicted = new float[n];
        for (int s = 0; s < n; s++) {
            int i = o.readingOf(s);
            measured[s] = (float) (1.0 / o.measuredPhi(i));
            predicted[s] = (float) (1.0 / a.predictedPhi(i));
        }
        return new Trace(o, measured, predicted);
    }

    /**
     * Measured lambda.
     *
     * @param s sample of the state
     * @return lambda of the reading that belongs to it, NaN where missing
     */
    public double measured(int s) {
        return measured[s];
    }

    /**
     * Predicted lambda.
     *
     * @param s sample of the state
     * @return lambda the sensor should read of it, NaN where unknown
     */
    public double predicted(int s) {
        return predicted[s];
    }

    /**
     * Why the reading of a moment counts or not.
     *
     * @param s sample of the state
     * @return flag of the reading that belongs to it
     */
    public Flag flag(int s) {
        return observation.flag(observation.readingOf(s));
    }

    /**
     * Cell the reading of a moment went into.
     *
     * @param s sample of the state
     * @return index among the cells, or -1
     */
    public int cell(int s) {
        return observation.cellOf(observation.readingOf(s));
    }

    /**
     * Measured lambda as a number to read: where the engine runs steadily the mean of the half second around, elsewhere
     * the one reading, since what happens within a tip-in must not be smoothed away.
     *
     * @param s sample of the state
     * @return lambda, mean in phi; NaN where missing
     */
    public double measuredAround(int s) {
        return around(measured, s);
    }

    /**
     * Predicted lambda as a number to read, over the same time as {@link #measuredAround}.
     *
     * @param s sample of the state
     * @return lambda, mean in phi; NaN where unknown
     */
    public double predictedAround(int s) {
        return around(predicted, s);
    }

    private double around(float[] lambda, int s) {
        if (flag(s) != Flag.STEADY) {
            return lambda[s];
        }
        double[] t = observation.log().timeS();
        int from = s;
        while (from > 0 && t[s] - t[from - 1] <= AROUND_S && flag(from - 1) == Flag.STEADY) {
            from--;
        }
        double phi = 0;
        int to = from;
        for (; to < t.length && t[to] - t[s] <= AROUND_S && flag(to) == Flag.STEADY; to++) {
            phi += 1.0 / lambda[to];
        }
        return (to - from) / phi;
    }

    /**
     * The middle of the longest stay that speaks loudest for a stop: where its change moves the mixture most, or
     * without a change where its circuit delivers most and is off most.
     *
     * @param a analysis
     * @param stop whose circuits
     * @param idling whether the idle counts
     * @param missing whether the circuit may be missing just where it should deliver
     * @return sample
     */
    int bestMoment(Analysis a, Stop stop, boolean idling, boolean missing) {
        if (!a.estimated()) {
            return 0;
        }
        Family family = a.observation().sheet().carburetor().family();
        List<Circuit> mine = stop.circuits(family);
        List<Circuit> slot = family.circuits().stream().filter(c -> c.lowSpeed() && c.stage() == Stage.PRIMARY)
                .toList();
        double[] after = a.phiAfter();
        boolean changes = a.advice().changes().stream().anyMatch(c -> c.now()
                && mine.contains(c.circuit()));
        int best = 0;
        double most = -1;
        for (int i = 0; i < a.estimate().cells().size(); i++) {
            Cell c = a.estimate().cells().get(i);
            double share = a.estimate().share(i, mine);
            double moved = Math.abs(after[i] / a.estimate().phi(i) - 1);
            double error = Math.abs(a.targetPhi(i) / a.estimate().phi(i) - 1) + 0.01;
            boolean late = changes && missing && a.estimate().share(i, slot) < 0.3;
            double speaks = changes ? moved * error * (late ? 1 : share) : share * error;
            double loud = speaks * Math.sqrt(Math.min(c.dwellS(), 10));
            if (loud > most && (!c.idle() || idling)) {
                most = loud;
                best = c.longestSample();
            }
        }
        return best;
    }
}
