package nariz.app.state;

import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;

/** Where one circuit hands over to the next in the plane of speed and vacuum, from the model. */
public final class Boundaries {
    private static final int STEPS = 48;

    private final double[] rpm = new double[STEPS];
    private final double[] slotToMainPa = new double[STEPS];
    private final double[] secondaryPa = new double[STEPS];
    private final List<Handover> handovers = new ArrayList<>();
    private final double enrichmentPa;
    private final double enrichmentSdPa;

    /**
     * Where one band of stations hands over to the next.
     *
     * @param from the band at higher vacuum
     * @param to the next one
     * @param pa vacuum at which both give as much, by speed; NaN where they do not meet
     */
    public record Handover(Circuit from, Circuit to, double[] pa) {
    }

    private Boundaries(double enrichmentPa, double enrichmentSdPa) {
        this.enrichmentPa = enrichmentPa;
        this.enrichmentSdPa = enrichmentSdPa;
    }

    /**
     * Boundaries of a sheet.
     *
     * @param sheet parts
     * @param a analysis, for where the enrichment really opens; not used when nothing was estimated
     * @return the lines
     */
    public static Boundaries of(BuildSheet sheet, Analysis a) {
        double shift = a.estimated() ? a.estimate().shiftPa() : 0.0;
        double sd = a.estimated() ? a.estimate().shiftSdPa() : 0.0;
        Boundaries b = new Boundaries(enrichmentPa(sheet, a), sd);
        Family family = sheet.carburetor().family();
        List<Circuit> slots = family.circuits().stream().filter(Circuit::lowSpeed).toList();
        DeliveryModel model = family.model(sheet).shiftEnrichment(shift);
        Delivery f = model.newDelivery();
        double idle = sheet.engine().idleRpm();
        boolean bands = family.bands().isPresent();
        if (bands) {
            b.bands(sheet, model, f);
        }
        for (int i = 0; i < STEPS; i++) {
            b.rpm[i] = idle + (sheet.engine().redlineRpm() - idle) * i / (STEPS - 1.0);
            b.slotToMainPa[i] = Double.NaN;
            b.secondaryPa[i] = Double.NaN;
            for (double v = 80e3; v >= 500; v -= 500) {
                model.evaluate(b.rpm[i], v, f);
                double slot = slots.stream().mapToDouble(f::phi).sum();
                if (!bands && Double.isNaN(b.slotToMainPa[i]) && slot < Regime.SLOT_SHARE * f.total()) {
                    b.slotToMainPa[i] = v;
                }
                if (Double.isNaN(b.secondaryPa[i]) && model.secondaryOpen(f)) {
                    b.secondaryPa[i] = v;
                }
            }
        }
        return b;
    }

    /**
     * Where the enrichment opens, without the other lines, which take longer.
     *
     * @param sheet parts
     * @param a analysis
     * @return vacuum at which it is half open, Pa; NaN when there is none
     */
    static double enrichmentPa(BuildSheet sheet, Analysis a) {
        double rating = sheet.carburetor().family().enrichmentPa(sheet.carburetor(), Stage.PRIMARY);
        return rating > 0 ? rating + (a.estimated() ? a.estimate().shiftPa() : 0.0) : Double.NaN;
    }

    private void bands(BuildSheet sheet, DeliveryModel model, Delivery f) {
        List<Circuit> all = sheet.carburetor().family().circuits();
        double idle = sheet.engine().idleRpm();
        for (int k = 0; k + 1 < all.size(); k++) {
            double[] pa = new double[STEPS];
            for (int i = 0; i < STEPS; i++) {
                pa[i] = Double.NaN;
                for (double v = 80e3; v >= 500 && Double.isNaN(pa[i]); v -= 500) {
                    model.evaluate(idle + (sheet.engine().redlineRpm() - idle) * i / (STEPS - 1.0), v, f);
                    if (v < 80e3 && f.phi(all.get(k + 1)) >= f.phi(all.get(k)) && f.phi(all.get(k)) > 0.0) {
                        pa[i] = v;
                    }
                }
            }
            handovers.add(new Handover(all.get(k), all.get(k + 1), pa));
        }
    }

    /** {@return where one band of stations hands over to the next; none where circuits are passages} */
    public List<Handover> handovers() {
        return List.copyOf(handovers);
    }

    /** {@return number of points of the lines} */
    public int size() {
        return STEPS;
    }

    /**
     * Speed of a point.
     *
     * @param i point
     * @return rpm
     */
    public double rpm(int i) {
        return rpm[i];
    }

    /**
     * Vacuum at which the slot's share falls under 60 %.
     *
     * @param i point
     * @return Pa, NaN where it does not
     */
    public double slotToMainPa(int i) {
        return slotToMainPa[i];
    }

    /**
     * Vacuum at which the secondary side starts.
     *
     * @param i point
     * @return Pa, NaN where it does not
     */
    public double secondaryPa(int i) {
        return secondaryPa[i];
    }

    /** {@return vacuum at which the enrichment is half open, Pa; NaN when there is none} */
    public double enrichmentPa() {
        return enrichmentPa;
    }

    /** {@return its standard deviation, Pa} */
    public double enrichmentSdPa() {
        return enrichmentSdPa;
    }
}
