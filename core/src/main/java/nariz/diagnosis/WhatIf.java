package nariz.diagnosis;

import java.util.Arrays;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.estimation.Estimate;
import nariz.estimation.Observation;
import nariz.log.DriveLog;

/**
 * The mixture the same drive would show with other parts, at every sample, fast enough to follow a hand.
 *
 * <p>The found carburetor is evaluated on a grid of ln(rpm) by vacuum ({@value #RPMS} by {@value #VACUUMS} nodes over
 * what the drive visited) with the plate angle each state needs; the ratio of phi with the new parts to phi with
 * today's is taken between nodes by bilinear interpolation and applied to the readings. Where each sample lies on the
 * grid is found once. The grid's spacing is under 0.7 inHg for a drive up to 26 inHg, half an enrichment's band.
 */
public final class WhatIf {
    private static final int RPMS = 28;
    private static final int VACUUMS = 40;
    /** Samples that a core takes at once. */
    private static final int CHUNK = 1 << 15;

    private final Observation observation;
    private final Estimate estimate;
    private final double[] rpm = new double[RPMS];
    private final double[] vacuumPa = new double[VACUUMS];
    private final double[] today;
    private final int[] node;
    private final float[] alongRpm;
    private final float[] alongVacuum;

    WhatIf(Observation o, Estimate estimate) {
        observation = o;
        this.estimate = estimate;
        DriveLog log = o.log();
        double slow = Double.POSITIVE_INFINITY;
        double fast = 0.0;
        double most = 0.0;
        double limit = o.sheet().ambient().pressurePa() - 8e3;
        for (int i = 0; i < log.size(); i++) {
            if (!Double.isNaN(o.predictedPhi(i))) {
                slow = Math.min(slow, log.rpm()[i]);
                fast = Math.max(fast, log.rpm()[i]);
                most = Math.max(most, Math.min(limit, log.vacuumPa()[i]));
            }
        }
        double ratio = Math.max(1.01, fast / slow);
        for (int a = 0; a < RPMS; a++) {
            rpm[a] = slow * Math.pow(ratio, a / (RPMS - 1.0));
        }
        for (int b = 0; b < VACUUMS; b++) {
            vacuumPa[b] = Math.max(most, 1e3) * b / (VACUUMS - 1.0);
        }
        node = new int[log.size()];
        alongRpm = new float[node.length];
        alongVacuum = new float[node.length];
        place(o, Math.log(slow), Math.log(ratio), Math.max(most, 1e3));
        today = grid(o.sheet());
    }

    private void place(Observation o, double logSlow, double logRatio, double mostPa) {
        DriveLog log = o.log();
        for (int i = 0; i < node.length; i++) {
            if (Double.isNaN(o.predictedPhi(i))) {
                node[i] = -1;
                continue;
            }
            double x = Math.clamp((Math.log(log.rpm()[i]) - logSlow) / logRatio * (RPMS - 1), 0.0, RPMS - 1.001);
            double y = Math.clamp(log.vacuumPa()[i] / mostPa * (VACUUMS - 1), 0.0, VACUUMS - 1.001);
            int a = (int) x;
            int b = (int) y;
            node[i] = a * VACUUMS + b;
            alongRpm[i] = (float) (x - a);
            alongVacuum[i] = (float) (y - b);
        }
    }

    private double[] grid(BuildSheet parts) {
        Estimate e = estimate;
        DeliveryModel model = e.carburetor().model(parts);
        Delivery flow = model.newDelivery();
        // Arrays, for this is the loop behind a part that is dragged.
        Circuit[] circuits = parts.carburetor().family().circuits().toArray(Circuit[]::new);
        double[] level = Arrays.stream(circuits).mapToDouble(e::level).toArray();
        double ambient = parts.ambient().pressurePa();
        double idle = observation.idleRad();
        double[] out = new double[RPMS * VACUUMS];
        for (int a = 0; a < RPMS; a++) {
            for (int b = 0; b < VACUUMS; b++) {
                double air = model.airKgPerS(rpm[a], ambient - vacuumPa[b]);
                double theta = Math.max(idle, model.angleFor(air, vacuumPa[b])) + e.carburetor().plateRad();
                model.evaluate(rpm[a], vacuumPa[b], Math.max(0.0, theta), flow);
                double sum = 0.0;
                for (int c = 0; c < level.length; c++) {
                    sum += level[c] * flow.phi(circuits[c]);
                }
                out[a * VACUUMS + b] = sum;
            }
        }
        return out;
    }

    /**
     * Phi with other parts over phi today, at every sample's own state.
     *
     * @param parts sheet with the parts
     * @return ratio by sample, 1 where speed or vacuum is missing; the caller owns the array
     */
    public float[] ratio(BuildSheet parts) {
        double[] with = overToday(parts);
        float[] out = new float[node.length];
        for (int i = 0; i < out.length; i++) {
            out[i] = node[i] < 0 ? 1f : (float) between(with, i);
        }
        return out;
    }

    private double[] overToday(BuildSheet parts) {
        double[] with = grid(parts);
        for (int k = 0; k < with.length; k++) {
            with[k] /= Math.max(today[k], 1e-6);
        }
        return with;
    }

    /**
     * What the sensor would have read with other parts, put to the moments of the engine: {@link #lambda} at the
     * reading that belongs to a sample's state. In one pass over all cores, since a hand waits for it.
     *
     * @param parts sheet with the parts
     * @return lambda by sample of the state, NaN where there was no reading; the caller owns the array
     */
    public float[] shown(BuildSheet parts) {
        double[] with = overToday(parts);
        Observation o = observation;
        float[] out = new float[node.length];
        IntStream.range(0, (out.length + CHUNK - 1) / CHUNK).parallel().forEach(k -> {
            int end = Math.min(out.length, (k + 1) * CHUNK);
            for (int s = k * CHUNK; s < end; s++) {
                int i = o.readingOf(s);
                int at = o.stateOf(i);
                out[s] = (float) (1.0 / (o.measuredPhi(i) * (node[at] < 0 ? 1.0 : between(with, at))));
            }
        });
        return out;
    }

    private double between(double[] grid, int i) {
        int k = node[i];
        double x = alongRpm[i];
        double y = alongVacuum[i];
        double low = grid[k] + y * (grid[k + 1] - grid[k]);
        double high = grid[k + VACUUMS] + y * (grid[k + VACUUMS + 1] - grid[k + VACUUMS]);
        return low + x * (high - low);
    }

    /**
     * Phi the carburetor found delivers today at a sample's state, settled.
     *
     * @param sample sample of the state
     * @return phi, NaN where speed or vacuum is missing
     */
    public double phi(int sample) {
        return node[sample] < 0 ? Double.NaN : between(today, sample);
    }

    /**
     * What the sensor would have read with other parts: today's reading, its phi scaled by the ratio of the state it
     * belongs to.
     *
     * @param parts sheet with the parts
     * @return lambda by sample, NaN where there was no reading; the caller owns the array
     */
    public double[] lambda(BuildSheet parts) {
        float[] ratio = ratio(parts);
        Observation o = observation;
        double[] out = new double[ratio.length];
        for (int i = 0; i < out.length; i++) {
            out[i] = 1.0 / (o.measuredPhi(i) * ratio[o.stateOf(i)]);
        }
        return out;
    }
}
