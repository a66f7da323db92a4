package nariz.dynamics;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import nariz.carburetor.DamperSetting;
import nariz.carburetor.Piston;
import nariz.estimation.Observation;

/**
 * What the dampers really do, found from all openings of a drive together: a posterior over how slowly the piston rises
 * and falls, by which law, how much that enriches, wall film and sensor lag, on a grid.
 *
 * <p>Readings are weighed as {@link PumpFit#likelihood} says. Grid and prior widths are judgement: clearances differ by
 * a third or so; a damper that holds back a quarter of what its oil should is short of oil.
 */
final class DamperFit {
    /** Rise over what the oil on the sheet should give. */
    private static final double[] RISES = {0.12, 0.25, 0.5, 0.75, 1.0, 1.4};
    private static final double[] RISE_PRIOR = {0.06, 0.08, 0.12, 0.24, 0.32, 0.18};
    /** Up to this a damper is short of oil. */
    static final double DRY = 0.3;
    private static final double[] FALLS_S = {DamperSetting.USUAL_FALL_S, 0.9, 2.0};
    private static final double[] FALL_PRIOR = {0.92, 0.05, 0.03};
    private static final boolean[] DASHPOTS = {false, true};
    /** How much more or less a late piston enriches than its equations say. */
    private static final double[] STRENGTHS = {0.6, 1.0, 1.5};
    private static final double[] SHARES = {0.25, 0.45, 0.65};
    private static final double[] SHARE_PRIOR = {0.3, 0.4, 0.3};
    private static final double[] TAUS_S = {0.7, 1.3, 2.2};
    private static final double[] TAU_PRIOR = {0.3, 0.4, 0.3};
    /** How much later the gas arrives than the log's slow changes say, s, and how much slower the sensor is. */
    private static final double[] LATER_S = {0.0, 0.05};
    private static final double[] LAGS = {1.0, 2.0};
    /** The depression on the jet hardly changes, so its fuel need not be set going: it follows at once. */
    static final double WELL_S = 0.03;
    /** Scatter of what is read after a closing: the settled level of the state that is reached counts, ln lambda. */
    private static final double AFTER_CLOSING = 0.04;
    /** Until then the manifold empties after a closing, which the model does not follow closely, s. */
    private static final double EMPTIED_S = 0.5;
    private static final int PISTONS = RISES.length * FALLS_S.length * DASHPOTS.length;
    private static final int WALLS = SHARES.length * TAUS_S.length;
    private static final int READ = LATER_S.length * LAGS.length;
    private static final int OTHERS = STRENGTHS.length * WALLS * READ;

    /**
     * One explanation.
     *
     * @param rise rise over what the oil on the sheet should give
     * @param fallS time constant of a fall, s
     * @param dashpot by which law it rises
     * @param strength how much more it enriches than its equations say
     * @param share wall film at full load
     * @param tauS its time, s
     * @param weight probability
     */
    record Sample(double rise, double fallS, boolean dashpot, double strength, double share, double tauS,
            double weight) {
    }

    private final List<Stab> stabs;
    private final Set<Stab> falls;
    private final DamperSetting fitted;
    private final Piston piston;
    private final double lagS;
    private final BooleanSupplier cancelled;

    /** What openings say of a piston that rises, and closings of one that falls. */
    DamperFit(List<Stab> openings, List<Stab> falls, DamperSetting fitted, Piston piston, Observation o,
            BooleanSupplier cancelled) {
        this.falls = Set.copyOf(falls);
        stabs = Stream.concat(Stab.few(openings).stream(), Stab.few(falls).stream()).toList();
        this.fitted = fitted;
        this.piston = piston;
        lagS = o.sensorLagS();
        this.cancelled = cancelled;
    }

    /** {@return explanations that count, the likeliest first; their weights sum to 1} */
    List<Sample> posterior() {
        double[] log = new double[PISTONS * OTHERS];
        float[] metered = new float[Stab.STEPS];
        float[] late = new float[Stab.STEPS];
        float[] burnt = new float[Stab.STEPS];
        float[][] base = new float[WALLS][Stab.STEPS];
        float[] more = new float[Stab.STEPS];
        for (Stab s : stabs) {
            double noise = falls.contains(s) ? AFTER_CLOSING : PumpFit.NOISE;
            double from = falls.contains(s) ? EMPTIED_S : PumpFit.WEIGHED_FROM_S;
            double[][] keeps = new double[LAGS.length][];
            for (int l = 0; l < LAGS.length; l++) {
                keeps[l] = PumpFit.keeps(s, LAGS[l] * lagS);
            }
            StabModel.metered(s, WELL_S, metered);
            for (int w = 0; w < WALLS; w++) {
                StabModel.burnt(s, metered, share(w), tauS(w), true, base[w]);
            }
            for (int p = 0; p < PISTONS; p++) {
                if (cancelled.getAsBoolean()) {
                    throw new CancellationException("analysis was cancelled");
                }
                StabModel.piston(s, piston, new DamperSetting(RISES[rise(p)] * fitted.riseS(), FALLS_S[fall(p)]),
                        DASHPOTS[p % DASHPOTS.length], late);
                for (int w = 0; w < WALLS; w++) {
                    StabModel.burnt(s, late, share(w), tauS(w), false, more);
                    for (int g = 0; g < STRENGTHS.length; g++) {
                        for (int i = 0; i < burnt.length; i++) {
                            burnt[i] = (float) (base[w][i] + STRENGTHS[g] * more[i]);
                        }
                        int at = p * OTHERS + (g * WALLS + w) * READ;
                        for (int l = 0; l < READ; l++) {
                            log[at + l] += PumpFit.likelihood(s, burnt, keeps[l % LAGS.length],
                                    LATER_S[l / LAGS.length], noise, from);
                        }
                    }
                }
            }
        }
        return weighed(log);
    }

    private static int rise(int p) {
        return p / (FALLS_S.length * DASHPOTS.length);
    }

    private static int fall(int p) {
        return p / DASHPOTS.length % FALLS_S.length;
    }

    private static double share(int w) {
        return SHARES[w % SHARES.length];
    }

    private static double tauS(int w) {
        return TAUS_S[w / SHARES.length];
    }

    /** The ways of reading are summed over: nothing that is decided depends on them. */
    private static List<Sample> weighed(double[] log) {
        double best = Arrays.stream(log).max().orElseThrow();
        List<Sample> all = new ArrayList<>();
        for (int k = 0; k < log.length; k += READ) {
            int p = k / OTHERS;
            int w = k % OTHERS / READ % WALLS;
            int g = k % OTHERS / READ / WALLS;
            double likely = 0.0;
            for (int l = 0; l < READ; l++) {
                likely += Math.exp(log[k + l] - best);
            }
            double weight = likely * RISE_PRIOR[rise(p)] * FALL_PRIOR[fall(p)] * SHARE_PRIOR[w % SHARES.length]
                    * TAU_PRIOR[w / SHARES.length];
            all.add(new Sample(RISES[rise(p)], FALLS_S[fall(p)], DASHPOTS[p % DASHPOTS.length], STRENGTHS[g],
                    share(w), tauS(w), weight));
        }
        List<Sample> out = new ArrayList<>();
        Likeliest.of(all, Sample::weight, (x, w) -> out.add(new Sample(x.rise(), x.fallS(), x.dashpot(), x.strength(),
                x.share(), x.tauS(), w)));
        return out;
    }
}
