package nariz.sim;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.flow.CompressibleFlow;
import nariz.flow.ThrottlePlate;
import nariz.units.Units;
import org.jspecify.annotations.NullUnmarked;

/**
 * An engine that runs on the stand: what it does follows from its screws, stops and throttle at every moment, its speed
 * included. The practice engine of everything that is done beside a running engine.
 *
 * <p>Speed: tau/N0 dN/dt = sum over cylinders of share eta(lambda) m/m0 - (0.86 + 0.14 N/N0) - load, m the charge of a
 * cycle, N0 and m0 those of the idle on the sheet, tau {@value #INERTIA_S} s (Heywood 1988, sections 5.8 and 13.2: at
 * idle all work goes into friction and pumping); eta is {@link TorqueOfMixture}. Manifold pressure, walls, exhaust and
 * sensor ({@link ExhaustColumn}) as in {@link EngineSimulator}. Fuel: the carburetor's equations with coefficients,
 * levels and tilts of its own, each carburetor at the opening of its own plates; plenums share a third of their
 * mixture, runners none. Deterministic for a seed. Calls may come from any thread.
 *
 * <p>In one piece because throttle, air, fuel and speed are steps of one integration over the same states, and what a
 * hand can do moves those.
 */
// Channels of time are set up by themselves before they are read.
@NullUnmarked
public final class RunningEngine {
    /** Step of the integration, s. */
    public static final double STEP_S = 0.01;
    private static final double INERTIA_S = 0.45;
    /** Share of a common plenum's mixture that is everybody's. */
    private static final double SHARED = 0.35;
    private static final double FILM_S = 0.8;
    private static final double SLOW_SHARE = 0.2;
    private static final double SLOW_S = 5.0;
    /** What a turn of a stop screw opens, rad. */
    private static final double STOP_RAD = 1.6 * Units.DEG;
    private static final double STALLS = 0.42;
    /** Share of the ambient pressure that a meter costs at most, and of the air that it leaves at least. */
    private static final double MOST_METERED = 0.3;
    private static final double LEAST_THROUGH_METER = 0.3;
    /** No plate shuts tighter. */
    private static final double LEAST_AREA_M2 = 1e-8;
    private static final double GAUGE_LOW = 10.0 / Units.PETROL_GAUGE_STOICH;
    private static final double GAUGE_HIGH = 20.0 / Units.PETROL_GAUGE_STOICH;
    /** Drag of an automatic in gear, as a share of the torque at idle. */
    private static final double IN_GEAR = 0.10;
    private static final double WARMS_S = 240;

    private final BuildSheet sheet;
    private final Family family;
    private final Part trim;
    private final Quirks quirks;
    private final Random random;
    private final long quirksSeed;
    /** Whether chance is left out. */
    private boolean noiseless;
    private final double ambientPa;
    private final double airK;
    private final double idleRpm;
    private final double cycleKg0;
    private final double idleRad;
    private final double idleAir;
    private final TorqueOfMixture torque;
    private final int carburetors;
    private final int perCarburetor;
    private final boolean runners;
    private final Map<Double, DeliveryModel> models = new HashMap<>();
    private final double[] trims;
    private final double[] hiddenRich;
    /** How much of what the equations say a turn does it does here: needles taper more finely than a plain hole. */
    private final double taper;
    private final double sheetTurns;
    private final double[] stops;
    private final double[] links;
    private final Delivery flow;
    private final double manifoldM3;

    /** What is really fitted now: jets are swapped on a practice engine too. */
    private BuildSheet fitted;
    private double leakM2;
    private double throttle;
    private double holdRpm;
    private boolean gear;
    /** Whether the carburetors' links are done up; undone, each stands on its own stop and only the first is pulled. */
    private boolean linked = true;
    /** Carburetor that has a flow meter on its mouth; -1 for none. */
    private int metered = -1;
    /** Share of a carburetor's air that the meter takes at the idle on the sheet. */
    private double meterTakes;
    private boolean stalled;
    private double coolantK = Units.ZERO_CELSIUS_K + 84;
    private double rpm;
    private double manifold;
    private double hunting;
    private double timeS;
    private final double[] fast;
    private final double[] slow;
    private final double[] carbAir;
    private double vacuumRead;
    private final ExhaustColumn exhaust;

    /**
     * What the instruments show.
     *
     * @param timeS since the start, s
     * @param rpm engine speed
     * @param vacuumPa manifold vacuum, Pa
     * @param lambda first sensor
     * @param lambda2 second sensor, other bank
     * @param throttle pedal, 0 to 1
     * @param coolantK coolant, K
     */
    public record Reading(double timeS, double rpm, double vacuumPa, double lambda, double lambda2, double throttle,
            double coolantK) {
    }

    /**
     * Starts an engine, warm and idling.
     *
     * @param fitted what is really fitted
     * @param quirksSeed draws how it strays from the equations
     * @param noiseSeed draws noise and lope
     */
    public RunningEngine(BuildSheet fitted, long quirksSeed, long noiseSeed) {
        sheet = fitted;
        this.fitted = fitted;
        Carburetor c = fitted.carburetor();
        family = c.family();
        trim = family.part(c, Stage.PRIMARY, Part.Role.IDLE_MIXTURE).orElseThrow();
        quirks = Quirks.of(quirksSeed, fitted);
        random = new Random(noiseSeed);
        this.quirksSeed = quirksSeed;
        ambientPa = fitted.ambient().pressurePa();
        airK = fitted.ambient().temperatureK();
        idleRpm = fitted.engine().idleRpm();
        carburetors = c.count();
        int screws = family.idleTrims(c);
        perCarburetor = screws / carburetors;
        runners = screws == fitted.engine().cylinders() && screws > 2;
        torque = TorqueOfMixture.of(fitted.engine().cam());
        trims = new double[screws];
        List<Double> each = trim.each(c, Stage.PRIMARY);
        for (int i = 0; i < screws; i++) {
            trims[i] = each.size() == screws ? each.get(i) : trim.of(c, Stage.PRIMARY);
        }
        Random hidden = new Random(quirksSeed * 31 + 7);
        hiddenRich = new double[screws];
        Arrays.setAll(hiddenRich, i -> Math.exp(0.02 * hidden.nextGaussian()));
        taper = 0.35 + 0.3 * hidden.nextDouble();
        sheetTurns = trim.of(c, Stage.PRIMARY);
        stops = new double[carburetors];
        links = new double[carburetors];
        fast = new double[screws];
        slow = new double[screws];
        carbAir = new double[carburetors];
        manifoldM3 = (runners ? 0.25 : 0.9) * fitted.engine().displacementM3();
        DeliveryModel m = model(sheetTurns);
        flow = m.newDelivery();
        manifold = ambientPa - EngineSimulator.idleVacuumPa(fitted.engine().cam());
        rpm = idleRpm;
        idleAir = air(idleRpm, manifold);
        cycleKg0 = idleAir * 120.0 / idleRpm;
        idleRad = m.angleFor(idleAir, ambientPa - manifold);
        vacuumRead = ambientPa - manifold;
        exhaust = new ExhaustColumn(quirks, idleAir, ambientPa);
        wet();
    }

    /** Walls as the present screws would wet them at the idle on the sheet. */
    private void wet() {
        for (int i = 0; i < trims.length; i++) {
            fast[i] = phi(i, idleAir, manifold, idleRad);
            slow[i] = fast[i];
        }
    }

    private DeliveryModel model(double turns) {
        return models.computeIfAbsent(turns, t -> family.model(trim.fit(fitted, Stage.PRIMARY, t), 0.0,
                quirks.coefficients));
    }

    private double air(double speed, double pressurePa) {
        return quirks.filling(speed / sheet.engine().redlineRpm()) * model(sheetTurns).airKgPerS(speed, pressurePa);
    }

    // What a hand can do

    /** {@return how many screws or jet nuts trim the idle mixture} */
    public int trims() {
        return trims.length;
    }

    /** {@return what trims the idle mixture} */
    public Part trim() {
        return trim;
    }

    /**
     * Where a screw stands.
     *
     * @param screw from 0
     * @return turns as on a sheet
     */
    public synchronized double turns(int screw) {
        return trims[screw];
    }

    /**
     * Turns a screw.
     *
     * @param screw from 0
     * @param turns where it stands then, as on a sheet; not below its seat
     */
    public synchronized void turn(int screw, double turns) {
        trims[screw] = trim.isFromDatum() ? turns : Math.max(0.0, turns);
        if (models.size() > 64) {
            models.clear();
        }
    }

    /**
     * Turns one mixture screw, or all together.
     *
     * @param screw from 0; negative for all
     * @param by turns, richer positive
     */
    public synchronized void turnBy(int screw, double by) {
        for (int i = 0; i < trims(); i++) {
            if (screw < 0 || screw == i) {
                turn(i, turns(i) + by);
            }
        }
    }

    /**
     * Sets all mixture screws alike.
     *
     * @param turns where each stands then, as on a sheet
     */
    public synchronized void turnAll(double turns) {
        for (int i = 0; i < trims(); i++) {
            turn(i, turns);
        }
    }

    /** {@return how many carburetors there are, each with a stop} */
    public int carburetors() {
        return carburetors;
    }

    /**
     * Turns a carburetor's stop screw.
     *
     * @param carburetor from 0
     * @param turns in from where it was set for the idle on the sheet; out is negative
     */
    public synchronized void stop(int carburetor, double turns) {
        stops[carburetor] = turns;
    }

    /**
     * How far a stop screw was turned.
     *
     * @param carburetor from 0
     * @return turns in
     */
    public synchronized double stop(int carburetor) {
        return stops[carburetor];
    }

    /**
     * Turns the stop screws of all carburetors together, as their linkage would.
     *
     * @param by turns, faster positive
     */
    public synchronized void stopBy(double by) {
        for (int j = 0; j < carburetors(); j++) {
            stop(j, stop(j) + by);
        }
    }

    /**
     * Sets how far a carburetor's plates lag or lead the common shaft.
     *
     * @param carburetor from 0
     * @param turns of its link; positive opens
     */
    public synchronized void link(int carburetor, double turns) {
        links[carburetor] = turns;
    }

    /**
     * Where a link stands.
     *
     * @param carburetor from 0
     * @return turns
     */
    public synchronized double link(int carburetor) {
        return links[carburetor];
    }

    /**
     * Undoes the links between the carburetors, or does them up.
     *
     * @param done whether they are done up
     */
    public synchronized void linked(boolean done) {
        linked = done;
    }

    /**
     * Holds a flow meter on a carburetor's mouth: one more restriction before its plates.
     *
     * @param carburetor from 0; -1 takes it off
     * @param takes share of the carburetor's air at the idle on the sheet that it takes, 0 to 0.4
     */
    public synchronized void meter(int carburetor, double takes) {
        metered = carburetor;
        meterTakes = takes;
    }

    /**
     * Opens the throttle.
     *
     * @param share 0 to 1
     */
    public synchronized void throttle(double share) {
        throttle = Math.clamp(share, 0.0, 1.0);
        holdRpm = 0.0;
    }

    /**
     * Lets somebody hold a speed with the throttle.
     *
     * @param speed rpm; 0 lets go
     */
    public synchronized void hold(double speed) {
        holdRpm = speed;
        throttle = speed > 0.0 ? throttle : 0.0;
    }

    /**
     * Puts an automatic in gear, brakes held.
     *
     * @param in whether it is
     */
    public synchronized void gear(boolean in) {
        gear = in;
    }

    /** {@return whether an automatic is in gear} */
    public synchronized boolean inGear() {
        return gear;
    }

    /**
     * Opens a vacuum leak.
     *
     * @param m2 effective area, m²
     */
    public synchronized void leak(double m2) {
        leakM2 = m2;
    }

    /** {@return whether a leak is open} */
    public synchronized boolean leaks() {
        return leakM2 > 0.0;
    }

    /** {@return what it was built with} */
    public BuildSheet sheet() {
        return sheet;
    }

    /** {@return what is fitted now} */
    public synchronized BuildSheet fitted() {
        return fitted;
    }

    /**
     * Swaps parts. Screws, stops and links stay as they are.
     *
     * @param parts what is fitted then, of the same carburetors
     */
    public synchronized void fit(BuildSheet parts) {
        fitted = parts;
        models.clear();
    }

    /**
     * Makes it start cold.
     *
     * @param k coolant, K
     */
    public synchronized void coolant(double k) {
        coolantK = k;
    }

    /** {@return whether it died} */
    public synchronized boolean stalled() {
        return stalled;
    }

    /**
     * Cranks it until the walls are wet; it runs again, or dies of what it died of before. No effect on an engine that
     * runs.
     */
    public synchronized void start() {
        if (stalled) {
            crank();
        }
    }

    private void crank() {
        stalled = false;
        rpm = idleRpm;
        manifold = ambientPa - EngineSimulator.idleVacuumPa(sheet.engine().cam());
        wet();
    }

    /**
     * Begins as it runs with what is fitted and set now, as if it had idled for a while, rather than as the sheet says.
     * No time passes, no chance is drawn.
     */
    public synchronized void begin() {
        double clock = timeS;
        double coolant = coolantK;
        boolean without = noiseless;
        crank();
        noiseless = true;
        run(WhenSettled.SETTLES_S);
        noiseless = without;
        timeS = clock;
        coolantK = coolant;
    }

    // What it does

    /**
     * Lets time pass.
     *
     * @param seconds at least a step
     */
    public synchronized void run(double seconds) {
        for (int i = (int) Math.max(1, Math.round(seconds / STEP_S)); i > 0; i--) {
            step();
        }
    }

    private void step() {
        timeS += STEP_S;
        coolantK += (Units.ZERO_CELSIUS_K + 86 - coolantK) * STEP_S / WARMS_S;
        if (stalled) {
            rpm = Math.max(0.0, rpm - 400 * STEP_S);
            manifold += (ambientPa - manifold) * STEP_S / 0.1;
            sense(1.9, 1.9, 1e-4);
            return;
        }
        if (holdRpm > 0.0) {
            throttle = Math.clamp(throttle + STEP_S * 0.05 * (holdRpm - rpm) / holdRpm, 0.0, 0.6);
        }
        double[] rad = new double[carburetors];
        double areas = 0.0;
        double[] area = new double[carburetors];
        for (int j = 0; j < carburetors; j++) {
            double opened = throttle > 0.0 && (linked || j == 0) ? throttle * (ThrottlePlate.WIDE_OPEN - idleRad) : 0.0;
            double link = linked ? links[j] : 0.0;
            rad[j] = Math.clamp(idleRad + STOP_RAD * (stops[j] + 0.25 * link) + opened * (1.0 + 0.12 * link), 0.0,
                    ThrottlePlate.WIDE_OPEN);
            double bare = Math.max(LEAST_AREA_M2, model(sheetTurns).plateArea(rad[j], idleAir) / carburetors);
            area[j] = bare * (j == metered ? throughMeter(j) : 1.0);
            areas += area[j];
        }
        breathe(areas);
        double drawn = air(Math.max(rpm, 50.0), manifold);
        double throughPlates = Math.max(0.02 * drawn, drawn - leaked(manifold));
        double pull = 0.0;
        double[] phi = new double[trims.length];
        for (int j = 0; j < carburetors; j++) {
            carbAir[j] = throughPlates * area[j] / areas;
        }
        for (int i = 0; i < trims.length; i++) {
            int j = i / perCarburetor;
            double now = phi(i, carbAir[j] * carburetors, manifold, rad[j]);
            fast[i] += (now - fast[i]) * STEP_S / FILM_S;
            slow[i] += (now - slow[i]) * STEP_S / SLOW_S;
            phi[i] = ((1 - SLOW_SHARE) * fast[i] + SLOW_SHARE * slow[i]) * carbAir[j] * carburetors / drawn;
        }
        double mean = Arrays.stream(phi).average().orElse(1.0);
        double shared = runners ? 0.0 : SHARED;
        double[] lambda = new double[trims.length];
        for (int i = 0; i < trims.length; i++) {
            lambda[i] = 1.0 / Math.max(0.2, shared * mean + (1 - shared) * phi[i]);
            pull += torque.share(lambda[i]) / trims.length;
        }
        turnOver(pull, drawn * 120.0 / Math.max(rpm, 50.0) / cycleKg0);
        banks(lambda, drawn);
    }

    /** What is left of a carburetor's air behind a meter, whose pressure drop grows with the square of the flow. */
    private double throughMeter(int carburetor) {
        double flow = carbAir[carburetor] * carburetors / idleAir;
        double before = ambientPa * (1.0 - Math.min(MOST_METERED, meterTakes * flow * flow));
        return Math.max(LEAST_THROUGH_METER, CompressibleFlow.flux(before, airK, Math.min(before, manifold))
                / CompressibleFlow.flux(ambientPa, airK, manifold));
    }

    private void breathe(double areas) {
        double drawn = air(Math.max(rpm, 50.0), manifold);
        double in = areas * CompressibleFlow.flux(ambientPa, airK, manifold) + leaked(manifold);
        double rate = (in - drawn) * 287.0 * airK / manifoldM3;
        // The emptying time is near the step: limited to what the pressure can do in one.
        double most = 0.04 * ambientPa;
        manifold = Math.clamp(manifold + Math.clamp(rate * STEP_S, -most, most), 5e3, ambientPa - 50);
    }

    private double leaked(double pressurePa) {
        return leakM2 * CompressibleFlow.flux(ambientPa, airK, pressurePa);
    }

    /** Mixture that a screw's barrel gives, phi against the air through its carburetor. */
    private double phi(int screw, double airKgPerS, double pressurePa, double rad) {
        DeliveryModel m = model(sheetTurns + taper * (trims[screw] - sheetTurns));
        m.evaluateAir(airKgPerS, airKgPerS, ambientPa - pressurePa, rad, flow);
        return flow.total() * hiddenRich[screw];
    }

    private void turnOver(double pull, double charge) {
        hunting += -hunting * STEP_S / 0.5 + Math.sqrt(STEP_S) * gaussian() * quirks.lope * 2.2;
        double load = 0.86 + 0.14 * rpm / idleRpm + (gear ? IN_GEAR : 0.0);
        rpm += idleRpm * STEP_S / INERTIA_S * (pull * (1 + hunting) * charge - load);
        rpm = Math.clamp(rpm, 0.0, 1.05 * sheet.engine().redlineRpm());
        if (rpm < STALLS * idleRpm) {
            stalled = true;
            throttle = 0.0;
        }
    }

    private void banks(double[] lambda, double drawn) {
        double[] sum = new double[2];
        int[] n = new int[2];
        for (int i = 0; i < lambda.length; i++) {
            int bank = lambda.length == 1 ? 0 : i % 2;
            double odd = !noiseless && random.nextDouble() < torque.misses(lambda[i]) ? 0.35 : 0.0;
            sum[bank] += lambda[i] + odd;
            n[bank]++;
        }
        double one = sum[0] / Math.max(1, n[0]);
        double two = n[1] == 0 ? one : sum[1] / n[1];
        sense(one, two, drawn);
    }

    private void sense(double one, double two, double drawn) {
        exhaust.pass(one, two, drawn, rpm);
        vacuumRead += (ambientPa - manifold - vacuumRead) * STEP_S / 0.05;
    }

    /** {@return since the start, s} */
    public synchronized double timeS() {
        return timeS;
    }

    /** {@return manifold vacuum without a gauge, Pa} */
    synchronized double vacuumPa() {
        return ambientPa - manifold;
    }

    /** {@return speed without a gauge, rpm} */
    synchronized double speed() {
        return rpm;
    }

    /** {@return what the barrels give in the mean, phi without the slow part of the walls} */
    synchronized double meanPhi() {
        return Arrays.stream(fast).average().orElse(1.0);
    }

    /** {@return what the instruments show now} */
    public synchronized Reading read() {
        double pulses = runners ? 900 : 120;
        return new Reading(timeS, Math.max(0.0, Math.rint((rpm + (stalled ? 0 : 5 * gaussian())) / 5) * 5),
                vacuumRead + pulses * gaussian(), gauge(exhaust.sensed(0)), gauge(exhaust.sensed(1)), throttle,
                coolantK + 0.1 * gaussian());
    }

    private double gauge(double lambda) {
        return Math.clamp(lambda * (1 + quirks.noise * gaussian()), GAUGE_LOW, GAUGE_HIGH);
    }

    /**
     * What passes a carburetor's mouth at this moment, each barrel of it.
     *
     * @param carburetor from 0
     * @return kg/h
     */
    public synchronized double draft(int carburetor) {
        return 3600.0 * carbAir[carburetor] / perCarburetor;
    }

    /** {@return the same engine as it is set now, idling, with chance of its own} */
    public RunningEngine copy() {
        return twin(allTurns(), false);
    }

    /**
     * The same engine, idling with other screws.
     *
     * @param turns of every screw
     * @param withoutChance whether noise, lope and misses are left out
     * @return one that runs by itself
     */
    synchronized RunningEngine twin(double[] turns, boolean withoutChance) {
        RunningEngine twin = new RunningEngine(sheet, quirksSeed, 0);
        twin.noiseless = withoutChance;
        twin.fit(fitted);
        System.arraycopy(turns, 0, twin.trims, 0, turns.length);
        System.arraycopy(stops, 0, twin.stops, 0, stops.length);
        System.arraycopy(links, 0, twin.links, 0, links.length);
        twin.leakM2 = leakM2;
        twin.gear = gear;
        twin.linked = linked;
        twin.wet();
        return twin;
    }

    /** {@return where every screw stands; a copy} */
    public synchronized double[] allTurns() {
        return trims.clone();
    }

    private double gaussian() {
        return noiseless ? 0.0 : random.nextGaussian();
    }
}
