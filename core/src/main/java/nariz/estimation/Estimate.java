package nariz.estimation;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;

/**
 * What the log says about the circuits.
 *
 * <p>Corrections are fuel delivered over fuel the sheet would deliver, 1 = as on the sheet. Intervals are 90 %.
 * Arrays are copied in and out by the accessors.
 */
public final class Estimate {
    /** Half width of a 90 % interval in standard deviations of a normal distribution. */
    public static final double Z90 = 1.6449;

    private final List<Circuit> circuits;
    private final int metering;
    private final List<Cell> cells;
    private final Calibrated carburetor;
    private final double[] level;
    private final double[] correction;
    private final double[] sd;
    private final double[][] correlation;
    private final double[] phi;
    private final double[] phiSd;
    private final double[][] sheetPhi;
    private final double[][] foundPhi;
    private final double[] rest;
    private final double slope;
    private final Optional<Slope> mainSlope;
    private final double airReference;
    private final double shiftPa;
    private final double shiftSdPa;
    private final double strain;
    private final EarlierEstimate carried;

    Estimate(Family family, List<Cell> cells, Calibrated carburetor, double[] level, double[] correction, double[] sd,
            double[][] correlation, double[] phi, double[] phiSd, double[][] sheetPhi, double[][] foundPhi,
            double[] rest, double slope, Optional<Slope> mainSlope, double airReference, double shiftPa,
            double shiftSdPa, double strain, EarlierEstimate carried) {
        circuits = family.circuits();
        metering = family.circuit(Stage.PRIMARY, Circuit.Role.METERING).orElseThrow().index();
        this.cells = List.copyOf(cells);
        this.carburetor = carburetor;
        this.level = level.clone();
        this.foundPhi = foundPhi;
        this.correction = correction.clone();
        this.sd = sd.clone();
        this.correlation = correlation;
        this.phi = phi.clone();
        this.phiSd = phiSd.clone();
        this.sheetPhi = sheetPhi;
        this.rest = rest.clone();
        this.slope = slope;
        this.mainSlope = mainSlope;
        this.airReference = airReference;
        this.shiftPa = shiftPa;
        this.shiftSdPa = shiftSdPa;
        this.strain = strain;
        this.carried = carried;
    }

    /** The same with other standard deviations of the corrections. */
    private Estimate(Estimate of, double[] sd) {
        circuits = of.circuits;
        metering = of.metering;
        cells = of.cells;
        carburetor = of.carburetor;
        level = of.level;
        foundPhi = of.foundPhi;
        correction = of.correction;
        this.sd = sd;
        correlation = of.correlation;
        phi = of.phi;
        phiSd = of.phiSd;
        sheetPhi = of.sheetPhi;
        rest = of.rest;
        slope = of.slope;
        mainSlope = of.mainSlope;
        airReference = of.airReference;
        shiftPa = of.shiftPa;
        shiftSdPa = of.shiftSdPa;
        strain = of.strain;
        carried = of.carried;
    }

    /** The same, known the less well the further another solution has moved away from it. */
    Estimate unsettledBy(Estimate other) {
        double[] wider = sd.clone();
        for (int c = 0; c < wider.length; c++) {
            wider[c] = Math.hypot(sd[c], other.correction[c] - correction[c]);
        }
        return new Estimate(this, wider);
    }

    /** {@return cells the estimate rests on} */
    public List<Cell> cells() {
        return cells;
    }

    /**
     * Correction of a circuit.
     *
     * @param c circuit
     * @return mean
     */
    public double correction(Circuit c) {
        return correction[c.index()];
    }

    /**
     * How well a correction is known.
     *
     * @param c circuit
     * @return standard deviation
     */
    public double sd(Circuit c) {
        return sd[c.index()];
    }

    /**
     * Lower end of the 90 % interval.
     *
     * @param c circuit
     * @return bound, not negative
     */
    public double low(Circuit c) {
        return Math.max(0.0, correction[c.index()] - Z90 * sd[c.index()]);
    }

    /**
     * Upper end of the 90 % interval.
     *
     * @param c circuit
     * @return bound
     */
    public double high(Circuit c) {
        return correction[c.index()] + Z90 * sd[c.index()];
    }

    /**
     * How strongly two corrections trade against each other.
     *
     * @param a one circuit
     * @param b another
     * @return correlation, -1 to 1
     */
    public double correlation(Circuit a, Circuit b) {
        return correlation[a.index()][b.index()];
    }

    /**
     * Best estimate of phi today in a cell.
     *
     * @param cell index
     * @return phi, readings and model weighed against each other
     */
    public double phi(int cell) {
        return phi[cell];
    }

    /**
     * Its standard deviation.
     *
     * @param cell index
     * @return one standard deviation of phi
     */
    public double phiSd(int cell) {
        return phiSd[cell];
    }

    /**
     * Phi a circuit delivers in a cell as the sheet would have it.
     *
     * @param cell index
     * @param c circuit
     * @return part of phi
     */
    public double sheetPhi(int cell, Circuit c) {
        return sheetPhi[cell][c.index()];
    }

    /**
     * Share of a cell's fuel that some circuits deliver as the sheet would have it.
     *
     * @param cell index
     * @param some which
     * @return 0 to 1
     */
    public double share(int cell, Collection<Circuit> some) {
        double total = 0.0;
        double mine = 0.0;
        for (Circuit c : circuits) {
            total += sheetPhi(cell, c);
            mine += some.contains(c) ? sheetPhi(cell, c) : 0.0;
        }
        return mine / total;
    }

    /**
     * Phi in every cell with other parts: what the found carburetor does with them, at the levels found, and what the
     * model leaves today in proportion.
     *
     * @param parts sheet with the parts
     * @return phi by cell
     */
    public double[] phiWith(BuildSheet parts) {
        double[][] changed = carburetor.phi(parts, cells);
        double[] out = new double[changed.length];
        for (int i = 0; i < out.length; i++) {
            double was = 0.0;
            double will = 0.0;
            double sum = 0.0;
            for (Circuit c : circuits) {
                int k = c.index();
                sum += (level[k] + (k == metering ? slope * air(i) : 0.0)) * changed[i][k];
                was += foundPhi[i][k];
                will += changed[i][k];
            }
            out[i] = sum + rest[i] * will / Math.max(was, 1e-6);
        }
        return out;
    }

    /** {@return the carburetor as the log makes it out} */
    public Calibrated carburetor() {
        return carburetor;
    }

    /**
     * Level of a circuit in the carburetor found: factor on what its equations deliver.
     *
     * @param c circuit
     * @return factor, 1 = as the equations say
     */
    public double level(Circuit c) {
        return level[c.index()];
    }

    private double air(int cell) {
        return Math.log(cells.get(cell).airKgPerS() / airReference);
    }

    /** {@return how the main circuit's delivery changes with airflow; empty when too little of it was read} */
    public Optional<Slope> mainSlope() {
        return mainSlope;
    }

    /** {@return how much earlier (positive) the enrichment opens than rated, Pa} */
    public double shiftPa() {
        return shiftPa;
    }

    /** {@return its standard deviation, Pa} */
    public double shiftSdPa() {
        return shiftSdPa;
    }

    /** {@return log probability by which this carburetor lies outside its family; 0 for a usual one} */
    public double strain() {
        return strain;
    }

    /** {@return what the next drive can start from} */
    public EarlierEstimate carried() {
        return carried;
    }

}
