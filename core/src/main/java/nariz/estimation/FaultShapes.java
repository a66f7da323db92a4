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
        double[][] is = new Calibrated(found.made(), found.plateRad() + rad, found.shiftPa()).phi(sheet, cells);
        double[] out = new double[was.length];
        for (int i = 0; i < out.length; i++) {
            out[i] = cells.get(i).idle() ? Arrays.stream(is[i]).sum() / Arrays.stream(was[i]).sum() - 1.0 : 0.0;
        }
        return out;
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
