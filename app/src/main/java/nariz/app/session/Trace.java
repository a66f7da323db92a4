package nariz.app.session;

import java.util.List;
import nariz.advice.Analysis;
import nariz.advice.Blame;
import nariz.fit.Cell;
import nariz.fit.Observation;
import nariz.model.Circuit;

/** Display series of a drive, computed once beside the interface thread: measured and predicted lambda a sample. */
public final class Trace {
    private static final List<Circuit> SLOT = List.of(Circuit.IDLE, Circuit.TRANSFER);

    private final float[] measured;
    private final float[] predicted;

    private Trace(float[] measured, float[] predicted) {
        this.measured = measured;
        this.predicted = predicted;
    }

    static Trace of(Analysis a) {
        Observation o = a.observation();
        int n = o.log().size();
        float[] measured = new float[n];
        float[] predicted = new float[n];
        for (int i = 0; i < n; i++) {
            measured[i] = (float) (1.0 / o.measuredPhi(i));
            predicted[i] = (float) (1.0 / a.predictedPhi(i));
        }
        return new Trace(measured, predicted);
    }

    /**
     * Measured lambda.
     *
     * @param i sample
     * @return lambda, NaN where missing
     */
    public double measured(int i) {
        return measured[i];
    }

    /**
     * Predicted lambda.
     *
     * @param i sample
     * @return lambda the sensor should read, NaN where unknown
     */
    public double predicted(int i) {
        return predicted[i];
    }

    /**
     * The middle of the longest stay that speaks loudest for a stop: where its change moves the mixture most, or
     * without a change where its circuit delivers most and is off most.
     */
    int bestMoment(Analysis a, Stop stop) {
        if (!a.estimated()) {
            return 0;
        }
        double[] after = a.phiAfter();
        boolean changes = a.advice().changes().stream().anyMatch(c -> c.now()
                && stop.circuits().contains(Blame.circuit(c)));
        int best = 0;
        double most = -1;
        for (int i = 0; i < a.estimate().cells().size(); i++) {
            Cell c = a.estimate().cells().get(i);
            double share = a.estimate().share(i, stop.circuits());
            double moved = Math.abs(after[i] / a.estimate().phi(i) - 1);
            double error = Math.abs(a.targetPhi(i) / a.estimate().phi(i) - 1) + 0.01;
            // A valve that opens too late delivers nothing just where it should: its own share says little there.
            boolean late = changes && stop == Stop.POWER && a.estimate().share(i, SLOT) < 0.3;
            double speaks = changes ? moved * error * (late ? 1 : share) : share * error;
            double loud = speaks * Math.sqrt(Math.min(c.dwellS(), 10));
            if (loud > most && (!c.idle() || stop == Stop.IDLE)) {
                most = loud;
                best = c.longestSample();
            }
        }
        return best;
    }
}
