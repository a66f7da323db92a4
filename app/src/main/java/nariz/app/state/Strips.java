package nariz.app.state;

import static nariz.app.words.WindowWords.say;
import static nariz.app.words.WindowWords.units;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.diagnosis.Analysis;
import nariz.estimation.Flag;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.log.Pyramid;
import nariz.units.Shown;
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
    private static final double MOST_VACUUM_PA = 25 * Units.INHG;
    private static final String MIXTURE = "mixture";

    /** Copies the list. */
    public Strips {
        strips = List.copyOf(strips);
    }

    /**
     * One strip. Values are SI (rpm for speed of the engine, lambda for a mixture); they become the units in use only
     * where they are read out.
     *
     * @param key name for settings and words
     * @param measured readings
     * @param raw readings as they came, or null when they need no aligning
     * @param predicted what the model says, or null
     * @param low lower end of the scale
     * @param high upper end
     */
    public record Strip(String key, Pyramid measured, Pyramid raw, Pyramid predicted, double low, double high) {
        /** {@return whether it shows a mixture, which has its own switch of units} */
        public boolean mixture() {
            return MIXTURE.equals(key);
        }

        /** {@return name for people} */
        public String label() {
            return say("strips." + key);
        }

        /** {@return unit of the numbers {@link #shown} gives; empty for a mixture} */
        public String unit() {
            Shown u = units();
            return switch (key) {
                case "vacuum", "fuel-pressure" -> u.pressure().label();
                case "rpm" -> "rpm";
                case "throttle" -> "%";
                case "speed" -> u.road().speed();
                case "coolant" -> u.road().heat();
                case "altitude" -> u.road().height();
                case "airflow" -> "g/s";
                default -> "";
            };
        }

        /**
         * A value in the unit people read.
         *
         * @param si value
         * @return number in {@link #unit()}
         */
        public double shown(double si) {
            Shown u = units();
            return switch (key) {
                case "vacuum", "fuel-pressure" -> si / u.pressure().pa();
                case "throttle" -> 100 * si;
                case "speed" -> si / u.road().mPerS();
                case "coolant" -> u.road().degrees(si);
                case "altitude" -> si / u.road().heightM();
                case "airflow" -> 1e3 * si;
                default -> si;
            };
        }

        /** {@return digits behind the point in read-outs} */
        public int decimals() {
            return switch (key) {
                case MIXTURE -> 2;
                case "vacuum", "fuel-pressure" -> units().pressure().decimals();
                case "airflow" -> 1;
                default -> 0;
            };
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
        float[] raw = new float[n];
        float[] measured = new float[n];
        float[] predicted = new float[n];
        for (int i = 0; i < n; i++) {
            raw[i] = (float) log.lambda()[i];
            measured[i] = (float) trace.measured(i);
            // On the overrun a reading says nothing of the circuits, so neither does a prediction.
            predicted[i] = trace.flag(i) == Flag.OVERRUN ? Float.NaN : (float) trace.predicted(i);
        }
        List<Strip> out = new ArrayList<>();
        out.add(new Strip(MIXTURE, new Pyramid(measured), new Pyramid(raw), a.estimated() ? new Pyramid(predicted)
                : null, RICHEST, LEANEST));
        out.add(plain("vacuum", log.vacuumPa(), 0, MOST_VACUUM_PA));
        out.add(plain("rpm", log.rpm(), 0, sheet.engine().redlineRpm()));
        for (Channel c : log.recorded()) {
            switch (c) {
                case THROTTLE -> out.add(plain(c.key(), log.values(c), 0, 1));
                case SPEED, COOLANT, AIRFLOW, FUEL_PRESSURE, ALTITUDE -> out.add(spread(c.key(), log.values(c)));
                default -> { }
            }
        }
        return new Strips(log.timeS(), out);
    }

    private static Strip plain(String key, double[] si, double low, double high) {
        float[] v = new float[si.length];
        for (int i = 0; i < v.length; i++) {
            v[i] = (float) si[i];
        }
        return new Strip(key, new Pyramid(v), null, null, low, high);
    }

    private static Strip spread(String key, double[] si) {
        double low = Arrays.stream(si).filter(v -> !Double.isNaN(v)).min().orElse(0);
        double high = Arrays.stream(si).filter(v -> !Double.isNaN(v)).max().orElse(1);
        double room = Math.max(1e-3 * Math.max(1, Math.abs(high)), 0.08 * (high - low));
        return plain(key, si, low - room, high + room);
    }
}
