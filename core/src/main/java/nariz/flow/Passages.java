package nariz.flow;

import java.util.List;
import nariz.carburetor.Coefficients;
import nariz.carburetor.ProgressionHole;
import nariz.units.Units;

/**
 * What a throttle plate passes on its way up the wall of a bore: a transfer slot, or progression holes one after the
 * other. Below the plate's edge they discharge fuel, above it they let air in.
 */
interface Passages {
    /**
     * How much lies below the plate's edge.
     *
     * @param travelM how far the edge has moved up the wall, m
     * @return area, m²
     */
    double belowM2(double travelM);

    /** {@return area of all of it, m²} */
    double totalM2();

    /**
     * How much of a slot's height lies below the plate's edge.
     *
     * @param travelM how far the edge has moved up the wall, m
     * @return m; NaN where there is no slot
     */
    double belowM(double travelM);

    /**
     * The passages of a bore.
     *
     * @param idle its idle system
     * @param k coefficients
     * @return its holes, or the slot of the family
     */
    static Passages of(Barrels.IdleJets idle, Coefficients k) {
        return idle.holes().isEmpty() ? new Slot(k.of(FlowCoefficient.SLOT_WIDTH), k.of(FlowCoefficient.SLOT_HEIGHT),
                k.of(FlowCoefficient.SLOT_START), k.of(FlowCoefficient.SLOT_SOFTNESS))
                : new Holes(idle.holes(), k.of(FlowCoefficient.HOLE_EDGE));
    }

    /**
     * A transfer slot.
     *
     * @param widthM width, m
     * @param heightM height, m
     * @param startM edge travel at which it starts to be uncovered, m
     * @param softnessM travel over which its ends are rounded, m
     */
    record Slot(double widthM, double heightM, double startM, double softnessM) implements Passages {
        @Override
        public double belowM2(double travelM) {
            return widthM * belowM(travelM);
        }

        @Override
        public double totalM2() {
            return widthM * heightM;
        }

        @Override
        public double belowM(double travelM) {
            double e = travelM - startM;
            return Math.clamp(softPlus(e) - softPlus(e - heightM), 0.0, heightM);
        }

        private double softPlus(double e) {
            double x = e / softnessM;
            return x > 30.0 ? e : softnessM * Math.log1p(Math.exp(x));
        }
    }

    /**
     * Progression holes. A hole of diameter d whose middle stands h above the shut plate's edge is passed by the share
     * 1/(1 + exp(-(e - h)/(0.2 d))) of its area at edge travel e: the edge is not sharp, and it meets a curved wall.
     *
     * @param holes the holes
     * @param edgeM play of the plate's edge against its drawing, m; {@value #DRAWN} is as drawn
     */
    record Holes(List<ProgressionHole> holes, double edgeM) implements Passages {
        /** Edge play of a plate that sits as drawn, m: an offset, so that it can be drawn as a factor. */
        static final double DRAWN = 1e-3;
        private static final double ROUNDED = 0.2;

        @Override
        public double belowM2(double travelM) {
            double sum = 0.0;
            for (ProgressionHole h : holes) {
                double x = (travelM + edgeM - DRAWN - h.heightM()) / (ROUNDED * h.diameterM());
                sum += Units.holeArea(h.diameterM()) / (1.0 + Math.exp(-x));
            }
            return sum;
        }

        @Override
        public double totalM2() {
            return holes.stream().mapToDouble(h -> Units.holeArea(h.diameterM())).sum();
        }

        @Override
        public double belowM(double travelM) {
            return Double.NaN;
        }
    }
}
