package nariz.estimation;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.carburetor.PumpModel;
import nariz.carburetor.Stage;
import nariz.flow.ThrottlePlate;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.units.Units;

/**
 * A drive made ready for the estimate: model evaluated at every sample, sensor lined up, samples flagged, steady
 * running gathered into cells.
 *
 * <p>The sensor sees phi(t - d) with d = 1.2 * 120/N + V p/(m R T) (one cycle and a bit, then the exhaust volume over
 * gas flow), through a first-order lag; V and lag are found from the log by lining up changes of measured and predicted
 * phi. Steady: over the 1.3 s (two steps of a slower logger) before the moment the reading belongs to, vacuum stayed
 * within 1.3 inHg (2.6 at a loping idle), throttle within 3 %, speed within 30 %.
 *
 * <p>Fuel on the manifold walls makes a pull burn lean for seconds and what follows it burn rich, while every gauge
 * stands still. That is how the car is driven, so a cell holds what burns once the walls are nearly steady, and beside
 * it what they take there ({@link WallFilm}), for what the carburetor metered. A reading that still swings by more than
 * 4 % a second does not count.
 *
 * <p>Cams with overlap make the sensor read lean at idle ({@link Overlap}); that is taken out.
 */
public final class Observation {
    private static final double GAP_S = 0.5;
    /** A slow logger's own steps are no gaps; readings a step or two apart still tell whether anything moved. */
    private static final double GAP_STEPS = 2.5;
    private static final double MEMORY_STEPS = 2.1;

    private final DriveLog log;
    private final BuildSheet sheet;
    private final BooleanSupplier cancelled;
    private final int n;
    private final List<Circuit> circuits;
    private final float[][] phi;
    private final double[] predicted;
    private final double[] air;
    private final double[] theta;
    private final double[] measured;
    private int[] stateOf;
    private int[] readingOf;
    private final Flag[] flags;
    private final double idleRad;
    private final double idleLeastPa;
    private final Overlap overlap;
    private final SampleRules rules;
    private final double stepS;
    private final Warmth warmth;
    private double exhaustM3;
    private double lagS;
    private WallFilm film;
    private SteadyCells steady;

    /** What is found step by step is there once {@link #of} has gone through all of them. */
    @SuppressWarnings("NullAway.Init")
    private Observation(DriveLog log, BuildSheet sheet, BooleanSupplier cancelled) {
        this.log = log;
        this.sheet = sheet;
        this.cancelled = cancelled;
        n = log.size();
        circuits = sheet.carburetor().family().circuits();
        phi = new float[circuits.size()][n];
        predicted = new double[n];
        air = new double[n];
        theta = new double[n];
        measured = new double[n];
        flags = new Flag[n];
        stepS = usualStep(log.timeS());
        warmth = Warmth.of(log);
        idleLeastPa = IdleSpeed.leastVacuumPa(log, sheet.engine().idleRpm());
        double[] idle = idlePoint();
        idleRad = idle[1];
        overlap = Overlap.of(sheet, idle[0]);
        rules = new SampleRules(sheet.engine().idleRpm(), idle[0], gapS());
    }

    /**
     * Works through a log.
     *
     * @param log the drive
     * @param sheet the build
     * @param cancelled asked now and then
     * @return the observation
     * @throws CancellationException when cancelled
     */
    public static Observation of(DriveLog log, BuildSheet sheet, BooleanSupplier cancelled) {
        Observation o = new Observation(log.complete(), sheet, cancelled);
        o.evaluate();
        o.measure();
        o.align();
        o.flag();
        o.film = WallFilm.of(o);
        o.steady = new SteadyCells(o, o.flags);
        o.steady.gather();
        o.steady.spikes();
        return o;
    }

    private void check() {
        if (cancelled.getAsBoolean()) {
            throw new CancellationException("analysis was cancelled");
        }
    }

    boolean atIdle(int i) {
        return SampleRules.idle(sheet.engine().idleRpm(), log.rpm()[i], log.vacuumPa()[i], pedal(i), idleLeastPa);
    }

    /** Throttle of a sample, NaN without a throttle channel; a reading that is missing from it is no shut throttle. */
    private double pedal(int i) {
        if (!log.has(Channel.THROTTLE)) {
            return Double.NaN;
        }
        double v = log.values(Channel.THROTTLE)[i];
        return Double.isNaN(v) ? Double.POSITIVE_INFINITY : v;
    }

    /** Median vacuum and plate angle of curb idle; where a log has none, the angle of a usual idle. */
    private double[] idlePoint() {
        double[] vacuum = new double[n];
        double[] speed = new double[n];
        int k = 0;
        for (int i = 0; i < n; i++) {
            if (atIdle(i)) {
                vacuum[k] = log.vacuumPa()[i];
                speed[k++] = log.rpm()[i];
            }
        }
        DeliveryModel model = sheet.carburetor().family().model(sheet);
        double v = k > 20 ? median(vacuum, k) : 16.0 * Units.INHG;
        double s = k > 20 ? median(speed, k) : sheet.engine().idleRpm();
        double drawn = model.airKgPerS(s, sheet.ambient().pressurePa() - v);
        return new double[] {v, model.angleFor(drawn, v)};
    }

    /** Median of the steps in time, s. */
    private static double usualStep(double[] t) {
        double[] steps = new double[Math.max(1, t.length - 1)];
        for (int i = 1; i < t.length; i++) {
            steps[i - 1] = t[i] - t[i - 1];
        }
        return median(steps, steps.length);
    }

    /** {@return time between two samples from which on something is taken to be missing between them, s} */
    public double gapS() {
        return Math.max(GAP_S, GAP_STEPS * stepS);
    }

    private double memoryS() {
        return Math.max(SteadyWindow.MEMORY_S, MEMORY_STEPS * stepS);
    }

    private static double median(double[] v, int k) {
        double[] s = Arrays.copyOf(v, k);
        Arrays.sort(s);
        return s[k / 2];
    }

    private void evaluate() {
        DeliveryModel model = sheet.carburetor().family().model(sheet);
        Delivery f = model.newDelivery();
        boolean throttled = log.has(Channel.THROTTLE);
        double[] metered = log.has(Channel.AIRFLOW) ? log.values(Channel.AIRFLOW) : null;
        double most = sheet.ambient().pressurePa() - 8e3;
        for (int i = 0; i < n; i++) {
            if ((i & 0xfff) == 0) {
                check();
            }
            double rpm = log.rpm()[i];
            double vacuum = Math.clamp(log.vacuumPa()[i], 0.0, most);
            if (!(rpm > 150) || Double.isNaN(vacuum)) {
                predicted[i] = Double.NaN;
                air[i] = Double.NaN;
                theta[i] = Double.NaN;
                continue;
            }
            double pedal = throttled ? log.values(Channel.THROTTLE)[i] : Double.NaN;
            double drawn = metered == null ? Double.NaN : metered[i];
            if (drawn > 0.0) {
                double plate = Double.isNaN(pedal) ? model.angleFor(drawn, vacuum) : plateAngle(pedal);
                model.evaluateAir(drawn, drawn, vacuum, plate, f);
            } else if (Double.isNaN(pedal)) {
                model.evaluate(rpm, vacuum, f);
            } else {
                model.evaluate(rpm, vacuum, plateAngle(pedal), f);
            }
            for (Circuit c : circuits) {
                phi[c.index()][i] = (float) f.phi(c);
            }
            predicted[i] = f.total();
            air[i] = f.airKgPerS();
            theta[i] = f.thetaPrimaryRad();
        }
        pump();
    }

    private double plateAngle(double pedal) {
        return idleRad + Math.clamp(pedal, 0.0, 1.0) * (ThrottlePlate.WIDE_OPEN - idleRad);
    }

    /**
     * Pump delivery from the plate's own movement; without a throttle channel the movement is too blurred. A pump takes
     * fuel in both ways but lets it out in one only, so noise on the channel would look like a shot with every sample:
     * the lever follows the plate with as much play as the channel trembles.
     */
    private void pump() {
        Family family = sheet.carburetor().family();
        Optional<PumpModel> fitted = family.pump(sheet, 0.0);
        Optional<Circuit> shot = family.circuit(Stage.PRIMARY, Circuit.Role.PUMP);
        if (!log.has(Channel.THROTTLE) || fitted.isEmpty() || shot.isEmpty()) {
            return;
        }
        PumpModel pump = fitted.get();
        int shots = shot.get().index();
        double[] t = log.timeS();
        double play = (ThrottlePlate.WIDE_OPEN - idleRad) * tremor(log.values(Channel.THROTTLE));
        double lever = idleRad;
        for (int i = 1; i < n; i++) {
            double dt = t[i] - t[i - 1];
            if (!Double.isNaN(theta[i])) {
                lever = Math.clamp(lever, theta[i] - play, theta[i] + play);
            }
            if (!Double.isNaN(theta[i]) && dt < gapS()) {
                double given = pump.step(Math.max(0.0, lever - idleRad), dt);
                phi[shots][i] = (float) (given * sheet.fuel().stoichAfr() / air[i]);
            }
        }
    }

    /**
     * How far a channel moves when nothing does: four deviations of its noise, or one step of its converter where that
     * is more. The deviation of white noise is 1.4826 times the median of |v[i] - 2 v[i-1] + v[i-2]|, over sqrt(6); a
     * second difference leaves out what a foot does over several samples.
     *
     * @param v values, NaN where missing
     * @return play that keeps noise from moving what follows the channel, in its unit
     */
    static double tremor(double[] v) {
        double[] bend = new double[v.length];
        int k = 0;
        double step = Double.POSITIVE_INFINITY;
        for (int i = 2; i < v.length; i++) {
            double b = Math.abs(v[i] - 2.0 * v[i - 1] + v[i - 2]);
            if (!Double.isNaN(b)) {
                bend[k++] = b;
                double d = Math.abs(v[i] - v[i - 1]);
                step = d > 0.0 ? Math.min(step, d) : step;
            }
        }
        double sd = k == 0 ? 0.0 : 1.4826 * median(bend, k) / Math.sqrt(6.0);
        return Math.max(4.0 * sd, Double.isInfinite(step) ? 0.0 : 1.01 * step);
    }

    private void measure() {
        double[] one = log.lambda();
        double[] two = log.has(Channel.LAMBDA_2) ? log.values(Channel.LAMBDA_2) : one;
        for (int i = 0; i < n; i++) {
            double a = 1.0 / one[i];
            double b = 1.0 / two[i];
            measured[i] = Double.isNaN(a) ? b : (Double.isNaN(b) ? a : 0.5 * (a + b));
        }
    }

    private void align() {
        SensorAlignment found = new SensorAlignment(log, sheet, predicted, air, measured, gapS(), this::check);
        found.align();
        stateOf = found.stateOf();
        readingOf = found.readingOf();
        exhaustM3 = found.exhaustM3();
        lagS = found.lagS();
    }

    private void flag() {
        for (int i = 0; i < n; i++) {
            flags[i] = firstReason(i);
        }
        check();
        transients();
        new Swings(log.timeS(), measured).flag(flags, this::atIdle, MEMORY_STEPS * stepS);
    }

    private Flag firstReason(int i) {
        if (log.excluded(i)) {
            return Flag.EXCLUDED;
        }
        double[] t = log.timeS();
        double lambda = Double.isNaN(predicted[i]) || log.filled(i) ? Double.NaN : 1.0 / measured[i];
        return rules.reason(i == 0 ? 0.0 : t[i] - t[i - 1], lambda, log.rpm()[i], log.vacuumPa()[i],
                pedal(i), warmth.cold(i));
    }

    /** A reading counts as moving where its own moment or that of the state it belongs to does. */
    private void transients() {
        double[] vacuum = log.vacuumPa();
        double[] pedal = log.has(Channel.THROTTLE) ? log.values(Channel.THROTTLE) : null;
        double[] t = log.timeS();
        SteadyWindow window = new SteadyWindow(memoryS(), pedal != null);
        boolean[] moving = new boolean[n];
        for (int i = 0; i < n; i++) {
            moving[i] = window.moving(t[i], vacuum[i], log.rpm()[i], pedal == null ? Double.NaN : pedal[i], atIdle(i),
                    flags[i] == Flag.GAP || flags[i] == Flag.OVERRUN);
        }
        for (int i = 0; i < n; i++) {
            if (flags[i] == Flag.STEADY && (moving[stateOf[i]] || moving[i])) {
                flags[i] = Flag.TRANSIENT;
            }
        }
    }

    /**
     * What overlap does to the sensor.
     *
     * @param i sample of the reading
     * @return true over read phi, 1 where overlap does nothing
     */
    public double sensorBias(int i) {
        int s = stateOf[i];
        return 1.0 + (Double.isNaN(predicted[s]) ? 0.0 : overlap.bias(log.rpm()[s], log.vacuumPa()[s]));
    }

    /** {@return what valve overlap does to the sensor of this engine} */
    Overlap overlap() {
        return overlap;
    }

    /** {@return share of the steady readings that were short lean spikes, 0 to 1} */
    public double spikeShare() {
        return steady.spikeShare();
    }

    /** {@return the log} */
    public DriveLog log() {
        return log;
    }

    /** {@return the build sheet} */
    public BuildSheet sheet() {
        return sheet;
    }

    /** {@return steady cells} */
    public List<Cell> cells() {
        return steady.cells();
    }

    /**
     * Steady cells as one of two sensors read them.
     *
     * @param bank 1 or 2
     * @return cells that sensor read for at least half of the time; empty with one sensor
     */
    public List<Cell> bankCells(int bank) {
        return steady.bankCells(bank);
    }

    /**
     * Cell a sample went into.
     *
     * @param i sample
     * @return index into {@link #cells()}, or -1
     */
    public int cellOf(int i) {
        return steady.cellOf(i);
    }

    /**
     * Why a sample counts or not.
     *
     * @param i sample
     * @return its flag
     */
    public Flag flag(int i) {
        return flags[i];
    }

    /**
     * Predicted fuel of a circuit.
     *
     * @param c circuit
     * @param i sample
     * @return its part of phi as the sheet would deliver it
     */
    public double phi(Circuit c, int i) {
        return phi[c.index()][i];
    }

    /**
     * Measured phi.
     *
     * @param i sample
     * @return 1/lambda at the time it was read, mean of the sensors; NaN where missing
     */
    public double measuredPhi(int i) {
        return measured[i];
    }

    /**
     * The reading that belongs to an engine state: the other way round than {@link #stateOf}.
     *
     * @param s sample of the state
     * @return sample of the latest reading of that state, or of one before it where none fell on it
     */
    public int readingOf(int s) {
        return readingOf[s];
    }

    /**
     * The sample whose engine state a reading belongs to.
     *
     * @param i sample of the reading
     * @return sample of the state, at or before i
     */
    public int stateOf(int i) {
        return stateOf[i];
    }

    /**
     * Air at a sample.
     *
     * @param i sample
     * @return kg/s, NaN where speed or vacuum is missing
     */
    public double airKgPerS(int i) {
        return air[i];
    }

    /**
     * Primary plate angle at a sample.
     *
     * @param i sample
     * @return rad from closed, NaN where unknown
     */
    public double thetaRad(int i) {
        return theta[i];
    }

    /**
     * Time from the port to the sensor of the gas that a reading is of, without the sensor's own lag.
     *
     * @param i sample of the reading
     * @return s; 0 where speed or vacuum is missing
     */
    public double gasDelayS(int i) {
        return Double.isNaN(air[i]) ? 0.0 : SensorAlignment.delayS(log.rpm()[i], air[i], exhaustM3,
                sheet.ambient().pressurePa());
    }

    /** {@return exhaust volume ahead of the sensor that lines the log up best, m³} */
    public double exhaustVolumeM3() {
        return exhaustM3;
    }

    /** {@return first-order lag of the sensor that lines the log up best, s} */
    public double sensorLagS() {
        return lagS;
    }

    /**
     * Phi predicted from the sheet at a sample, all circuits together.
     *
     * @param i sample
     * @return phi, NaN where speed or vacuum is missing
     */
    public double predictedPhi(int i) {
        return predicted[i];
    }

    /** {@return the wall film found in this log} */
    public WallFilm film() {
        return film;
    }

    /** {@return primary plate angle at curb idle, rad} */
    public double idleRad() {
        return idleRad;
    }

    /** {@return steady time, s} */
    public double steadyS() {
        return cells().stream().mapToDouble(Cell::dwellS).sum();
    }
}
