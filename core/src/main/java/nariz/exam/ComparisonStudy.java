package nariz.exam;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Stage;
import nariz.comparison.Difference;
import nariz.comparison.RunComparison;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Strategy;
import nariz.family.metered.MeteredParts;
import nariz.log.DriveLog;
import nariz.sim.DriveScript;
import nariz.sim.Fault;
import nariz.sim.Seeds;
import nariz.sim.SimulatedDrive;

/**
 * How well two drives of one made-up engine are compared: the second on another day and road, with the same parts, with
 * an air cleaner that chokes, or with another main jet. The truth is the mixture of the first drive driven again with
 * the second's parts.
 */
public final class ComparisonStudy {
    private static final String[] KINDS = {"nothing changed", "air cleaner", "main jet"};
    private static final double Z90 = 1.645;

    private int intervals;
    private int held;
    private int predictions;
    private int kept;
    private final int[] matters = new int[KINDS.length];
    private final int[] ways = new int[KINDS.length];
    private final List<String> misses = new ArrayList<>();

    private ComparisonStudy() {
    }

    /**
     * Runs and reports.
     *
     * @param first first seed
     * @param count how many engines
     * @param out receives lines of Markdown
     * @param progress told the share that is done
     */
    public static void report(long first, int count, Consumer<String> out, DoubleConsumer progress) {
        ComparisonStudy s = new ComparisonStudy();
        for (int i = 0; i < count; i++) {
            s.engine(first + i, i % KINDS.length);
            progress.accept((i + 1.0) / count);
        }
        out.accept(String.format(Locale.ROOT, "%d engines from seed %d: 90 %% intervals held %d of %d (%d %%); "
                + "predictions of a main jet came true in %d of %d ways of running.", count, first, s.held,
                s.intervals, Math.round(100.0 * s.held / Math.max(1, s.intervals)), s.kept, s.predictions));
        out.accept("");
        out.accept("| second drive | ways of running compared | said to matter |");
        out.accept("|---|---|---|");
        for (int k = 0; k < KINDS.length; k++) {
            out.accept("| " + KINDS[k] + " | " + s.ways[k] + " | " + s.matters[k] + " |");
        }
        out.accept("");
        s.misses.forEach(out);
    }

    private void engine(long seed, int kind) {
        PracticeCase c = PracticeCase.of(seed);
        Random r = Seeds.random(seed, 1);
        BuildSheet was = c.healthy();
        BuildSheet is = was;
        Map<Fault, Double> faults = kind == 1 ? Map.of(Fault.AIR_CLEANER, 0.4 + 0.8 * r.nextDouble()) : Map.of();
        if (kind == 2) {
            double jet = MeteredParts.MAIN_JET.of(was.carburetor(), Stage.PRIMARY);
            is = MeteredParts.MAIN_JET.fit(was, Stage.PRIMARY, jet * (r.nextBoolean() ? 1.05 : 0.95));
        }
        DriveScript again = DriveScript.twelveMinutes().varied(r);
        SimulatedDrive one = drive(was, seed, Map.of(), seed, c.script());
        Analysis before = analysis(was, one.log());
        Analysis after = analysis(is, drive(is, seed, faults, seed + 1, again).log());
        if (!before.estimated() || !after.estimated()) {
            misses.add("- " + seed + ": too little steady running");
            return;
        }
        double[] truth = truth(before, one, drive(is, seed, faults, seed, c.script()));
        RunComparison compared = RunComparison.of(before, after);
        for (Difference d : compared.differences()) {
            double t = truth[d.regime().ordinal()];
            if (Double.isNaN(t)) {
                continue;
            }
            intervals++;
            ways[kind]++;
            matters[kind] += d.matters() ? 1 : 0;
            boolean in = t >= d.low() && t <= d.high();
            held += in ? 1 : 0;
            if (!in) {
                misses.add(String.format(Locale.ROOT, "- %d, %s, %s: %+.1f %% (%+.1f to %+.1f), truly %+.1f", seed,
                        KINDS[kind], d.regime().label(), 100 * d.mean(), 100 * d.low(), 100 * d.high(), 100 * t));
            }
            if (!Double.isNaN(d.predicted())) {
                predictions++;
                kept += Math.abs(t - d.predicted()) <= Z90 * Math.hypot(d.predictedSd(), 0.01) ? 1 : 0;
            }
        }
    }

    private static SimulatedDrive drive(BuildSheet s, long engine, Map<Fault, Double> faults, long day,
            DriveScript road) {
        return PracticeCase.car(s, engine, faults, day, false).drive(road, 20, "study");
    }

    private static Analysis analysis(BuildSheet s, DriveLog log) {
        return Analysis.of(s, log, Strategy.BALANCED);
    }

    /** Mean of lambda then over lambda before, less 1, by way of running of the first drive; NaN where none. */
    private static double[] truth(Analysis before, SimulatedDrive one, SimulatedDrive then) {
        double[] sum = new double[Regime.values().length];
        double[] n = new double[sum.length];
        int size = Math.min(one.trueLambda().length, then.trueLambda().length);
        for (int i = 0; i < before.observation().log().size(); i++) {
            int cell = before.observation().cellOf(i);
            int s = before.observation().stateOf(i);
            if (cell >= 0 && s < size && one.trueLambda()[s] > 0 && then.trueLambda()[s] > 0) {
                int k = before.regime(cell).ordinal();
                double d = Math.log(then.trueLambda()[s] / one.trueLambda()[s]);
                if (!Double.isNaN(d)) {
                    sum[k] += d;
                    n[k]++;
                }
            }
        }
        double[] out = new double[sum.length];
        for (int k = 0; k < out.length; k++) {
            out[k] = n[k] > 0 ? Math.expm1(sum[k] / n[k]) : Double.NaN;
        }
        return out;
    }
}
