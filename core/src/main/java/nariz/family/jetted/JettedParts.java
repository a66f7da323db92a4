package nariz.family.jetted;

import java.util.List;
import nariz.carburetor.Part;
import nariz.family.metered.MeteredParts;
import nariz.units.Dimension;

/** Parts of carburetors with jet stacks, told in millimetres as their jets are. */
final class JettedParts {
    private static final List<String> STACK = List.of("jet-driver", "small-screwdriver");
    /** Mixture screws. */
    static final Part MIXTURE_SCREW = MeteredParts.MIXTURE_SCREW;
    /** Fuel hole of the idle jets. */
    static final Part IDLE_JET = jet("idle-jet", Part.Role.IDLE_FUEL, "idleJet", true)
            .then("recheck.mixture-screws", "recheck.idle-speed-and-stop", "recheck.light-cruise")
            .by(work(STACK, List.of("engine-cold-fuel-off", "lift-every-idle-jet-holder", "fit-idle-jets-of",
            "warm-up-and-set"), "idle-and-three-steady"));
    /** Air hole of the idle jets. */
    static final Part IDLE_AIR = jet("idle-jet-air", Part.Role.IDLE_AIR, "idleAir", false)
            .then("recheck.mixture-screws", "recheck.light-cruise")
            .by(work(STACK, List.of("engine-cold-fuel-off", "lift-every-idle-jet-holder", "fit-idle-air-of",
            "warm-up-and-set"), "idle-and-three-steady-2"));
    /** Main jets at the foot of the stacks. */
    static final Part MAIN_JET = jet("main-jet", Part.Role.METERING_FUEL, "mainJet", true)
            .then("recheck.cruise", "recheck.full-load").thenOnSecondary("recheck.full-load")
            .by(work(STACK, List.of("engine-cold-fuel-off", "lift-every-stack", "fit-jets-tight-but",
            "stacks-back-leak-check"), "the-same-drive-again"));
    /** Air correctors at the top of the stacks. */
    static final Part AIR_CORRECTOR = jet("air-corrector", Part.Role.METERING_AIR, "airCorrector", false)
            .then("recheck.main-circuit-from-low", "recheck.full-load")
            .by(work(STACK, List.of("engine-cold-fuel-off", "lift-every-stack", "fit-air-correctors-of",
            "stacks-back-leak-check"), "steady-running-from-low"));
    /** Venturis: a last step, with which jets and correctors move. */
    static final Part VENTURI = jet("venturi", Part.Role.AIR_WAY, "venturi", false).behind(Part.Access.BOWL)
            .then("recheck.main-circuit-from-low", "recheck.full-load", "recheck.everything-else-once")
            .by(work(STACK, List.of("engine-cold-fuel-off", "take-the-venturi-out", "fit-venturis-of",
            "stacks-back-leak-check"), "the-same-drive-again"));
    /** When a vacuum-worked enrichment opens. */
    static final Part POWER_VALVE = MeteredParts.POWER_VALVE_RATING;
    /** How much it adds. */
    static final Part POWER_CHANNEL = jet("power-channel-restriction", Part.Role.ENRICHMENT_AMOUNT,
            "powerChannelRestriction", true).behind(Part.Access.BOWL)
            .then("recheck.full-load", "recheck.moderate-load-just-past")
            .by(work(List.of("drill-gauge", "fuel-proof-tray-and", "bowl-gasket"), List.of("engine-cold-drain-and",
            "fit-drilling-goes-only", "close-up-check-for-2"), "a-full-load-pull"));
    /** Fuel level. */
    static final Part FLOAT_LEVEL = MeteredParts.FLOAT_LEVEL;
    /** Throttle stop. */
    static final Part IDLE_STOP = MeteredParts.IDLE_STOP;
    /** Spring of the secondary diaphragm. */
    static final Part SECONDARY_SPRING = MeteredParts.SECONDARY_SPRING;
    /** Secondary linkage. */
    static final Part SECONDARY_LINKAGE = MeteredParts.SECONDARY_LINKAGE;
    /** Slack at the rods that work the pumps. */
    static final Part PUMP_CLEARANCE = Part.measured("pump-clearance", Part.Role.PUMP_START, "pump.clearance",
            Dimension.LENGTH, "mm", 1, false).whole().then("recheck.pump-at-wide-open")
            .by(work(List.of("feeler-gauges", "two-small-spanners"), List.of("engine-off-look-for-the-shot",
            "set-the-pump-rod-nuts", "shots-begin-together"), "six-stabs-again"));
    /** Pump jets. */
    static final Part PUMP_JET = whole("pump-jet", Part.Role.PUMP_RATE, "pump.jet", Dimension.LENGTH, "mm", 2)
            .by(work(STACK, List.of("engine-cold-fuel-off", "lift-the-pump-jets", "fit-pump-jets-of",
            "look-for-two-even-shots"), "six-stabs-again"));
    /** Stroke of the pump, each barrel. */
    static final Part PUMP_STROKE = whole("pump-stroke", Part.Role.PUMP_VOLUME, "pump.strokeVolume", Dimension.VOLUME,
            "cc", 2).by(work(STACK, List.of("engine-cold-fuel-off", "set-the-pump-rod-to", "look-for-two-even-shots"),
            "six-stabs-again"));

    private JettedParts() {
    }

    private static Part jet(String key, Part.Role role, String field, boolean richerUp) {
        return Part.measured(key, role, field, Dimension.LENGTH, "mm", 3, richerUp).behind(Part.Access.STACK);
    }

    private static Part whole(String key, Part.Role role, String field, Dimension d, String unit, int decimals) {
        return Part.measured(key, role, field, d, unit, decimals, true).whole().then("recheck.pump-clearance");
    }

    private static Part.Work work(List<String> tools, List<String> steps, String proof) {
        return new Part.Work(prefixed(tools), prefixed(steps), "work-card." + proof);
    }

    private static List<String> prefixed(List<String> keys) {
        return keys.stream().map(k -> "work-card." + k).toList();
    }
}
