package nariz.flow;

import java.util.List;
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
 *
 * <p>In a stack of jet, emulsion tube and air corrector the bleed is the corrector in series with the rows of holes
 * that the fuel in the well has left: A_b becomes 1/sqrt(1/A_b² + 1/A_r²), A_r the area of the rows at depths below
 * x/(rho_f g). A venturi that feeds one cylinder sees its flow in pulses: the mean of the square is more than the
 * square of the mean, the pulses that smear the start grow with the flow itself, and P is {@link
 * FlowCoefficient#PULSE} times as much (Winterbone and Pearson 2000 on runners that pulsate).
 */
public final class MainWell extends BracketedRoot {
    private static final double KINEMATIC_VISCOSITY = 5.5e-7;
    private static final double GRAVITY = 9.81;
    private static final double NEAR_PA = 0.05;
    /** Height of froth over which a row of the emulsion tube comes to blow, m. */
    private static final double ROW_M = 1.5e-3;
    private static final double LEAST_M2 = 1e-8;
    private static final double LEAST_SMEAR_PA = 0.1;

    private final double fuelDensity;
    private final double airDensity;
    private final double gainOverArea2;
    private final double bleedC;
    private final double bleedM2;
    private final List<EmulsionRow> rows;
    private final boolean stacked;
    private final double nozzle;
    private final double spillPa;

    private final double jetC;
    private final double reynolds;
    private final double competesPa;
    private final double pulsationPa;

    private double smearPa;
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
        double throat = Units.holeArea(b.throat().venturiM());
        double pulse = b.throat().pulses() ? k.of(FlowCoefficient.PULSE) : 1.0;
        gainOverArea2 = pulse * k.of(FlowCoefficient.BOOSTER) * gain(b.throat().booster())
                / (2.0 * airDensity * throat * throat);
        bleedC = k.of(b.main().stacked() ? FlowCoefficient.STACK_AIR_DISCHARGE : FlowCoefficient.WELL_BLEED_DISCHARGE);
        bleedM2 = Units.holeArea(b.main().airBleedM());
        rows = b.main().rows();
        stacked = b.main().stacked();
        nozzle = k.of(FlowCoefficient.NOZZLE_DISCHARGE)
                * Units.holeArea(b.main().nozzleM() > 0.0 ? b.main().nozzleM()
                : k.of(FlowCoefficient.NOZZLE_SHARE) * b.throat().venturiM());
        spillPa = fuelDensity * GRAVITY * (k.of(FlowCoefficient.SPILL) - levelM);
        jetC = k.of(FlowCoefficient.JET_DISCHARGE);
        reynolds = k.of(FlowCoefficient.JET_REYNOLDS);
        competesPa = k.of(FlowCoefficient.GIVE_BACK);
        pulsationPa = k.of(FlowCoefficient.PULSATION);
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
        double drawing = gainOverArea2 * airKgPerS * airKgPerS;
        // The intake pulses smear the start: a soft threshold in place of a hard one.
        smearPa = stacked ? pulsationPa * drawing / (drawing + Math.abs(spillPa)) + LEAST_SMEAR_PA : pulsationPa;
        double pull = soft(drawing - spillPa) - soft(-spillPa);
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
        double z = pa / smearPa;
        return z > 30.0 ? pa : smearPa * Math.log1p(Math.exp(z));
    }

    @Override
    double imbalance(double x) {
        double f = Math.max(0.0, jet(jetM2, x) * Math.sqrt(2.0 * fuelDensity * x) - drawnKgPerS);
        double air = bleedC * bleed(x) * Math.sqrt(2.0 * airDensity * x);
        double left = (f + air) * (f / fuelDensity + air / airDensity);
        return Math.sqrt(left) - nozzle * Math.sqrt(2.0 * Math.max(pullPa - x, 0.0));
    }

    /** Area of the air's way at a suction: the bleed, and in series with it the rows that the fuel has left. */
    private double bleed(double x) {
        if (rows.isEmpty()) {
            return bleedM2;
        }
        double level = x / (fuelDensity * GRAVITY);
        double open = LEAST_M2;
        for (EmulsionRow r : rows) {
            open += r.areaM2() / (1.0 + Math.exp(-(level - r.depthM()) / ROW_M));
        }
        double ratio = bleedM2 / open;
        return bleedM2 / Math.sqrt(1.0 + ratio * ratio);
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
