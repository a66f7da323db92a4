package nariz.exam;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Strategy;
import nariz.estimation.Cell;
import nariz.estimation.Observation;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.sim.SimulatedDrive;

/**
 * What only the simulator knows about a drive: the mixture burnt with any parts in the states the car was in, the
 * film's part of it as on the drive itself where it was steady, there or else at that load.
 *
 * <p>Weights and regimes are those of the judge, not of the adviser's sheet model: each regime counts once, a cell in
 * proportion to its dwell but no more than a quarter of its regime's.
 */
final class Truth {
    /** Rms error up to which a regime counts as tuned, beside what the healthy car itself shows. */
    static final double BEYOND_BEST = 0.025;
    /** Walls count as steady below this: about what the measures of the independent simulator's drives leave in. */
    private static final double STEADY_WALLS_PER_S = 0.012;
    private static final int LOADS = 10;

    private final List<Cell> cells;
    private final double[] driven;
    private final long seed;
    private final Map<Fault, Double> faults;
    private final boolean stranger;

    /** Mean and root mean square of lambda/target - 1. */
    record Off(double mean, double rms, double dwellS) {
    }

    private Truth(List<Cell> cells, double[] driven, long seed, Map<Fault, Double> faults, boolean stranger) {
        this.stranger = stranger;
        this.cells = cells;
        this.driven = driven;
        this.seed = seed;
        this.faults = faults;
    }

    /** The truth behind a drive, in the states an observation counts as steady. */
    static Truth of(Observation o, SimulatedDrive d, long seed, Map<Fault, Double> faults, boolean stranger) {
        int m = o.cells().size();
        double[] walls = walls(d);
        double[] t = d.log().timeS();
        double[][] sum = new double[2][m];
        int[][] n = new int[2][m];
        double[] band = new double[LOADS];
        int[] inBand = new int[LOADS];
        for (int i = 0; i < o.log().size(); i++) {
            int c = o.cellOf(i);
            int s = o.stateOf(i);
            if (c < 0 || s == 0) {
                continue;
            }
            boolean steady = Math.abs(Math.log(walls[s] / walls[s - 1])) < STEADY_WALLS_PER_S * (t[s] - t[s - 1]);
            for (int late = steady ? 1 : 0; late >= 0; late--) {
                sum[late][c] += walls[s];
                n[late][c]++;
            }
            if (steady) {
                band[load(o, s)] += walls[s];
                inBand[load(o, s)]++;
            }
        }
        double[] driven = new double[m];
        for (int c = 0; c < m; c++) {
            int load = load(o, o.cells().get(c).longestSample());
            driven[c] = n[1][c] > 0 ? sum[1][c] / n[1][c] : inBand[load] > 0 ? band[load] / inBand[load]
                    : n[0][c] > 0 ? sum[0][c] / n[0][c] : 1.0;
        }
        return new Truth(o.cells(), driven, seed, faults, stranger);
    }

    /** Burnt over metered at every sample. */
    private static double[] walls(SimulatedDrive d) {
        double[] out = new double[d.trueLambda().length];
        for (int s = 0; s < out.length; s++) {
            double metered = 0.0;
            for (double[] p : d.truePhi()) {
                metered += p[s];
            }
            out[s] = metered > 0.0 ? 1.0 / d.trueLambda()[s] / metered : 1.0;
        }
        return out;
    }

    private static int load(Observation o, int s) {
        return (int) Math.clamp(LOADS * (1.0 - o.log().vacuumPa()[s] / o.sheet().ambient().pressurePa()), 0,
                LOADS - 1);
    }

    /** The same with the cells of most dwell in every regime alone: enough for setting a car up. */
    Truth coarse(BuildSheet parts, int perRegime) {
        double[][] phi = phi(parts);
        Map<Regime, List<Integer>> by = new EnumMap<>(Regime.class);
        for (int i = 0; i < phi.length; i++) {
            by.computeIfAbsent(Strategy.regime(cells.get(i), parts, phi[i]), r -> new ArrayList<>()).add(i);
        }
        int[] few = by.values().stream().flatMap(l -> l.stream()
                .sorted(Comparator.comparingDouble((Integer i) -> cells.get(i).dwellS()).reversed())
                .limit(perRegime)).mapToInt(Integer::intValue).toArray();
        return new Truth(Arrays.stream(few).mapToObj(cells::get).toList(),
                Arrays.stream(few).mapToDouble(i -> driven[i]).toArray(), seed, faults, stranger);
    }

    /** Parts of phi in every cell. */
    double[][] phi(BuildSheet parts) {
        EngineSimulator car = PracticeCase.car(parts, seed, faults, 1, stranger);
        double[][] out = new double[cells.size()][];
        for (int i = 0; i < out.length; i++) {
            out[i] = car.steadyPhi(cells.get(i).rpm(), cells.get(i).vacuumPa());
            for (int c = 0; c < out[i].length; c++) {
                out[i][c] *= driven[i];
            }
        }
        return out;
    }

    Map<Regime, Off> errors(BuildSheet parts) {
        double[][] phi = phi(parts);
        Map<Regime, double[]> sums = new EnumMap<>(Regime.class);
        Regime[] regime = new Regime[phi.length];
        double[] dwell = new double[Regime.values().length];
        for (int i = 0; i < phi.length; i++) {
            regime[i] = Strategy.regime(cells.get(i), parts, phi[i]);
            dwell[regime[i].ordinal()] += cells.get(i).dwellS();
        }
        for (int i = 0; i < phi.length; i++) {
            double target = Strategy.BALANCED.of(cells.get(i), parts);
            double e = 1.0 / Arrays.stream(phi[i]).sum() / target - 1.0;
            double w = Math.min(cells.get(i).dwellS(), Math.max(0.25 * dwell[regime[i].ordinal()], 0.5));
            double[] s = sums.computeIfAbsent(regime[i], r -> new double[3]);
            s[0] += w;
            s[1] += w * e;
            s[2] += w * e * e;
        }
        Map<Regime, Off> out = new EnumMap<>(Regime.class);
        sums.forEach((r, s) -> {
            if (dwell[r.ordinal()] >= 1.0) {
                out.put(r, new Off(s[1] / s[0], Math.sqrt(s[2] / s[0]), dwell[r.ordinal()]));
            }
        });
        return out;
    }

    /** Sum over regimes of (rms/tolerance)². */
    double loss(BuildSheet parts) {
        double sum = 0;
        for (Map.Entry<Regime, Off> e : errors(parts).entrySet()) {
            double x = e.getValue().rms() / e.getKey().tolerance();
            sum += x * x * Math.min(1.0, e.getValue().dwellS() / 3.0);
        }
        return sum;
    }

    /** Largest rms error of a regime over its tolerance. */
    double worst(BuildSheet parts) {
        return errors(parts).entrySet().stream().mapToDouble(e -> e.getValue().rms() / e.getKey().tolerance()).max()
                .orElse(Double.POSITIVE_INFINITY);
    }

    /** Whether no regime is further off than the healthy car by {@link #BEYOND_BEST}, or all are in tolerance. */
    boolean tuned(BuildSheet parts, BuildSheet healthy) {
        Map<Regime, Off> best = errors(healthy);
        return errors(parts).entrySet().stream().allMatch(e -> {
            Off h = best.get(e.getKey());
            double limit = Math.max(e.getKey().tolerance(), h == null ? 0.0 : h.rms() + BEYOND_BEST);
            return e.getValue().rms() <= limit;
        });
    }

    /**
     * Fuel a circuit really delivers over what the sheet's model says, over the cells in which it matters; of bands of
     * one profile all the fuel, by the band's share on the sheet.
     */
    double correction(double[][] truePhi, double[][] sheetPhi, Circuit c, boolean bands) {
        double truth = 0;
        double sheet = 0;
        for (int i = 0; i < truePhi.length; i++) {
            double w = Math.min(cells.get(i).dwellS(), 10.0);
            truth += w * (bands ? Arrays.stream(truePhi[i]).sum() * sheetPhi[i][c.index()]
                    / Math.max(1e-9, Arrays.stream(sheetPhi[i]).sum()) : truePhi[i][c.index()]);
            sheet += w * sheetPhi[i][c.index()];
        }
        return truth / sheet;
    }
}
