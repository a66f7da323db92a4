package nariz.app.session;

import java.util.List;

/** Words of the trade, each in one line. */
public final class Glossary {
    /** Word and meaning. */
    public static final List<String> WORDS = List.of(
            "Lambda: air over what the fuel needs; under 1 is rich",
            "AFR: air-fuel ratio, on the petrol scale lambda times 14.7",
            "Manifold vacuum: how far manifold pressure is under ambient",
            "Curb idle: throttle on its stop, fuel through the idle port",
            "Transfer slot: uncovered by the plates just off idle",
            "Idle feed restriction: meters idle and transfer fuel",
            "Air bleed: lets air into a well and leans it",
            "Main jet: meters main fuel; its level at every airflow",
            "Emulsion tube: mixes air into main fuel before it rises",
            "Booster: small venturi that pulls main fuel",
            "Power valve: adds fuel when vacuum falls under its rating",
            "Power-valve channel restriction: how much the valve adds",
            "Metering rod: stepped rod in the jet, lifted under load",
            "Step-up spring: says at which vacuum the rods rise",
            "Accelerator pump: fuel for the moment the throttle opens",
            "Tip-in: the throttle being opened quickly",
            "Overrun: throttle shut at speed; says nothing of the circuits",
            "Wide-open throttle: full load",
            "Float level: height of fuel in the bowl");

    private Glossary() {
    }
}
