package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.FaultShapes;
import nariz.estimation.Observation;
import nariz.estimation.PullTrend;
import nariz.estimation.WideOpen;
import nariz.text.Measure;
import nariz.text.Message;
import nariz.units.Units;

/**
 * The faults that are weighed against fuel parts, each with everything it does to a drive.
 *
 * <p>The prior shares are judgement: how often a tuner finds each when a car is looked at.
 */
final class FaultSignatures {
    private static final double LEAK_M2 = 3e-6;
    /** Every tenth car has a leak into the manifold, and every tenth one into the exhaust. */
    private static final double LEAKS = 0.1;
    /** What a leak into the exhaust of size 1 reads at idle, and with which power of the airflow that fades. */
    private static final double EXHAUST_READS = 0.05;
    private static final double[] FADES = {1.0, 1.5, 2.0};
    /** A usual leak in units of its shape, and how lean it reads at most: with much more nobody would drive on. */
    private static final double USUAL = 3.0;
    private static final double USUAL_LEAN = 0.2;
    private static final double PLATES_RAD = 1.5 * Units.DEG;
    private static final double STARVES_PER_S = 0.02;
    private static final double MISSES = 0.05;
    /** Log likelihood for every spike in a hundred readings over {@link #USUAL_SPIKES}. */
    private static final double PER_SPIKE = 4.0;
    private static final double USUAL_SPIKES = 0.012;
    private static final double STRONGEST = 14.0;
    private static final double USUAL_RUNAWAY = 0.07;
    private static final double PER_RUNAWAY = 60.0;
    /** Doubt about what an air cleaner's drop does to phi. */
    private static final double CLEANER_DOUBT = 0.5;
    /** Drop beyond a clean one's that is common for one that needs a new element, kPa. */
    private static final double CLEANER_DROP_KPA = 2.5;
    /** Checks in units of the loss: a look or a spray can, and work with tools. */
    static final double LOOK = 0.35;
    private static final double WORK = 0.6;
    /** Harm of a fault that is left: every reading to come misleads; a bowl that runs dry under load melts pistons. */
    private static final double MISLEADS = 0.4;
    private static final double MELTS = 4.0;
    /** Standard deviations from where on a drop at wide open throttle is named as evidence. */
    private static final double SURE = 2.0;

    private final BuildSheet sheet;
    private final List<Cell> cells;
    private final Estimate estimate;
    private final Observation observation;
    private final PullTrend trend;
    private final WideOpen wide;
    private final Unexplained unexplained;

    private FaultSignatures(Scorer scorer, Estimate estimate, Observation observation) {
        sheet = observation.sheet();
        cells = estimate.cells();
        this.estimate = estimate;
        this.observation = observation;
        trend = PullTrend.of(observation);
        wide = WideOpen.of(observation);
        unexplained = new Unexplained(sheet, scorer, estimate);
    }

    /**
     * Works them out.
     *
     * @param scorer targets and ways of running
     * @param estimate what was found
     * @param observation the drive
     * @return one for every fault
     */
    static List<FaultSignature> of(Scorer scorer, Estimate estimate, Observation observation) {
        return new FaultSignatures(scorer, estimate, observation).all();
    }

    private List<FaultSignature> all() {
        int m = cells.size();
        double[] offset = new double[m];
        double[] starving = new double[m];
        double[] misses = new double[m];
        for (int i = 0; i < m; i++) {
            offset[i] = 0.035;
            starving[i] = -STARVES_PER_S * trend.meanDrinkingS(i);
            misses[i] = -MISSES;
        }
        double read = 1e-3 * wide.dropPa();
        double drop = Math.max(0.0, read);
        double dropSd = 1e-3 * wide.sdPa();
        double spikes = Math.clamp(PER_SPIKE * 100.0 * (observation.spikeShare() - USUAL_SPIKES), -STRONGEST,
                STRONGEST);
        List<FaultSignature> out = new ArrayList<>();
        out.add(leak(Hypothesis.VACUUM_LEAK, LEAKS, FaultShapes.leak(sheet, cells, LEAK_M2), true,
                "vacuum-leak", "lean-at-idle-less", "with-the-engine-idling"));
        for (double fades : FADES) {
            out.add(leak(Hypothesis.EXHAUST_LEAK, LEAKS / FADES.length, exhaust(fades), false,
                    "exhaust-leak-ahead-of", "lean-only-where-little", "with-a-cold-engine"));
        }
        out.addAll(List.of(
                new FaultSignature("sensor-offset", message("hypotheses.sensor-offset-or-wrong"), 0.007, 1.0, offset,
                        true, false, 0.0, Double.POSITIVE_INFINITY, 0.0, MISLEADS, LOOK,
                        message("hypotheses.the-same-error-everywhere"), message("hypotheses.run-the-sensor-in")),
                new FaultSignature("fuel-starvation", message("hypotheses.fuel-supply-that-runs"), 0.03, 1.5, starving,
                        false, true, -trend.perS() / STARVES_PER_S, trend.sdPerS() / STARVES_PER_S, supplyMark(),
                        MELTS, LOOK,
                        message("hypotheses.leaner-the-longer-a"), message("hypotheses.log-or-watch-fuel")),
                new FaultSignature("misfire", message("hypotheses.misfire"), 0.02, 1.0, misses, false, false, 0.0,
                        Double.POSITIVE_INFINITY, spikes, MISLEADS, LOOK, message("hypotheses.short-lean-spikes-in"),
                        message("hypotheses.plugs-leads-cap-coil")),
                plain("plates-open", 0.01, 1.0, FaultShapes.platesOpen(estimate.carburetor(), sheet, cells,
                        PLATES_RAD), true, LOOK, "throttle-plates-too-far", "rich-at-idle-alone",
                        "turn-one-mixture-screw"),
                new FaultSignature("fuel-level", message("hypotheses.fuel-level"), 0.003, 1.5, level(), true, true, 0.0,
                        Double.POSITIVE_INFINITY, 0.0, MISLEADS, WORK,
                        message("hypotheses.error-everywhere-largest-where"),
                        message("hypotheses.check-the-fuel-level")),
                new FaultSignature("air-cleaner", message("hypotheses.air-cleaner-restriction"), 0.04, 2.0,
                        FaultShapes.airCleaner(sheet, cells), false, true, drop,
                        Math.hypot(dropSd, CLEANER_DOUBT * drop), cleanerMark(read, dropSd), MISLEADS, LOOK,
                        cleanerEvidence(), message("hypotheses.repeat-one-full-load"))));
        return out;
    }

    /**
     * What a leak into the exhaust reads: with a power of 1 it draws the same air at any speed, with more the pressure
     * of more gas shuts it. Which holds depends on where it is; all are weighed.
     */
    private double[] exhaust(double fades) {
        double idleAir = cells.stream().mapToDouble(Cell::airKgPerS).min().orElse(1);
        return cells.stream().mapToDouble(c -> -EXHAUST_READS * Math.pow(idleAir / c.airKgPerS(), fades)).toArray();
    }

    /** What speaks for a restricted air cleaner: vacuum that is left wide open, where that was read. */
    private Message cleanerEvidence() {
        return wide.dropPa() > SURE * wide.sdPa() ? message("hypotheses.vacuum-left-wide-open",
                Measure.vacuum(wide.dropPa())) : message("hypotheses.rich-that-grows-with");
    }

    /**
     * A leak. What is usual goes by what it makes of the idle: the same hole is two or three times the share of a small
     * engine's air that it is of a large one's, and it is the lean idle that is put up with or not.
     */
    private FaultSignature leak(String cause, double prior, double[] shape, boolean real, String label, String evidence,
            String check) {
        // Where every station of a profile is corrected by itself the carburetor found has the leak in it.
        Unexplained.Size read = sheet.carburetor().family().bands().isPresent() ? Unexplained.NOTHING
                : unexplained.of(shape);
        double leanest = -Arrays.stream(shape).min().orElse(0.0);
        double usual = Math.min(USUAL, USUAL_LEAN / Math.max(1e-6, leanest));
        return new FaultSignature(cause, message("hypotheses." + label), prior, usual, shape, false, real, read.gamma(),
                read.sd(), 0.0, MISLEADS, LOOK, message("hypotheses." + evidence), message("hypotheses." + check));
    }

    private static FaultSignature plain(String cause, double prior, double usual, double[] shape, boolean real,
            double minutes, String label, String evidence, String check) {
        return new FaultSignature(cause, message("hypotheses." + label), prior, usual, shape, false, real, 0.0,
                Double.POSITIVE_INFINITY, 0.0, MISLEADS, minutes, message("hypotheses." + evidence),
                message("hypotheses." + check));
    }

    /** A level that moves the mixture by more than a few per cent floods or starves the engine first. */
    private double[] level() {
        double[] shape = FaultShapes.level(sheet, cells, sheet.carburetor().family().levelErrorM());
        for (int i = 0; i < shape.length; i++) {
            shape[i] = Math.min(shape[i], 0.03);
        }
        return shape;
    }

    /**
     * Log likelihood of vacuum at wide open throttle, a cleaner that needs a new element against none. Its drop x is
     * half normal with scale D, what is read is x with standard deviation s: with w² = D² + s²,
     * ln(2 (s/w) Phi(x D/(w s))) + x²(1/s² - 1/w²)/2. A reading below none speaks against it.
     */
    static double cleanerMark(double dropKpa, double sdKpa) {
        if (Double.isInfinite(sdKpa)) {
            return 0.0;
        }
        double with = Math.hypot(CLEANER_DROP_KPA, sdKpa);
        double positive = CausePosterior.below(dropKpa * CLEANER_DROP_KPA / (with * sdKpa));
        return Math.log(2.0 * sdKpa / with * positive)
                + 0.5 * dropKpa * dropKpa * (1.0 / (sdKpa * sdKpa) - 1.0 / (with * with));
    }

    /**
     * Log likelihood of what a short supply does besides: fuel pressure under load, of which three quarters of the
     * pressure at rest says nothing, and a pull that runs off to lean, of which {@link #USUAL_RUNAWAY} says nothing.
     */
    private double supplyMark() {
        double ratio = trend.pressureRatio();
        double pressure = Double.isNaN(ratio) ? 0.0 : Math.clamp(20.0 * (0.75 - ratio), -5.0, 8.0);
        return pressure + Math.clamp(PER_RUNAWAY * (trend.runaway() - USUAL_RUNAWAY), -2.0, STRONGEST);
    }
}
