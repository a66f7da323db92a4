package nariz.fit;

import java.util.List;
import nariz.build.BuildSheet;
import nariz.model.Circuit;
import nariz.model.Coefficients;
import nariz.model.FuelModel;

/**
 * A carburetor as the log makes it out: the forward model with its own coefficients, plate position and enrichment
 * opening. It answers for any parts, so that what a change does follows the curves of this carburetor.
 *
 * @param made coefficients
 * @param plateRad how much further open the plates stand than the air at idle says, rad
 * @param shiftPa how much earlier (positive) the enrichment opens than rated, Pa
 */
public record Calibrated(Coefficients made, double plateRad, double shiftPa) {
    /** The standard carburetor of a family. */
    public static final Calibrated STANDARD = new Calibrated(Coefficients.STANDARD, 0.0, 0.0);

    /**
     * This carburetor with some parts.
     *
     * @param sheet parts
     * @return a model; one thread each
     */
    public FuelModel model(BuildSheet sheet) {
        return new FuelModel(sheet, made).shiftEnrichment(shiftPa);
    }

    /**
     * Evaluates parts at every cell.
     *
     * @param sheet parts
     * @param cells where
     * @return phi by {@code [cell][circuit]}
     */
    public double[][] phi(BuildSheet sheet, List<Cell> cells) {
        FuelModel model = model(sheet);
        FuelModel.Flow flow = new FuelModel.Flow();
        double[][] out = new double[cells.size()][Circuit.values().length];
        for (int i = 0; i < out.length; i++) {
            Cell c = cells.get(i);
            double theta = Math.max(0.0, c.thetaRad() + plateRad);
            if (c.airMeasured()) {
                model.evaluateAir(c.airKgPerS(), c.airKgPerS(), c.vacuumPa(), theta, flow);
            } else {
                model.evaluate(c.rpm(), c.vacuumPa(), theta, flow);
            }
            for (Circuit k : Circuit.values()) {
                out[i][k.ordinal()] = flow.phi(k);
            }
        }
        return out;
    }
}
