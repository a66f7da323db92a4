package nariz.exam;

import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import nariz.carburetor.Ambient;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Strategy;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.sim.Seeds;
import nariz.units.Units;

/**
 * An engine of another simulator without a fault, with other parts than it was driven with: what every circuit gave
 * then is known from the inside of the drive, and is multiplied by what the parts do to it.
 *
 * <p>phi'/phi = sum over circuits c of (m_c + a_c s_c (f_c(parts) - f_c(driven))) / sum of m_c: m_c is the fuel of the
 * inside table, f the delivery of a carburetor drawn from the family's spread, s_c = m_c/f_c(driven) within a factor of
 * two of the same for all circuits together, a_c {@value #LEAST_EFFECT} to {@value #MOST_EFFECT}, drawn for every
 * engine. So what sound hardware leaves, the road, the sensor and the circuits' shares are the other simulator's; only
 * what parts do is not. Readings follow phi'/phi with a first-order lag of {@value #LAG_S} s behind
 * {@value #DELAY_S} s, film and sensor together.
 */
final class AlteredEngine {
    private static final double LAG_S = 0.4;
    private static final double DELAY_S = 0.25;
    private static final String[] COLUMNS = {"idle_p", "main_p", "idle_s", "main_s"};
    /** Vacuum that changes by less than this over {@link #SPAN_ROWS} rows counts as steady. */
    private static final double STEADY_PA = 1.0 * Units.INHG;
    private static final int SPAN_ROWS = 3;
    /** The other simulator's own tables leave out the beginnings of pulls. */
    private static final double PULL_S = 1.0;
    /** Burnt over metered mixture strays from 1 for seconds after every change, while the walls fill or dry. */
    private static final double IN_BALANCE = 0.05;
    private static final double SHUT_DEG = 0.25;
    private static final double IDLE_SPEED = 1.25;
    private static final int FEWEST = 10;
    private static final double STALLS = 0.25;
    private static final double FAR = 2.0;
    /** Share of a piston's lift below which the other simulator's tables count a moment as off idle. */
    private static final double LOW_LIFT = 0.12;
    private static final double LEANEST = 20.0 / Units.PETROL_GAUGE_STOICH;
    /** A part does this much of what the equations say, by circuit. */
    private static final double LEAST_EFFECT = 0.75;
    private static final double MOST_EFFECT = 1.2;

    private final ReferenceDrive drive;
    private final long seed;
    private final Optional<AlteredFault> fault;
    private final Map<Fault, Double> leak;
    private final double idleAir;
    private final double largestAir;
    private final double[] does = new double[COLUMNS.length];
    private final double[] t;
    private final double[] rpm;
    private final double[] vacuumPa;
    private final double[] lambda;
    private final double[][] fuel;
    private final Regime[] regime;
    private final double[] target;
    private final double[][] driven;
    private final Map<Regime, Double> healthy;
    /** One stream of fuel, metered by lift, in place of an idle and a main circuit. */
    private final boolean needle;

    /**
     * Takes an engine.
     *
     * @param given drive without a fault
     * @param seed draws the laws that the effect of parts follows
     * @param fault what is wrong besides
     */
    AlteredEngine(ReferenceDrive given, long seed, Optional<AlteredFault> fault) {
        drive = given;
        needle = needle(given);
        this.seed = seed;
        this.fault = fault;
        Random r = Seeds.random(seed, 11);
        for (int c = 0; c < does.length; c++) {
            does[c] = LEAST_EFFECT + (MOST_EFFECT - LEAST_EFFECT) * r.nextDouble();
        }
        t = column("t");
        rpm = column("rpm");
        vacuumPa = Arrays.stream(column("vac")).map(v -> v * Units.INHG).toArray();
        fuel = new double[COLUMNS.length][];
        for (int c = 0; c < COLUMNS.length; c++) {
            fuel[c] = column(COLUMNS[c]);
        }
        lambda = column("lam");
        regime = new Regime[t.length];
        target = new double[t.length];
        moments();
        double[] air = column("air");
        int[] idling = IntStream.range(0, t.length).filter(i -> regime[i] == Regime.IDLE).toArray();
        int[] at = idling.length > 0 ? idling : new int[] {0};
        idleAir = Arrays.stream(at).mapToDouble(i -> air[i]).average().orElse(0.0);
        largestAir = Arrays.stream(air).max().orElse(0.0);
        Ambient ambient = given.sheet().ambient();
        double holes = fault.map(f -> f.holes(idleAir, ambient.pressurePa(), ambient.temperatureK(), ambient
                .pressurePa() - vacuumPa[at[0]])).orElse(0.0);
        leak = holes > 0 ? Map.of(Fault.VACUUM_LEAK, holes) : Map.of();
        driven = delivery(given.sheet(), Map.of());
        healthy = rms(given.healthy(), false);
    }

    private double[] column(String name) {
        return Objects.requireNonNull(drive.inside().get(name), name);
    }

    /** Whether a needle meters the fuel as one stream. */
    static boolean needle(ReferenceDrive d) {
        return d.sheet().carburetor().family().bands().isPresent();
    }

    BuildSheet healthy() {
        return drive.healthy();
    }

    /** Which way of running each row is; null where it does not count. */
    private void moments() {
        double[] plate = column("th_p");
        double[] pump = column("pump");
        double[] air = column("air");
        double[] lift = needle ? column("enrich") : new double[0];
        double shut = Arrays.stream(plate).min().orElse(0.0) + SHUT_DEG;
        double since = t[0];
        for (int i = 0; i < t.length; i++) {
            double load = Strategy.load(vacuumPa[i], drive.sheet());
            since = load < Strategy.FULL_LOAD ? t[i] : since;
            double total = 0.0;
            for (double[] f : fuel) {
                total += f[i];
            }
            boolean closed = plate[i] < shut;
            boolean idles = closed && rpm[i] < IDLE_SPEED * drive.sheet().engine().idleRpm();
            target[i] = Strategy.BALANCED.at(idles, vacuumPa[i], drive.sheet());
            double burnt = air[i] / (drive.sheet().fuel().stoichAfr() * (total + pump[i]) * lambda[i]);
            boolean counts = steady(i) && Math.abs(1.0 / burnt - 1.0) < IN_BALANCE && (idles || !closed)
                    && (load < Strategy.FULL_LOAD || t[i] - since > PULL_S);
            if (counts) {
                double slow = needle ? lift[i] < LOW_LIFT ? 1.0 : 0.0 : (fuel[0][i] + fuel[2][i]) / total;
                regime[i] = idles ? Regime.IDLE : Strategy.regime(load, slow);
            }
        }
    }

    private boolean steady(int i) {
        double low = Double.POSITIVE_INFINITY;
        double high = Double.NEGATIVE_INFINITY;
        for (int k = Math.max(0, i - SPAN_ROWS); k <= i; k++) {
            low = Math.min(low, vacuumPa[k]);
            high = Math.max(high, vacuumPa[k]);
        }
        return high - low < STEADY_PA;
    }

    /** Delivery of the four columns' circuits by row, by a carburetor of its own laws. */
    private double[][] delivery(BuildSheet parts, Map<Fault, Double> wrong) {
        EngineSimulator car = PracticeCase.car(parts, seed, wrong, 1, false);
        Family family = parts.carburetor().family();
        List<Circuit> circuits = family.circuits();
        double[][] out = new double[COLUMNS.length][t.length];
        for (int i = 0; i < t.length; i++) {
            double[] phi = car.steadyPhi(rpm[i], vacuumPa[i]);
            for (Circuit c : circuits) {
                if (c.role() != Circuit.Role.PUMP) {
                    out[(c.stage() == Stage.PRIMARY ? 0 : 2) + (c.lowSpeed() && !needle ? 0 : 1)][i] += phi[c.index()];
                }
            }
        }
        return out;
    }

    /** phi with the parts over phi as driven, by row. */
    private double[] ratio(BuildSheet parts, boolean wrong) {
        double[][] then = delivery(parts, wrong ? leak : Map.of());
        double[] air = column("air");
        double[] demand = new double[t.length];
        double[] out = new double[t.length];
        for (int i = 0; i < t.length; i++) {
            double was = 0.0;
            double other = 0.0;
            for (int c = 0; c < COLUMNS.length; c++) {
                was += fuel[c][i];
                other += driven[c][i];
            }
            double is = 0.0;
            double main = wrong && fault.isPresent() ? fault.get().main(needle, air[i] / largestAir) : 1.0;
            for (int c = 0; c < COLUMNS.length; c++) {
                // Where one carburetor's circuit has begun and the other's has not, a quotient means nothing.
                double scale = Math.clamp(fuel[c][i] / Math.max(1e-9, driven[c][i]), was / other / FAR, was / other
                        * FAR);
                is += (c % 2 == 1 ? main : 1.0) * Math.max(0.0, fuel[c][i] + does[c] * scale * (then[c][i]
                        - driven[c][i]));
            }
            out[i] = is / was;
            demand[i] = is;
        }
        if (wrong && fault.isPresent()) {
            double[] comes = fault.get().supplied(t, demand);
            for (int i = 0; i < out.length; i++) {
                out[i] *= comes[i];
            }
        }
        return out;
    }

    /**
     * What the logger would have recorded.
     *
     * @param parts what is fitted
     * @return the drive's log with the mixture of these parts
     */
    DriveLog log(BuildSheet parts) {
        double[] ratio = ratio(parts, true);
        double[] air = column("air");
        DriveLog was = drive.log();
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        was.recorded().forEach(c -> channels.put(c, was.values(c).clone()));
        double[] time = was.timeS();
        double[] first = Objects.requireNonNull(channels.get(Channel.LAMBDA));
        double[] second = channels.get(Channel.LAMBDA_2);
        double[] vacuum = Objects.requireNonNull(channels.get(Channel.VACUUM));
        for (int i = 0; fault.isPresent() && i < t.length; i++) {
            ratio[i] /= fault.get().reads(air[i] / idleAir);
        }
        double state = ratio[0];
        int row = 0;
        for (int i = 0; i < time.length; i++) {
            while (row + 1 < t.length && t[row + 1] <= time[i] - DELAY_S) {
                row++;
            }
            double dt = i == 0 ? 0.0 : Math.max(0.0, time[i] - time[i - 1]);
            state += (ratio[row] - state) * (1.0 - Math.exp(-dt / LAG_S));
            first[i] = read(first[i], state);
            if (second != null) {
                second[i] = read(second[i], state);
            }
            vacuum[i] += fault.isPresent() ? fault.get().vacuumPa(air[row] / largestAir) : 0.0;
        }
        if (fault.isPresent() && fault.get().kind() == Fault.FALLING_FUEL_LEVEL) {
            // Would show it, and is not altered: nobody had a gauge on.
            channels.remove(Channel.FUEL_PRESSURE);
        }
        return new DriveLog(was.name(), channels, was.problems(), was.problemCount());
    }

    /** What a sensor shows of a mixture richer by a factor; one that reads to 20 AFR on the petrol scale. */
    private static double read(double lambda, double factor) {
        return factor == 1.0 ? lambda : Math.min(Math.max(LEANEST, lambda), lambda / factor);
    }

    /** Root mean square of lambda/target - 1 by way of running. */
    Map<Regime, Double> rms(BuildSheet parts) {
        return rms(parts, true);
    }

    private Map<Regime, Double> rms(BuildSheet parts, boolean wrong) {
        double[] ratio = ratio(parts, wrong);
        Map<Regime, double[]> sums = new EnumMap<>(Regime.class);
        for (int i = 0; i < t.length; i++) {
            if (regime[i] != null) {
                double e = lambda[i] / ratio[i] / target[i] - 1.0;
                double[] s = sums.computeIfAbsent(regime[i], g -> new double[2]);
                s[0]++;
                s[1] += e * e;
            }
        }
        Map<Regime, Double> out = new EnumMap<>(Regime.class);
        sums.forEach((g, s) -> {
            if (s[0] >= FEWEST) {
                out.put(g, Math.sqrt(s[1] / s[0]));
            }
        });
        return out;
    }

    /** Whether no way of running is off by more than its tolerance and 2.5 points more than as it was driven. */
    boolean tuned(BuildSheet parts) {
        return rms(parts).entrySet().stream().allMatch(e -> e.getValue() <= limit(e.getKey()));
    }

    double limit(Regime g) {
        return Math.max(g.tolerance(), healthy.getOrDefault(g, 0.0) + Truth.BEYOND_BEST);
    }

    /** Whether the engine runs with these parts at all: a mixture further off does not burn, or fouls the plugs. */
    boolean runs(BuildSheet parts) {
        return rms(parts).values().stream().allMatch(e -> e < STALLS);
    }

    /** Sum over ways of running of (rms/tolerance)². */
    double loss(BuildSheet parts) {
        return rms(parts).entrySet().stream().mapToDouble(e -> Math.pow(e.getValue() / e.getKey().tolerance(), 2))
                .sum();
    }
}
