package nariz.family.constantdepression;

import java.util.List;
import nariz.carburetor.Bands;
import nariz.carburetor.Circuit;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.units.Units;

/**
 * Parts and circuits of a constant-depression carburetor. The circuits are bands of the needle's stations: where the
 * needle stands at idle, in light running, in a pull and with the piston high.
 */
final class NeedleParts {
    /** All bands of a needle together. */
    static final String PROFILE = "needle-profile";
    /** Middles of the bands: station 1, 3, 5 and 8 of thirteen, where small engines idle, cruise, climb and rev. */
    static final Bands BANDS = new Bands(List.of(0.06, 0.24, 0.42, 0.67));
    /** A needle that fills its jet gives nothing, and would stick in it. */
    static final double LEAST_GAP_M = 0.3 * Units.THOU;
    private static final String DIAMETERS = "needle.diameters";
    private static final List<String> SIZES = List.of("jet", DIAMETERS);

    /** Needle where the engine idles. */
    static final Circuit IDLE = new Circuit("needle-idle", "idle", Stage.PRIMARY, Circuit.Role.IDLE, 0, 0.09, SIZES);
    /** Needle in light running. */
    static final Circuit CRUISE = new Circuit("needle-cruise", "cruise", Stage.PRIMARY, Circuit.Role.METERING, 1, 0.07,
            SIZES);
    /** Needle in climbs and pulls. */
    static final Circuit PULL = new Circuit("needle-pull", "pull", Stage.PRIMARY, Circuit.Role.METERING, 2, 0.07,
            SIZES);
    /** Needle with the piston high. */
    static final Circuit FULL = new Circuit("needle-full", "full", Stage.PRIMARY, Circuit.Role.METERING, 3, 0.07,
            SIZES);
    /** Damper: does a pump's work as the piston rises. */
    static final Circuit DAMPER = new Circuit("damper", "damper", Stage.PRIMARY, Circuit.Role.PUMP, 4, 0.30,
            List.of());
    /** In the order of work. */
    static final List<Circuit> CIRCUITS = List.of(IDLE, CRUISE, PULL, FULL, DAMPER);

    /** Jet height, turns down from level with the bridge. */
    static final Part JET_HEIGHT = Part.turns("jet-height", Part.Role.IDLE_MIXTURE, "jetHeight", true).fromDatum()
            .then("recheck.idle-speed-and-stop", "recheck.light-cruise", "recheck.full-load")
            .by(work(List.of("jet-spanner", "vacuum-gauge-or-this"),
            List.of("engine-fully-warm-idling", "lift-each-piston-a-hair", "turn-every-jet-to",
            "wait-until-it-settles"),
            "needle-drive-again"));
    private static final Part.Work NEEDLE = work(List.of("small-screwdriver", "micrometer", "damper-oil-can"),
            List.of("mark-and-lift-the-piston", "measure-the-needle", "fit-needle-that-has",
            "piston-falls-with-a-click",
            "fill-the-damper"), "needle-drive-again");
    /** Bands of the needle, in the order of the circuits. */
    static final List<Part> NEEDLE_BANDS = List.of(band("needle-idle", 0), band("needle-cruise", 1),
            band("needle-pull", 2), band("needle-full", 3));
    /** Oil in the dampers. */
    static final Part DAMPER_OIL = Part.kinds("damper-oil", Part.Role.DAMPER, "primary.damperOil",
            ConstantDepression.OILS).whole().then("recheck.full-load")
            .by(work(List.of("damper-oil-can"), List.of("unscrew-the-dampers", "fill-with-oil"), "six-stabs-again"));
    /** Springs over the pistons. */
    static final Part PISTON_SPRING = Part.kinds("piston-spring", Part.Role.PISTON, "primary.pistonSpring",
            ConstantDepression.SPRINGS).whole().then("recheck.cruise", "recheck.full-load")
            .by(work(List.of("small-screwdriver", "damper-oil-can"), List.of("mark-and-lift-the-piston",
            "fit-the-piston-spring", "piston-falls-with-a-click", "fill-the-damper"), "needle-drive-again"));
    /** Fuel level in the float chamber. */
    static final Part FLOAT_LEVEL = nariz.family.metered.MeteredParts.FLOAT_LEVEL;
    /** Throttle stop. */
    static final Part IDLE_STOP = nariz.family.metered.MeteredParts.IDLE_STOP;
    /** In the order of work. */
    static final List<Part> ALL = java.util.stream.Stream.of(List.of(JET_HEIGHT), NEEDLE_BANDS, List.of(FLOAT_LEVEL,
            IDLE_STOP, PISTON_SPRING, DAMPER_OIL)).flatMap(List::stream).map(Part::alone).toList();

    private NeedleParts() {
    }

    private static Part band(String key, int band) {
        return Part.station(key, PROFILE, DIAMETERS, BANDS, band, "jet", LEAST_GAP_M).behind(Part.Access.PISTON)
                .then("recheck.idle-speed-and-stop", "recheck.light-cruise", "recheck.full-load").by(NEEDLE);
    }

    private static Part.Work work(List<String> tools, List<String> steps, String proof) {
        return new Part.Work(prefixed(tools), prefixed(steps), "work-card." + proof);
    }

    private static List<String> prefixed(List<String> keys) {
        return keys.stream().map(k -> "work-card." + k).toList();
    }
}
