package nariz.build;

import static nariz.words.CoreWords.say;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import nariz.units.Dimension;
import nariz.units.Quantity;
import nariz.units.Units;

/**
 * Reads a build sheet, format {@code nariz-build/1} (docs/formats/build-sheet.md and its JSON Schema).
 *
 * <p>Needed: format, engine displacement and cylinders, family. Everything else has a family default, which is listed
 * in {@link BuildSheet#assumed()} when used. Unknown fields, missing units and values that cannot exist are refused
 * with line, column and remedy.
 */
public final class BuildSheetReader {
    /** The format's name and version. */
    public static final String FORMAT = "nariz-build/1";
    static final List<String> CAMS = List.of("mild", "medium", "big", "wild");
    static final List<String> ADVANCES = List.of("vacuum", "centrifugal");
    static final List<String> TRANSMISSIONS = List.of("automatic", "manual");
    static final List<String> PUMP_CAMS = List.of("early", "standard", "long");
    private static final long LONGEST_BYTES = 1_000_000;

    private BuildSheetReader() {
    }

    /**
     * Reads a file.
     *
     * @param file the sheet
     * @return the sheet, complete
     * @throws InputProblem when it cannot be used; nothing else is thrown for bad content
     */
    public static BuildSheet read(Path file) {
        return parse(String.valueOf(file.getFileName()), TextFile.read(file, LONGEST_BYTES,
                say("problem.a-build-sheet-is-short"),
                say("problem.save-the-sheet-as")));
    }

    /**
     * Reads a text.
     *
     * @param source name for messages
     * @param json the sheet
     * @return the sheet, complete
     * @throws InputProblem when it cannot be used
     */
    public static BuildSheet parse(String source, String json) {
        List<String> assumed = new ArrayList<>();
        SheetFields root = new SheetFields(source, "", LocatedJson.parse(source, json), assumed);
        String format = root.text("format", "");
        if (!FORMAT.equals(format)) {
            throw root.problem("format", say("problem.write-format-other-versions-are-not", FORMAT));
        }
        String name = root.text("name", source);
        root.text("notes", "");
        Engine engine = engine(root.object("engine"));
        Fuel fuel = fuel(root.object("fuel"));
        Ambient ambient = ambient(root.object("ambient"));
        Carburetor carburetor = carburetor(root.object("carburetor"), engine);
        root.noOthers();
        return new BuildSheet(name, engine, fuel, ambient, carburetor, assumed);
    }

    private static Engine engine(SheetFields f) {
        double displacement = f.quantity("displacement", Dimension.VOLUME, 0.3e-3, 12e-3, "4.2 L", null);
        if (!f.has("cylinders")) {
            throw f.problem("cylinders", say("problem.this-field-is-needed-write-for-2"));
        }
        int cylinders = f.whole("cylinders", 1, 16, 6);
        double compression = f.number("compression", 6, 16, 9.0);
        Cam cam = Cam.valueOf(f.choice("cam", CAMS, "medium")
                .toUpperCase(java.util.Locale.ROOT));
        double idle = f.quantity("idleSpeed", Dimension.SPEED, 300, 2500, "800 rpm", "800 rpm");
        double redline = f.quantity("redline", Dimension.SPEED, 2000, 12000, "5500 rpm", "5500 rpm");
        String manifold = f.text("manifold", "");
        boolean vacuum = "vacuum".equals(f.choice("advance", ADVANCES, "vacuum"));
        boolean auto = "automatic".equals(f.choice("transmission", TRANSMISSIONS, "manual"));
        f.noOthers();
        return new Engine(displacement, cylinders, compression, cam, idle, redline, manifold, vacuum, auto);
    }

    private static Fuel fuel(SheetFields f) {
        Fuel fuel = new Fuel(f.text("name", "petrol"), f.number("stoichAfr", 5, 16, 14.7),
                f.quantity("density", Dimension.DENSITY, 600, 900, "745 kg/m3", "745 kg/m3"));
        f.noOthers();
        return fuel;
    }

    private static Ambient ambient(SheetFields f) {
        Ambient a = new Ambient(
                f.quantity("pressure", Dimension.PRESSURE, 50e3, 110e3, "101.3 kPa", "101.3 kPa"),
                f.quantity("temperature", Dimension.TEMPERATURE, 230, 330, "20 C", "20 C"));
        f.noOthers();
        return a;
    }

    private static Carburetor carburetor(SheetFields f, Engine engine) {
        List<String> families = Arrays.stream(Family.values()).map(Family::key).toList();
        String key = f.choice("family", families, null);
        Family family = Arrays.stream(Family.values()).filter(x -> x.key().equals(key)).findFirst().orElseThrow();
        int count = f.whole("count", 1, 2, 1);
        FamilyDefaults d = FamilyDefaults.of(family, engine, count);
        Barrels primary = barrels(f.object("primary"), family, d, true);
        Barrels secondary = barrels(f.object("secondary"), family, d, false);
        Opening opening = opening(f.object("secondaryOpening"), d);
        Pump pump = pump(f.object("pump"), d);
        double level = f.quantity("fuelLevel", Dimension.LENGTH, -12e-3, 12e-3, "0 mm", "0 mm");
        f.noOthers();
        return new Carburetor(family, count, primary, secondary, opening, pump, level, 0.0);
    }

    private static Barrels barrels(SheetFields f, Family family, FamilyDefaults d, boolean primary) {
        int bores = f.whole("bores", 1, 2, 2);
        double bore = f.quantity("bore", Dimension.LENGTH, 15e-3, 70e-3, "42 mm", d.bore(primary));
        double venturi = f.quantity("venturi", Dimension.LENGTH, 10e-3, 65e-3, "32 mm", d.venturi(primary, bore));
        if (venturi > bore) {
            throw f.problem("venturi", say("problem.a-venturi-is-narrower-than-its"));
        }
        List<String> kinds = Arrays.stream(Booster.values()).map(Booster::key).toList();
        String boosterKey = f.choice("booster", kinds, Booster.DOWNLEG.key());
        Booster booster = Arrays.stream(Booster.values()).filter(b -> b.key().equals(boosterKey)).findFirst()
                .orElseThrow();
        double jet = hole(f, "mainJet", 20, 150, "65 thou", d.mainJet(primary, venturi));
        double hsab = hole(f, "highSpeedAirBleed", 10, 100, "33 thou", d.highSpeedBleed(primary));
        double ifr = hole(f, "idleFeedRestriction", 10, 80, "33 thou", d.idleFeed(primary));
        double iab = hole(f, "idleAirBleed", 20, 150, "80 thou", d.idleBleed(primary));
        double screw = f.quantity("mixtureScrew", Dimension.TURNS, 0, 12, "2.25 turns", d.screw(primary));
        double valve = 0;
        double channel = 0;
        double rodCruise = 0;
        double rodPower = 0;
        double stepUp = 0;
        if (family == Family.ROD_METERED_4 && primary) {
            rodCruise = hole(f, "rodCruise", 5, 120, "65 thou", share(jet, 0.72));
            rodPower = hole(f, "rodPower", 0, 120, "52 thou", share(jet, 0.60));
            stepUp = f.quantity("stepUpSpring", Dimension.PRESSURE, 0, 20 * Units.INHG, "5 inHg", "5 inHg");
            checkRods(f, jet, rodCruise, rodPower);
        } else {
            // A front valve is the family's rule, a rear one the exception: absent there means plugged.
            valve = f.quantityOrPlugged("powerValve", Dimension.PRESSURE, 0, 20 * Units.INHG, "6.5 inHg",
                    primary ? "6.5 inHg" : null);
            boolean fitted = valve > 0 || f.has("powerChannelRestriction");
            channel = fitted ? hole(f, "powerChannelRestriction", 5, 100, "40 thou", share(jet, 0.5)) : 0;
        }
        double hole = f.quantity("plateBypassHole", Dimension.LENGTH, 0, 6e-3, "2 mm", "0 mm");
        f.noOthers();
        return new Barrels(bores, bore, venturi, booster, jet, hsab, ifr, iab, screw, valve, channel, rodCruise,
                rodPower, stepUp, hole);
    }

    private static void checkRods(SheetFields f, double jet, double cruise, double power) {
        if (cruise >= jet) {
            throw f.problem("rodCruise", say("problem.a-rod-is-thinner-than-its"));
        }
        if (power > cruise) {
            throw f.problem("rodPower", say("problem.the-power-step-is-thinner-than"));
        }
    }

    private static double hole(SheetFields f, String name, double minThou, double maxThou, String example,
            String fallback) {
        return f.quantity(name, Dimension.LENGTH, minThou * Units.THOU, maxThou * Units.THOU, example, fallback);
    }

    private static String share(double lengthM, double share) {
        return Quantity.trim(Math.rint(lengthM * share / Units.THOU), 0) + " thou";
    }

    private static Opening opening(SheetFields f, FamilyDefaults d) {
        List<String> kinds = Arrays.stream(OpeningKind.values()).map(OpeningKind::key).toList();
        String key = f.choice("kind", kinds, d.opening().key());
        OpeningKind kind = Arrays.stream(OpeningKind.values()).filter(k -> k.key().equals(key)).findFirst()
                .orElseThrow();
        Opening o = new Opening(kind,
                f.quantity("start", Dimension.ANGLE, 0, 85 * Units.DEG, "40 deg", "40 deg"),
                f.quantity("restAngle", Dimension.ANGLE, 0, 10 * Units.DEG, "0.5 deg", "0.5 deg"),
                f.number("spring", 0.2, 5, 1));
        f.noOthers();
        return o;
    }

    private static Pump pump(SheetFields f, FamilyDefaults d) {
        Pump p = new Pump(hole(f, "nozzle", 10, 80, "35 thou", d.nozzle()),
                f.quantity("tenStrokes", Dimension.VOLUME, 2e-6, 120e-6, "30 cc", "30 cc") / 10.0,
                f.choice("cam", PUMP_CAMS, "standard"),
                f.quantity("clearance", Dimension.LENGTH, 0, 5e-3, "0.4 mm", "0 mm"));
        f.noOthers();
        return p;
    }
}
