package nariz.sim;

import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import nariz.carburetor.Ambient;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Cam;
import nariz.carburetor.Circuit;
import nariz.carburetor.DamperSetting;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.PumpModel;
import nariz.carburetor.PumpSetting;
import nariz.carburetor.Stage;
import nariz.flow.AcceleratorPump;
import nariz.flow.CompressibleFlow;
import nariz.flow.ThrottlePlate;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.units.Units;
import org.jspecify.annotations.NullUnmarked;
import org.jspecify.annotations.Nullable;

/**
 * Drives a car with a given carburetor along a script and records it.
 *
 * <p>States, stepped every 5 ms: manifold pressure (settles toward the balance of plate and cylinders with the
 * emptying time constant; Heywood 1988, section 14.2), road speed,
 * wall film (X-tau: Aquino, SAE 810494, 1981), pump chamber, exhaust column, sensor. The driver holds a speed with a
 * proportional-integral foot. Deterministic for a seed.
 *
 * <p>In one piece because driver, air, fuel, exhaust and sensor are steps of one integration over the same states.
 */
// Channels are set up by itself a few lines before they are filled.
@NullUnmarked
public final class EngineSimulator {
    private static final double STEP_S = 0.005;
    /** Final drive of a car whose engine turns to 5500 rpm; others are geared in proportion. */
    private static final double FINAL_DRIVE = 3.6;
    private static final double[] GEARS = {3.0, 1.9, 1.35, 1.0};
    private static final double WHEEL_M = 0.31;
    private static final double MASS_KG = 1350;
    private static final double EXHAUST_K = 750;
    private static final double MISS_S = 0.15;
    private static final double SHIFT_S = 0.4;
    /** What strength 1 of an air cleaner in need of a new element adds to its drop at the largest airflow. */
    private static final double FOUL_PA = 2500;
    /** The same before a piston, which is asked for less air; it adds to what draws the fuel there, this much, Pa. */
    private static final double SMALL_FOUL_PA = 800;
    private static final double PISTON_PA = 2000;
    /** Share of the fuel that a stranger's slow film takes up, and its time. */
    private static final double SLOW_FILM = 0.04;
    private static final double SLOW_FILM_S = 8.0;
    /** Share of the fuel that wets the walls at full load beside a strange pump, its time, and the lag of the wells. */
    private static final double WALLS = 0.42;
    private static final double WALLS_S = 1.2;
    private static final double WELL_S = 0.12;
    /** Longest lag of a second stage's wells, and the share of the largest airflow from which they follow at once. */
    private static final double SECOND_WELL_S = 1.2;
    private static final double WEAK_DRAW = 0.5;
    /** Share of a strange pump's stream that strikes the walls. */
    private static final double STREAM = 0.85;

    private final BuildSheet fitted;
    private final Quirks quirks;
    private final Map<Fault, Double> faults;
    private final long seed;
    private final DeliveryModel model;
    private final List<Circuit> circuits;
    /** Null where there is no pump. */
    private final @Nullable Circuit shots;
    private final Delivery flow;
    private final double ambientPa;
    private final double largestAir;
    private final double idleRad;
    private final double scale;
    /** Whether a piston's depression draws the fuel; asked in every step. */
    private final boolean onPiston;
    private final double slowFilm;
    private final long quirksSeed;
    private boolean twoSensors;
    private @Nullable PumpSetting strangePump;
    private Optional<DamperSetting> damper;
    /** Whether air or vacuum opens the second stage. */
    private final boolean drawnOpen;

    /**
     * Sets up a car.
     *
     * @param fitted what is really fitted
     * @param quirksSeed draws how this engine strays from the equations
     * @param faults what else is wrong, with strengths
     * @param noiseSeed draws road, noise and dropouts
     */
    public EngineSimulator(BuildSheet fitted, long quirksSeed, Map<Fault, Double> faults, long noiseSeed) {
        this(fitted, quirksSeed, faults, noiseSeed, false);
    }

    /**
     * A car whose carburetor follows other laws than the equations, on a manifold whose walls hold a second, slow film.
     *
     * @param fitted what is really fitted
     * @param quirksSeed draws its laws and how it strays from them
     * @param faults what else is wrong, with strengths
     * @param noiseSeed draws road, noise and dropouts
     * @return a car
     */
    public static EngineSimulator stranger(BuildSheet fitted, long quirksSeed, Map<Fault, Double> faults,
            long noiseSeed) {
        return new EngineSimulator(fitted, quirksSeed, faults, noiseSeed, true);
    }

    private EngineSimulator(BuildSheet fitted, long quirksSeed, Map<Fault, Double> faults, long noiseSeed,
            boolean strange) {
        this.fitted = fitted;
        this.quirks = Quirks.of(quirksSeed, fitted);
        this.faults = Map.copyOf(faults);
        this.seed = noiseSeed;
        this.quirksSeed = quirksSeed;
        DeliveryModel plain = fitted.carburetor().family().model(fitted, 0.0, quirks.coefficients);
        circuits = fitted.carburetor().family().circuits();
        drawnOpen = !fitted.carburetor().family().linked(fitted.carburetor());
        shots = fitted.carburetor().family().circuit(Stage.PRIMARY, Circuit.Role.PUMP).orElse(null);
        flow = plain.newDelivery();
        damper = fitted.carburetor().family().damper(fitted);
        // A car is about as heavy and blunt as its engine can pull.
        scale = Math.clamp(Math.pow(fitted.engine().displacementM3() * fitted.engine().redlineRpm() / 21.3, 0.9), 0.3,
                1.6);
        ambientPa = fitted.ambient().pressurePa();
        largestAir = plain.airKgPerS(0.85 * fitted.engine().redlineRpm(), 0.98 * ambientPa);
        double idlePa = ambientPa - idleVacuumPa(fitted.engine().cam());
        double idle = fitted.engine().idleRpm();
        double idleAir = quirks.filling(idle / fitted.engine().redlineRpm()) * plain.airKgPerS(idle, idlePa);
        model = strange ? new StrangeModel(fitted, quirks.coefficients, quirksSeed, idleAir, ambientPa - idlePa,
                largestAir) : plain;
        onPiston = model.piston().isPresent();
        slowFilm = strange ? SLOW_FILM : 0.0;
        idleRad = model.angleFor(idleAir - leakKgPerS(idlePa), ambientPa - idlePa);
    }

    /**
     * Vacuum a healthy engine idles at.
     *
     * @param cam cam class
     * @return Pa
     */
    public static double idleVacuumPa(Cam cam) {
        return Units.INHG * switch (cam) {
            case MILD -> 19.5;
            case MEDIUM -> 18.0;
            case BIG -> 15.5;
            case WILD -> 12.5;
        };
    }

    private double air(double rpm, double manifoldPa) {
        return quirks.filling(rpm / fitted.engine().redlineRpm()) * model.airKgPerS(rpm, manifoldPa);
    }

    /**
     * Fits a sensor to each bank.
     *
     * @return this
     */
    public EngineSimulator withTwoSensors() {
        twoSensors = true;
        return this;
    }

    /**
     * Fills the dampers otherwise than the sheet says.
     *
     * @param hidden how they really hold the pistons back
     * @return this
     */
    public EngineSimulator withDamper(DamperSetting hidden) {
        damper = Optional.of(hidden);
        return this;
    }

    /**
     * Fits a pump of other laws than the estimator's, most of whose stream strikes the walls.
     *
     * @param hidden what it does on the whole, with the slack it has and no sheet knows
     * @return this
     */
    public EngineSimulator withPump(PumpSetting hidden) {
        strangePump = hidden;
        return this;
    }

    private double massKg() {
        return MASS_KG * scale;
    }

    private double fault(Fault f) {
        return faults.getOrDefault(f, 0.0);
    }

    private double leakKgPerS(double manifoldPa) {
        double areaM2 = fault(Fault.VACUUM_LEAK) * Units.holeArea(4e-3) * 0.7;
        return areaM2 * CompressibleFlow.flux(ambientPa, fitted.ambient().temperatureK(), manifoldPa);
    }

    /**
     * True fuel of every circuit at a steady state.
     *
     * @param rpm engine speed, rpm
     * @param vacuumPa manifold vacuum, Pa
     * @return parts of phi in the cylinders, in the order of {@link Circuit}
     */
    public double[] steadyPhi(double rpm, double vacuumPa) {
        double a = air(rpm, ambientPa - vacuumPa);
        if (model instanceof StrangeModel s) {
            s.settle();
        }
        double carb = Math.max(0.1 * a, a - leakKgPerS(ambientPa - vacuumPa));
        double theta = Math.max(idleRad, model.angleFor(carb, vacuumPa));
        model.evaluateAir(a, carb, vacuumPa, theta, flow);
        double[] out = new double[circuits.size()];
        for (Circuit c : circuits) {
            out[c.index()] = flow.phi(c) * strays(c, a);
        }
        return out;
    }

    /** What the air cleaner takes of the pressure ahead of the carburetor, Pa. */
    private double cleanerPa(double airKgPerS) {
        double most = onPiston ? SMALL_FOUL_PA : FOUL_PA;
        return most * fault(Fault.AIR_CLEANER) * Math.pow(airKgPerS / largestAir, 1.7);
    }

    /** Factor on a circuit that no equation of the estimator's has. */
    private double strays(Circuit c, double airKgPerS) {
        double share = airKgPerS / largestAir;
        double fouls = onPiston ? Math.sqrt(1.0 + cleanerPa(airKgPerS) / PISTON_PA)
                : 1.0 + 0.09 * fault(Fault.AIR_CLEANER) * Math.pow(share, 1.4);
        return quirks.circuit(c, share) * fouls;
    }

    /**
     * Drives.
     *
     * @param script what to do
     * @param hz samples a second, 5 to 100
     * @param name of the log
     * @return what the logger recorded, and the truth
     */
    public SimulatedDrive drive(DriveScript script, double hz, String name) {
        return new Run(script, hz, name).go();
    }

    /** One run: everything that moves. */
    private final class Run {
        private final DriveScript script;
        private final String name;
        private final int stepsPerSample;
        private final Random random = new Random(seed);
        private final int samples;
        private final Map<Channel, double[]> out = new EnumMap<>(Channel.class);
        private final double[] trueLambda;
        private final double[][] truePhi;
        private final Optional<PumpModel> pump = strangePump == null ? fitted.carburetor().family().pump(fitted,
                AcceleratorPump.USUAL_PLAY) : Optional.of(new StrangePump(strangePump, quirksSeed));
        private final double manifoldM3 = 0.9 * fitted.engine().displacementM3();
        private final double[] gasColumn = new double[4000];
        private final double[] gasTime = new double[4000];

        private double speed;
        private double theta = idleRad;
        private double integral;
        private double manifold = ambientPa - idleVacuumPa(fitted.engine().cam());
        private double rpm = fitted.engine().idleRpm();
        private double filmKg;
        private double slowKg;
        private double sensed = 1.0;
        private double sensed2 = 1.0;
        private double level = 1.0;
        private double hunting;
        private boolean fresh = true;
        private int gear = 1;
        private double shiftingS;
        private double missesForS;
        private double vacuumRead = idleVacuumPa(fitted.engine().cam());
        private int gas;

        Run(DriveScript script, double hz, String name) {
            this.script = script;
            this.name = name;
            stepsPerSample = (int) Math.max(1, Math.round(1.0 / (hz * STEP_S)));
            samples = (int) (script.lengthS() / (STEP_S * stepsPerSample));
            for (Channel c : List.of(Channel.TIME, Channel.RPM, Channel.VACUUM, Channel.LAMBDA, Channel.THROTTLE,
                    Channel.SPEED, Channel.COOLANT)) {
                out.put(c, new double[samples]);
            }
            if (twoSensors) {
                out.put(Channel.LAMBDA_2, new double[samples]);
            }
            trueLambda = new double[samples];
            truePhi = new double[circuits.size()][samples];
        }

        SimulatedDrive go() {
            int i = 0;
            long step = 0;
            for (DriveScript.Leg leg : script.legs()) {
                gear = leg.gear();
                double from = speed;
                long steps = Math.round(leg.lengthS() / STEP_S);
                for (long k = 0; k < steps && i < samples; k++, step++) {
                    double wanted = from + (leg.toKmh() / 3.6 - from) * k / steps;
                    advance(leg, wanted);
                    if ((step + 1) % stepsPerSample == 0) {
                        record(i++, step * STEP_S);
                    }
                }
            }
            return new SimulatedDrive(new DriveLog(name, logged(i), List.of(), 0), Arrays.copyOf(trueLambda, i),
                    truePhi);
        }

        private void advance(DriveScript.Leg leg, double wanted) {
            theta += foot(leg, wanted);
            breathe(leg);
            move();
        }

        /** Change of plate angle in this step: the driver's foot is limited to a full stroke in 0.25 s. */
        private double foot(DriveScript.Leg leg, double wanted) {
            double target;
            if (leg.foot() >= 0 && rpm > 0.95 * fitted.engine().redlineRpm() && shiftingS <= 0) {
                gear = Math.min(gear + 1, GEARS.length);
                shiftingS = SHIFT_S;
            }
            shiftingS -= STEP_S;
            if (leg.foot() >= 0 && shiftingS > 0) {
                target = idleRad;
            } else if (leg.foot() >= 0) {
                target = idleRad + leg.foot() * (ThrottlePlate.WIDE_OPEN - idleRad);
                integral = 0.2;
            } else if (leg.toKmh() == 0 && wanted < 3) {
                target = idleRad;
                integral = 0;
            } else {
                double error = wanted - speed;
                integral = Math.clamp(integral + 0.12 * error * STEP_S, -0.1, 0.9);
                target = idleRad + Math.clamp(0.02 + integral + 0.10 * error, 0, 1)
                        * (ThrottlePlate.WIDE_OPEN - idleRad);
            }
            double most = STEP_S * (leg.foot() >= 0 ? 5.6 : 1.0);
            return Math.clamp(target - theta, -most, most);
        }

        private void breathe(DriveScript.Leg leg) {
            double drawn = air(rpm, manifold);
            double settled = settledPressure(drawn);
            // Emptying time constant V/(eta V_d N/120); near full load the plate passes more and it settles at once.
            double tau = manifoldM3 / (drawn / manifold * Ambient.R_AIR * fitted.ambient().temperatureK());
            double share = 1.0 - Math.exp(-STEP_S / tau);
            double before = manifold;
            manifold += (settled - manifold) * share;
            drawn = air(rpm, manifold);
            double filling = (manifold - before) * manifoldM3 / (Ambient.R_AIR * fitted.ambient().temperatureK()
                    * STEP_S);
            double carb = Math.clamp(drawn + filling - leakKgPerS(manifold), 0.02 * drawn, 3.0 * drawn);
            burn(drawn, carb);
            push(leg, drawn);
        }

        /** Pressure at which plates and leak pass what the cylinders draw, by bisection. */
        private double settledPressure(double guessKgPerS) {
            double k = fitted.ambient().temperatureK();
            double plates = model.plateArea(theta, guessKgPerS);
            double area = piston.map(p -> p.inARow(plates)).orElse(plates);
            double inlet = ambientPa - cleanerPa(guessKgPerS);
            double low = 8e3;
            double high = ambientPa - 30;
            for (int i = 0; i < 18; i++) {
                double p = 0.5 * (low + high);
                double in = area * CompressibleFlow.flux(inlet, k, Math.min(p, inlet)) + leakKgPerS(p);
                if (in > air(rpm, p)) {
                    low = p;
                } else {
                    high = p;
                }
            }
            return 0.5 * (low + high);
        }

        private void push(DriveScript.Leg leg, double drawn) {
            double brake = 0.30 * 44e6 * drawn / 14.7 * efficiency();
            double friction = rpm / 60 * fitted.engine().displacementM3() * (1.1e5 + 12 * rpm) / 2;
            double watts = brake - friction;
            if (engaged(leg)) {
                double force = watts / Math.max(speed, 4.0);
                double hill = leg.gradePercent() == DriveScript.MATCHED_HILL ? 0 : leg.gradePercent() / 100;
                double drag = 0.45 * scale * speed * speed + (0.013 + hill) * massKg() * 9.81;
                double gain = (force - drag) / massKg();
                if (leg.gradePercent() == DriveScript.MATCHED_HILL) {
                    gain = Math.clamp(gain, -0.5, 0.15);
                }
                double brakes = leg.foot() < 0 && wantedStop(leg) ? 2600 * scale : 0;
                speed = Math.max(0, speed + STEP_S * (gain - brakes / massKg()));
            } else {
                speed = Math.max(0, speed - STEP_S * 1.5);
            }
        }

        private boolean wantedStop(DriveScript.Leg leg) {
            return leg.toKmh() == 0 && theta <= idleRad + 1e-6;
        }

        private boolean engaged(DriveScript.Leg leg) {
            return speed > 2.5 || leg.toKmh() > 0 || leg.foot() > 0;
        }

        private double efficiency() {
            double lambda = sensed;
            return Math.clamp(1.0 - 3.0 * (lambda - 0.92) * (lambda - 0.92), 0.4, 1.0);
        }

        /** A second stage that opens while little air is drawn pulls weakly: its fuel comes late. */
        private double secondWell(double fuelKgPerS, double drawn) {
            double weak = Math.max(0.0, WEAK_DRAW - drawn / largestAir) / WEAK_DRAW;
            second += (fuelKgPerS - second) * Math.min(1.0, STEP_S / Math.max(STEP_S, SECOND_WELL_S * weak));
            second = Math.min(second, fuelKgPerS);
            return second;
        }

        private void burn(double drawn, double carb) {
            double vacuum = ambientPa - manifold;
            // Fuel follows within 10 ms; every second step halves the cost of a drive.
            if (fresh) {
                model.evaluateAir(drawn, Math.min(carb, 3 * drawn), vacuum, theta, flow);
            }
            fresh = !fresh;
            double late = piston.map(p -> p.step(Math.min(carb, 3 * drawn), STEP_S)).orElse(1.0);
            double fuel = 0;
            double perPhi = drawn / fitted.fuel().stoichAfr();
            fallLevel(drawn);
            for (Circuit c : circuits) {
                double phi = flow.phi(c) * strays(c, drawn) * level * late;
                if (strangePump != null && drawnOpen && c.is(Stage.SECONDARY, Circuit.Role.METERING)) {
                    phi = secondWell(phi * perPhi, drawn) / perPhi;
                }
                phiNow[c.index()] = phi;
                fuel += phi * perPhi;
            }
            double shot = 0.0;
            if (shots != null && pump.isPresent()) {
                shot = pump.get().step(theta - idleRad, STEP_S) * quirks.circuit(shots, 0.2);
                phiNow[shots.index()] = shot / perPhi;
            }
            double share = quirks.filmShare * (0.5 + 0.8 * manifold / ambientPa);
            double strikes = share * shot;
            double off = filmKg / quirks.filmTimeS;
            if (strangePump != null) {
                // Walls as of a cold manifold, and fuel that has to be set going in the wells.
                column += (fuel - column) * Math.min(1.0, STEP_S / (WELL_S * walls));
                fuel = column;
                share = WALLS * walls * manifold / ambientPa;
                strikes = STREAM * shot;
                off = filmKg / (WALLS_S * walls);
            }
            filmKg += STEP_S * (share * fuel + strikes - off);
            double slow = slowKg / SLOW_FILM_S;
            slowKg += STEP_S * (slowFilm * (fuel + shot) - slow);
            double burnt = (1 - share - slowFilm) * fuel + shot - strikes - (slowFilm > 0 ? slowFilm * shot : 0.0) + off
                    + (slowFilm > 0 ? slow : 0.0);
            lambdaNow = Math.clamp(perPhi / Math.max(burnt, 1e-9), 0.4, 3.0);
            toSensor(drawn);
        }

        private final double[] phiNow = new double[circuits.size()];
        private double lambdaNow = 1;
        private final Optional<DampedPiston> piston = model.piston().flatMap(p -> damper.map(d -> new DampedPiston(p, d,
                quirksSeed)));
        private double column;
        private double second;
        /** How far walls and wells stray from the usual, 0.8 to 1.2. */
        private final double walls = 0.8 + 0.4 * new Random(quirksSeed * 17 + 3).nextDouble();

        private void fallLevel(double drawn) {
            double starving = fault(Fault.FALLING_FUEL_LEVEL);
            if (starving > 0 && drawn > 0.5 * largestAir) {
                level = Math.max(1 - 0.2 * starving, level - STEP_S * 0.025 * starving);
            } else {
                level = Math.min(1, level + STEP_S * 0.08);
            }
        }

        /** The exhaust is a column of gas: what leaves the cylinders now reaches the sensor one volume later. */
        private void toSensor(double drawn) {
            double delay = 1.2 * 120 / rpm + quirks.exhaustM3 * ambientPa / (287 * EXHAUST_K * drawn);
            gas = (gas + 1) % gasColumn.length;
            gasColumn[gas] = lambdaNow;
            gasTime[gas] = delay;
            int back = (int) Math.min(gasColumn.length - 2, gasTime[gas] / STEP_S);
            int at = Math.floorMod(gas - back, gasColumn.length);
            double arriving = gasColumn[at] == 0 ? lambdaNow : gasColumn[at];
            double lean = fault(Fault.EXHAUST_LEAK) * 0.08 * square(idleAirShare(drawn));
            double misfire = manifold < 0.24 * ambientPa && rpm > 1500 ? 0.5 : misses();
            double reads = arriving * (1 + lean + quirks.readsLeanAtIdle * square(idleAirShare(drawn))
                    + 0.05 * fault(Fault.SENSOR_OFFSET)) + misfire;
            double bank = twoSensors ? quirks.bankSpread : 0;
            sensed += (reads * (1 + bank) - sensed) * STEP_S / quirks.sensorLagS;
            sensed2 += (reads * (1 - bank) - sensed2) * STEP_S / quirks.sensorLagS;
        }

        /** Unburnt oxygen of a cylinder that misses now and then reads lean. */
        private double misses() {
            double strength = fault(Fault.MISFIRE);
            if (strength <= 0) {
                return 0;
            }
            missesForS = missesForS > 0 ? missesForS - STEP_S
                    : (random.nextDouble() < 2.0 * strength * STEP_S ? MISS_S : 0);
            return missesForS > 0 ? 0.25 : 0;
        }

        private double idleAirShare(double drawn) {
            return Math.min(1.0, idleAir / drawn);
        }

        private final double idleAir = air(fitted.engine().idleRpm(), manifold);

        private void move() {
            double geared = speed / WHEEL_M * GEARS[gear - 1] * FINAL_DRIVE
                    * fitted.engine().redlineRpm() / 5500 * 60 / (2 * Math.PI);
            hunting += STEP_S * (-hunting / 0.4) + Math.sqrt(STEP_S) * random.nextGaussian() * quirks.lope * 1.6;
            double idle = fitted.engine().idleRpm() * (1 + hunting);
            double target = Math.max(geared, idle);
            rpm += (target - rpm) * Math.min(1, STEP_S / 0.12);
            rpm = Math.clamp(rpm, 300, 1.05 * fitted.engine().redlineRpm());
        }

        private void record(int i, double now) {
            double drift = quirks.driftPerHour * now / 3600;
            double drifts = 1 + drift;
            vacuumRead += (ambientPa - manifold - vacuumRead) * Math.min(1, stepsPerSample * STEP_S / 0.04);
            out.get(Channel.TIME)[i] = Math.rint(now * 1e3) / 1e3;
            out.get(Channel.RPM)[i] = Math.rint((rpm + 6 * random.nextGaussian()) / 5) * 5;
            out.get(Channel.VACUUM)[i] = Math.rint((vacuumRead / Units.INHG + 0.06 * random.nextGaussian()) * 100)
                    / 100 * Units.INHG;
            out.get(Channel.LAMBDA)[i] = gauge(sensed * (drifts + quirks.noise * random.nextGaussian()));
            if (twoSensors) {
                out.get(Channel.LAMBDA_2)[i] = gauge(sensed2 * (drifts + quirks.noise * random.nextGaussian()));
            }
            out.get(Channel.THROTTLE)[i] = Math.clamp(Math.rint(((theta - idleRad)
                    / (ThrottlePlate.WIDE_OPEN - idleRad) + 0.0008 * random.nextGaussian()) * 1000) / 1000, 0, 1);
            out.get(Channel.SPEED)[i] = Math.max(0, speed + 0.04 * random.nextGaussian());
            out.get(Channel.COOLANT)[i] = Units.ZERO_CELSIUS_K + 86 + 3 * Math.sin(now / 97)
                    + 0.2 * random.nextGaussian();
            trueLambda[i] = lambdaNow;
            for (Circuit c : circuits) {
                truePhi[c.index()][i] = phiNow[c.index()];
            }
        }

        /** A gauge from 10 to 20 AFR in hundredths. */
        private double gauge(double lambda) {
            double low = 10.0 / Units.PETROL_GAUGE_STOICH;
            double high = 20.0 / Units.PETROL_GAUGE_STOICH;
            return Math.rint(Math.clamp(lambda, low, high) * Units.PETROL_GAUGE_STOICH * 100) / 100
                    / Units.PETROL_GAUGE_STOICH;
        }

        /** Takes two readings' worth of sensor out and loses a second of rows, as loggers do. */
        private Map<Channel, double[]> logged(int n) {
            Map<Channel, double[]> cut = new HashMap<>();
            out.forEach((c, v) -> cut.put(c, Arrays.copyOf(v, n)));
            double[] lambda = cut.get(Channel.LAMBDA);
            for (int drop = 0; drop < 2; drop++) {
                int from = (int) (n * (0.2 + 0.5 * random.nextDouble()));
                int length = (int) Math.min(n - from, (0.6 + random.nextDouble()) / (STEP_S * stepsPerSample));
                Arrays.fill(lambda, from, from + length, Double.NaN);
            }
            double jump = 1.0 + random.nextDouble();
            double[] t = cut.get(Channel.TIME);
            int gap = (int) (n * (0.3 + 0.4 * random.nextDouble()));
            for (int i = gap; i < n; i++) {
                t[i] += jump;
            }
            return cut;
        }
    }

    private static double square(double x) {
        return x * x;
    }
}
