package nariz.flow;

import nariz.carburetor.Coefficients;
import nariz.carburetor.Fuel;
import nariz.units.Units;

/**
 * Main system of one bore: jet (with enrichment beside it), well, air bleed and booster nozzle.
 *
 * <p>The booster pulls with P = G q, q = (m/A_v)²/(2 rho_a) the throat's dynamic pressure and G the booster's gain
 * (Heywood 1988, section 7.2.2, describes boost venturis; the gains are family defaults). Fuel must rise h to spill.
 * Unknown is the suction x on the jets, Pa. What is drawn from the well, part kappa of the idle feed I included,
 * comes through the jets: F + kappa I = C_j A_j sqrt(2 rho_f x). kappa = P/(P + 120 Pa): the idle tube draws from a
 * full well at first and competes with the nozzle as that empties it. C_j = 1/(1 + 10/sqrt(Re)), Re = v d/nu the
 * jet's Reynolds number (small orifices lose discharge at low Re: Heywood 1988, section 7.2.3). Bleed air B = C_b A_b
 * sqrt(2 rho_a x). Froth through the nozzle: (F + B)(F/rho_f + B/rho_a) = 2 (C_n A_n)² (P - rho_f g h - x),
 * homogeneous flow as in {@link IdleNetwork}. With no main flow x is what the idle feed needs. Because idle feed is
 * taken behind the jet, a richer idle circuit is partly given back by the main circuit once that flows.
 */
public final class MainWell extends BracketedRoot {
    private static final double KINEMATIC_VISCOSITY = 5.5e-7;
    private static final double GRAVITY = 9.81;
    private static final double NEAR_PA = 0.05;

    private final double fuelDensity;
    private final double airDensity;
    private final double gainOverArea2;
    private final double bleed;
    private final double nozzle;
    private final double spillPa;

    private final double jetC;
    private final double reynolds;
    private final double competesPa;
    private final double pulsationPa;

    private double suctionPa;
    private double pullPa;
    private double jetM2;
    private double drawnKgPerS;

    /**
     * Sets up one bore.
     *
     * @param b side it belongs to
     * @param fuel fuel
     * @param airDensity air density above the venturi, kg/m³
     * @param levelM fuel level above its setting, m
     * @param k coefficients
     */
    public MainWell(Barrels b, Fuel fuel, double airDensity, double levelM, Coefficients k) {
        fuelDensity = fuel.densityKgPerM3();
        this.airDensity = airDensity;
        double throat = Units.holeArea(b.venturiM());
        gainOverArea2 = k.of(MeteredCoefficient.BOOSTER) * gain(b.booster()) / (2.0 * airDensity * throat * throat);
        bleed = k.of(MeteredCoefficient.WELL_BLEED_DISCHARGE) * Units.holeArea(b.highSpeedBleedM());
        nozzle = k.of(MeteredCoefficient.NOZZLE_DISCHARGE)
                * Units.holeArea(k.of(MeteredCoefficient.NOZZLE_SHARE) * b.venturiM());
        spillPa = fuelDensity * GRAVITY * (k.of(MeteredCoefficient.SPILL) - levelM);
        jetC = k.of(MeteredCoefficient.JET_DISCHARGE);
        reynolds = k.of(MeteredCoefficient.JET_REYNOLDS);
        competesPa = k.of(MeteredCoefficient.GIVE_BACK);
        pulsationPa = k.of(MeteredCoefficient.PULSATION);
    }

    private static double gain(Booster kind) {
        return switch (kind) {
            case STRAIGHT -> 1.4;
            case DOWNLEG -> 1.55;
            case ANNULAR -> 1.8;
        };
    }

    /** Coefficient times area of the jets at a suction, m²; the coefficient falls at low Reynolds numbers. */
    private double jet(double areaM2, double suctionPa) {
        double speed = Math.sqrt(2.0 * Math.max(suctionPa, 1e-3) / fuelDensity);
        double diameter = Math.sqrt(4.0 / Math.PI * areaM2);
        return jetC * areaM2 / (1.0 + reynolds / Math.sqrt(speed * diameter / KINEMATIC_VISCOSITY));
    }

    /**
     * Balances the well.
     *
     * @param airKgPerS air through this bore, kg/s
     * @param jetM2 area of everything open beside each other, m²
     * @param idleKgPerS fuel the idle network draws from the well, kg/s
     * @return fuel through the booster, kg/s, not negative
     */
    public double solve(double airKgPerS, double jetM2, double idleKgPerS) {
        double signal = gainOverArea2 * airKgPerS * airKgPerS - spillPa;
        // The intake pulses smear the start: a soft threshold in place of a hard one.
        double pull = soft(signal) - soft(-spillPa);
        double drawn = idleKgPerS * pull / (pull + competesPa);
        double idleSuction = suctionFor(drawn, jetM2);
        suctionPa = idleSuction;
        pullPa = pull;
        this.jetM2 = jetM2;
        drawnKgPerS = drawn;
        if (pull <= idleSuction || imbalance(idleSuction) >= 0.0) {
            return 0.0;
        }
        suctionPa = root(idleSuction, pull, NEAR_PA);
        return Math.max(0.0, jet(jetM2, suctionPa) * Math.sqrt(2.0 * fuelDensity * suctionPa) - drawn);
    }

    /** Suction at which the jets pass a flow: two substitutions, since the coefficient hardly moves. */
    private double suctionFor(double kgPerS, double jetM2) {
        double x = 50.0;
        for (int i = 0; i < 3; i++) {
            double k = kgPerS / jet(jetM2, x);
            x = k * k / (2.0 * fuelDensity);
        }
        return x;
    }

    private double soft(double pa) {
        double z = pa / pulsationPa;
        return z > 30.0 ? pa : pulsationPa * Math.log1p(Math.exp(z));
    }

    @Override
    double imbalance(double x) {
        double f = Math.max(0.0, jet(jetM2, x) * Math.sqrt(2.0 * fuelDensity * x) - drawnKgPerS);
        double air = bleed * Math.sqrt(2.0 * airDensity * x);
        double left = (f + air) * (f / fuelDensity + air / airDensity);
        return Math.sqrt(left) - nozzle * Math.sqrt(2.0 * Math.max(pullPa - x, 0.0));
    }

    /** {@return suction on the jets in the last solution, Pa} */
    public double suctionPa() {
        return suctionPa;
    }

    /** Suction the booster could set up with nothing drawn, a first guess for the coupled balance, Pa. */
    double guessPa(double airKgPerS) {
        return Math.max(0.0, 0.8 * (gainOverArea2 * airKgPerS * airKgPerS - spillPa));
    }
}
