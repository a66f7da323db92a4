package nariz.diagnosis;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Stage;
import nariz.estimation.Cell;
import nariz.estimation.WallFilm;
import nariz.units.Units;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.RealMatrix;

/**
 * What sound hardware, a sound sensor and the reading leave of r = ln(phi/target): a covariance over cells.
 *
 * <p>C_ij = level² + smooth² k_ij + line² l_i l_j h_ij k_ij + gain² (t_i - 1)(t_j - 1) + slope² s_i s_j + film² (1 -
 * f_i)(1 - f_j), k_ij = exp(-(dx²/0.21² + dL²/0.075²)/2) in x = ln airflow and L = load, l_i = exp(-dv²/(2 w²)) with
 * dv the distance of the vacuum from the enrichment's line and h_ij the same between two cells, t target phi, s ln t
 * less its mean below or above the load of enrichment, f the wall film's factor; to
 * which idle cells add idle² among each other, full-load cells full² and tilt² of their distance from the mean ln
 * airflow, and every cell the error of its own mean, {@value #OWN_SD}, {@value #SHORT_STAY} over the root of its dwell,
 * and {@value #SHARE_SD} of r, for no cause is known to better than that share of its effect.
 *
 * <p>Whoever set the car up chose main jets, channel and secondary jets by what the engine does with them: the mean
 * of r over each of cruise, moderate and full load is nought to within set = {@value #SET_UP_SD}. C is conditioned on
 * that: C - Ca (Ca)'/(a'Ca + set²), a the weights of the mean (Rasmussen and Williams 2006, appendix A.2). A sensor
 * in use strays by {@value #SENSOR_SD} everywhere, whatever was set up. Without this C allows 3.5 % at full load,
 * where twelve sound engines show 1.8 %, and 2.9 % at moderate load, where they show 1.7 %.
 *
 * <p>All of this was measured on four-barrels. Of other families there are not sound ones enough: there share² v_i v_j
 * is added, v what no part on the ladders cures of ln(phi/target) by the estimated model and share the family's ({@link
 * nariz.carburetor.Family#incurableShape}), for a progression hole that comes late is no leak. On sound engines of
 * the independent simulator r shows 0.5 of v in transfer, 0.3 in cruise, 0.1 at moderate and 0.5 at full load.
 *
 * <p>The sizes come from those under which what sound engines of an independent simulator leave (2 to 7 % in every
 * way of running) is most probable. Its two halves gave level 0.024 and 0.023, smooth 0.025 and 0.025, idle 0.017 and
 * 0.025, full 0.021 and 0.016, tilt 0.08 and 0.07, line 0.021 and 0.015, slope 0.39 and 0.44 below and 0.35 and 0.20
 * above the load of enrichment. Level (with the sensor) and smooth are taken a quarter smaller, for no sound engine
 * was changed for it and fewer real errors were let pass; line, idle, own and short stays larger, for other engines'
 * hardware may be rougher there.
 */
final class SoundScatter {
    /** The same everywhere: hardware, and a sensor in use. */
    private static final double LEVEL_SD = 0.015;
    private static final double SENSOR_SD = 0.01;
    /** How well a way of running is set up that has parts of its own. */
    private static final double SET_UP_SD = 0.028;
    private static final List<Regime> SET_UP = List.of(Regime.CRUISE, Regime.MODERATE, Regime.FULL);
    /** What sound hardware leaves: smooth over ln airflow and load, with these lengths. */
    private static final double SMOOTH_SD = 0.022;
    private static final double AIR_LENGTH = 0.21;
    private static final double LOAD_LENGTH = 0.075;
    /** At idle besides, at full load besides, and how that tilts over ln airflow. */
    private static final double IDLE_SD = 0.03;
    private static final double FULL_SD = 0.018;
    private static final double TILT_SD = 0.065;
    /** Around its line an enrichment steps where a target slopes: no rating cures that. */
    private static final double LINE_SD = 0.03;
    private static final double LINE_WIDTH_PA = 1.7 * Units.INHG;
    private static final double LINE_LENGTH_PA = 0.7 * Units.INHG;
    /**
     * A main circuit holds nearly one mixture where the target slopes, and so does an enriched one: what that leaves
     * goes with ln target less its mean, below and above the load from which on targets ask for enrichment.
     */
    private static final double LIGHT_SLOPE = 0.5;
    private static final double LOAD_SLOPE = 0.3;
    /** A sensor's error in proportion to the distance from lambda 1. */
    private static final double GAIN_SD = 0.05;
    private static final double OWN_SD = 0.004;
    /** Extra scatter of a cell stayed in for one second. */
    private static final double SHORT_STAY = 0.005;
    /** No cause is known to better than this share of its effect: one odd corner must not decide between causes. */
    private static final double SHARE_SD = 0.14;

    private SoundScatter() {
    }

    /**
     * Works it out.
     *
     * @param sheet parts
     * @param scorer targets and ways of running
     * @param cells where
     * @param r ln(phi/target) by cell
     * @param incurable what no part cures of ln(phi/target), as the model has it, by cell
     * @return covariance, positive definite
     */
    static RealMatrix of(BuildSheet sheet, Scorer scorer, List<Cell> cells, double[] r, double[] incurable) {
        int m = cells.size();
        double ambient = sheet.ambient().pressurePa();
        double opens = sheet.carburetor().family().enrichmentPa(sheet.carburetor(), Stage.PRIMARY);
        double[] line = new double[m];
        double[] tilt = new double[m];
        double[] light = slope(sheet, scorer, cells, false);
        double[] loaded = slope(sheet, scorer, cells, true);
        double middle = 0.0;
        double full = 0.0;
        for (int i = 0; i < m; i++) {
            Cell a = cells.get(i);
            line[i] = opens > 0.0 && !a.idle() ? near(a.vacuumPa() - opens, LINE_WIDTH_PA) : 0.0;
            if (scorer.regime(i) == Regime.FULL) {
                middle += Math.log(a.airKgPerS());
                full++;
            }
        }
        for (int i = 0; i < m; i++) {
            tilt[i] = scorer.regime(i) == Regime.FULL ? Math.log(cells.get(i).airKgPerS()) - middle / full : 0.0;
        }
        RealMatrix c = new Array2DRowRealMatrix(m, m);
        for (int i = 0; i < m; i++) {
            Cell a = cells.get(i);
            for (int j = 0; j <= i; j++) {
                Cell b = cells.get(j);
                double smooth = kinship(a, b, ambient);
                double v = LEVEL_SD * LEVEL_SD + smooth * (SMOOTH_SD * SMOOTH_SD + LINE_SD * LINE_SD * line[i] * line[j]
                        * near(a.vacuumPa() - b.vacuumPa(), LINE_LENGTH_PA));
                v += GAIN_SD * GAIN_SD * (scorer.targetPhi(i) - 1.0) * (scorer.targetPhi(j) - 1.0)
                        + WallFilm.DOUBT * WallFilm.DOUBT * (1.0 - a.film()) * (1.0 - b.film())
                        + TILT_SD * TILT_SD * tilt[i] * tilt[j];
                v += LIGHT_SLOPE * LIGHT_SLOPE * light[i] * light[j] + LOAD_SLOPE * LOAD_SLOPE * loaded[i] * loaded[j];
                if (a.idle() && b.idle()) {
                    v += IDLE_SD * IDLE_SD;
                }
                if (scorer.regime(i) == Regime.FULL && scorer.regime(j) == Regime.FULL) {
                    v += FULL_SD * FULL_SD;
                }
                c.setEntry(i, j, v);
                c.setEntry(j, i, v);
            }
            double large = SHARE_SD * r[i];
            c.addToEntry(i, i, own(a) + large * large);
        }
        for (Regime g : SET_UP) {
            setUp(c, scorer, g);
        }
        double share = sheet.carburetor().family().incurableShape();
        for (int i = 0; i < m; i++) {
            for (int j = 0; j < m; j++) {
                c.addToEntry(i, j, SENSOR_SD * SENSOR_SD + share * share * incurable[i] * incurable[j]);
            }
        }
        return c;
    }

    /** How much alike two cells' errors are that are smooth over ln airflow and load, 0 to 1. */
    static double kinship(Cell a, Cell b, double ambientPa) {
        return a.kinship(b, ambientPa, AIR_LENGTH, LOAD_LENGTH);
    }

    /** Variance of a cell's own ln phi: its reading, its stay, and what no neighbour shares. */
    static double own(Cell a) {
        double read = Math.hypot(a.phiError() / a.phi(), SHORT_STAY / Math.sqrt(a.dwellS()));
        return read * read + OWN_SD * OWN_SD;
    }

    /** Conditions a covariance on the mean over a way of running being nought to within {@link #SET_UP_SD}. */
    private static void setUp(RealMatrix c, Scorer scorer, Regime g) {
        if (!scorer.read(g)) {
            return;
        }
        double[] a = new double[c.getRowDimension()];
        double sum = 0.0;
        for (int i = 0; i < a.length; i++) {
            a[i] = scorer.regime(i) == g ? scorer.weight(i) : 0.0;
            sum += a[i];
        }
        for (int i = 0; i < a.length; i++) {
            a[i] /= sum;
        }
        double[] along = c.operate(a);
        double v = SET_UP_SD * SET_UP_SD;
        for (int i = 0; i < a.length; i++) {
            v += a[i] * along[i];
        }
        for (int i = 0; i < a.length; i++) {
            for (int j = 0; j < a.length; j++) {
                c.addToEntry(i, j, -along[i] * along[j] / v);
            }
        }
    }

    /** ln target phi less its mean, below or above the load of enrichment; 0 on the other side and at idle. */
    private static double[] slope(BuildSheet sheet, Scorer scorer, List<Cell> cells, boolean enriched) {
        double[] out = new double[cells.size()];
        double sum = 0.0;
        int n = 0;
        for (int i = 0; i < out.length; i++) {
            if (!cells.get(i).idle()
                    && (Strategy.load(cells.get(i), sheet) >= Strategy.ENRICHED_LOAD) == enriched) {
                out[i] = Math.log(scorer.targetPhi(i));
                sum += out[i];
                n++;
            }
        }
        for (int i = 0; i < out.length; i++) {
            boolean counts = !cells.get(i).idle()
                    && (Strategy.load(cells.get(i), sheet) >= Strategy.ENRICHED_LOAD) == enriched;
            out[i] = counts ? out[i] - sum / n : 0.0;
        }
        return out;
    }

    private static double near(double d, double width) {
        return Math.exp(-0.5 * d * d / (width * width));
    }
}
