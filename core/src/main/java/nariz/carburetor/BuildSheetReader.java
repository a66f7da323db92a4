package nariz.carburetor;

import static nariz.text.Message.message;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import nariz.units.Dimension;

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
    static final List<String> STARTING_POINTS = List.of(Targets.USUAL, "economy", "climb");
    /** Richer than this an engine loses power and washes its bores. */
    private static final double RICHEST = 0.75;
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
                message("problem.a-build-sheet-is-short"),
                message("problem.save-the-sheet-as")));
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
            throw root.problem("format", message("problem.write-format-other-versions-are-not", FORMAT));
        }
        String name = root.text("name", source);
        root.text("notes", "");
        Engine engine = engine(root.object("engine"));
        Fuel fuel = fuel(root.object("fuel"));
        Ambient ambient = ambient(root.object("ambient"));
        Carburetor carburetor = carburetor(root.object("carburetor"), engine);
        Targets targets = targets(root.object("targets"));
        root.noOthers();
        return new BuildSheet(name, engine, fuel, ambient, carburetor, targets, assumed);
    }

    /** Nothing here is assumed of the engine: what is left out is the starting point's. */
    private static Targets targets(SheetFields f) {
        String from = f.has("from") ? f.choice("from", STARTING_POINTS, "") : Targets.USUAL;
        Targets t = new Targets(from, lambda(f, "idle", 1.1, "0.95 lambda or 14.0 AFR"), lambda(f, "light", 1.2,
                "1.02 lambda or 15.0 AFR"),
                lambda(f, "moderate", 1.15, "0.96 lambda or 14.1 AFR"), lambda(f, "full", 1.0,
                "0.87 lambda or 12.8 AFR"));
        f.noOthers();
        return t;
    }

    private static OptionalDouble lambda(SheetFields f, String name, double leanest, String example) {
        return f.has(name) ? OptionalDouble.of(f.quantity(name, Dimension.MIXTURE, RICHEST, leanest, example, ""))
                : OptionalDouble.empty();
    }

    private static Engine engine(SheetFields f) {
        double displacement = f.quantity("displacement", Dimension.VOLUME, 0.3e-3, 12e-3, "4.2 L", "");
        if (!f.has("cylinders")) {
            throw f.problem("cylinders", message("problem.this-field-is-needed-write-for-2"));
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
        return Families.ofKey(f.choice("family", Families.keys(), "")).orElseThrow().read(f, engine);
    }
}
