package nariz.estimation;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.DeliveryModel;
import nariz.flow.ThrottlePlate;
import nariz.log.Channel;
import nariz.units.Units;

/**
 * Vacuum that is left with the throttle wide open, against what venturi and plates would leave.
 *
 * <p>Manifold vacuum is taken against open air, so an air cleaner's drop is part of it: at wide open throttle the
 * reading is the carburetor's own loss, which the model knows from venturi and airflow, plus the cleaner's. k = mean of
 * (v_i - v0_i) / (m_i/m_max)^1.8 over cells at wide open throttle, weighted by dwell and by the square of that power.
 * On sound engines of an independent simulator v - v0 was 0.1 to 0.45 inHg, which {@link #USUAL_PA} and its spread take
 * in: intake loss that is not modelled, and what a clean element has.
 */
public final class WideOpen {
    private static final double USUAL_PA = 0.22 * Units.INHG;
    private static final double USUAL_SD_PA = 0.15 * Units.INHG;
    /** The model's own loss is good to this share. */
    private static final double OWN_SHARE = 0.3;
    private static final double WIDE = 0.95;
    /** Without a throttle channel: no more vacuum than this share of the air's pressure, and much air. */
    private static final double LITTLE = 0.08;
    private static final double MUCH = 0.6;
    private static final double LONG_S = 1.0;

    private final double dropPa;
    private final double sdPa;

    private WideOpen(double dropPa, double sdPa) {
        this.dropPa = dropPa;
        this.sdPa = sdPa;
    }

    /**
     * Measures.
     *
     * @param o a drive made ready
     * @return what the air cleaner takes beyond the usual, at the largest airflow of the drive
     */
    public static WideOpen of(Observation o) {
        BuildSheet sheet = o.sheet();
        List<Cell> cells = o.cells();
        DeliveryModel model = sheet.carburetor().family().model(sheet);
        double most = cells.stream().mapToDouble(Cell::airKgPerS).max().orElse(1.0);
        boolean throttled = o.log().has(Channel.THROTTLE);
        double weight = 0.0;
        double sum = 0.0;
        double own = 0.0;
        double least = Double.POSITIVE_INFINITY;
        for (Cell c : cells) {
            double pedal = throttled ? o.log().values(Channel.THROTTLE)[c.longestSample()] : Double.NaN;
            boolean wide = throttled ? pedal > WIDE : c.vacuumPa() < LITTLE * sheet.ambient().pressurePa()
                    && c.airKgPerS() > MUCH * most;
            if (wide && c.dwellS() >= LONG_S && !c.idle()) {
                double share = FaultShapes.cleaner(c.airKgPerS() / most);
                double v0 = leastVacuum(model, c.airKgPerS());
                double w = c.dwellS() * share * share;
                weight += w;
                sum += w * (c.vacuumPa() - v0) / share;
                own += w * v0 / share;
                least = Math.min(least, (c.vacuumPa() - v0) / share);
            }
        }
        if (weight == 0.0) {
            return new WideOpen(0.0, Double.POSITIVE_INFINITY);
        }
        // Nobody says that the throttle was wide open: where it was, vacuum is least.
        double drop = throttled ? sum / weight : least;
        double beyond = drop - USUAL_PA;
        // No cleaner gives pressure: what reads below none says by how much the model's loss is not this car's.
        return new WideOpen(beyond, Math.max(-beyond, Math.hypot(USUAL_SD_PA, OWN_SHARE * own / weight)));
    }

    /** Vacuum under which even open plates pass less than this air, Pa. */
    private static double leastVacuum(DeliveryModel model, double air) {
        double low = 0.0;
        double high = 20e3;
        for (int k = 0; k < 30; k++) {
            double v = 0.5 * (low + high);
            if (model.angleFor(air, v) < ThrottlePlate.WIDE_OPEN - 1e-3) {
                high = v;
            } else {
                low = v;
            }
        }
        return high;
    }

    /** {@return drop beyond the usual at the largest airflow, Pa; negative where there is less} */
    public double dropPa() {
        return dropPa;
    }

    /** {@return its standard deviation, Pa; infinite where the throttle was never wide open} */
    public double sdPa() {
        return sdPa;
    }
}
