package nariz.log;

import java.util.Arrays;

/**
 * How the number in a cell becomes SI. Kept apart from the cell's text, so that a column read with the wrong scale
 * can be
 * read again.
 */
public sealed interface Scale {
    /**
     * Converts.
     *
     * @param value number as it stands in the file
     * @return SI value
     */
    double toSi(double value);

    /**
     * SI = value * factor + shift.
     *
     * @param factor SI per unit
     * @param shift added after scaling
     */
    record Linear(double factor, double shift) implements Scale {
        @Override
        public double toSi(double value) {
            return value * factor + shift;
        }
    }

    /**
     * SI = factor/value: equivalence ratio to lambda (factor 1), time between ignition pulses to speed.
     *
     * @param factor SI times unit
     */
    record Reciprocal(double factor) implements Scale {
        @Override
        public double toSi(double value) {
            return factor / value;
        }
    }

    /**
     * Straight lines between points, for a sensor whose volts are logged; beyond the ends the last line goes on.
     *
     * @param from numbers in the file, strictly rising, at least two
     * @param to SI values
     */
    record Curve(double[] from, double[] to) implements Scale {
        /** Checks and copies. */
        public Curve {
            if (from.length < 2 || from.length != to.length) {
                throw new IllegalArgumentException("a curve needs two points or more, found " + from.length + " and "
                        + to.length);
            }
            for (int i = 1; i < from.length; i++) {
                if (!(from[i] > from[i - 1])) {
                    throw new IllegalArgumentException("points {" + (i - 1) + "} and {" + i + "} of the curve do not "
                            + "rise");
                }
            }
            from = from.clone();
            to = to.clone();
        }

        @Override
        public double toSi(double value) {
            int i = Arrays.binarySearch(from, value);
            int k = Math.clamp(i >= 0 ? i : -i - 2, 0, from.length - 2);
            return to[k] + (value - from[k]) / (from[k + 1] - from[k]) * (to[k + 1] - to[k]);
        }
    }

    /**
     * Engine speed from ignition pulses a second.
     *
     * @param perTurn pulses a turn of the crank: half the cylinders with one coil on a four-stroke
     * @return Hz to rpm
     */
    static Scale pulses(double perTurn) {
        return new Linear(60.0 / perTurn, 0.0);
    }
}
