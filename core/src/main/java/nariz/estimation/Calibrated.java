package nariz.estimation;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import org.jspecify.annotations.Nullable;

/**
 * A carburetor as the log makes it out: the forward model with its own coefficients, plate position and enrichment
 * opening. It answers for any parts, so that what a change does follows the curves of this carburetor.
 *
 * @param made coefficients
 * @param plateRad how much further open the plates stand than the air at idle says, rad
 * @param shiftPa how much earlier (positive) the enrichment opens than rated, Pa
 * @param driven the carburetor the log was driven with, whose plate angles the cells have
 */
public record Calibrated(Coefficients made, double plateRad, double shiftPa, Carburetor driven) {
    /**
     * The standard carburetor of a sheet's family.
     *
     * @param sheet sheet
     * @return nothing moved
     */
    public static Calibrated standard(BuildSheet sheet) {
        return new Calibrated(sheet.carburetor().family().standard(), 0.0, 0.0, sheet.carburetor());
    }

    /** Where a sheet says how the stop screw was turned. */
    private static final String IDLE_STOP = "idleStop";
    /** Plate movement of one turn of the stop screw: 0.8 mm of thread on a 32 mm lever, judgement. */
    private static final double TURN_RAD = 0.8 / 32.0;

    /**
     * Turns of the idle stop screw that bring the idle to another speed.
     *
     * @param sheet parts
     * @param idle the idle cell
     * @param wantedRpm speed wanted, rpm
     * @return turns in (positive) or out
     */
    public double stopTurns(BuildSheet sheet, Cell idle, double wantedRpm) {
        DeliveryModel model = model(sheet);
        double now = model.angleFor(idle.airKgPerS(), idle.vacuumPa());
        double then = model.angleFor(idle.airKgPerS() * wantedRpm / idle.rpm(), idle.vacuumPa());
        return (then - now) / TURN_RAD;
    }

    /**
     * This carburetor with its plates further open at idle.
     *
     * @param rad how much further, rad
     * @return a new one
     */
    public Calibrated opened(double rad) {
        return new Calibrated(made, plateRad + rad, shiftPa, driven);
    }

    /**
     * How much of a front transfer slot lies below the plate at idle, where the engine draws the air it drew.
     *
     * @param sheet parts
     * @param idle the idle cell
     * @return m; NaN where there is no slot
     */
    public double slotBelowM(BuildSheet sheet, Cell idle) {
        DeliveryModel model = model(sheet);
        return model.slotBelowM(Math.max(0.0, angle(model, breathesOtherwise(sheet), idle)));
    }

    /** Parts that let idle air past elsewhere: the driver's foot and the stop screw then leave the plates elsewhere. */
    private @Nullable DeliveryModel breathesOtherwise(BuildSheet sheet) {
        Carburetor c = sheet.carburetor();
        boolean same = c.family().bypasses(sheet).stream().allMatch(l -> l.part().of(c, l.stage())
                == l.part().of(driven, l.stage()));
        return same ? null : model(sheet.withCarburetor(driven));
    }

    private double angle(DeliveryModel model, @Nullable DeliveryModel asDriven, Cell c) {
        double moved = asDriven == null ? 0.0 : model.angleFor(c.airKgPerS(), c.vacuumPa())
                - asDriven.angleFor(c.airKgPerS(), c.vacuumPa());
        return c.thetaRad() + plateRad + moved;
    }

    /**
     * This carburetor with some parts.
     *
     * @param sheet parts
     * @return a model; one thread each
     */
    public DeliveryModel model(BuildSheet sheet) {
        return sheet.carburetor().family().model(sheet, 0.0, made).shiftEnrichment(shiftPa);
    }

    /**
     * Evaluates parts at every cell: the fuel that is burnt there, the walls taking and giving as on the drive.
     *
     * @param sheet parts
     * @param cells where
     * @return phi by {@code [cell][circuit]}
     */
    public double[][] phi(BuildSheet sheet, List<Cell> cells) {
        DeliveryModel model = model(sheet);
        DeliveryModel asDriven = breathesOtherwise(sheet);
        Delivery flow = model.newDelivery();
        List<Circuit> circuits = sheet.carburetor().family().circuits();
        double[][] out = new double[cells.size()][circuits.size()];
        for (int i = 0; i < out.length; i++) {
            Cell c = cells.get(i);
            double theta = Math.max(0.0, angle(model, asDriven, c));
            if (c.idle() && sheet.carburetor().number(IDLE_STOP) != 0.0) {
                double turned = Math.max(0.0, theta + TURN_RAD * sheet.carburetor().number(IDLE_STOP));
                // Friction wants the same manifold pressure at any idle speed: the engine takes the air it is given.
                double more = model.plateArea(turned, c.airKgPerS()) / model.plateArea(theta, c.airKgPerS());
                model.evaluate(more * c.rpm(), c.vacuumPa(), turned, flow);
            } else if (c.airMeasured()) {
                model.evaluateAir(c.airKgPerS(), c.airKgPerS(), c.vacuumPa(), theta, flow);
            } else {
                model.evaluate(c.rpm(), c.vacuumPa(), theta, flow);
            }
            for (Circuit k : circuits) {
                out[i][k.index()] = c.film() * flow.phi(k);
            }
        }
        return out;
    }
}
