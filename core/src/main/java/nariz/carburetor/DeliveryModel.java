package nariz.carburetor;

import java.util.Optional;

/**
 * The carburetor of a build sheet as a function: engine speed, manifold vacuum and, where known, throttle, to air,
 * plate angles and the fuel of every circuit. Steady state; transients are the observation's business. An instance may
 * hold scratch space: one thread each.
 */
public interface DeliveryModel {
    /** {@return room for a result of this model} */
    Delivery newDelivery();

    /**
     * Lets the enrichment open at another vacuum than its rating; nothing where there is none.
     *
     * @param shiftPa earlier (positive) or later, Pa
     * @return this
     */
    DeliveryModel shiftEnrichment(double shiftPa);

    /**
     * Evaluates one state with the plate angle found from the air the engine draws.
     *
     * @param rpm engine speed, rpm, positive
     * @param vacuumPa manifold vacuum, Pa, under ambient pressure
     * @param out receives the result
     */
    void evaluate(double rpm, double vacuumPa, Delivery out);

    /**
     * Evaluates one state with a known plate angle.
     *
     * @param rpm engine speed, rpm, positive
     * @param vacuumPa manifold vacuum, Pa, under ambient pressure
     * @param thetaRad primary plate angle from closed, rad
     * @param out receives the result
     */
    void evaluate(double rpm, double vacuumPa, double thetaRad, Delivery out);

    /**
     * Evaluates a state whose air is known from elsewhere, for example while a manifold fills.
     *
     * @param engineAirKgPerS air the cylinders draw, kg/s, positive
     * @param carburetorAirKgPerS air through the carburetors, kg/s
     * @param vacuumPa manifold vacuum, Pa, under ambient pressure
     * @param thetaRad primary plate angle from closed, rad
     * @param out receives the result; phi is against the engine's air
     */
    void evaluateAir(double engineAirKgPerS, double carburetorAirKgPerS, double vacuumPa, double thetaRad,
            Delivery out);

    /**
     * Air the engine draws.
     *
     * @param rpm engine speed, rpm, positive
     * @param manifoldPa manifold pressure, Pa absolute, positive
     * @return mass flow, kg/s
     */
    double airKgPerS(double rpm, double manifoldPa);

    /**
     * Effective area of all plates together.
     *
     * @param thetaRad primary plate angle from closed, rad
     * @param airKgPerS air through the carburetors, for secondaries that answer to it, kg/s
     * @return C A, m²
     */
    double plateArea(double thetaRad, double airKgPerS);

    /**
     * Primary plate angle that lets a given air flow pass.
     *
     * @param airKgPerS air through the carburetors, kg/s
     * @param vacuumPa manifold vacuum, Pa
     * @return angle from closed, rad, 0 to wide open
     */
    double angleFor(double airKgPerS, double vacuumPa);

    /**
     * How much of a front transfer slot lies below the plate, where idle vacuum draws on it.
     *
     * @param thetaRad primary plate angle from closed, rad
     * @return m; NaN where there is no slot
     */
    default double slotBelowM(double thetaRad) {
        return Double.NaN;
    }

    /**
     * The place on a needle that meters at an airflow.
     *
     * @param airKgPerS air through the carburetors, kg/s
     * @return in stations from the shoulder, the first is 0; NaN where there is no needle
     */
    default double stationAt(double airKgPerS) {
        return Double.NaN;
    }

    /**
     * How far the edge of a front plate has moved up the wall of its bore.
     *
     * @param thetaRad primary plate angle from closed, rad
     * @return m; NaN where nothing is uncovered by it
     */
    default double edgeTravelM(double thetaRad) {
        return Double.NaN;
    }

    /**
     * A piston whose lift follows the air.
     *
     * @return it; empty where nothing moves but the plates
     */
    default Optional<Piston> piston() {
        return Optional.empty();
    }

    /**
     * Whether the second stage has started to work in a state.
     *
     * @param d result of this model
     * @return false where there is no second stage
     */
    boolean secondaryOpen(Delivery d);
}
