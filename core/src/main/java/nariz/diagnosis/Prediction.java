package nariz.diagnosis;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.PartChange;

/**
 * What a drive would show with other parts.
 *
 * @param changes the parts
 * @param regimes mean lambda by way of running, today and then, with 90 % intervals
 * @param timeS sample times, s; shared with the log
 * @param lambda what the sensor would have read, by sample; NaN where there was no reading
 */
public record Prediction(List<PartChange> changes, List<RegimePrediction> regimes, double[] timeS, double[] lambda) {
    /** Copies the lists. */
    public Prediction {
        changes = List.copyOf(changes);
        regimes = List.copyOf(regimes);
    }

    /**
     * Predicts.
     *
     * @param a a finished analysis with an estimate
     * @param changes parts to try
     * @return the prediction
     */
    public static Prediction of(Analysis a, List<PartChange> changes) {
        BuildSheet parts = PartChange.fit(a.observation().sheet(), changes);
        return new Prediction(changes, a.predict(parts), a.observation().log().timeS(), a.whatIf().lambda(parts));
    }
}
