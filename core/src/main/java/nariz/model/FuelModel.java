package nariz.model;

import nariz.build.BuildSheet;
import nariz.build.Carburetor;
import nariz.build.SideName;

/**
 * The carburetor of a build sheet as a function: engine speed, manifold vacuum and, where known, throttle, to air,
 * plate angles and the fuel of every circuit.
 *
 * <p>Steady state; transients are the observation's business. An instance holds scratch space: one thread each.
 */
public final class FuelModel extends BracketedRoot {
    /** Coupled passes between idle network and main well. */
    private static final int PASSES = 4;
    private static final double NEAR_RAD = 1e-4;
    /** The idle network's fuel moves by less than a thousandth with this much suction. */
    private static final double SETTLED_PA = 0.5;

    private final VolumetricEfficiency filling;
    private final SecondaryOpening secondaryOpening;
    private final SideModel primary;
    private final SideModel secondary;
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
     * @param sheet build sheet
     */
    public FuelModel(BuildSheet sheet) {
        this(sheet, 0.0, Coefficients.STANDARD);
    }

    /**
     * Sets up the model of a carburetor that differs from the standard one of its family.
     *
     * @param sheet build sheet
     * @param k coefficients
     */
    public FuelModel(BuildSheet sheet, Coefficients k) {
        this(sheet, 0.0, k);
    }

    /**
     * Sets up the model with another fuel level than the sheet's.
     *
     * @param sheet build sheet
     * @param levelM fuel level above the sheet's, m
     * @param k coefficients
     */
    public FuelModel(BuildSheet sheet, double levelM, Coefficients k) {
        Carburetor c = sheet.carburetor();
        double level = c.fuelLevelM() + levelM;
        ambientPa = sheet.ambient().pressurePa();
        ambientK = sheet.ambient().temperatureK();
        airDensity = sheet.ambient().densityKgPerM3();
        stoich = sheet.fuel().stoichAfr();
        filling = new VolumetricEfficiency(sheet.engine(), sheet.ambient(), k);
        secondaryOpening = new SecondaryOpening(c, k);
        primary = new SideModel(sheet, SideName.PRIMARY, level, k);
        secondary = new SideModel(sheet, SideName.SECONDARY, level, k);
    }

    /**
     * Lets the enrichment open at another vacuum than its rating.
     *
     * @param shiftPa earlier (positive) or later, Pa
     * @return this
     */
    public FuelModel shiftEnrichment(double shiftPa) {
        enrichmentShiftPa = shiftPa;
        return this;
    }

    /**
     * Evaluates one state with the plate angle found from the air the engine draws.
     *
     * @param rpm engine speed, rpm, positive
     * @param vacuumPa manifold vacuum, Pa, under ambient pressure
     * @param out receives the result
     */
    public void evaluate(double rpm, double vacuumPa, Flow out) {
        double air = filling.airKgPerS(rpm, ambientPa - vacuumPa);
        at(air, 0.0, vacuumPa, angleFor(air, vacuumPa), out);
    }

    /**
     * Evaluates one state with a known plate angle.
     *
     * @param rpm engine speed, rpm, positive
     * @param vacuumPa manifold vacuum, Pa, under ambient pressure
     * @param thetaRad primary plate angle from closed, rad
     * @param out receives the result
     */
    public void evaluate(double rpm, double vacuumPa, double thetaRad, Flow out) {
        at(filling.airKgPerS(rpm, ambientPa - vacuumPa), 0.0, vacuumPa, thetaRad, out);
    }

    /**
     * Evaluates a state whose air is known from elsewhere, for example while a manifold fills.
     *
     * @param engineAirKgPerS air the cylinders draw, kg/s, positive
     * @param carburetorAirKgPerS air through the carburetors, kg/s
     * @param vacuumPa manifold vacuum, Pa, under ambient pressure
     * @param thetaRad primary plate angle from closed, rad
     * @param out receives the result; phi is against the engine's air
     */
    public void evaluateAir(double engineAirKgPerS, double carburetorAirKgPerS, double vacuumPa, double thetaRad,
            Flow out) {
        at(engineAirKgPerS, engineAirKgPerS - carburetorAirKgPerS, vacuumPa, thetaRad, out);
    }

    /**
     * Effective area of all plates together.
     *
     * @param thetaRad primary plate angle from closed, rad
     * @param airKgPerS air through the carburetors, for secondaries that answer to it, kg/s
     * @return C A, m²
     */
    public double plateArea(double thetaRad, double airKgPerS) {
        return area(thetaRad, airKgPerS);
    }

    private void at(double air, double leak, double vacuumPa, double theta, Flow out) {
        double manifold = ambientPa - vacuumPa;
        double carb = air - leak;
        double thetaS = secondaryOpening.angle(theta, carb, airDensity);
        double ap = primary.area(theta);
        double as = secondary.area(thetaS);
        double toPrimary = carb * ap / (ap + as);
        out.airKgPerS = air;
        out.thetaPrimaryRad = theta;
        out.thetaSecondaryRad = thetaS;
        double scale = stoich / air;
        primary.solve(theta, manifold, vacuumPa, toPrimary, enrichmentShiftPa);
        out.enrichment = primary.opening;
        out.phi[Circuit.IDLE.ordinal()] = scale * primary.idle * primary.portShare;
        out.phi[Circuit.TRANSFER.ordinal()] = scale * primary.idle * (1.0 - primary.portShare);
        out.phi[Circuit.MAIN.ordinal()] = scale * primary.main * primary.jetShare;
        out.phi[Circuit.POWER.ordinal()] = scale * primary.main * (1.0 - primary.jetShare);
        secondary.solve(thetaS, manifold, vacuumPa, carb - toPrimary, 0.0);
        out.phi[Circuit.SECONDARY_IDLE.ordinal()] = scale * secondary.idle;
        out.phi[Circuit.SECONDARY_MAIN.ordinal()] = scale * secondary.main;
        out.phi[Circuit.PUMP.ordinal()] = 0.0;
    }

    /**
     * Primary plate angle that lets a given air flow pass.
     *
     * @param airKgPerS air through the carburetors, kg/s
     * @param vacuumPa manifold vacuum, Pa
     * @return angle from closed, rad, 0 to wide open
     */
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
        return primary.area(theta) + secondary.area(secondaryOpening.angle(theta, airKgPerS, airDensity));
    }

    /** {@return the filling surface in use} */
    public VolumetricEfficiency filling() {
        return filling;
    }

    /** One side: all its bores alike. */
    private static final class SideModel {
        private final int bores;
        private final ThrottlePlate plate;
        private final IdleNetwork network;
        private final MainWell well;
        private final Enrichment enrichment;
        private double idle;
        private double portShare;
        private double main;
        private double jetShare;
        private double opening;

        SideModel(BuildSheet sheet, SideName name, double levelM, Coefficients k) {
            Carburetor c = sheet.carburetor();
            var b = c.barrels(name);
            bores = c.count() * b.bores();
            plate = new ThrottlePlate(b, k);
            double density = sheet.ambient().densityKgPerM3();
            network = new IdleNetwork(b, plate, sheet.fuel(), sheet.ambient().pressurePa(), density,
                    levelM, k);
            well = new MainWell(b, sheet.fuel(), density, levelM, k);
            enrichment = new Enrichment(b, k);
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
    }

    /** Result of one evaluation; reused by the caller, so that the long loops allocate nothing. */
    public static final class Flow {
        private final double[] phi = new double[Circuit.values().length];
        private double airKgPerS;
        private double thetaPrimaryRad;
        private double thetaSecondaryRad;
        private double enrichment;

        /**
         * Fuel of one circuit.
         *
         * @param c circuit
         * @return its part of phi
         */
        public double phi(Circuit c) {
            return phi[c.ordinal()];
        }

        /** {@return phi of all circuits together} */
        public double total() {
            double sum = 0.0;
            for (double p : phi) {
                sum += p;
            }
            return sum;
        }

        /** {@return air the engine draws, kg/s} */
        public double airKgPerS() {
            return airKgPerS;
        }

        /** {@return primary plate angle from closed, rad} */
        public double thetaPrimaryRad() {
            return thetaPrimaryRad;
        }

        /** {@return secondary plate angle from closed, rad} */
        public double thetaSecondaryRad() {
            return thetaSecondaryRad;
        }

        /** {@return how far the primary enrichment is open, 0 to 1} */
        public double enrichment() {
            return enrichment;
        }
    }
}
