package nariz.dynamics;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import nariz.carburetor.PumpSetting;
import nariz.estimation.Observation;
import nariz.units.Units;

/**
 * What the pump really does, found from all openings of a drive together: a posterior over nozzle rate, slack, stroke,
 * shape of the cam, lag of the stream and wall film, on a grid.
 *
 * <p>ln lambda as read against ln lambda as {@link StabModel} makes it. A residual is Student's t with {@value #NU}
 * degrees of freedom; its scale grows with the excursion, since no model of a fast opening is good to better than a
 * fifth of it. Readings closer than {@value #APART_S} s say the same. The level before the opening is taken out where
 * it was read: a lean cruise is no pump's doing. It fades as the air grows, by the air then over the air now: what is
 * wrong with the mixture behind shut plates is so much fuel, and no share of what a wide throttle draws. Grid and prior
 * widths are judgement.
 */
final class PumpFit {
    /** What the nozzles pass over what they should: blocked ones first. */
    private static final double[] RATES = {0.2, 0.35, 0.6, 0.8, 1.0, 1.25};
    /** Travel before the arm stirs, and the cam's flank after it, by pairs: one that begins gently looks like slack. */
    private static final double[] SLACK_DEG = {0, 0, 4, 4, 8, 8, 13};
    private static final double GENTLE = 1.25;
    private static final double[] SHAPES = {PumpSetting.STRAIGHT, GENTLE, PumpSetting.STRAIGHT, GENTLE,
        PumpSetting.STRAIGHT, GENTLE, GENTLE};
    private static final double[] STROKES = {0.6, 0.8, 1.0, 1.3, 1.7};
    private static final double[] SHARES = {0.25, 0.45, 0.65};
    private static final double[] TAUS_S = {0.7, 1.3, 2.2};
    /** How much of the pump's stream wets the walls: it comes as a stream, not as spray. */
    private static final double[] STREAMS = {0.80, 0.86, 0.92};
    /** How far the stream lags behind the arm, s: a stiff spring and a light check, or a soft one and a weight. */
    private static final double[] STREAM_LAGS_S = {0.02, 0.08};
    /** How much later the gas arrives than the log's slow changes say, s. */
    private static final double[] LATER_S = {0.0, 0.05};
    /** How far fuel lags behind the air's depression, s; judgement. */
    static final double WELL_S = 0.13;
    private static final double[] RATE_PRIOR = {0.02, 0.03, 0.08, 0.22, 0.43, 0.22};
    private static final double[] SLACK_PRIOR = {0.3, 0.42, 0.06, 0.06, 0.05, 0.05, 0.06};
    private static final double[] STROKE_PRIOR = {0.08, 0.2, 0.34, 0.26, 0.12};
    private static final double[] SHARE_PRIOR = {0.3, 0.4, 0.3};
    private static final double[] TAU_PRIOR = {0.3, 0.4, 0.3};
    private static final double NU = 4.0;
    static final double NOISE = 0.03;
    private static final double OF_EXCURSION = 0.20;
    private static final double APART_S = 0.4;
    static final double WEIGHED_FROM_S = -0.1;
    /** An opening that the model gets wrong altogether, and what its readings then scatter by. */
    private static final double MISSED = 0.1;
    private static final double MISSED_SD = 0.15;
    private static final int TOGETHER = 6;
    private static final double HOPELESS = 14.0;
    private static final int PUMPS = RATES.length * SLACK_DEG.length * STROKES.length;
    private static final int READ = LATER_S.length;
    private static final int WALLS = TAUS_S.length * SHARES.length * STREAMS.length;
    private static final int OTHERS = STREAM_LAGS_S.length * WALLS * READ;

    /**
     * One explanation.
     *
     * @param pump what the pump does
     * @param share wall film at full load
     * @param tauS its time, s
     * @param stream share of the pump's fuel that wets the walls
     * @param streamLagS how far the stream lags behind the arm, s
     * @param weight probability
     */
    record Sample(PumpSetting pump, double share, double tauS, double stream, double streamLagS, double weight) {
    }

    private final List<Stab> stabs;
    private final PumpSetting fitted;
    private final double stoich;
    private final double lagS;
    private final BooleanSupplier cancelled;

    PumpFit(List<Stab> stabs, PumpSetting fitted, Observation o, BooleanSupplier cancelled) {
        this.stabs = Stab.few(stabs);
        this.fitted = fitted;
        stoich = o.sheet().fuel().stoichAfr();
        lagS = o.sensorLagS();
        this.cancelled = cancelled;
    }

    /** {@return explanations that count, the likeliest first; their weights sum to 1} */
    List<Sample> posterior() {
        double[] log = new double[PUMPS * OTHERS];
        float[] shot = new float[Stab.STEPS];
        float[] burnt = new float[Stab.STEPS];
        float[] metered = new float[Stab.STEPS];
        float[][] base = new float[TAUS_S.length * SHARES.length][Stab.STEPS];
        float[][] shots = new float[STREAM_LAGS_S.length * TAUS_S.length * STREAMS.length][Stab.STEPS];
        for (Stab s : stabs) {
            double best = Arrays.stream(log).max().orElse(0.0);
            double[] keeps = keeps(s, lagS);
            StabModel.metered(s, WELL_S, metered);
            for (int b = 0; b < base.length; b++) {
                StabModel.burnt(s, metered, SHARES[b % SHARES.length], TAUS_S[b / SHARES.length], true, base[b]);
            }
            for (int p = 0; p < PUMPS; p++) {
                if (cancelled.getAsBoolean()) {
                    throw new CancellationException("analysis was cancelled");
                }
                shots(s, setting(p), shot, shots);
                for (int k = 0; k < OTHERS; k += READ) {
                    if (hopeless(log, p * OTHERS + k, best)) {
                        continue;
                    }
                    Other o = other(k);
                    float[] b = base[o.tau * SHARES.length + o.share];
                    float[] q = shots[(o.lag * TAUS_S.length + o.tau) * STREAMS.length + o.stream];
                    for (int i = 0; i < burnt.length; i++) {
                        burnt[i] = b[i] + q[i];
                    }
                    for (int l = 0; l < READ; l++) {
                        log[p * OTHERS + k + l] += likelihood(s, burnt, keeps, LATER_S[l]);
                    }
                }
            }
        }
        return weighed(log);
    }

    /** What of a pump's shot burns, by lag, time of the film and share that wets it. */
    private void shots(Stab s, PumpSetting pump, float[] shot, float[][] out) {
        int films = TAUS_S.length * STREAMS.length;
        for (int q = 0; q < out.length; q++) {
            if (q % films == 0) {
                StabModel.pump(s, pump, STREAM_LAGS_S[q / films], stoich, shot);
            }
            StabModel.stream(s, shot, STREAMS[q % STREAMS.length], TAUS_S[q % films / STREAMS.length], out[q]);
        }
    }

    /** Whether all ways of reading an explanation have fallen so far behind that no opening brings them back. */
    private static boolean hopeless(double[] log, int at, double best) {
        for (int l = 0; l < READ; l++) {
            if (log[at + l] > best - HOPELESS) {
                return false;
            }
        }
        // What is weighed no further must not look the better for it.
        Arrays.fill(log, at, at + READ, Double.NEGATIVE_INFINITY);
        return true;
    }

    /** Indices of everything but the pump. */
    private record Other(int lag, int tau, int share, int stream) {
    }

    private static Other other(int k) {
        int r = k / READ;
        int wall = r % WALLS;
        return new Other(r / WALLS, wall / (SHARES.length * STREAMS.length), wall / STREAMS.length % SHARES.length,
                wall % STREAMS.length);
    }

    private PumpSetting setting(int p) {
        return fitted.scaled(RATES[rate(p)], STROKES[p % STROKES.length], SLACK_DEG[slack(p)] * Units.DEG,
                fitted.refillS()).shaped(SHAPES[slack(p)]);
    }

    private static int rate(int p) {
        return p / (SLACK_DEG.length * STROKES.length);
    }

    private static int slack(int p) {
        return p / STROKES.length % SLACK_DEG.length;
    }

    private List<Sample> weighed(double[] log) {
        double best = Double.NEGATIVE_INFINITY;
        for (int k = 0; k < log.length; k++) {
            int p = k / OTHERS;
            Other o = other(k % OTHERS);
            log[k] += Math.log(RATE_PRIOR[rate(p)] * STROKE_PRIOR[p % STROKES.length] * SLACK_PRIOR[slack(p)]
                    * SHARE_PRIOR[o.share] * TAU_PRIOR[o.tau]);
            best = Math.max(best, log[k]);
        }
        List<Sample> all = new ArrayList<>();
        for (int k = 0; k < log.length; k++) {
            double w = Math.exp(log[k] - best);
            if (w > 1e-5) {
                int p = k / OTHERS;
                Other o = other(k % OTHERS);
                all.add(new Sample(setting(p), SHARES[o.share], TAUS_S[o.tau], STREAMS[o.stream],
                        STREAM_LAGS_S[o.lag], w));
            }
        }
        List<Sample> out = new ArrayList<>();
        Likeliest.of(all, Sample::weight, (x, w) -> out.add(new Sample(x.pump(), x.share(), x.tauS(), x.stream(),
                x.streamLagS(), w)));
        return out;
    }

    private static double square(double x) {
        return x * x;
    }

    /** Log likelihood of an opening's readings. */
    static double likelihood(Stab s, float[] burnt, double[] keeps, double laterS) {
        return likelihood(s, burnt, keeps, laterS, NOISE, WEIGHED_FROM_S);
    }

    /** The same where readings scatter otherwise, ln lambda, and are weighed from some moment on, s. */
    static double likelihood(Stab s, float[] burnt, double[] keeps, double laterS, double noise, double fromS) {
        int n = s.readings();
        double[] ln = new double[n];
        sensed(s, burnt, keeps, laterS / Stab.STEP_S, ln);
        double offset = offset(s, ln);
        double sum = 0.0;
        double missed = 0.0;
        double product = 1.0;
        int together = 0;
        for (int k = 0; k < n; k++) {
            if (s.kind(k) == 0 || s.afterS(k) < fromS) {
                continue;
            }
            double r = s.lnLambda(k) - ln[k] - offset * stays(s, k);
            if ((s.kind(k) == Stab.LEAN_LIMIT && r < 0.0) || (s.kind(k) == Stab.RICH_LIMIT && r > 0.0)) {
                continue;
            }
            double excursion = ln[k] + s.lnPhi(k);
            double scale2 = noise * noise + square(OF_EXCURSION * excursion);
            double u = 1.0 + r * r / (NU * scale2);
            // scale2 (1 + u)^(nu + 1), the logarithm of which is taken for several readings at once.
            product *= scale2 * u * u * u * u * u;
            if (++together == TOGETHER) {
                sum -= 0.5 * Math.log(product);
                product = 1.0;
                together = 0;
            }
            missed -= Math.log(MISSED_SD) + 0.5 * r * r / (MISSED_SD * MISSED_SD);
        }
        double counts = Math.min(1.0, s.dtS(n - 1) / APART_S);
        sum = counts * (sum - 0.5 * Math.log(product));
        missed *= counts;
        double more = Math.max(sum, missed);
        return more + Math.log((1.0 - MISSED) * Math.exp(sum - more) + MISSED * Math.exp(missed - more));
    }

    /** Share of the error before an opening that a reading still has: so much fuel of what the engine draws now. */
    static double stays(Stab s, int reading) {
        return Math.min(1.0, s.air()[Stab.START] / s.air()[(int) s.gasStep(reading)]);
    }

    /** Share of the sensor's distance from the gas that is left after each step between readings. */
    static double[] keeps(Stab s, double lagS) {
        double[] out = new double[s.readings()];
        for (int k = 0; k < out.length; k++) {
            out[k] = Math.exp(-s.dtS(k) / lagS);
        }
        return out;
    }

    /** ln lambda as the sensor would read it. */
    static void sensed(Stab s, float[] burnt, double[] keeps, double later, double[] out) {
        float[] air = s.air();
        double state = Double.NaN;
        for (int k = 0; k < out.length; k++) {
            double g = Math.clamp(s.gasStep(k) - later, 0.0, burnt.length - 1.001);
            int a = (int) g;
            double f = g - a;
            double b = burnt[a] + f * (burnt[a + 1] - burnt[a]);
            double lambda = Math.min(3.0, (air[a] + f * (air[a + 1] - air[a])) / Math.max(1e-9, b));
            state = Double.isNaN(state) ? lambda : lambda + (state - lambda) * keeps[k];
            out[k] = Math.log(state);
        }
    }

    /** How much leaner than modelled it read before the opening; 0 where nothing settled was read there. */
    private static double offset(Stab s, double[] ln) {
        double sum = 0.0;
        int n = 0;
        for (int k = 0; k < ln.length && s.afterS(k) < -0.05; k++) {
            if (s.kind(k) == Stab.COUNTS && s.afterS(k) > -Stab.READ_BEFORE_S) {
                sum += s.lnLambda(k) - ln[k];
                n++;
            }
        }
        return n < 3 ? 0.0 : Math.clamp(sum / n, -0.15, 0.15);
    }
}
