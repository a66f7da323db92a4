package nariz.estimation;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleUnaryOperator;
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
 * <p>Fuel on the manifold walls makes a pull read lean for seconds and what follows it read rich, while every gauge
 * stands still. A reading that still swings by more than 4 % a second does not count, and one that counts is freed of
 * what the walls owe from the step before it: times {@link WallFilm#asDriven}. What growing airflow keeps lean for as
 * long as it grows stays in: that is how the car is driven, and what the cylinders burn.
 *
 * <p>Cams with overlap pass unburnt oxygen at idle, so the sensor reads lean there. The size is a
 * default by cam, not from a book: idle readings are taken as richer by 1.2, 3.2 and 5.5 % for medium, big and
 * wild cams, with half of that as uncertainty.
 */
public final class Observation {
    private static final double GAP_S = 0.5;
    /** A slow logger's own steps are no gaps; readings a step or two apart still tell whether anything moved. */
    private static final double GAP_STEPS = 2.5;
    private static final double MEMORY_STEPS = 2.1;
    static final double USUAL_LAG_S = 0.1;
    private static final double[] LAGS_S = {0.03, 0.045, 0.065, 0.08, 0.1, 0.125, 0.155, 0.2, 0.27, 0.4};
    /** Exhaust ahead of the sensor over displacement. */
    private static final double[] VOLUMES = {0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.85, 1.0, 1.25, 1.6, 2.0, 2.5};
    static final double USUAL_VOLUME = 0.7;
    private static final double ALIGNMENT_SPREAD = 0.5;
    private static final double MOVES = 0.02;
    private static final int LONGEST_ALIGNMENT = 500_000;
    /** Mean temperature of the gas between valve and sensor, K. */
    static final double EXHAUST_K = 750.0;
    /** Cycles between a mixture in the port and its gas behind the valve. */
    static final double CYCLES = 1.2;
    /** No sensor is read later than this, s. */
    static final double LONGEST_DELAY_S = 1.5;
    private static final double FEWEST_CELL_S = 0.4;
    private static final double SWING_S = 1.0;
    private static final double SWING_MEAN_S = 0.5;
    private static final double SWING = 0.04;
    private static final double SPIKE = 4.0;
    private static final double LEAST_SPIKE = 0.04;
    private static final int BINS = 300;
    private static final double BIN = 0.003;
    private static final double LEAST_RATIO = 0.6;

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
    private final int[] stateOf;
    private final int[] readingOf;
    private final Flag[] flags;
    private final double idleRad;
    private final SampleRules rules;
    private final double stepS;
    private double exhaustM3;
    private double lagS;
    private WallFilm film;
    private double spikeShare;
    private List<Cell> cells = List.of();
    private final List<List<Cell>> bankCells = new ArrayList<>(List.of(List.of(), List.of()));
    private final int[] cellOf;

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
        stateOf = new int[n];
        readingOf = new int[n];
        flags = new Flag[n];
        cellOf = new int[n];
        stepS = usualStep(log.timeS());
        double[] idle = idlePoint();
        idleRad = idle[1];
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
        Observation o = new Observation(log, sheet, cancelled);
        o.evaluate();
        o.measure();
        o.align();
        o.flag();
        o.film = WallFilm.of(o);
        o.gather();
        o.spikes();
        return o;
    }

    private void check() {
        if (cancelled.getAsBoolean()) {
            throw new CancellationException("analysis was cancelled");
        }
    }

    private boolean atIdle(int i) {
        return SampleRules.idle(sheet.engine().idleRpm(), log.rpm()[i], log.vacuumPa()[i], pedal(i));
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
        if (!log.has(Channel.THROTTLE) || fitted.isEmpty()) {
            return;
        }
        PumpModel pump = fitted.get();
        int shots = family.circuit(Stage.PRIMARY, Circuit.Role.PUMP).orElseThrow().index();
        double[] t = log.timeS();
        double play = (ThrottlePlate.WIDE_OPEN - idleRad) * tremor(log.values(Channel.THROTTLE));
        double lever = idleRad;
        for (int i = 1; i < n; i++) {
            double dt = t[i] - t[i - 1];
            if (!Double.isNaN(theta[i])) {
                lever = Math.clamp(lever, theta[i] - play, theta[i] + play);
            }
            if (!Double.isNaN(theta[i]) && dt < gapS()) {
                double shot = pump.step(Math.max(0.0, lever - idleRad), dt);
                phi[shots][i] = (float) (shot * sheet.fuel().stoichAfr() / air[i]);
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

    private double delayS(int i, double volumeM3) {
        double gas = air[i] * 287.0 * EXHAUST_K / sheet.ambient().pressurePa();
        return Math.min(LONGEST_DELAY_S, CYCLES * 120.0 / log.rpm()[i] + volumeM3 / gas);
    }

    /**
     * Exhaust volume and sensor lag by greatest posterior: log normal priors around what exhausts and sensors usually
     * have, -ln(1 - rho^2)/2 for every half second in which the mixture moved. Each is searched with the other held,
     * the volume twice. They trade against each other, so that the sum of both delays is known better than either.
     */
    private void align() {
        exhaustM3 = volume(USUAL_LAG_S);
        lagS = mostLikely(LAGS_S, USUAL_LAG_S, lag -> alignment(exhaustM3, lag));
        exhaustM3 = volume(lagS);
        // To slow changes a first-order lag is a delay of its own length.
        index(exhaustM3, lagS, n);
        Arrays.fill(readingOf, -1);
        for (int i = 0; i < n; i++) {
            readingOf[stateOf[i]] = i;
        }
        // The first reading belongs to the first state: nothing comes before it.
        for (int s = 1; s < n; s++) {
            readingOf[s] = Math.max(readingOf[s], readingOf[s - 1]);
        }
    }

    private double volume(double lag) {
        double displacement = sheet.engine().displacementM3();
        return displacement * mostLikely(VOLUMES, USUAL_VOLUME, v -> alignment(v * displacement, lag));
    }

    private double mostLikely(double[] values, double usual, DoubleUnaryOperator logLikelihood) {
        double best = Double.NEGATIVE_INFINITY;
        double found = usual;
        for (double v : values) {
            check();
            double x = Math.log(v / usual) / ALIGNMENT_SPREAD;
            double score = logLikelihood.applyAsDouble(v) - 0.5 * x * x;
            if (score > best) {
                best = score;
                found = v;
            }
        }
        return found;
    }

    /** Fills {@link #stateOf}: the sample whose state each reading belongs to. */
    private void index(double volumeM3, double extraS, int end) {
        double[] t = log.timeS();
        int j = 0;
        for (int i = 0; i < end; i++) {
            double d = Double.isNaN(air[i]) ? 0.0 : delayS(i, volumeM3) + extraS;
            double at = t[i] - d;
            while (j > 0 && t[j] > at) {
                j--;
            }
            while (j + 1 < i && t[j + 1] <= at) {
                j++;
            }
            stateOf[i] = Math.min(j, i);
        }
    }

    /**
     * How well changes over half a second of the readings follow what a sensor of this lag makes of the prediction one
     * delay earlier: log likelihood of their correlation, over the first {@link #LONGEST_ALIGNMENT} samples.
     */
    private double alignment(double volumeM3, double lag) {
        int end = Math.min(n, LONGEST_ALIGNMENT);
        index(volumeM3, 0.0, end);
        double[] t = log.timeS();
        int moved = 0;
        int step = Math.max(1, (int) Math.round(0.5 * (n - 1) / Math.max(1.0, log.durationS())));
        double[] sensed = new double[step + 1];
        double state = Double.NaN;
        double usual = 0;
        double keeps = 1;
        double gap = gapS();
        double sxy = 0;
        double sxx = 0;
        double syy = 0;
        for (int i = 0; i < end; i++) {
            double in = predicted[stateOf[i]];
            double dt = i == 0 ? 0.0 : t[i] - t[i - 1];
            // Exact for a step held over dt; a gap starts the sensor anew.
            if (dt != usual) {
                usual = dt;
                keeps = Math.exp(-dt / lag);
            }
            state = Double.isNaN(state) || dt > gap ? in : in + (state - in) * keeps;
            sensed[i % (step + 1)] = state;
            if (i >= step) {
                double a = state - sensed[(i + 1) % (step + 1)];
                double b = measured[i] - measured[i - step];
                if (!Double.isNaN(a) && !Double.isNaN(b) && Math.abs(b) < 0.25 && Math.abs(a) > MOVES
                        && Math.abs(a) < 0.25) {
                    moved++;
                    sxy += a * b;
                    sxx += a * a;
                    syy += b * b;
                }
            }
        }
        double rho = sxx <= 0 || syy <= 0 ? 0 : Math.max(0.0, sxy / Math.sqrt(sxx * syy));
        return -0.5 * moved / step * Math.log(Math.max(1e-6, 1.0 - rho * rho));
    }

    private void flag() {
        for (int i = 0; i < n; i++) {
            flags[i] = firstReason(i);
        }
        check();
        transients();
        swings();
    }

    /**
     * Flags readings that still swing: mean of the last half second against the same a second earlier. What the walls
     * took up at a tip-in is made good over seconds in which every gauge stands still.
     */
    private void swings() {
        double[] t = log.timeS();
        double mean = Math.max(SWING_MEAN_S, MEMORY_STEPS * stepS);
        double apart = Math.max(SWING_S, mean);
        ReadingMean late = new ReadingMean();
        ReadingMean early = new ReadingMean();
        for (int i = 0; i < n; i++) {
            late.to(i + 1);
            while (t[late.from] < t[i] - mean) {
                late.drop();
            }
            while (t[early.to] < t[i] - apart) {
                early.to(early.to + 1);
            }
            while (t[early.from] < t[i] - apart - mean) {
                early.drop();
            }
            if (flags[i] == Flag.STEADY && late.count > 0 && early.count > 0) {
                double limit = atIdle(i) ? 2.0 * SWING : SWING;
                if (Math.abs(late.mean() / early.mean() - 1.0) > limit) {
                    flags[i] = Flag.TRANSIENT;
                }
            }
        }
    }

    /** Mean of the readings in a window that moves along the log. */
    private final class ReadingMean {
        private int from;
        private int to;
        private double sum;
        private int count;

        void to(int endExclusive) {
            for (; to < endExclusive; to++) {
                count(to, 1);
            }
        }

        void drop() {
            count(from++, -1);
        }

        private void count(int i, int sign) {
            if (!Double.isNaN(measured[i])) {
                sum += sign * measured[i];
                count += sign;
            }
        }

        double mean() {
            return sum / count;
        }
    }

    private Flag firstReason(int i) {
        if (log.excluded(i)) {
            return Flag.EXCLUDED;
        }
        double[] t = log.timeS();
        double lambda = Double.isNaN(predicted[i]) ? Double.NaN : 1.0 / measured[i];
        return rules.reason(i == 0 ? 0.0 : t[i] - t[i - 1], lambda, log.rpm()[i], log.vacuumPa()[i],
                pedal(i), log.has(Channel.COOLANT) ? log.values(Channel.COOLANT)[i] : Double.NaN);
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

    private void gather() {
        Map<Long, Gatherer> byKey = new HashMap<>();
        double[] t = log.timeS();
        double usual = n > 1 ? log.durationS() / (n - 1) : 0.1;
        Arrays.fill(cellOf, -1);
        List<Gatherer> all = new ArrayList<>();
        for (int i = 0; i < n; i++) {
            if (flags[i] != Flag.STEADY) {
                continue;
            }
            int s = stateOf[i];
            boolean idle = atIdle(s);
            Gatherer g = byKey.computeIfAbsent(key(s, idle), k -> {
                Gatherer made = new Gatherer(all.size(), idle);
                all.add(made);
                return made;
            });
            double dt = i > 0 ? Math.min(t[i] - t[i - 1], 2.0 * usual) : usual;
            double driven = film.asDriven(s);
            g.add(i, dt, s, measured[i] * driven * sensorBias(i), driven - 1.0);
            if (log.has(Channel.LAMBDA_2)) {
                g.bank(0, driven * sensorBias(i) / log.lambda()[i]);
                g.bank(1, driven * sensorBias(i) / log.values(Channel.LAMBDA_2)[i]);
            }
            cellOf[i] = g.index;
        }
        keep(all);
    }

    /**
     * Short lean spikes far outside a cell's own scatter are no mixture: they are flagged and the cells gathered again.
     * Centre and scatter come from the rich side, which a cylinder that misses cannot move: the 75th and 90th
     * percentiles of a normal distribution lie 0.674 and 1.282 deviations above its middle.
     */
    private void spikes() {
        int[][] histogram = new int[cells.size()][BINS];
        for (int i = 0; i < n; i++) {
            if (cellOf[i] >= 0) {
                histogram[cellOf[i]][bin(againstCell(i))]++;
            }
        }
        double[] limit = new double[histogram.length];
        for (int c = 0; c < limit.length; c++) {
            double q75 = quantile(histogram[c], 0.75);
            double sd = (quantile(histogram[c], 0.90) - q75) / (1.282 - 0.674);
            limit[c] = q75 - 0.674 * sd - Math.max(LEAST_SPIKE, SPIKE * sd);
        }
        int found = 0;
        int steady = 0;
        for (int i = 0; i < n; i++) {
            if (cellOf[i] >= 0) {
                steady++;
                if (againstCell(i) < limit[cellOf[i]]) {
                    flags[i] = Flag.MISFIRE;
                    found++;
                }
            }
        }
        spikeShare = found / Math.max(1.0, steady);
        if (found > 0) {
            gather();
        }
    }

    /** A reading over its cell's mean. */
    private double againstCell(int i) {
        return measured[i] * film.asDriven(stateOf[i]) * sensorBias(i) / cells.get(cellOf[i]).phi();
    }

    private static int bin(double ratio) {
        return (int) Math.clamp((ratio - LEAST_RATIO) / BIN, 0, BINS - 1);
    }

    private static double quantile(int[] histogram, double share) {
        long all = 0;
        for (int h : histogram) {
            all += h;
        }
        double left = share * all;
        for (int b = 0; b < BINS; b++) {
            if (left <= histogram[b]) {
                return LEAST_RATIO + BIN * (b + left / Math.max(1, histogram[b]));
            }
            left -= histogram[b];
        }
        return LEAST_RATIO + BIN * BINS;
    }

    /**
     * What overlap does to the sensor at idle.
     *
     * @param i sample
     * @return true over read phi, 1 away from idle
     */
    public double sensorBias(int i) {
        return 1.0 + (atIdle(stateOf[i]) ? overlapBias(sheet) : 0.0);
    }

    /** {@return share of the steady readings that were short lean spikes, 0 to 1} */
    public double spikeShare() {
        return spikeShare;
    }

    private long key(int s, boolean idle) {
        return idle ? CellGrid.IDLE : CellGrid.key(log.rpm()[s], log.vacuumPa()[s]);
    }

    /** How much too lean a sensor reads at idle, share of phi; half of it is its standard deviation. */
    static double overlapBias(BuildSheet sheet) {
        return switch (sheet.engine().cam()) {
            case MILD -> 0.0;
            case MEDIUM -> 0.012;
            case BIG -> 0.032;
            case WILD -> 0.055;
        };
    }

    private void keep(List<Gatherer> all) {
        List<Cell> kept = new ArrayList<>();
        int[] renumber = new int[all.size()];
        for (Gatherer g : all) {
            boolean enough = g.dwell >= FEWEST_CELL_S && g.count >= 4;
            renumber[g.index] = enough ? kept.size() : -1;
            if (enough) {
                kept.add(g.cell());
            }
        }
        for (int i = 0; i < n; i++) {
            cellOf[i] = cellOf[i] < 0 ? -1 : renumber[cellOf[i]];
        }
        cells = List.copyOf(kept);
        for (int b = 0; b < 2; b++) {
            int bank = b;
            bankCells.set(b, all.stream().filter(g -> renumber[g.index] >= 0).flatMap(g -> g.cell(bank).stream())
                    .toList());
        }
    }

    /** Sums of one cell. */
    private final class Gatherer {
        private final int index;
        private final boolean idle;
        private int count;
        private double dwell;
        private double rpm;
        private double vacuum;
        private double thetaSum;
        private double airSum;
        private double phi;
        private double phi2;
        private double unsettled;
        private final double[] bankPhi = new double[2];
        private final int[] bankCount = new int[2];
        private int runStart = -1;
        private int runLast = -10;
        private int bestLength;
        private int bestMiddle;

        Gatherer(int index, boolean idle) {
            this.index = index;
            this.idle = idle;
        }

        void add(int i, double dt, int s, double p, double correction) {
            count++;
            dwell += dt;
            rpm += log.rpm()[s];
            vacuum += Math.max(0.0, log.vacuumPa()[s]);
            thetaSum += theta[s];
            airSum += air[s];
            phi += p;
            phi2 += p * p;
            unsettled += Math.abs(correction);
            if (i != runLast + 1) {
                runStart = i;
            }
            runLast = i;
            if (i - runStart + 1 > bestLength) {
                bestLength = i - runStart + 1;
                bestMiddle = (i + runStart) / 2;
            }
        }

        void bank(int b, double p) {
            if (!Double.isNaN(p)) {
                bankPhi[b] += p;
                bankCount[b]++;
            }
        }

        /** The cell as one sensor read it; its scatter is the mean's. */
        Optional<Cell> cell(int bank) {
            Cell c = cell();
            return bankCount[bank] * 2 < count ? Optional.empty()
                    : Optional.of(c.withPhi(bankPhi[bank] / bankCount[bank]));
        }

        Cell cell() {
            double m = phi / count;
            double var = Math.max(0.0, phi2 / count - m * m) * count / Math.max(1.0, count - 1.0);
            // Readings within half a second share the same disturbances: count dwell, not samples.
            double independent = Math.max(1.0, dwell / 0.5);
            double scatter = Math.max(0.002, Math.sqrt(var / independent));
            // The film correction is good to about a third.
            double corrected = m * 0.35 * unsettled / count;
            return new Cell(rpm / count, vacuum / count, thetaSum / count, airSum / count, dwell, m,
                    Math.hypot(scatter, corrected), idle,
                    log.has(Channel.AIRFLOW), stateOf[bestMiddle]);
        }
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
        return cells;
    }

    /**
     * Steady cells as one of two sensors read them.
     *
     * @param bank 1 or 2
     * @return cells that sensor read for at least half of the time; empty with one sensor
     */
    public List<Cell> bankCells(int bank) {
        return bankCells.get(bank - 1);
    }

    /**
     * Cell a sample went into.
     *
     * @param i sample
     * @return index into {@link #cells()}, or -1
     */
    public int cellOf(int i) {
        return cellOf[i];
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
        return cells.stream().mapToDouble(Cell::dwellS).sum();
    }
}
