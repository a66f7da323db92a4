package nariz.diagnosis;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.DoubleStream;
import nariz.carburetor.Bands;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.carburetor.Needle;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.Symmetric;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.CholeskyDecomposition;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * The needle a drive asks for, station by station.
 *
 * <p>r_i = ln(phi_i/target_i) over steady cells i is a sum over bands b of share_b(x_i) c_b, x_i the place on the
 * needle that meters there: weighted least squares with a ridge of {@value #USUAL} for c, weights from the reading's
 * error and the dwell. The annulus at a station then has to be exp(-c) times as large, c = sum of share_b c_b there:
 * d'² = d_j² - (d_j² - d²) exp(-c), d_j the jet's diameter, which leaves the jet's height out of account. The interval
 * is that of c with the sensor's own error besides. A station counts as read where it is no further than one station
 * from a place the drive dwelt at.
 *
 * @param spacingM distance of stations, m
 * @param stations what each is and ought to be
 * @param level whether one turn of the jet would do for all: the stations agree within their intervals
 */
public record NeedleProfile(double spacingM, List<Station> stations, boolean level) {
    private static final double USUAL = 0.15;
    private static final double OWN_SD = 0.02;
    private static final double REACH = 1.0;
    private static final double LEAST_CHANGE = 0.025;

    /**
     * A station.
     *
     * @param diameterM diameter today, m
     * @param wantedM diameter wanted, m
     * @param lowM lower end of its 90 % interval, m
     * @param highM upper end, m
     * @param dwellS how long the drive stayed within half a station of it, s
     * @param read whether it was read at all
     * @param error lambda over target there, less one
     * @param errorHalf half of its 90 % interval
     */
    public record Station(double diameterM, double wantedM, double lowM, double highM, double dwellS, boolean read,
            double error, double errorHalf) {
        /** {@return whether the mixture there is off by more than its interval and than anyone would trim} */
        public boolean off() {
            return Math.abs(error) > Math.max(errorHalf, LEAST_CHANGE);
        }

        /** {@return whether filing could make it: it only makes a needle thinner} */
        public boolean byFiling() {
            return wantedM <= diameterM;
        }
    }

    /** Copies the list. */
    public NeedleProfile {
        stations = List.copyOf(stations);
    }

    /** {@return whether a station that was read is off} */
    public boolean off() {
        return stations.stream().anyMatch(s -> s.read() && s.off());
    }

    /** {@return diameters wanted, m; NaN at stations that were not read} */
    public List<Double> diameters() {
        return stations.stream().map(s -> s.read() ? s.wantedM() : Double.NaN).toList();
    }

    /**
     * The needle a drive asks for.
     *
     * @param sheet build sheet
     * @param estimate what was found
     * @param scorer targets
     * @return stations; empty where the carburetor has no needle
     */
    static Optional<NeedleProfile> of(BuildSheet sheet, Estimate estimate, Scorer scorer) {
        Family family = sheet.carburetor().family();
        Optional<Needle> needle = family.needle(sheet);
        Optional<Bands> bands = family.bands();
        if (needle.isEmpty() || bands.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(fitted(estimate, sheet, scorer, bands.get()));
    }

    private static NeedleProfile fitted(Estimate e, BuildSheet sheet, Scorer scorer, Bands bands) {
        List<Cell> cells = e.cells();
        Family family = sheet.carburetor().family();
        Needle needle = family.needle(sheet).orElseThrow();
        DeliveryModel model = e.carburetor().model(sheet);
        int n = bands.middles().size();
        int stations = needle.stations();
        RealMatrix normal = new Array2DRowRealMatrix(n, n);
        RealVector right = new ArrayRealVector(n);
        double[] at = new double[cells.size()];
        for (int b = 0; b < n; b++) {
            normal.addToEntry(b, b, 1.0 / (USUAL * USUAL));
        }
        for (int i = 0; i < at.length; i++) {
            Cell c = cells.get(i);
            at[i] = model.stationAt(c.airKgPerS());
            double r = Math.log(c.phi() / scorer.targetPhi(i));
            double sd = Math.hypot(c.phiError() / c.phi(), OWN_SD * Math.sqrt(1.0 + 1.0 / Math.max(0.2, c.dwellS())));
            for (int b = 0; b < n; b++) {
                double share = bands.share(b, at[i], stations) / (sd * sd);
                right.addToEntry(b, share * r);
                for (int k = 0; k < n; k++) {
                    normal.addToEntry(b, k, share * bands.share(k, at[i], stations));
                }
            }
        }
        DecompositionSolver solver = Symmetric.factored(normal,
                CholeskyDecomposition.DEFAULT_ABSOLUTE_POSITIVITY_THRESHOLD).getSolver();
        return profile(needle, family.needleJetM(sheet), bands, solver.solve(right), solver.getInverse(), at, cells);
    }

    private static NeedleProfile profile(Needle needle, double jetM, Bands bands, RealVector c, RealMatrix covariance,
            double[] at, List<Cell> cells) {
        int stations = needle.stations();
        List<Station> out = new ArrayList<>();
        double lowest = Double.NEGATIVE_INFINITY;
        double highest = Double.POSITIVE_INFINITY;
        boolean off = false;
        for (int s = 0; s < stations; s++) {
            int here = s;
            RealVector share = new ArrayRealVector(DoubleStream.iterate(0, b -> b + 1).limit(c.getDimension())
                    .map(b -> bands.share((int) b, here, stations)).toArray());
            double moved = share.dotProduct(c);
            double half = Estimate.Z90 * Math.hypot(RegimeError.SENSOR_SD, Math.sqrt(share.dotProduct(covariance
                    .operate(share))));
            double dwell = 0.0;
            boolean read = false;
            for (int i = 0; i < at.length; i++) {
                dwell += Math.abs(at[i] - s) <= 0.5 ? cells.get(i).dwellS() : 0.0;
                read |= Math.abs(at[i] - s) <= REACH;
            }
            double d = needle.diametersM().get(s);
            out.add(new Station(d, wanted(jetM, d, moved), wanted(jetM, d, moved - half),
                    wanted(jetM, d, moved + half), dwell, read, Math.expm1(-moved), half));
            if (read) {
                lowest = Math.max(lowest, moved - half);
                highest = Math.min(highest, moved + half);
                off |= Math.abs(moved) > LEAST_CHANGE;
            }
        }
        return new NeedleProfile(needle.spacingM(), out, off && lowest <= highest);
    }

    private static double wanted(double jetM, double diameterM, double moved) {
        double open = (jetM * jetM - diameterM * diameterM) * Math.exp(-moved);
        return Math.sqrt(Math.max(0.0, jetM * jetM - open));
    }
}
