package nariz.exam;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.function.Function;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.estimation.Observation;
import nariz.family.metered.MeteredParts;
import nariz.flow.Barrels;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.sim.Seeds;
import nariz.sim.SimulatedDrive;

/**
 * A made-up engine with something wrong, drawn from a seed: the examination paper of docs/accuracy.md.
 *
 * @param seed seed
 * @param healthy the car set up well
 * @param fitted what is really fitted and written on the sheet
 * @param errors parts moved away from healthy
 * @param faults faults with strengths
 * @param script the road
 * @param twoSensors whether each bank has a sensor
 * @param sound whether the healthy car is in tolerance everywhere: some engines are not with any parts
 * @param stranger whether its carburetor follows other laws than the estimator's
 */
public record PracticeCase(long seed, BuildSheet healthy, BuildSheet fitted, List<Misfit> errors,
        Map<Fault, Double> faults, DriveScript script, boolean twoSensors, boolean sound,
        boolean stranger) {
    /**
     * A part moved away from where it should be.
     *
     * @param part part
     * @param side side
     * @param healthy healthy size
     * @param fitted fitted size
     */
    public record Misfit(Part part, Stage side, double healthy, double fitted) {
        /** {@return for people} */
        public String text() {
            return side.key() + " " + part.label() + " " + part.text(fitted) + " for " + part.text(healthy);
        }
    }

    private static final int DRAWS = 12;
    private static final int LARGER = 4;
    private static final int CELLS = 8;
    /** Share of its tolerance that no regime of a healthy car may exceed. */
    private static final double HEALTHY = 0.95;
    private static final double SOUND = 1.1;

    /** Copies the collections. */
    public PracticeCase {
        errors = List.copyOf(errors);
        faults = Map.copyOf(faults);
    }

    /**
     * Draws a case: 60 % have one to three parts wrong, 25 % a fault, 15 % nothing.
     *
     * @param seed seed
     * @return the case
     */
    public static PracticeCase of(long seed) {
        return of(seed, PracticeCase::engine);
    }

    /**
     * Draws a case with one to three two-barrels in place of four-barrels.
     *
     * @param seed seed
     * @return the case
     */
    public static PracticeCase twoBarrel(long seed) {
        return of(seed, PracticeCase::twoBarrelEngine);
    }

    /**
     * Draws a case with carburetors of another family.
     *
     * @param family key of the family
     * @param seed seed
     * @return the case
     */
    public static PracticeCase ofFamily(String family, long seed) {
        return of(seed, r -> PracticeEngines.of(family, r));
    }

    /**
     * Draws a case whose carburetor follows other laws than the estimator's: a third have one or two parts wrong, a
     * third a fault, a third nothing, by turns of the seed. Nobody picked these engines for being easy to set up: they
     * carry what the best parts on the ladders leave.
     *
     * @param seed seed
     * @return the case
     */
    public static PracticeCase stranger(long seed) {
        Random r = Seeds.random(seed, 29);
        DriveScript script = DriveScript.twelveMinutes().varied(r);
        BuildSheet start = engine(r);
        BuildSheet tuned = HealthyTune.of(start, truth(start, seed, script, true).coarse(start, CELLS));
        BuildSheet healthy = HealthyTune.of(tuned, truth(tuned, seed, script, true).coarse(tuned, CELLS));
        List<Misfit> errors = new ArrayList<>();
        Map<Fault, Double> faults = new EnumMap<>(Fault.class);
        int kind = (int) Math.floorMod(seed, 3L);
        if (kind == 0) {
            errors.addAll(errors(r, healthy, truth(healthy, seed, script, true), r.nextDouble() < 0.7 ? 1 : 2));
        } else if (kind == 1) {
            faults.put(Fault.values()[r.nextInt(Fault.values().length)], 0.9 + 0.6 * r.nextDouble());
        }
        return new PracticeCase(seed, healthy, apply(healthy, errors), errors, faults, script, r.nextInt(4) == 0, true,
                true);
    }

    /**
     * Draws a case nobody has set up: all sizes are those that a form assumes where it is left blank. What is wrong is
     * every part that a good set-up of the same engine has in another size.
     *
     * @param family key of the family
     * @param seed seed
     * @return the case; nothing is wrong with it where the usual sizes happen to be right
     */
    public static PracticeCase usualSizes(String family, long seed) {
        Random r = Seeds.random(seed, 17);
        DriveScript script = DriveScript.twelveMinutes().varied(r);
        SetUp found = setUp(r, seed, script, x -> anyEngine(family, x));
        BuildSheet start = found.start();
        List<Misfit> errors = found.truth().tuned(start, found.healthy()) ? List.of() : Ladder.of(start).stream().map(
                l -> new Misfit(l.part(), l.stage(), l.part().of(found.healthy().carburetor(), l.stage()), l.fitted(
                start))).filter(e -> Math.abs(e.healthy() - e.fitted()) > 1e-6).toList();
        return new PracticeCase(seed, found.healthy(), start, errors, Map.of(), script, r.nextInt(4) == 0, found.worst()
                <= SOUND, false);
    }

    /** An engine as it was drawn, set up well, with what is true of it then. */
    private record SetUp(BuildSheet start, BuildSheet healthy, Truth truth, double worst) {
    }

    /** The best of some draws: nobody would learn much from engines that no parts set up well. */
    private static SetUp setUp(Random r, long seed, DriveScript script, Function<Random, BuildSheet> engine) {
        SetUp found = null;
        double worst = Double.POSITIVE_INFINITY;
        for (int i = 0; i < DRAWS && worst > HEALTHY; i++) {
            BuildSheet start = engine.apply(r);
            Truth first = truth(start, seed, script, false);
            BuildSheet tuned = HealthyTune.of(start, first.coarse(start, CELLS));
            if (first.worst(tuned) < worst) {
                // The tuned car drives a little differently: it has to be sound on its own drive.
                Truth own = truth(tuned, seed, script, false);
                if (own.worst(tuned) < worst) {
                    worst = own.worst(tuned);
                    found = new SetUp(start, tuned, own, worst);
                }
            }
        }
        if (found == null) {
            throw new IllegalStateException("no engine of case " + seed + " can be set up at all");
        }
        return found;
    }

    private static PracticeCase of(long seed, Function<Random, BuildSheet> engine) {
        Random r = Seeds.random(seed, 17);
        DriveScript script = DriveScript.twelveMinutes().varied(r);
        SetUp found = setUp(r, seed, script, engine);
        BuildSheet healthy = found.healthy();
        double kind = r.nextDouble();
        List<Misfit> errors = new ArrayList<>();
        Map<Fault, Double> faults = new EnumMap<>(Fault.class);
        if (kind < 0.60) {
            double many = r.nextDouble();
            errors.addAll(errors(r, healthy, found.truth(), many < 0.55 ? 1 : (many < 0.85 ? 2 : 3)));
        } else if (kind < 0.85) {
            faults.put(Fault.values()[r.nextInt(Fault.values().length)], 0.9 + 0.6 * r.nextDouble());
        }
        return new PracticeCase(seed, healthy, apply(healthy, errors), errors, faults, script, r.nextInt(4) == 0,
                found.worst() <= SOUND, false);
    }

    static BuildSheet apply(BuildSheet healthy, List<Misfit> errors) {
        BuildSheet fitted = healthy;
        for (Misfit e : errors) {
            fitted = e.part().fit(fitted, e.side(), e.fitted());
        }
        return fitted;
    }

    /** The car of a case, number for number. */
    static EngineSimulator car(BuildSheet parts, long seed, Map<Fault, Double> faults, long noise, boolean stranger) {
        long quirks = Seeds.spread(seed);
        return stranger ? EngineSimulator.stranger(parts, quirks, faults, noise)
                : new EngineSimulator(parts, quirks, faults, noise);
    }

    /** The mixture behind a drive, whatever its sensor can read of it. */
    private static Truth truth(BuildSheet sheet, long seed, DriveScript script, boolean stranger) {
        SimulatedDrive d = car(sheet, seed, Map.of(), seed, stranger).drive(script, 10, "practice");
        DriveLog log = d.log();
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> channels.put(c, log.values(c)));
        double[] on = new double[log.size()];
        Arrays.fill(on, 1.0);
        channels.put(Channel.LAMBDA, on);
        DriveLog readable = new DriveLog(log.name(), channels, List.of(), 0);
        return Truth.of(Observation.of(readable, sheet, () -> false), d, seed, Map.of(), stranger);
    }

    /** Errors that together leave the car out of tune. */
    private static List<Misfit> errors(Random r, BuildSheet healthy, Truth truth, int count) {
        List<Misfit> out = new ArrayList<>();
        while (out.size() < count) {
            Misfit e = error(r, healthy);
            if (!healthy.carburetor().family().stages().contains(e.side())) {
                continue;
            }
            if (out.stream().anyMatch(o -> o.part().equals(e.part()) && o.side() == e.side())) {
                continue;
            }
            Misfit felt = felt(healthy, truth, e);
            List<Misfit> tried = new ArrayList<>(out);
            tried.add(felt);
            // Errors that make up for each other leave nothing to find.
            if (possible(healthy, felt) && !truth.tuned(apply(healthy, tried), healthy)) {
                out.add(felt);
            }
        }
        return out;
    }

    /** A part a few sizes away: which way and how far differs, its neighbours on the ladder are all alike to chance. */
    private static Misfit ofAnyPart(Random r, BuildSheet healthy) {
        List<Ladder> all = healthy.carburetor().family().ladders(healthy);
        Ladder l = all.get(r.nextInt(all.size()));
        double by = (r.nextBoolean() ? 1 : -1) * Math.max(1, l.reach() / 4) * l.step();
        return error(healthy, l.part(), l.stage(), by);
    }

    static Misfit error(Random r, BuildSheet healthy) {
        if (!HealthyTune.metered(healthy)) {
            return ofAnyPart(r, healthy);
        }
        boolean rods = Barrels.of(healthy.carburetor(), Stage.PRIMARY).enrichment().hasRods();
        int up = r.nextBoolean() ? 1 : -1;
        return switch (r.nextInt(8)) {
            case 0 -> error(healthy, MeteredParts.IDLE_FEED_RESTRICTION, Stage.PRIMARY, up * 3);
            case 1 -> error(healthy, MeteredParts.MAIN_JET, Stage.PRIMARY, up * (3 + r.nextInt(3)));
            case 2 -> rods ? error(healthy, MeteredParts.STEP_UP_SPRING, Stage.PRIMARY, up * 3)
                    : error(healthy, MeteredParts.POWER_VALVE_RATING, Stage.PRIMARY, up * 2);
            case 3 -> rods ? error(healthy, MeteredParts.METERING_ROD, Stage.PRIMARY, -4)
                    : error(healthy, MeteredParts.POWER_CHANNEL_RESTRICTION, Stage.PRIMARY, up * 10);
            case 4 -> error(healthy, MeteredParts.MAIN_JET, Stage.SECONDARY, up * 6);
            case 5 -> error(healthy, MeteredParts.IDLE_AIR_BLEED, Stage.PRIMARY, up * 14);
            case 6 -> error(healthy, MeteredParts.HIGH_SPEED_AIR_BLEED, Stage.PRIMARY, up * 8);
            default -> error(healthy, MeteredParts.MIXTURE_SCREW, Stage.PRIMARY, up * 0.75);
        };
    }

    private static boolean possible(BuildSheet healthy, Misfit m) {
        return HealthyTune.metered(healthy) ? m.fitted() > 0 : healthy.carburetor().family().ladders(healthy).stream()
                .anyMatch(l -> l.part().equals(m.part()) && l.stage() == m.side() && m.fitted() >= l.low() && m.fitted()
                <= l.high());
    }

    /** Makes an error larger, up to two and a half times, until the car is out of tune. */
    private static Misfit felt(BuildSheet healthy, Truth truth, Misfit e) {
        double step = e.fitted() - e.healthy();
        Misfit m = e;
        for (int i = 0; i < LARGER - 1 && truth.tuned(apply(healthy, List.of(m)), healthy); i++) {
            m = new Misfit(m.part(), m.side(), m.healthy(), m.fitted() + 0.5 * step);
        }
        return m;
    }

    private static Misfit error(BuildSheet healthy, Part part, Stage side, double by) {
        double was = part.of(healthy.carburetor(), side);
        return new Misfit(part, side, was, was + by);
    }

    /** An engine of a family as it comes. */
    static BuildSheet anyEngine(String family, Random r) {
        return switch (family) {
            case "block-metered-4", "rod-metered-4" -> engine(r);
            case "block-metered-2" -> twoBarrelEngine(r);
            default -> PracticeEngines.of(family, r);
        };
    }

    private static BuildSheet engine(Random r) {
        double litres = Math.rint(10 * (1.2 + 6.3 * r.nextDouble())) / 10;
        int cylinders = litres < 2.4 ? 4 : (litres < 4.2 ? 6 : 8);
        String cam = List.of("mild", "medium", "medium", "big", "big", "wild").get(r.nextInt(6));
        int redline = 5000 + 250 * r.nextInt(7);
        int idle = switch (cam) {
            case "mild" -> 720;
            case "medium" -> 800;
            case "big" -> 900;
            default -> 1000;
        };
        boolean rods = r.nextInt(3) == 0;
        int count = litres > 5 && r.nextInt(6) == 0 ? 2 : 1;
        // A venturi for about 75 m/s at the redline, as the family's catalogue would offer.
        double venturi = Math.clamp(Math.sqrt(litres * redline / 5500.0 / count) * 15.2
                * (0.95 + 0.1 * r.nextDouble()), 17, 40);
        String primary = String.format(Locale.ROOT, "\"bore\": \"%.1f mm\", \"venturi\": \"%.1f mm\"",
                venturi * 1.38, venturi);
        String secondary = String.format(Locale.ROOT, "\"bore\": \"%.1f mm\", \"venturi\": \"%.1f mm\"",
                venturi * 1.38, venturi * 1.05);
        String json = String.format(Locale.ROOT, """
                {"format": "nariz-build/1", "name": "practice",
                 "engine": {"displacement": "%.1f L", "cylinders": %d, "compression": %.1f, "cam": "%s",
                   "idleSpeed": "%d rpm", "redline": "%d rpm", "advance": "%s", "transmission": "manual"},
                 "ambient": {"pressure": "%.1f kPa", "temperature": "%d C"},
                 "carburetor": {"family": "%s", "count": %d, "primary": {%s}, "secondary": {%s},
                   "secondaryOpening": {"kind": "%s"}}}
                """, litres, cylinders, 8.5 + 1.5 * r.nextDouble(), cam, idle, redline,
                r.nextInt(4) == 0 ? "centrifugal" : "vacuum", 95 + 6.5 * r.nextDouble(), 5 + r.nextInt(25),
                rods ? "rod-metered-4" : "block-metered-4", count, primary, secondary,
                rods ? "air-valve" : (r.nextBoolean() ? "mechanical" : "diaphragm"));
        return BuildSheetReader.parse("practice", json);
    }

    private static BuildSheet twoBarrelEngine(Random r) {
        double litres = Math.rint(10 * (1.2 + 4.0 * r.nextDouble())) / 10;
        int cylinders = litres < 2.4 ? 4 : (litres < 4.2 ? 6 : 8);
        String cam = List.of("mild", "mild", "medium", "medium", "big").get(r.nextInt(5));
        int redline = 4500 + 250 * r.nextInt(5);
        int idle = cam.equals("mild") ? 720 : cam.equals("medium") ? 800 : 900;
        int count = litres > 3 && r.nextInt(4) == 0 ? 3 : litres > 2 && r.nextInt(4) == 0 ? 2 : 1;
        // The same 75 m/s at the redline through half as many venturis a carburetor.
        double venturi = Math.clamp(Math.sqrt(litres * redline / 5500.0 / count) * 18.5
                * (0.95 + 0.1 * r.nextDouble()), 17, 40);
        String json = String.format(Locale.ROOT, """
                {"format": "nariz-build/1", "name": "practice",
                 "engine": {"displacement": "%.1f L", "cylinders": %d, "compression": %.1f, "cam": "%s",
                   "idleSpeed": "%d rpm", "redline": "%d rpm", "advance": "%s", "transmission": "manual"},
                 "ambient": {"pressure": "%.1f kPa", "temperature": "%d C"},
                 "carburetor": {"family": "block-metered-2", "count": %d,
                   "primary": {"bore": "%.1f mm", "venturi": "%.1f mm"}}}
                """, litres, cylinders, 8.5 + 1.5 * r.nextDouble(), cam, idle, redline,
                r.nextInt(4) == 0 ? "centrifugal" : "vacuum", 95 + 6.5 * r.nextDouble(), 5 + r.nextInt(25), count,
                venturi * 1.38, venturi);
        return BuildSheetReader.parse("practice", json);
    }

    /**
     * A drive of this case with some parts.
     *
     * @param parts what is fitted
     * @param noiseSeed draws noise
     * @return the drive
     */
    public SimulatedDrive drive(BuildSheet parts, long noiseSeed) {
        return drive(parts, noiseSeed, script);
    }

    /** The same with rolling pulls at its end, for an answer that waits for them. */
    SimulatedDrive driveWithPulls(BuildSheet parts, long noiseSeed) {
        return drive(parts, noiseSeed, script.then(DriveScript.rollingPulls()));
    }

    private SimulatedDrive drive(BuildSheet parts, long noiseSeed, DriveScript road) {
        EngineSimulator car = car(parts, seed, faults, noiseSeed, stranger);
        return (twoSensors ? car.withTwoSensors() : car).drive(road, 20, "practice-" + seed + ".csv");
    }

    /** {@return the drive of this case} */
    public SimulatedDrive drive() {
        return drive(fitted, seed);
    }
}
