package nariz.dynamics;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.DoubleUnaryOperator;
import java.util.function.IntToDoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.DriveLog;
import nariz.units.Units;

/**
 * How the second stage comes in: whether the mixture sags as it does, whether it steps from one level to another, at
 * which speed it did.
 *
 * <p>It comes in where its part of the fuel, as the carburetor found has it, passes {@value #IN}. The sag is the
 * largest lean excess within {@value #SAGS_S} s of that less the mean before. The step is the difference of
 * ln(lambda/target) between moments of load above {@value #LOADED} with under {@value #OUT} and over {@value #WELL_IN}
 * of the fuel from it.
 */
public final class SecondStageStudy {
    private static final double OUT = 0.03;
    private static final double IN = 0.08;
    private static final double WELL_IN = 0.25;
    /** Where little air is drawn the share says nothing: a rest position or an overrun. */
    private static final double LEAST_LOAD = 0.5;
    private static final double CLEAR_PA = 1.0 * Units.INHG;
    private static final double LOADED = 0.8;
    private static final double SAGS_S = 1.2;
    private static final double BEFORE_S = 0.8;
    private static final double QUICKLY_S = 2.0;
    /** Sag that is felt: lean by this, share. */
    private static final double FELT = 0.10;
    private static final double STAB_S = 1.0;
    private static final double LEAST_STEP_S = 1.5;
    private static final double Z90 = 1.6449;
    private static final double PLACES_DIFFER = 0.02;

    private SecondStageStudy() {
    }

    /**
     * One coming in.
     *
     * @param sample sample of the state
     * @param atS time, s in the log
     * @param rpm engine speed
     * @param vacuumPa manifold vacuum, Pa
     * @param sag how much leaner it reads within {@value #SAGS_S} s than before, share; NaN where nothing was read
     * @param stab whether the throttle was opened just before: the sag is the tip-in's then
     */
    public record Event(int sample, double atS, double rpm, double vacuumPa, double sag, boolean stab) {
        /** {@return whether it sags enough to be felt, by itself} */
        public boolean felt() {
            return !stab && sag > FELT;
        }
    }

    /**
     * What was found.
     *
     * @param events its openings, in the order of time
     * @param step how much leaner lambda reads against the target with the second stage well in than just before, ln:
     *     mean, low and high of 90 %; empty where one of both was not read
     */
    public record Finding(List<Event> events, Optional<double[]> step) {
        /** Copies the list. */
        public Finding {
            events = List.copyOf(events);
        }

        /** {@return how often it came in by itself, not with a stab} */
        public long rolling() {
            return events.stream().filter(e -> !e.stab() && !Double.isNaN(e.sag())).count();
        }

        /** {@return events that sag enough to be felt} */
        public List<Event> felt() {
            return events.stream().filter(Event::felt).toList();
        }
    }

    /**
     * Studies a drive.
     *
     * @param o drive
     * @param settled phi that the carburetor found delivers, settled, at a sample's state
     * @param target lambda wanted at a manifold vacuum, Pa
     * @return what was found; empty where there is no second stage or it never came in
     */
    public static Optional<Finding> of(Observation o, IntToDoubleFunction settled, DoubleUnaryOperator target) {
        BuildSheet sheet = o.sheet();
        if (!sheet.carburetor().family().stages().contains(Stage.SECONDARY)) {
            return Optional.empty();
        }
        double[] share = share(o);
        List<Event> events = events(o, settled, share);
        Optional<double[]> step = step(o, share, target);
        return events.isEmpty() && step.isEmpty() ? Optional.empty() : Optional.of(new Finding(events, step));
    }

    /** Part of the fuel that the second stage gives, by state. */
    private static double[] share(Observation o) {
        double[] out = new double[o.log().size()];
        List<Circuit> circuits = o.sheet().carburetor().family().circuits();
        for (int s = 0; s < out.length; s++) {
            double all = 0.0;
            double second = 0.0;
            for (Circuit c : circuits) {
                double phi = o.phi(c, s);
                all += phi;
                // What its idle circuit gives at rest does not come in: it is always there.
                second += c.stage() == Stage.SECONDARY && !c.lowSpeed() ? phi : 0.0;
            }
            out[s] = all > 0.0 ? second / all : Double.NaN;
        }
        return out;
    }

    private static List<Event> events(Observation o, IntToDoubleFunction settled, double[] share) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        List<Event> out = new ArrayList<>();
        double highest = (1.0 - LEAST_LOAD) * o.sheet().ambient().pressurePa();
        double lastOut = Double.NaN;
        double lastIn = Double.NEGATIVE_INFINITY;
        for (int s = 0; s < share.length; s++) {
            lastOut = share[s] < OUT ? t[s] : lastOut;
            if (share[s] > IN && log.vacuumPa()[s] < highest) {
                if (t[s] - lastIn > QUICKLY_S && t[s] - lastOut < QUICKLY_S) {
                    out.add(new Event(s, t[s], log.rpm()[s], log.vacuumPa()[s], sag(o, settled, s),
                            TipIns.moved(o, s, STAB_S)));
                }
                lastIn = t[s];
            }
        }
        return out;
    }

    private static double sag(Observation o, IntToDoubleFunction settled, int s) {
        double[] t = o.log().timeS();
        double before = 0.0;
        int n = 0;
        double most = Double.NaN;
        int first = o.log().indexAt(t[s] - BEFORE_S);
        for (int i = first; i < t.length && t[o.stateOf(i)] < t[s] + SAGS_S; i++) {
            double e = TipIns.excess(o, settled, i);
            double at = t[o.stateOf(i)] - t[s];
            if (Double.isNaN(e) || at < -BEFORE_S) {
                continue;
            }
            if (at < 0.0) {
                before += e;
                n++;
            } else {
                most = Double.isNaN(most) ? e : Math.max(most, e);
            }
        }
        return n == 0 ? Double.NaN : most - before / n;
    }

    private static Optional<double[]> step(Observation o, double[] share, DoubleUnaryOperator target) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        double rated = o.sheet().carburetor().family().enrichmentPa(o.sheet().carburetor(), Stage.PRIMARY);
        // Both sides with the enrichment open, or its step would be taken for the second stage's.
        double limit = Math.min((1.0 - LOADED) * o.sheet().ambient().pressurePa(), rated > 0.0 ? rated - CLEAR_PA
                : Double.POSITIVE_INFINITY);
        double[] sum = new double[2];
        double[] squares = new double[2];
        double[] time = new double[2];
        for (int i = 0; i + 1 < share.length; i++) {
            int s = o.stateOf(i);
            boolean reads = (o.flag(i) == Flag.STEADY || o.flag(i) == Flag.TRANSIENT) && o.measuredPhi(i) > 0.0;
            int side = share[s] < OUT ? 0 : share[s] > WELL_IN ? 1 : -1;
            if (!reads || side < 0 || log.vacuumPa()[s] > limit || TipIns.moved(o, s, SAGS_S)) {
                continue;
            }
            double dt = Math.min(1.0, t[i + 1] - t[i]);
            double e = -Math.log(o.measuredPhi(i) * target.applyAsDouble(log.vacuumPa()[s]));
            sum[side] += dt * e;
            squares[side] += dt * e * e;
            time[side] += dt;
        }
        if (time[0] < LEAST_STEP_S || time[1] < LEAST_STEP_S) {
            return Optional.empty();
        }
        double variance = PLACES_DIFFER * PLACES_DIFFER;
        for (int side = 0; side < 2; side++) {
            double mean = sum[side] / time[side];
            variance += Math.max(0.0, squares[side] / time[side] - mean * mean) / Math.max(1.0, time[side]);
        }
        double step = sum[1] / time[1] - sum[0] / time[0];
        double reach = Z90 * Math.sqrt(variance);
        return Optional.of(new double[] {step, step - reach, step + reach});
    }
}
