package nariz.app.session;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import nariz.advice.Analysis;
import nariz.build.BuildSheet;
import nariz.fit.Flag;
import nariz.fit.Observation;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.log.Pyramid;
import nariz.units.Units;

/**
 * What the trace shows: one strip a channel over one time. Mixtures stand at the moment of the engine they belong to;
 * behind them the readings as they came, which lag.
 *
 * @param timeS times, s, rising; shared, not copied
 * @param strips from top to bottom
 */
public record Strips(double[] timeS, List<Strip> strips) {
    private static final double RICHEST = 0.70;
    private static final double LEANEST = 1.30;

    /** Copies the list. */
    public Strips {
        strips = List.copyOf(strips);
    }

    /**
     * One strip.
     *
     * @param key name for settings
     * @param label name for people
     * @param unit unit of its numbers; empty for a mixture, which is shown as the user likes it
     * @param measured readings
     * @param raw readings as they came, or null when they need no aligning
     * @param predicted what the model says, or null
     * @param low lower end of the scale
     * @param high upper end
     * @param decimals digits behind the point in read-outs
     */
    public record Strip(String key, String label, String unit, Pyramid measured, Pyramid raw, Pyramid predicted,
            double low, double high, int decimals) {
        /** {@return whether it shows a mixture} */
        public boolean mixture() {
            return unit.isEmpty();
        }
    }

    /**
     * Strips of a drive.
     *
     * @param sheet build sheet
     * @param log what was recorded
     * @param a analysis
     * @param trace display series
     * @return mixture, vacuum and rpm first, then whatever else was recorded
     */
    static Strips of(BuildSheet sheet, DriveLog log, Analysis a, Trace trace) {
        int n = log.size();
        Observation o = a.observation();
        float[] raw = new float[n];
        float[] predicted = new float[n];
        for (int i = 0; i < n; i++) {
            raw[i] = (float) log.lambda()[i];
            // On the overrun a reading says nothing of the circuits, so neither does a prediction.
            predicted[i] = o.flag(i) == Flag.OVERRUN ? Float.NaN : (float) trace.predicted(i);
        }
        List<Strip> out = new ArrayList<>();
        out.add(new Strip("mixture", "mixture", "", new Pyramid(aligned(o, i -> trace.measured(i))),
                new Pyramid(raw), a.estimated() ? new Pyramid(aligned(o, i -> predicted[i])) : null, RICHEST,
                LEANEST, 2));
        out.add(plain("vacuum", "vacuum", "inHg", log.vacuumPa(), 1 / Units.INHG, 0, 25, 1));
        out.add(plain("rpm", "rpm", "rpm", log.rpm(), 1, 0, sheet.engine().redlineRpm(), 0));
        for (Channel c : log.recorded()) {
            switch (c) {
                case THROTTLE -> out.add(plain(c.key(), "throttle", "%", log.values(c), 100, 0, 100, 0));
                case SPEED -> out.add(spread(c.key(), "speed", "km/h", log.values(c), 3.6, 0));
                case COOLANT -> out.add(spread(c.key(), "coolant", "°C", shifted(log.values(c)), 1, 0));
                case AIRFLOW -> out.add(spread(c.key(), "airflow", "g/s", log.values(c), 1e3, 1));
                case FUEL_PRESSURE -> out.add(spread(c.key(), "fuel pressure", "kPa", log.values(c), 1e-3, 1));
                case ALTITUDE -> out.add(spread(c.key(), "altitude", "m", log.values(c), 1, 0));
                default -> { }
            }
        }
        return new Strips(log.timeS(), out);
    }

    /**
     * Readings put to the samples of the states they belong to.
     *
     * @param o alignment
     * @param reading value of a reading by its own sample
     * @return value by sample of the state; a state no reading belongs to takes the one before it
     */
    static float[] aligned(Observation o, java.util.function.IntToDoubleFunction reading) {
        int n = o.log().size();
        float[] out = new float[n];
        boolean[] known = new boolean[n];
        for (int i = 0; i < n; i++) {
            int s = o.stateOf(i);
            out[s] = (float) reading.applyAsDouble(i);
            known[s] = true;
        }
        for (int i = 0; i < n; i++) {
            if (!known[i]) {
                out[i] = i > 0 ? out[i - 1] : Float.NaN;
            }
        }
        return out;
    }

    private static double[] shifted(double[] kelvin) {
        return Arrays.stream(kelvin).map(k -> k - 273.15).toArray();
    }

    private static Strip plain(String key, String label, String unit, double[] si, double factor, double low,
            double high, int decimals) {
        float[] v = new float[si.length];
        for (int i = 0; i < v.length; i++) {
            v[i] = (float) (si[i] * factor);
        }
        return new Strip(key, label, unit, new Pyramid(v), null, null, low, high, decimals);
    }

    private static Strip spread(String key, String label, String unit, double[] si, double factor, int decimals) {
        double low = Arrays.stream(si).filter(v -> !Double.isNaN(v)).min().orElse(0) * factor;
        double high = Arrays.stream(si).filter(v -> !Double.isNaN(v)).max().orElse(1) * factor;
        double room = Math.max(1e-3, 0.08 * (high - low));
        return plain(key, label, unit, si, factor, low - room, high + room, decimals);
    }
}
