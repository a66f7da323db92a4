package nariz.family.metered;

import java.util.List;
import nariz.carburetor.Part;
import nariz.units.Dimension;

/**
 * Parts of carburetors with a fixed venturi, transfer slot and booster. The words of tools, steps and proofs are
 * {@code work-card.<key>}, those of what to look at again {@code recheck.<key>}.
 */
public final class MeteredParts {
    /** Mixture screws, turns out. */
    public static final Part MIXTURE_SCREW = Part.turns("mixture-screw", Part.Role.IDLE_MIXTURE, "mixtureScrew", true)
            .then("recheck.idle-speed-and-stop", "recheck.pump-clearance")
            .by(work(List.of("screwdriver", "vacuum-gauge-or-this"),
            List.of("engine-fully-warm-idling", "count-each-screw-in", "set-every-screw-to", "wait-until-it-settles"),
            "s-of-warm-idle"));
    /** Idle feed restriction diameter. */
    public static final Part IDLE_FEED_RESTRICTION = Part.hole("idle-feed-restriction", Part.Role.IDLE_FUEL,
            "idleFeedRestriction", true).drilled().behind(Part.Access.BOWL)
            .then("recheck.mixture-screws", "recheck.idle-speed-and-stop", "recheck.light-cruise")
            .by(work(List.of("fuel-proof-tray-and", "bowl-gasket", "pin-gauges-or-drills"),
            List.of("take-the-metering-block", "measure-the-restriction-that", "fit-in-each-idle",
            "close-up-check-for"),
            "idle-and-three-steady"));
    /** Idle air bleed diameter. */
    public static final Part IDLE_AIR_BLEED = Part.hole("idle-air-bleed", Part.Role.IDLE_AIR, "idleAirBleed",
            false).drilled()
            .then("recheck.mixture-screws", "recheck.idle-speed-and-stop", "recheck.light-cruise")
            .by(work(List.of("bleed-key-or-drill"),
            List.of("engine-cold-air-cleaner", "fit-idle-air-bleeds", "warm-up-and-set"),
            "idle-and-three-steady-2"));
    /** Main jet diameter. */
    public static final Part MAIN_JET = Part.hole("main-jet", Part.Role.METERING_FUEL, "mainJet",
            true).drilled().behind(Part.Access.BOWL)
            .then("recheck.cruise", "recheck.power-enrichment-amount", "recheck.full-load")
            .thenOnSecondary("recheck.full-load")
            .by(work(List.of("jet-driver", "fuel-proof-tray-and", "bowl-gasket"),
            List.of("engine-cold-drain-and", "check-the-numbers-of", "fit-jets-tight-but", "close-up-check-the"),
            "the-same-drive-again"));
    /** High-speed air bleed diameter. */
    public static final Part HIGH_SPEED_AIR_BLEED = Part.hole("high-speed-air-bleed", Part.Role.METERING_AIR,
            "highSpeedAirBleed", false).drilled()
            .then("recheck.main-circuit-from-low", "recheck.full-load")
            .by(work(List.of("bleed-key-or-drill"),
            List.of("engine-cold-air-cleaner", "fit-high-speed-bleeds", "no-poking-brass-with"),
            "steady-running-from-low"));
    /** Power valve rating. */
    public static final Part POWER_VALVE_RATING = Part.pressure("power-valve-rating", Part.Role.ENRICHMENT_OPENING,
            "powerValve").orPlugged().behind(Part.Access.BOWL)
            .then("recheck.steady-pull-as-vacuum", "recheck.light-cruise-it-must")
            .by(work(List.of("ring-spanner-for-the", "new-valve-gasket", "fuel-proof-tray-and"),
            List.of("engine-cold-open-the", "read-the-rating-of", "fit-the-valve-with", "close-up-check-for-2"),
            "a-climb-on-which"));
    /** Power-valve channel restriction diameter. */
    public static final Part POWER_CHANNEL_RESTRICTION = Part.hole("power-channel-restriction",
            Part.Role.ENRICHMENT_AMOUNT, "powerChannelRestriction", true).drilled().behind(Part.Access.BOWL)
            .then("recheck.full-load", "recheck.moderate-load-just-past")
            .by(work(List.of("drill-gauge", "fuel-proof-tray-and", "bowl-gasket"),
            List.of("engine-cold-take-the", "measure-both-channel-restrictions", "fit-drilling-goes-only",
            "close-up-check-for-2"),
            "a-full-load-pull"));
    /** Step-up spring rating. */
    public static final Part STEP_UP_SPRING = Part.pressure("step-up-spring", Part.Role.ENRICHMENT_OPENING,
            "stepUpSpring").behind(Part.Access.ROD_COVER)
            .then("recheck.steady-pull-as-vacuum", "recheck.light-cruise-it-must")
            .by(work(List.of("small-screwdriver"),
            List.of("engine-cold-lift-the", "swap-the-spring-for"),
            "a-climb-on-which"));
    /** Metering rod; the number is its power step, the cruise step stays. */
    public static final Part METERING_ROD = Part.hole("metering-rod", Part.Role.ENRICHMENT_AMOUNT, "rodPower",
            false).behind(Part.Access.ROD_COVER)
            .then("recheck.full-load", "recheck.moderate-load-just-past")
            .by(work(List.of("small-screwdriver", "micrometer"),
            List.of("engine-cold-lift-the-2", "measure-both-steps-of", "fit-rods-with-a"),
            "a-full-load-pull-2"));
    /** Fuel level against the family's setting; it is put right, not used as a trim. */
    public static final Part FLOAT_LEVEL = Part.measured("float-level", Part.Role.FUEL_LEVEL, "fuelLevel",
            Dimension.LENGTH, "mm", 1, true).whole().behind(Part.Access.BOWL)
            .then("recheck.idle", "recheck.main-circuit-where-it", "recheck.everything-else-once")
            .by(work(List.of("level-gauge-or-sight", "fuel-proof-tray-and"),
            List.of("car-level-engine-cold", "set-the-float-so", "look-at-needle-and", "wipe-up-check-for"),
            "the-level-stays-where"));
    /** Idle stop screw, turns in (positive) from where it stood in the drive. */
    public static final Part IDLE_STOP = Part.turns("idle-stop", Part.Role.IDLE_STOP, "idleStop", true).whole()
            .then("recheck.mixture-screws", "recheck.pump-clearance", "recheck.light-cruise-just-off")
            .by(work(List.of("screwdriver", "tachometer"),
            List.of("engine-fully-warm-idling-2", "turn-the-stop-screw", "set-the-mixture-screws"),
            "s-of-warm-idle-2"));

    /** Rest position of the secondary plates: their own stop screw, from below. */
    public static final Part SECONDARY_STOP = Part.measured("secondary-stop", Part.Role.IDLE_BYPASS,
            "secondaryOpening.restAngle", Dimension.ANGLE, "deg", 1, true).whole()
            .then("recheck.idle-speed-and-stop", "recheck.mixture-screws", "recheck.secondary-plates-close")
            .by(work(List.of("screwdriver", "tachometer"),
            List.of("engine-cold-find-the-secondary-stop", "set-the-secondary-plates-to", "bring-the-speed-back"),
            "s-of-warm-idle-2"));
    /** A hole in each front throttle plate. */
    public static final Part PLATE_HOLE = Part.hole("plate-hole", Part.Role.IDLE_BYPASS, "plateBypassHole",
            false).orPlugged().drilled().behind(Part.Access.BASE)
            .then("recheck.idle-speed-and-stop", "recheck.mixture-screws")
            .by(work(List.of("drill-gauge", "thread-lock-for-plate-screws"),
            List.of("engine-cold-carburetor-off", "drill-each-front-plate", "bring-the-speed-back"),
            "s-of-warm-idle-2"));

    /** Spring of the diaphragm that opens the secondary side; 1 is the standard one. */
    public static final Part SECONDARY_SPRING = Part.measured("secondary-spring", Part.Role.SECOND_SPRING,
            "secondaryOpening.spring", Dimension.COUNT, "", 1, false).whole().then("recheck.full-load")
            .by(work(List.of("small-screwdriver", "secondary-springs"),
            List.of("engine-cold-cover-of-the-diaphragm", "fit-the-spring", "plates-open-and-return-by-hand"),
            "three-rolling-pulls"));
    /** Spring of the air valve over the secondary side; 1 is as the maker sets it. */
    public static final Part AIR_VALVE_SPRING = Part.measured("air-valve-spring", Part.Role.SECOND_SPRING,
            "secondaryOpening.spring", Dimension.COUNT, "", 1, false).whole().then("recheck.full-load")
            .by(work(List.of("small-screwdriver", "hex-key"),
            List.of("engine-off-hold-the-spring-screw", "turn-an-eighth", "valve-shuts-by-itself"),
            "three-rolling-pulls"));
    /** Primary angle at which the linkage starts to open the secondary side. */
    public static final Part SECONDARY_LINKAGE = Part.measured("secondary-linkage", Part.Role.SECOND_LINKAGE,
            "secondaryOpening.start", Dimension.ANGLE, "deg", 0, false).whole().then("recheck.full-throttle-both",
            "recheck.secondary-plates-close")
            .by(work(List.of("small-screwdriver", "angle-gauge"),
            List.of("engine-off-work-the-linkage", "set-the-link-so-that", "full-throttle-both-open"),
            "three-rolling-pulls"));

    /** Slack at the pump arm, mm. */
    public static final Part PUMP_CLEARANCE = Part.measured("pump-clearance", Part.Role.PUMP_START, "pump.clearance",
            Dimension.LENGTH, "mm", 1, false).whole().then("recheck.pump-at-wide-open")
            .by(work(List.of("feeler-gauges", "two-small-spanners"),
            List.of("engine-off-look-for-the-shot", "set-the-pump-arm", "full-throttle-must-leave"),
            "six-stabs-again"));
    /** Which hole the pump cam is screwed to. */
    public static final Part PUMP_CAM_POSITION = Part.measured("pump-cam-position", Part.Role.PUMP_START,
            "pump.camPosition", Dimension.COUNT, "", 0, true).whole().then("recheck.pump-clearance")
            .by(work(List.of("small-screwdriver"),
            List.of("engine-off-look-for-the-shot", "move-the-cam-to-hole", "set-the-pump-arm-again"),
            "six-stabs-again"));
    /** Pump discharge nozzles, one per primary bore. */
    public static final Part PUMP_NOZZLE = Part.hole("pump-nozzle", Part.Role.PUMP_RATE, "pump.nozzle", true).whole()
            .drilled().then("recheck.nozzle-screw-hollow")
            .by(work(List.of("small-screwdriver", "new-nozzle-gaskets", "drill-gauge"),
            List.of("engine-cold-air-cleaner", "lift-the-nozzle-out", "fit-nozzles-of", "look-for-two-even-shots"),
            "six-stabs-again"));
    /** Shape of the pump cam. */
    public static final Part PUMP_CAM = Part.kinds("pump-cam", Part.Role.PUMP_VOLUME, "pump.cam", List.of("long",
            "standard", "early")).whole().then("recheck.pump-clearance")
            .by(work(List.of("small-screwdriver"),
            List.of("engine-off-look-for-the-shot", "fit-the-cam", "set-the-pump-arm-again"),
            "six-stabs-again"));
    /** Class of the pump, cubic centimetres in ten strokes. */
    public static final Part PUMP_CAPACITY = Part.measured("pump-capacity", Part.Role.PUMP_VOLUME, "pump.tenStrokes",
            Dimension.VOLUME, "cc", 0, true).whole().behind(Part.Access.BOWL).then("recheck.pump-clearance",
            "recheck.nozzle-screw-hollow",
            "recheck.room-below-the-pump")
            .by(work(List.of("fuel-proof-tray-and", "pump-set-with-cover"),
            List.of("engine-cold-drain-the-bowl", "change-cover-diaphragm-arm", "set-the-pump-arm-again"),
            "six-stabs-again"));

    private MeteredParts() {
    }

    private static Part.Work work(List<String> tools, List<String> steps, String proof) {
        return new Part.Work(prefixed(tools), prefixed(steps), "work-card." + proof);
    }

    private static List<String> prefixed(List<String> keys) {
        return keys.stream().map(k -> "work-card." + k).toList();
    }
}
