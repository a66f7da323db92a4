package nariz.flow;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.Bands;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Needle;
import nariz.carburetor.Piston;
import nariz.carburetor.Stage;
import nariz.units.Units;

/**
 * A constant-depression carburetor: the air lifts a piston, the piston lifts a profiled needle out of its jet.
 *
 * <p>The piston of diameter D, whose weight and spring ask for a depression P(y) = P_0 s (1 + a y) at lift y H (y from
 * 0 to 1, H the needle's length, s the spring's strength), rests where the air m fits through the gap under it: m = b
 * D (y H + g) sqrt(2 rho_a P(y)), b the width of the bridge over D with its discharge, g the gap at rest. Once it is
 * up, y = 1 and P grows with m². Fuel comes through the annulus between jet and needle, F = C A sqrt(2 rho_f (P -
 * rho_f g h)), A = pi/4 (d_j² - d_n²), d_n the needle's diameter at the distance y H + t p below its shoulder with the
 * jet lowered by t turns of pitch p. C = C_0/(1 + B/sqrt(Re)), Re = v (d_j - d_n)/nu: narrow annuli lose discharge
 * (Heywood 1988, section 7.2.3, on small orifices). The circuits are bands of stations; what the annulus delivers is
 * shared among them by where the needle stands. Away from rest the depression is the air's own,
 * P = (m/(b D (y H + g)))²/(2 rho_a).
 */
public final class NeedleModel extends BracketedRoot implements DeliveryModel, Piston {
    /** Shoulder of a needle that sits as drawn, m: an offset, so that it can be drawn as a factor. */
    static final double SHOULDER_DRAWN = 3e-3;
    private static final double KINEMATIC_VISCOSITY = 5.5e-7;
    private static final double GRAVITY = 9.81;
    private static final double NEAR_RAD = 1e-4;
    private static final double THINNEST_M2 = 1e-9;
    private static final double LEAST_PA = 20.0;

    private final List<Circuit> circuits;
    private final Bands bands;
    private final VolumetricEfficiency filling;
    private final ThrottlePlate plate;
    private final Needle needle;
    private final int stations;
    private final double liftM;
    private final int count;
    private final double ambientPa;
    private final double ambientK;
    private final double airDensity;
    private final double fuelDensity;
    private final double stoich;
    private final double jetM;
    private final double lowM;
    private final double depressionPa;
    private final double rise;
    private final double widthM;
    private final double gapM;
    private final double headPa;
    private final double annulusC;
    private final double reynolds;
    private double wantedM2;

    /**
     * Sets up the model.
     *
     * @param sheet build sheet of a family with needles
     * @param bands bands of stations; the circuits are in the same order
     * @param levelM fuel level above the sheet's, m
     * @param k coefficients
     */
    public NeedleModel(BuildSheet sheet, Bands bands, double levelM, Coefficients k) {
        Carburetor c = sheet.carburetor();
        circuits = c.family().circuits();
        this.bands = bands;
        count = c.count();
        ambientPa = sheet.ambient().pressurePa();
        ambientK = sheet.ambient().temperatureK();
        airDensity = sheet.ambient().densityKgPerM3();
        fuelDensity = sheet.fuel().densityKgPerM3();
        stoich = sheet.fuel().stoichAfr();
        filling = new VolumetricEfficiency(sheet.engine(), sheet.ambient(), k);
        String at = Stage.PRIMARY.key() + ".";
        double bore = c.number(at + "bore");
        plate = new ThrottlePlate(bore, bore, 0.0, k);
        needle = c.family().needle(sheet).orElseThrow();
        stations = needle.stations();
        liftM = needle.lengthM();
        jetM = c.family().needleJetM(sheet);
        lowM = c.number(at + "jetHeight") * c.number(at + "jetPitch") + k.of(FlowCoefficient.NEEDLE_SHOULDER)
                - SHOULDER_DRAWN;
        double spring = switch (c.word(at + "pistonSpring")) {
            case "soft" -> 0.85;
            case "stiff" -> 1.2;
            default -> 1.0;
        };
        depressionPa = spring * k.of(FlowCoefficient.PISTON_DEPRESSION);
        rise = k.of(FlowCoefficient.PISTON_RISE);
        widthM = k.of(FlowCoefficient.BRIDGE_WIDTH) * bore;
        gapM = k.of(FlowCoefficient.PISTON_GAP);
        headPa = fuelDensity * GRAVITY * (k.of(FlowCoefficient.BRIDGE_HEIGHT) - c.number("fuelLevel") - levelM);
        annulusC = k.of(FlowCoefficient.ANNULUS_DISCHARGE);
        reynolds = k.of(FlowCoefficient.ANNULUS_REYNOLDS);
    }

    @Override
    public Delivery newDelivery() {
        return new Delivery(circuits.size());
    }

    @Override
    public DeliveryModel shiftEnrichment(double shiftPa) {
        return this;
    }

    @Override
    public void evaluate(double rpm, double vacuumPa, Delivery out) {
        double air = filling.airKgPerS(rpm, ambientPa - vacuumPa);
        evaluateAir(air, air, vacuumPa, angleFor(air, vacuumPa), out);
    }

    @Override
    public void evaluate(double rpm, double vacuumPa, double thetaRad, Delivery out) {
        double air = filling.airKgPerS(rpm, ambientPa - vacuumPa);
        evaluateAir(air, air, vacuumPa, thetaRad, out);
    }

    @Override
    public void evaluateAir(double engineAirKgPerS, double carburetorAirKgPerS, double vacuumPa, double thetaRad,
            Delivery out) {
        double air = Math.max(0.0, carburetorAirKgPerS) / count;
        double y = lift(air);
        double fuel = count * fuelKgPerS(y, depression(y, air));
        double at = place(y);
        for (Circuit c : circuits) {
            out.put(c, c.role() == Circuit.Role.PUMP ? 0.0 : stoich / engineAirKgPerS * fuel * bands.share(c.index(),
                    at, stations));
        }
        out.state(engineAirKgPerS, thetaRad, 0.0);
        out.enrichment(0.0);
    }

    /**
     * Lift of the pistons.
     *
     * @param airKgPerS air through one carburetor, kg/s
     * @return share of the needle's length, 0 to 1
     */
    public double lift(double airKgPerS) {
        double perM = widthM * Math.sqrt(2.0 * airDensity * depressionPa);
        double y = 0.0;
        // The depression hardly depends on the lift: three substitutions settle it.
        for (int i = 0; i < 3; i++) {
            y = Math.clamp((airKgPerS / (perM * Math.sqrt(1.0 + rise * y)) - gapM) / liftM, 0.0, 1.0);
        }
        return y;
    }

    /** Depression at the jet with the piston at a lift, Pa: its own while it floats, the air's where it cannot. */
    private double depression(double y, double airKgPerS) {
        return y > 0.0 && y < 1.0 ? floats(y) : drawn(y, airKgPerS);
    }

    /** Depression that carries the piston at a lift, Pa. */
    private double floats(double y) {
        return depressionPa * (1.0 + rise * y);
    }

    /** Depression of the air that passes under the piston held at a lift, Pa. */
    private double drawn(double y, double airKgPerS) {
        double speed = airKgPerS / (widthM * (y * liftM + gapM));
        return speed * speed / (2.0 * airDensity);
    }

    @Override
    public Optional<Piston> piston() {
        return Optional.of(this);
    }

    @Override
    public double rest(double airKgPerS) {
        return lift(airKgPerS / count);
    }

    @Override
    public double bridgeM2(double lift) {
        return count * widthM * (lift * liftM + gapM);
    }

    @Override
    public double pull(double lift, double airKgPerS) {
        return drawn(lift, airKgPerS / count) / floats(lift);
    }

    @Override
    public double fuel(double lift, double airKgPerS) {
        double air = airKgPerS / count;
        double y = lift(air);
        return fuelKgPerS(lift, drawn(lift, air)) / fuelKgPerS(y, depression(y, air));
    }

    /** Where the jet's rim stands on the needle, in stations. */
    private double place(double y) {
        return (y * liftM + lowM) / needle.spacingM();
    }

    @Override
    public double stationAt(double airKgPerS) {
        return Math.clamp(place(lift(airKgPerS / count)), 0.0, stations - 1.0);
    }

    private double fuelKgPerS(double y, double airPa) {
        double d = Math.min(needle.diameterM(y * liftM + lowM), jetM);
        double area = Math.max(THINNEST_M2, Units.holeArea(jetM) - Units.holeArea(d));
        double pa = airPa - headPa;
        double speed = Math.sqrt(2.0 * Math.max(pa, LEAST_PA * 1e-3) / fuelDensity);
        double wide = Math.max(jetM - d, 1e-7);
        double c = annulusC / (1.0 + reynolds / Math.sqrt(speed * wide / KINEMATIC_VISCOSITY));
        return c * area * fuelDensity * speed;
    }

    @Override
    public double airKgPerS(double rpm, double manifoldPa) {
        return filling.airKgPerS(rpm, manifoldPa);
    }

    @Override
    public double plateArea(double thetaRad, double airKgPerS) {
        return count * plate.effectiveArea(thetaRad);
    }

    @Override
    public double angleFor(double airKgPerS, double vacuumPa) {
        double air = airKgPerS / count;
        double above = ambientPa - depression(lift(air), air);
        double flux = CompressibleFlow.flux(above, ambientK, Math.min(above, ambientPa - vacuumPa));
        if (flux <= 0.0) {
            return ThrottlePlate.WIDE_OPEN;
        }
        wantedM2 = air / flux;
        return root(0.0, ThrottlePlate.WIDE_OPEN, NEAR_RAD);
    }

    @Override
    double imbalance(double theta) {
        return plate.effectiveArea(theta) - wantedM2;
    }

    @Override
    public boolean secondaryOpen(Delivery d) {
        return false;
    }
}
