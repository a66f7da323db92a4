package nariz.estimation;

import java.util.Arrays;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.flow.CompressibleFlow;

/** What faults do to every cell. */
public final class FaultShapes {
    /** Drop at the largest airflow of a drive that the shape is worked out at, Pa. */
    private static final double CLEANER_PA = 1000.0;
    private static final double CLEANER_POWER = 1.8;
    /** Least that drives with a cleaner in need of a new element show for 1 kPa at the largest airflow. */
    private static final double PER_KPA = 0.035;
    /** Cells from this share of the largest airflow on say what the drop does there. */
    private static final double TOP = 0.8;
    private static final double GRAVITY = 9.81;
    /** How much of a cleaner's shape is that of a bowl and bleeds that feel nothing of its drop. */
    private static final double OUTSIDE = 0.25;

    private FaultShapes() {
    }

    /**
     * What a leak of a given size does to every cell: the plates pass that much less air, and the fuel follows the air
     * through the carburetor, so phi falls by the leak's share of the air.
     *
     * @param sheet parts
     * @param cells where
     * @param leakM2 effective leak area, m²
     * @return relative change of phi, negative where it leans
     */
    public static double[] leak(BuildSheet sheet, List<Cell> cells, double leakM2) {
        double p0 = sheet.ambient().pressurePa();
        double[] out = new double[cells.size()];
        for (int i = 0; i < out.length; i++) {
            Cell c = cells.get(i);
            double flux = CompressibleFlow.flux(p0, sheet.ambient().temperatureK(), p0 - c.vacuumPa());
            out[i] = -Math.min(0.9, leakM2 * flux / c.airKgPerS());
        }
        return out;
    }

    /**
     * What plates that stand further open at idle than they should do: the slot delivers there and the screws hardly.
     *
     * @param found the carburetor
     * @param sheet parts
     * @param cells where
     * @param rad how much further open
     * @return relative change of phi, 0 outside idle
     */
    public static double[] platesOpen(Calibrated found, BuildSheet sheet, List<Cell> cells, double rad) {
        double[][] was = found.phi(sheet, cells);
        double[][] is = found.opened(rad).phi(sheet, cells);
        double[] out = new double[was.length];
        for (int i = 0; i < out.length; i++) {
            out[i] = cells.get(i).idle() ? Arrays.stream(is[i]).sum() / Arrays.stream(was[i]).sum() - 1.0 : 0.0;
        }
        return out;
    }

    /**
     * What a restrictive air cleaner does to every cell of a carburetor whose bowl is vented to open air.
     *
     * <p>The cleaner's drop dp = k m^1.8 lies between the bowl and the air horn and so adds to what draws fuel out of
     * every jet, like a level higher by dp/(rho g); the power lies between a loaded element, nearly laminar, and its
     * housing, turbulent. Where the jets feed, whose own signal grows with m² too, that is about the same share at any
     * airflow; where the idle circuit feeds, next to nothing. How much of the drop the vents and bleeds of a carburetor
     * share is on no sheet, so a quarter of the shape is that and the rest rises in proportion to airflow. Four engines
     * of an independent simulator with a loaded cleaner are richer in transfer by 0.2 to 0.5 of what they are at full
     * load, at cruise by 0.35 to 0.8 and at moderate load by 0.5 to 1.1.
     *
     * @param sheet parts
     * @param cells where
     * @return relative change of phi for a drop of 1 kPa at the largest airflow, 0 or more
     */
    public static double[] airCleaner(BuildSheet sheet, List<Cell> cells) {
        double air = cells.stream().mapToDouble(Cell::airKgPerS).max().orElse(1.0);
        Family family = sheet.carburetor().family();
        DeliveryModel open = family.model(sheet);
        Delivery flow = open.newDelivery();
        double[] out = new double[cells.size()];
        double top = 0.0;
        double atTop = 0.0;
        for (int i = 0; i < out.length; i++) {
            Cell c = cells.get(i);
            open.evaluate(c.rpm(), c.vacuumPa(), c.thetaRad(), flow);
            double was = flow.total();
            double head = CLEANER_PA * cleaner(c.airKgPerS() / air) / (sheet.fuel().densityKgPerM3() * GRAVITY);
            family.model(sheet, head, family.standard()).evaluate(c.rpm(), c.vacuumPa(), c.thetaRad(), flow);
            out[i] = flow.total() / was - 1.0;
            if (c.airKgPerS() > TOP * air) {
                top += out[i];
                atTop++;
            }
        }
        double ofTop = Math.max(1e-6, top / atTop);
        double most = Math.max(PER_KPA, ofTop);
        for (int i = 0; i < out.length; i++) {
            // Where a jet's signal just lifts fuel to the mouth a drop seems to do many times what it does at the top.
            out[i] = most * (OUTSIDE * Math.min(1.0, out[i] / ofTop) + (1.0 - OUTSIDE) * cells.get(i).airKgPerS()
                    / air);
        }
        return out;
    }

    /**
     * Drop of an air cleaner over its drop at the largest airflow.
     *
     * @param air airflow over the largest, 0 to 1
     * @return share
     */
    public static double cleaner(double air) {
        return Math.pow(air, CLEANER_POWER);
    }

    /**
     * What a fuel level off its setting does to every cell.
     *
     * @param sheet parts
     * @param cells where
     * @param levelM how much higher, m
     * @return relative change of phi
     */
    public static double[] level(BuildSheet sheet, List<Cell> cells, double levelM) {
        Family family = sheet.carburetor().family();
        DeliveryModel right = family.model(sheet);
        DeliveryModel off = family.model(sheet, levelM, family.standard());
        Delivery flow = right.newDelivery();
        double[] out = new double[cells.size()];
        for (int i = 0; i < out.length; i++) {
            Cell c = cells.get(i);
            right.evaluate(c.rpm(), c.vacuumPa(), c.thetaRad(), flow);
            double was = flow.total();
            off.evaluate(c.rpm(), c.vacuumPa(), c.thetaRad(), flow);
            out[i] = flow.total() / was - 1.0;
        }
        return out;
    }
}
