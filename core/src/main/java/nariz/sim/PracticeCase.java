package nariz.sim;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import nariz.build.BuildSheet;
import nariz.build.BuildSheetReader;
import nariz.build.Part;
import nariz.build.SideName;

/**
 * A made-up engine with something wrong, drawn from a seed: the examination paper of docs/accuracy.md.
 *
 * @param seed seed
 * @param healthy the car set up well
 * @param fitted what is really fitted and written on the sheet
 * @param errors parts moved away from healthy
 * @param faults faults with strengths
 */
public record PracticeCase(long seed, BuildSheet healthy, BuildSheet fitted, List<Misfit> errors,
        Map<Fault, Double> faults) {
    /**
     * A part moved away from where it should be.
     *
     * @param part part
     * @param side side
     * @param healthy healthy size
     * @param fitted fitted size
     */
    public record Misfit(Part part, SideName side, double healthy, double fitted) {
        /** {@return for people} */
        public String text() {
            return side.key() + " " + part.label() + " " + part.text(fitted) + " for " + part.text(healthy);
        }
    }

    private static final double HEALTHY_RMS = 0.035;
    private static final int DRAWS = 30;
    private static final double FELT = 0.09;

    /** Copies the collections. */
    public PracticeCase {
        errors = List.copyOf(errors);
        faults = Map.copyOf(faults);
    }

    /**
     * Draws a case.
     *
     * @param seed seed
     * @return the case
     */
    public static PracticeCase of(long seed) {
        Random r = new Random(seed * 7919 + 17);
        // Some draws cannot be set up well with any parts; nobody would learn anything from those.
        BuildSheet healthy = HealthyTune.of(engine(r), seed);
        for (int i = 0; i < DRAWS && HealthyTune.rms(healthy, seed) > HEALTHY_RMS; i++) {
            healthy = HealthyTune.of(engine(r), seed);
        }
        double kind = r.nextDouble();
        List<Misfit> errors = new ArrayList<>();
        Map<Fault, Double> faults = new EnumMap<>(Fault.class);
        if (kind < 0.70) {
            errors.addAll(errors(r, healthy, r.nextDouble() < 0.6 ? 1 : 2, seed));
        } else if (kind < 0.85) {
            Fault f = Fault.values()[r.nextInt(3)];
            faults.put(f, 0.9 + 0.6 * r.nextDouble());
        }
        BuildSheet fitted = healthy;
        for (Misfit e : errors) {
            fitted = e.part().fit(fitted, e.side(), e.fitted());
        }
        return new PracticeCase(seed, healthy, fitted, errors, faults);
    }

    private static List<Misfit> errors(Random r, BuildSheet healthy, int count, long seed) {
        boolean rods = healthy.carburetor().primary().hasRods();
        List<Misfit> out = new ArrayList<>();
        while (out.size() < count) {
            int up = r.nextBoolean() ? 1 : -1;
            Misfit e = switch (r.nextInt(6)) {
                case 0 -> error(healthy, Part.IDLE_FEED_RESTRICTION, SideName.PRIMARY, up * 3);
                case 1 -> error(healthy, Part.MAIN_JET, SideName.PRIMARY, up * (4 + r.nextInt(2)));
                case 2 -> rods ? error(healthy, Part.STEP_UP_SPRING, SideName.PRIMARY, 3)
                        : error(healthy, Part.POWER_VALVE_RATING, SideName.PRIMARY, up * 3);
                case 3 -> rods ? error(healthy, Part.METERING_ROD, SideName.PRIMARY, -4)
                        : error(healthy, Part.POWER_CHANNEL_RESTRICTION, SideName.PRIMARY, up > 0 ? 12 : -12);
                case 4 -> error(healthy, Part.MAIN_JET, SideName.SECONDARY, up * 7);
                default -> error(healthy, Part.MIXTURE_SCREW, SideName.PRIMARY, 0.875);
            };
            Misfit felt = felt(healthy, seed, e);
            if (out.stream().noneMatch(o -> o.part() == e.part()) && felt.fitted() > 0) {
                out.add(felt);
            }
        }
        return out;
    }

    /** Makes an error larger until the driver would feel it: {@link #FELT} somewhere in the drive's range. */
    private static Misfit felt(BuildSheet healthy, long seed, Misfit e) {
        double step = e.fitted() - e.healthy();
        Misfit m = e;
        for (int i = 0; i < 3 && HealthyTune.worstChange(healthy, m.part().fit(healthy, m.side(), m.fitted()), seed)
                < FELT; i++) {
            m = new Misfit(m.part(), m.side(), m.healthy(), m.fitted() + 0.5 * step);
        }
        return m;
    }

    private static Misfit error(BuildSheet healthy, Part part, SideName side, double by) {
        double was = part.of(healthy.carburetor().barrels(side));
        return new Misfit(part, side, was, was + by);
    }

    private static BuildSheet engine(Random r) {
        double litres = Math.rint(10 * (1.8 + 5.0 * r.nextDouble())) / 10;
        int cylinders = litres < 2.6 ? 4 : (litres < 4.2 ? 6 : 8);
        String cam = List.of("mild", "medium", "medium", "big").get(r.nextInt(4));
        int redline = 5000 + 250 * r.nextInt(7);
        int idle = switch (cam) {
            case "mild" -> 720;
            case "medium" -> 800;
            default -> 900;
        };
        boolean rods = r.nextInt(3) == 0;
        // A venturi for about 75 m/s at the redline, as the family's catalogue would offer.
        double venturi = Math.clamp(Math.sqrt(litres * redline / 5500.0) * 15.2 * (0.95 + 0.1 * r.nextDouble()), 22,
                40);
        String primary = String.format(Locale.ROOT, "\"bore\": \"%.1f mm\", \"venturi\": \"%.1f mm\"",
                venturi * 1.38, venturi);
        String secondary = String.format(Locale.ROOT, "\"bore\": \"%.1f mm\", \"venturi\": \"%.1f mm\"",
                venturi * 1.38, venturi * 1.05);
        String json = String.format(Locale.ROOT, """
                {"format": "nariz-build/1", "name": "practice",
                 "engine": {"displacement": "%.1f L", "cylinders": %d, "compression": %.1f, "cam": "%s",
                   "idleSpeed": "%d rpm", "redline": "%d rpm", "advance": "%s", "transmission": "manual"},
                 "ambient": {"pressure": "%.1f kPa", "temperature": "%d C"},
                 "carburetor": {"family": "%s", "primary": {%s}, "secondary": {%s},
                   "secondaryOpening": {"kind": "%s"}}}
                """, litres, cylinders, 8.5 + 1.5 * r.nextDouble(), cam, idle, redline,
                r.nextInt(4) == 0 ? "centrifugal" : "vacuum", 95 + 6.5 * r.nextDouble(), 5 + r.nextInt(25),
                rods ? "rod-metered-4" : "block-metered-4", primary, secondary,
                rods ? "air-valve" : (r.nextBoolean() ? "mechanical" : "diaphragm"));
        return BuildSheetReader.parse("practice", json);
    }

    /** {@return the drive of this case} */
    public SimulatedDrive drive() {
        return drive(fitted, seed);
    }

    /**
     * A drive of this case with other parts.
     *
     * @param parts what is fitted
     * @param noiseSeed draws noise
     * @return the drive
     */
    public SimulatedDrive drive(BuildSheet parts, long noiseSeed) {
        return new EngineSimulator(parts, seed, faults, noiseSeed).drive(DriveScript.twelveMinutes(), 20,
                "practice-" + seed + ".csv");
    }
}
