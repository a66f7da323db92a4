package nariz.flow;

import nariz.carburetor.Coefficient;
import nariz.carburetor.Coefficients;
import nariz.units.Units;

/**
 * A number of the model that no build sheet gives: a discharge coefficient or a hidden dimension.
 *
 * <p>The standard values are plausible sizes set once so that carburetors of both families come out within a few per
 * cent (docs/model.md, "Dimensions no sheet gives"). {@link #spread()} is how much carburetors of a family differ in
 * it, as the standard deviation of its logarithm: engineering judgement, not measurement. The simulator draws its
 * carburetors with these spreads; the estimator takes those that bend a circuit's curve as unknowns.
 */
public enum FlowCoefficient implements Coefficient {
    /** Discharge of the idle feed restriction. */
    IDLE_FEED_DISCHARGE(0.75, 0.05),
    /** Discharge of the idle air bleed. */
    IDLE_BLEED_DISCHARGE(0.75, 0.06),
    /** Discharge of port and slot below the plate. */
    PORT_DISCHARGE(0.6, 0.05),
    /** Discharge of the slot above the plate, which lets air in. */
    UPPER_SLOT_DISCHARGE(0.24, 0.2),
    /** Height the idle fuel is lifted, m. */
    IDLE_LIFT(0.018, 0.15),
    /** Port area uncovered by one turn of the screw, m². */
    PORT_PER_TURN(0.27e-6, 0.12),
    /** Port area at which the hole behind the needle takes over, m². */
    PORT_LIMIT(2.5e-6, 0.15),
    /** Width of the transfer slot, m. */
    SLOT_WIDTH(0.37e-3, 0.08),
    /** Height of the transfer slot, m. */
    SLOT_HEIGHT(4.8e-3, 0.08),
    /** Edge travel at which the slot starts to be uncovered, m. */
    SLOT_START(0.33e-3, 0.3),
    /** Travel over which the slot's ends are rounded, m. */
    SLOT_SOFTNESS(0.25e-3, 0.2),
    /** Discharge of the jets at high Reynolds number. */
    JET_DISCHARGE(1.0, 0.04),
    /** B of C = C0/(1 + B/sqrt(Re)). */
    JET_REYNOLDS(10.0, 0.25),
    /** Pull at which half of the idle feed comes through the jets, Pa. */
    GIVE_BACK(120.0, 0.5),
    /** Discharge of the high-speed air bleed. */
    WELL_BLEED_DISCHARGE(0.70, 0.1),
    /** Discharge of the main nozzle. */
    NOZZLE_DISCHARGE(0.75, 0.08),
    /** Nozzle over venturi diameter. */
    NOZZLE_SHARE(0.12, 0.05),
    /** Height the main fuel is lifted before it spills, m. */
    SPILL(0.017, 0.15),
    /** Smear of the start of the main circuit by intake pulses, Pa. */
    PULSATION(25.0, 0.4),
    /** Factor on the booster's gain. */
    BOOSTER(1.0, 0.05),
    /** Band over which the enrichment opens, Pa. */
    ENRICHMENT_RAMP(1.5 * Units.INHG, 0.25),
    /** Factor on the area that enrichment adds. */
    CHANNEL_DISCHARGE(1.0, 0.08),
    /** Discharge of the throttle plate. */
    PLATE_DISCHARGE(0.8, 0.04),
    /** Open area of a shut plate over its bore area. */
    PLATE_CLEARANCE(0.003, 0.3),
    /** Unrecovered part of the venturi's dynamic pressure. */
    VENTURI_LOSS(0.35, 0.15),
    /** Factor on cylinder filling. */
    FILLING(1.0, 0.03),
    /** Fall of filling away from its best speed. */
    FILLING_CURVATURE(0.33, 0.15),
    /** Factor on the speed of best filling. */
    FILLING_PEAK(1.0, 0.06),
    /** Venturi air speed at which a diaphragm starts to open the secondary side, m/s. */
    DIAPHRAGM_START(55.0, 0.1),
    /** Venturi air speed at which a diaphragm is fully open, m/s. */
    DIAPHRAGM_END(105.0, 0.1),
    /** Venturi air speed at which an air valve starts to open, m/s. */
    AIR_VALVE_START(15.0, 0.3),
    /** Venturi air speed at which an air valve is fully open, m/s. */
    AIR_VALVE_END(66.0, 0.15),
    /** How much more a booster pulls in a venturi that feeds one cylinder alone, whose air comes in pulses. */
    PULSE(1.47, 0.12),
    /** Discharge of an air corrector down its stack, emulsion tube and froth. */
    STACK_AIR_DISCHARGE(0.153, 0.2),
    /**
     * Travel of a plate's edge against the drawing of its progression holes, m; {@value Passages.Holes#DRAWN} as drawn.
     */
    HOLE_EDGE(Passages.Holes.DRAWN, 0.15),
    /** Discharge of the annulus between jet and needle at high Reynolds number. */
    ANNULUS_DISCHARGE(1.19, 0.05),
    /** B of C = C0/(1 + B/sqrt(Re)) there. */
    ANNULUS_REYNOLDS(23.0, 0.15),
    /** Depression that carries the piston at rest, Pa. */
    PISTON_DEPRESSION(1900.0, 0.10),
    /** Share by which it has grown when the piston is up, by its spring. */
    PISTON_RISE(0.15, 0.4),
    /** Discharge of the gap under the piston times the width of the bridge over the bore. */
    BRIDGE_WIDTH(0.77, 0.06),
    /** Gap that stays under a piston at rest, m. */
    PISTON_GAP(0.22e-3, 0.3),
    /** Height of the bridge over the fuel, m. */
    BRIDGE_HEIGHT(0.008, 0.2),
    /** Place of the needle's shoulder against its drawing, m; {@value NeedleModel#SHOULDER_DRAWN} as drawn. */
    NEEDLE_SHOULDER(NeedleModel.SHOULDER_DRAWN, 0.04);

    /** Every coefficient at its standard value. */
    public static final Coefficients STANDARD = Coefficients.standard(values());

    private final double standard;
    private final double spread;

    FlowCoefficient(double standard, double spread) {
        this.standard = standard;
        this.spread = spread;
    }

    @Override
    public double standard() {
        return standard;
    }

    @Override
    public double spread() {
        return spread;
    }
}
