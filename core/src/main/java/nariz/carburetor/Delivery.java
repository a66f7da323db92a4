package nariz.carburetor;

/**
 * What a carburetor delivers in one state. Filled in by a {@link DeliveryModel} and reused by the caller, so that the
 * long loops allocate nothing; one thread each.
 */
public final class Delivery {
    private final double[] phi;
    private double airKgPerS;
    private double thetaPrimaryRad;
    private double thetaSecondaryRad;
    private double enrichment;

    /**
     * Room for a family's circuits.
     *
     * @param circuits how many
     */
    public Delivery(int circuits) {
        phi = new double[circuits];
    }

    /**
     * Takes the state a model found.
     *
     * @param air air the engine draws, kg/s
     * @param primaryRad primary plate angle from closed, rad
     * @param secondaryRad secondary plate angle from closed, rad; 0 without a second stage
     */
    public void state(double air, double primaryRad, double secondaryRad) {
        airKgPerS = air;
        thetaPrimaryRad = primaryRad;
        thetaSecondaryRad = secondaryRad;
    }

    /**
     * Takes one circuit's part of phi.
     *
     * @param c circuit
     * @param part its part of phi
     */
    public void put(Circuit c, double part) {
        phi[c.index()] = part;
    }

    /**
     * Takes how far the primary enrichment is open.
     *
     * @param share 0 to 1
     */
    public void enrichment(double share) {
        enrichment = share;
    }

    /**
     * Fuel of one circuit.
     *
     * @param c circuit
     * @return its part of phi
     */
    public double phi(Circuit c) {
        return phi[c.index()];
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
