package nariz.flow;

import java.util.function.Function;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import org.jspecify.annotations.Nullable;

/**
 * The carburetor of a build sheet as a function: engine speed, manifold vacuum and, where known, throttle, to air,
 * plate angles and the fuel of every circuit.
 *
 * <p>Steady state; transients are the observation's business. An instance holds scratch space: one thread each.
 */
public final class MeteredModel extends BracketedRoot implements DeliveryModel {
    /** Coupled passes between idle network and main well. */
    private static final int PASSES = 4;
    private static final double NEAR_RAD = 1e-4;
    /** The idle network's fuel moves by less than a thousandth with this much suction. */
    private static final double SETTLED_PA = 0.5;

    private final Family family;
    private final VolumetricEfficiency filling;
    private final StageModel primary;
    /** Null where there is no second stage. */
    private final @Nullable SecondStage secondary;
    private final double ambientPa;
    private final double ambientK;
    private final double airDensity;
    private final double stoich;
    private double enrichmentShiftPa;
    private double wantedM2;
    private double wantedAir;

    /**
     * Sets up the model.
     *
     * @param sheet build sheet of a family with venturis of fixed size
     * @param barrels its barrels, by stage
     * @param levelM fuel level above the sheet's, m
     * @param k coefficients
     */
    public MeteredModel(BuildSheet sheet, Function<Stage, Barrels> barrels, double levelM, Coefficients k) {
        Carburetor c = sheet.carburetor();
        family = c.family();
        double level = c.number("fuelLevel") + levelM;
        ambientPa = sheet.ambient().pressurePa();
        ambientK = sheet.ambient().temperatureK();
        airDensity = sheet.ambient().densityKgPerM3();
        stoich = sheet.fuel().stoichAfr();
        filling = new VolumetricEfficiency(sheet.engine(), sheet.ambient(), k);
        primary = new StageModel(sheet, Stage.PRIMARY, barrels.apply(Stage.PRIMARY), level, k);
        secondary = family.stages().contains(Stage.SECONDARY) ? new SecondStage(sheet, barrels.apply(Stage.SECONDARY),
                level, k) : null;
    }

    @Override
    public MeteredModel shiftEnrichment(double shiftPa) {
        enrichmentShiftPa = shiftPa;
        return this;
    }

    @Override
    public void evaluate(double rpm, double vacuumPa, Delivery out) {
        double air = filling.airKgPerS(rpm, ambientPa - vacuumPa);
        at(air, 0.0, vacuumPa, angleFor(air, vacuumPa), out);
    }

    @Override
    public void evaluate(double rpm, double vacuumPa, double thetaRad, Delivery out) {
        at(filling.airKgPerS(rpm, ambientPa - vacuumPa), 0.0, vacuumPa, thetaRad, out);
    }

    @Override
    public void evaluateAir(double engineAirKgPerS, double carburetorAirKgPerS, double vacuumPa, double thetaRad,
            Delivery out) {
        at(engineAirKgPerS, engineAirKgPerS - carburetorAirKgPerS, vacuumPa, thetaRad, out);
    }

    @Override
    public double plateArea(double thetaRad, double airKgPerS) {
        return area(thetaRad, airKgPerS);
    }

    private void at(double air, double leak, double vacuumPa, double theta, Delivery out) {
        double manifold = ambientPa - vacuumPa;
        double carb = air - leak;
        double thetaS = secondary == null ? 0.0 : secondary.angle(theta, carb);
        double ap = primary.area(theta);
        double as = secondary == null ? 0.0 : secondary.side.area(thetaS);
        double toPrimary = carb * ap / (ap + as);
        out.state(air, theta, thetaS);
        double scale = stoich / air;
        primary.solve(theta, manifold, vacuumPa, toPrimary, enrichmentShiftPa);
        out.enrichment(primary.opening);
        primary.deliver(scale, out);
        if (secondary != null) {
            secondary.side.solve(thetaS, manifold, vacuumPa, carb - toPrimary, 0.0);
            secondary.side.deliver(scale, out);
        }
    }

    @Override
    public double angleFor(double airKgPerS, double vacuumPa) {
        double flux = CompressibleFlow.flux(ambientPa, ambientK, ambientPa - vacuumPa);
        if (flux <= 0.0) {
            return ThrottlePlate.WIDE_OPEN;
        }
        wantedM2 = airKgPerS / flux;
        wantedAir = airKgPerS;
        return root(0.0, ThrottlePlate.WIDE_OPEN, NEAR_RAD);
    }

    @Override
    double imbalance(double theta) {
        return area(theta, wantedAir) - wantedM2;
    }

    private double area(double theta, double airKgPerS) {
        double open = primary.area(theta);
        return secondary == null ? open : open + secondary.side.area(secondary.angle(theta, airKgPerS));
    }

    @Override
    public double airKgPerS(double rpm, double manifoldPa) {
        return filling.airKgPerS(rpm, manifoldPa);
    }

    @Override
    public Delivery newDelivery() {
        return new Delivery(family.circuits().size());
    }

    @Override
    public double slotBelowM(double thetaRad) {
        return primary.network.slotBelow(thetaRad);
    }

    @Override
    public double edgeTravelM(double thetaRad) {
        return primary.plate.edgeTravel(thetaRad);
    }

    @Override
    public boolean secondaryOpen(Delivery d) {
        return secondary != null && secondary.open(d);
    }

    /** The second stage with what opens it. */
    private final class SecondStage {
        private static final double FLOWS = 0.02;
        private final SecondaryOpening opening;
        private final Opening fitted;
        private final StageModel side;
        private final Circuit main;

        SecondStage(BuildSheet sheet, Barrels barrels, double levelM, Coefficients k) {
            opening = new SecondaryOpening(sheet.carburetor(), k);
            fitted = Opening.of(sheet.carburetor());
            side = new StageModel(sheet, Stage.SECONDARY, barrels, levelM, k);
            main = family.circuit(Stage.SECONDARY, Circuit.Role.METERING).orElseThrow();
        }

        double angle(double primaryRad, double airKgPerS) {
            return opening.angle(primaryRad, airKgPerS, airDensity);
        }

        /** Linkage has moved the plates; where a spring holds them as well, fuel flows too. */
        boolean open(Delivery d) {
            boolean linked = fitted.kind() == OpeningKind.MECHANICAL;
            return d.thetaPrimaryRad() > fitted.startRad() && (linked || d.phi(main) > FLOWS);
        }
    }

    /** One stage: all its bores alike. */
    private static final class StageModel {
        private final int bores;
        private final ThrottlePlate plate;
        private final IdleNetwork network;
        private final MainWell well;
        private final Enrichment enrichment;
        private final Circuit idleCircuit;
        private final @Nullable Circuit slotCircuit;
        private final Circuit mainCircuit;
        private final @Nullable Circuit powerCircuit;
        private double idle;
        private double portShare;
        private double main;
        private double jetShare;
        private double opening;

        StageModel(BuildSheet sheet, Stage stage, Barrels b, double levelM, Coefficients k) {
            Carburetor c = sheet.carburetor();
            bores = c.count() * b.bores();
            plate = new ThrottlePlate(b, k);
            double density = sheet.ambient().densityKgPerM3();
            network = new IdleNetwork(b, plate, sheet.fuel(), sheet.ambient().pressurePa(), density,
                    levelM, k);
            well = new MainWell(b, sheet.fuel(), density, levelM, k);
            enrichment = new Enrichment(b, k);
            Family f = c.family();
            idleCircuit = f.circuit(stage, Circuit.Role.IDLE).orElseThrow();
            slotCircuit = f.circuit(stage, Circuit.Role.PROGRESSION).orElse(null);
            mainCircuit = f.circuit(stage, Circuit.Role.METERING).orElseThrow();
            powerCircuit = f.circuit(stage, Circuit.Role.ENRICHMENT).orElse(null);
        }

        double area(double theta) {
            return bores * plate.effectiveArea(theta);
        }

        void solve(double theta, double manifoldPa, double vacuumPa, double airKgPerS, double shiftPa) {
            opening = enrichment.opening(vacuumPa, shiftPa);
            double base = enrichment.closedM2();
            double open = base + opening * enrichment.extraM2();
            jetShare = base / open;
            double air = airKgPerS / bores;
            double suction = well.guessPa(air);
            double f = 0.0;
            double i = 0.0;
            for (int pass = 0; pass < PASSES; pass++) {
                i = network.solve(theta, manifoldPa, suction);
                f = well.solve(air, open, i);
                if (Math.abs(well.suctionPa() - suction) < SETTLED_PA) {
                    break;
                }
                suction = pass == 0 ? well.suctionPa() : 0.5 * (suction + well.suctionPa());
            }
            idle = i * bores;
            portShare = network.portShare();
            main = f * bores;
        }

        /** A stage whose slot or enrichment is no circuit of its own delivers their fuel with port and jet. */
        void deliver(double scale, Delivery out) {
            if (slotCircuit == null) {
                out.put(idleCircuit, scale * idle);
            } else {
                out.put(idleCircuit, scale * idle * portShare);
                out.put(slotCircuit, scale * idle * (1.0 - portShare));
            }
            if (powerCircuit == null) {
                out.put(mainCircuit, scale * main);
            } else {
                out.put(mainCircuit, scale * main * jetShare);
                out.put(powerCircuit, scale * main * (1.0 - jetShare));
            }
        }
    }
}
