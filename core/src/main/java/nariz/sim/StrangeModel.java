package nariz.sim;

import java.util.List;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.units.Units;

/**
 * A carburetor of other laws than the estimator's, not only of other coefficients.
 *
 * <p>phi_c = u_c (p_c/u_c)^e_c (1 + a_c tanh(x/0.7)) (1 + b exp(-(d/3 deg)²)) (1 + g (1 - s) exp(-v/2 kPa)), p_c what
 * the equations say of circuit c with the parts fitted and u_c with the sizes of the family, so that a part does more
 * or less than its area (e_c 0.75 to 1.2, drawn once for every circuit); x = ln(m/m_ref), a tilt that saturates, as of
 * an emulsion that uncovers (a_c up to 0.05); d the plate's travel from idle, a slot of another shape (b up to 0.07, on
 * idle and progression alone); s = m/m_max and v vacuum, what pulsation at low speed and open throttle does to a
 * booster (g up to 0.08, on main circuits alone). The enrichment opens later as vacuum falls and shuts later as it
 * rises, by 0.2 to 0.9 inHg.
 */
final class StrangeModel implements DeliveryModel {
    private static final double LEAST = 0.004;
    private static final double BUMP_RAD = 3.0 * Units.DEG;
    private static final double OPEN_PA = 2000.0;
    private static final double SETTLES = 0.05;

    private final DeliveryModel fitted;
    private final DeliveryModel usual;
    private final Delivery p;
    private final Delivery u;
    private final List<Circuit> circuits;
    private final double[] elasticity;
    private final double[] tilt;
    private final double bump;
    private final double pulse;
    private final double lagPa;
    private final double idleRad;
    private final double largestAir;
    private double slowPa = Double.NaN;

    /**
     * Draws one.
     *
     * @param sheet parts fitted
     * @param k coefficients of its equations
     * @param seed draws its laws
     * @param idleAirKgPerS air at idle, kg/s
     * @param idleVacuumPa vacuum at idle, Pa
     * @param largestAir largest airflow of the engine, kg/s
     */
    StrangeModel(BuildSheet sheet, Coefficients k, long seed, double idleAirKgPerS, double idleVacuumPa,
            double largestAir) {
        Family family = sheet.carburetor().family();
        fitted = family.model(sheet, 0.0, k);
        usual = family.model(usual(sheet), 0.0, k);
        p = fitted.newDelivery();
        u = usual.newDelivery();
        circuits = family.circuits();
        Random r = new Random(seed * 31 + 7);
        elasticity = new double[circuits.size()];
        tilt = new double[circuits.size()];
        for (int c = 0; c < elasticity.length; c++) {
            elasticity[c] = 0.75 + 0.45 * r.nextDouble();
            tilt[c] = 0.05 * (2.0 * r.nextDouble() - 1.0);
        }
        bump = 0.07 * (2.0 * r.nextDouble() - 1.0);
        pulse = 0.08 * (2.0 * r.nextDouble() - 1.0);
        lagPa = (0.2 + 0.7 * r.nextDouble()) * Units.INHG;
        this.largestAir = largestAir;
        idleRad = fitted.angleFor(idleAirKgPerS, idleVacuumPa);
    }

    /** The same carburetor with sizes that suit its venturi: what a part is more or less than. */
    private static BuildSheet usual(BuildSheet sheet) {
        Family family = sheet.carburetor().family();
        BuildSheet out = sheet;
        for (Stage stage : family.stages()) {
            double venturi = sheet.carburetor().number(stage.key() + ".venturi");
            out = fit(family, out, stage, Part.Role.METERING_FUEL, venturi * 0.052);
            out = fit(family, out, stage, Part.Role.METERING_AIR, 33 * Units.THOU);
            out = fit(family, out, stage, Part.Role.IDLE_AIR, 76 * Units.THOU);
            for (Part part : family.parts()) {
                if (part.role() == Part.Role.STATION) {
                    out = part.fit(out, stage, family.usual(sheet, part).orElseThrow());
                }
            }
        }
        return out;
    }

    /** A size that suits where the family knows one, otherwise the one given. */
    private static BuildSheet fit(Family family, BuildSheet sheet, Stage stage, Part.Role role, double sizeM) {
        return family.part(sheet.carburetor(), stage, role).map(part -> part.fit(sheet, stage, family.usual(sheet,
                part).orElse(Math.rint(sizeM / Units.THOU)))).orElse(sheet);
    }

    /** Forgets what the vacuum was before, as after a long stay. */
    void settle() {
        slowPa = Double.NaN;
    }

    @Override
    public Delivery newDelivery() {
        return fitted.newDelivery();
    }

    @Override
    public DeliveryModel shiftEnrichment(double shiftPa) {
        throw new UnsupportedOperationException("a strange carburetor moves its own enrichment");
    }

    @Override
    public void evaluate(double rpm, double vacuumPa, Delivery out) {
        throw new UnsupportedOperationException("a strange carburetor is only driven with known air");
    }

    @Override
    public void evaluate(double rpm, double vacuumPa, double thetaRad, Delivery out) {
        throw new UnsupportedOperationException("a strange carburetor is only driven with known air");
    }

    @Override
    public void evaluateAir(double engineAirKgPerS, double carburetorAirKgPerS, double vacuumPa, double thetaRad,
            Delivery out) {
        slowPa = Double.isNaN(slowPa) ? vacuumPa : slowPa + SETTLES * (vacuumPa - slowPa);
        double late = lagPa * Math.tanh((slowPa - vacuumPa) / Units.INHG);
        fitted.shiftEnrichment(-late);
        usual.shiftEnrichment(-late);
        fitted.evaluateAir(engineAirKgPerS, carburetorAirKgPerS, vacuumPa, thetaRad, p);
        usual.evaluateAir(engineAirKgPerS, carburetorAirKgPerS, vacuumPa, thetaRad, u);
        out.state(p.airKgPerS(), p.thetaPrimaryRad(), p.thetaSecondaryRad());
        out.enrichment(p.enrichment());
        double x = Math.log(Math.max(0.01, engineAirKgPerS / largestAir) / 0.2);
        double travel = (thetaRad - idleRad) / BUMP_RAD;
        double low = 1.0 + bump * Math.exp(-travel * travel);
        double high = 1.0 + pulse * Math.max(0.0, 1.0 - engineAirKgPerS / largestAir) * Math.exp(-vacuumPa / OPEN_PA);
        for (Circuit c : circuits) {
            double here = p.phi(c);
            double there = u.phi(c);
            double law = here > LEAST && there > LEAST ? there * Math.pow(here / there, elasticity[c.index()]) : here;
            out.put(c, law * (1.0 + tilt[c.index()] * Math.tanh(x / 0.7)) * (c.lowSpeed() ? low : high));
        }
    }

    @Override
    public double airKgPerS(double rpm, double manifoldPa) {
        return fitted.airKgPerS(rpm, manifoldPa);
    }

    @Override
    public double plateArea(double thetaRad, double airKgPerS) {
        return fitted.plateArea(thetaRad, airKgPerS);
    }

    @Override
    public double angleFor(double airKgPerS, double vacuumPa) {
        return fitted.angleFor(airKgPerS, vacuumPa);
    }

    @Override
    public boolean secondaryOpen(Delivery d) {
        return fitted.secondaryOpen(d);
    }
}
