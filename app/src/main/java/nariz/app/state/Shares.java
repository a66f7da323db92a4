package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import nariz.carburetor.Circuit;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.Span;

/**
 * What every circuit delivers at a moment or over a stretch.
 *
 * @param phi part of phi by circuit, with the levels found; the array is the caller's
 * @param angleRad primary plate angle, rad; NaN where unknown
 * @param measured lambda as read, NaN where missing
 * @param wanted lambda wanted, NaN where nothing counts
 * @param why why nothing is wanted there, for people; empty where something is
 */
public record Shares(double[] phi, double angleRad, double measured, double wanted, String why) {
    /** A longer stretch is judged by evenly spread readings: this runs while the hand selects. */
    private static final int MOST = 20_000;

    private static List<Circuit> circuits(Drive d) {
        return d.sheet().carburetor().family().circuits();
    }

    /**
     * At one moment.
     *
     * @param d drive with an estimate
     * @param s sample of the engine's state
     * @return its shares
     */
    public static Shares at(Drive d, int s) {
        Observation o = d.analysis().observation();
        double[] phi = new double[circuits(d).size()];
        for (Circuit c : circuits(d)) {
            phi[c.index()] = o.phi(c, s) * d.analysis().estimate().correction(c);
        }
        int cell = d.trace().cell(s);
        return new Shares(phi, o.thetaRad(s), d.trace().measuredAround(s), cell < 0 ? Double.NaN
                : 1.0 / d.analysis().targetPhi(cell), cell < 0 ? say(d.trace().flag(s).label()) : "");
    }

    /**
     * Means over a stretch, weighted by time, of what can be judged: overrun, missing and excluded readings are left
     * out; the target is that of the steady part.
     *
     * @param d drive with an estimate
     * @param span stretch
     * @return its shares; all zero where nothing can be judged
     */
    public static Shares over(Drive d, Span span) {
        Observation o = d.analysis().observation();
        double[] t = d.log().timeS();
        double[] phi = new double[circuits(d).size()];
        double time = 0;
        double angle = 0;
        double read = 0;
        double steady = 0;
        double target = 0;
        double steadyRead = 0;
        int to = d.log().indexAt(span.toS());
        int from = d.log().indexAt(span.fromS());
        int stride = Math.max(1, (to - from) / MOST);
        for (int i = from; i <= to; i += stride) {
            double dt = i + 1 < t.length ? Math.min(1.0, t[i + 1] - t[i]) : 0;
            Flag f = d.trace().flag(i);
            double lambda = d.trace().measured(i);
            if (f == Flag.OVERRUN || f == Flag.MISSING || f == Flag.EXCLUDED || Double.isNaN(lambda)) {
                continue;
            }
            time += dt;
            read += dt * lambda;
            double theta = o.thetaRad(i);
            angle += Double.isNaN(theta) ? 0 : dt * theta;
            for (Circuit c : circuits(d)) {
                double v = o.phi(c, i);
                phi[c.index()] += Double.isNaN(v) ? 0 : dt * v * d.analysis().estimate().correction(c);
            }
            int cell = d.trace().cell(i);
            if (cell >= 0) {
                steady += dt;
                target += dt / d.analysis().targetPhi(cell);
                steadyRead += dt * lambda;
            }
        }
        if (time <= 0) {
            return new Shares(phi, Double.NaN, Double.NaN, Double.NaN, say("shares.nothing-to-judge"));
        }
        for (int k = 0; k < phi.length; k++) {
            phi[k] /= time;
        }
        // Read and wanted are of the same moments, or the error between them would mean nothing.
        return steady > 0 ? new Shares(phi, angle / time, steadyRead / steady, target / steady, "")
                : new Shares(phi, angle / time, read / time, Double.NaN, say("shares.nothing-steady-in-it"));
    }
}
