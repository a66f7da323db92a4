package nariz.log;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import nariz.units.Quantity;
import nariz.units.Units;
import org.jspecify.annotations.Nullable;

/**
 * Whether the numbers of a whole column can be what its header says; names the mistakes people make. Where a person
 * said what the column is, a contradiction is a remark that goes with the answer; where only the header does, the log
 * is refused.
 */
final class LogPlausibility {
    /** Why a column is what it is, where a person or another file said so. */
    private static final Set<String> SAID = Set.of("because.you-said-so", "because.the-profile-says-so",
            "because.the-order-of-noted-points", "because.from-the-track");
    /** From idle to fast running every throttled engine pulls more than this at some moment, Pa. */
    private static final double LEAST_OF_A_WIDE_DRIVE = 33e3;
    /** A hose on a ported nipple reads next to nothing at idle, Pa, and this much more once the plate has passed it. */
    private static final double PORTED_IDLE_PA = 1.0 * Units.INHG;
    private static final double PORTED_OPEN_PA = 5.0 * Units.INHG;
    /** A throttle that stands as far open as this at idle is another reading, share. */
    private static final double OPEN_AT_IDLE = 0.3;
    private static final double SHUT = 0.02;
    /** On overrun an engine loses speed, in the highest gear too, rpm/s. */
    private static final double SLOWING = -20.0;
    /** Sensors end near 10 on the petrol scale: below 9 is no mixture that was read. */
    private static final double NO_MIXTURE = 9.0 / Units.PETROL_GAUGE_STOICH;
    private static final double SHARE_OF_NO_MIXTURE = 0.05;
    /** Faster than this nothing that holds litres warms or cools, K in ten seconds. */
    private static final double FASTEST_WARMING_K = 15.0;
    /** Steeper than any road, m in ten seconds. */
    private static final double FASTEST_CLIMB_M = 80.0;
    /** Harder than tyres grip, m/s in half a second. */
    private static final double HARDEST_STEP_MPS = 8.0;
    private static final double FASTEST_AT_IDLE_MPS = 8.0;
    private static final double FASTEST_ROAD_MPS = 90.0;
    /** Sensors end near 1.5, some show 2 in plain air: beyond this is no mixture that was read. */
    private static final double NO_MIXTURE_EITHER = 2.2;
    /** Metered air follows speed and density, whatever the filling: as a correlation. */
    private static final double FOLLOWS = 0.6;
    private static final double LONG_S = 10.0;
    private static final double SHORT_S = 0.5;

    private final String source;
    private final long line;
    private final List<ColumnPlan> columns;
    private final DriveLog log;
    private final BuildSheet sheet;
    private final double slowestIdle;
    private final double fastestIdle;
    private final List<Message> remarks = new ArrayList<>();

    private LogPlausibility(String source, long line, List<ColumnPlan> columns, DriveLog log, BuildSheet sheet) {
        this.source = source;
        this.line = line;
        this.columns = columns;
        this.log = log;
        this.sheet = sheet;
        // The sheet may be wrong about it: never faster than the slowest running of this log.
        double idle = sheet.engine().idleRpm();
        double slow = Quantile.of(log.rpm(), 0.05);
        slowestIdle = 0.6 * Math.min(idle, slow);
        fastestIdle = 1.3 * Math.min(idle, slow);
    }

    /** {@return what speaks against columns that a person named} */
    static List<Message> check(String source, long line, List<ColumnPlan> columns, DriveLog log, BuildSheet sheet) {
        LogPlausibility p = new LogPlausibility(source, line, columns, log, sheet);
        p.rejectEmpty(log.rpm(), Channel.RPM, null);
        p.rejectEmpty(log.vacuumPa(), Channel.VACUUM, Channel.MAP);
        p.rejectEmpty(log.lambda(), Channel.LAMBDA, Channel.AFR);
        p.speed();
        p.ported();
        p.vacuum();
        p.lambda();
        p.secondLambda();
        p.throttle();
        p.roadSpeed();
        p.slow(Channel.COOLANT, FASTEST_WARMING_K);
        p.slow(Channel.OIL_TEMPERATURE, FASTEST_WARMING_K);
        p.slow(Channel.ALTITUDE, FASTEST_CLIMB_M);
        p.airflow();
        return p.remarks;
    }

    private void doubt(ColumnPlan c, Message found, Message wanted) {
        if (!SAID.contains(c.because().code())) {
            throw new InputProblem(source, line, c.index() + 1, c.title(), found, wanted);
        }
        remarks.add(message("problem.a-remark", c.title(), found));
    }

    private void speed() {
        double turning = Quantile.of(log.rpm(), 0.9);
        if (turning < 300) {
            doubt(find(Channel.RPM, null), message("problem.speeds-of-mostly-under-rpm", Quantity.trim(turning, 0)),
                    message("problem.no-engine-runs-that-slowly-are"));
        }
    }

    /** A ported hose has nothing to tell with the throttle shut, which absolute pressure does. */
    private void ported() {
        double[] idle = log.has(Channel.THROTTLE) ? vacuumWhere(i -> idling(i) && log.values(Channel.THROTTLE)[i]
                < SHUT) : vacuumWhere(this::idling);
        double most = Quantile.of(log.vacuumPa(), 0.95);
        if (idle.length > 40 && Quantile.of(idle, 0.8) < PORTED_IDLE_PA && most > PORTED_OPEN_PA) {
            ColumnPlan c = find(Channel.VACUUM, Channel.MAP);
            // Nothing can be learned from such a log, whoever named the column.
            throw new InputProblem(source, line, c.index() + 1, c.title(),
                    message("problem.a-vacuum-of-nought-at-idle"),
                    message("problem.the-hose-is-on-a-ported-nipple"));
        }
    }

    private boolean idling(int i) {
        return log.rpm()[i] > slowestIdle && log.rpm()[i] < fastestIdle;
    }

    private double[] vacuumWhere(IntPredicate at) {
        return at(log.vacuumPa(), at);
    }

    private static double[] at(double[] v, IntPredicate at) {
        return IntStream.range(0, v.length).filter(i -> !Double.isNaN(v[i]) && at.test(i)).mapToDouble(i -> v[i])
                .toArray();
    }

    private void vacuum() {
        ColumnPlan c = find(Channel.VACUUM, Channel.MAP);
        double ambient = sheet.ambient().pressurePa();
        double most = Quantile.of(log.vacuumPa(), 0.999);
        if (most > ambient) {
            doubt(c, message("problem.a-vacuum-of-kpa-where-the", kPa(most), kPa(ambient)),
                    message("problem.check-the-unit-in-the-header"));
            return;
        }
        double range = Quantile.of(log.vacuumPa(), 0.98) - Quantile.of(log.vacuumPa(), 0.02);
        boolean tooLittle = wide() && most < LEAST_OF_A_WIDE_DRIVE;
        if (most < 0.25 * Units.INHG || (most < 12e3 && range < 2.5e3) || tooLittle) {
            doubt(c, message("problem.a-vacuum-that-never-exceeds-kpa", kPa(most)),
                    message("problem.a-throttled-engine-pulls-far-more"));
        } else if (hardlyMoves()) {
            doubt(c, message("problem.a-vacuum-that-hardly-moves-between"),
                    message("problem.check-that-this-column-is-vacuum"));
        } else if (loadSlope() > 0.25 || (c.channel() == Channel.VACUUM && fullLoadAtMost(ambient))) {
            boolean map = c.channel() == Channel.MAP;
            doubt(c, message(map ? "problem.a-manifold-pressure-that-is-lowest"
                    : "problem.a-vacuum-that-is-lowest-with"),
                    message(map ? "problem.this-looks-like-vacuum-name-the"
                    : "problem.this-looks-like-absolute-manifold-pressure"));
        }
    }

    private void lambda() {
        ColumnPlan c = find(Channel.LAMBDA, Channel.AFR);
        double middle = Quantile.of(log.lambda(), 0.5);
        double[] read = at(log.lambda(), i -> true);
        double impossible = impossible(read);
        double shown = c.channel() == Channel.AFR ? middle * Units.PETROL_GAUGE_STOICH : middle;
        double byFuel = shown / sheet.fuel().stoichAfr();
        Message found = message("problem.a-middle-reading-of-lambda", Quantity.trim(shown, 2), Quantity.trim(middle,
                2));
        boolean away = !(middle > 0.6 && middle < 1.5);
        if (c.channel() == Channel.AFR && (away || impossible > SHARE_OF_NO_MIXTURE) && byFuel > 0.75 && byFuel < 1.3
                && middle < 0.9) {
            doubt(c, found, message("problem.on-the-scale-of-the-sheet", Quantity.trim(byFuel, 2)));
        } else if (away) {
            doubt(c, found, message("problem.no-engine-runs-there-check-that"));
        } else if (impossible > SHARE_OF_NO_MIXTURE) {
            doubt(c, message("problem.readings-no-sensor-gives", Quantity.trim(100 * impossible, 0)),
                    message("problem.no-engine-runs-there-check-that"));
        }
    }

    private static double impossible(double[] read) {
        return Arrays.stream(read).filter(x -> x < NO_MIXTURE || x > NO_MIXTURE_EITHER).count() / (double) Math.max(1,
                read.length);
    }

    private void secondLambda() {
        if (log.has(Channel.LAMBDA_2)) {
            double share = impossible(at(log.values(Channel.LAMBDA_2), i -> true));
            if (share > SHARE_OF_NO_MIXTURE) {
                doubt(find(Channel.LAMBDA_2, Channel.AFR_2), message("problem.readings-no-sensor-gives", Quantity.trim(
                        100 * share, 0)), message("problem.no-engine-runs-there-check-that"));
            }
        }
    }

    /** Open at idle, or never moved from idle to fast running: another reading, or a sensor that is not connected. */
    private void throttle() {
        if (!log.has(Channel.THROTTLE)) {
            return;
        }
        double[] v = log.values(Channel.THROTTLE);
        ColumnPlan c = find(Channel.THROTTLE, null);
        double atIdle = Quantile.of(at(v, i -> idling(i)), 0.5);
        double range = Quantile.of(v, 0.98) - Quantile.of(v, 0.02);
        if (atIdle > OPEN_AT_IDLE) {
            doubt(c, message("problem.a-throttle-open-at-idle", Quantity.trim(100 * atIdle, 0)),
                    message("problem.check-columns-or-name-them"));
        } else if (wide() && range < 0.03) {
            doubt(c, message("problem.a-throttle-that-hardly-moves"), message("problem.check-columns-or-name-them"));
        } else if (wide() && !Double.isNaN(atIdle) && atIdle > Quantile.of(v, 0.5) + 0.02) {
            doubt(c, message("problem.a-throttle-open-at-idle", Quantity.trim(100 * atIdle, 0)),
                    message("problem.check-columns-or-name-them"));
        }
    }

    private void roadSpeed() {
        if (!log.has(Channel.SPEED)) {
            return;
        }
        double[] v = log.values(Channel.SPEED);
        ColumnPlan c = find(Channel.SPEED, null);
        double middle = Quantile.of(v, 0.5);
        double range = Quantile.of(v, 0.97) - Quantile.of(v, 0.03);
        if (wide() && middle > 1.0 && range < 0.1 * middle + 1.0) {
            doubt(c, message("problem.a-road-speed-that-hardly-moves"), message("problem.check-columns-or-name-them"));
        } else if (share(v, SHORT_S, HARDEST_STEP_MPS) > 0.002) {
            doubt(c, message("problem.a-road-speed-that-jumps"), message("problem.check-columns-or-name-them"));
        } else if (Quantile.of(at(v, this::idling), 0.5) > FASTEST_AT_IDLE_MPS || middle > FASTEST_ROAD_MPS) {
            doubt(c, message("problem.a-road-speed-at-idle"), message("problem.check-columns-or-name-them"));
        }
    }

    /** Warmth and height change slowly, whatever is done to the engine. */
    private void slow(Channel c, double most) {
        if (log.has(c) && share(log.values(c), LONG_S, most) > 0.05) {
            doubt(find(c, null), message("problem.a-reading-that-changes-too-fast", c.label()),
                    message("problem.check-columns-or-name-them"));
        }
    }

    /** Share of the samples from which a reading moves by more than so much within a time. */
    private double share(double[] v, double withinS, double most) {
        double[] t = log.timeS();
        int j = 0;
        int moved = 0;
        int known = 0;
        for (int i = 0; i < v.length; i++) {
            while (t[i] - t[j] > withinS) {
                j++;
            }
            if (!Double.isNaN(v[i]) && !Double.isNaN(v[j])) {
                known++;
                moved += Math.abs(v[i] - v[j]) > most ? 1 : 0;
            }
        }
        return known == 0 ? 0.0 : moved / (double) known;
    }

    /**
     * Air by displacement, speed and manifold density at a filling of 0.8: what is metered lies within a factor of
     * three of it, at idle too.
     */
    private void airflow() {
        if (!log.has(Channel.AIRFLOW)) {
            return;
        }
        double[] v = log.values(Channel.AIRFLOW);
        double ambient = sheet.ambient().pressurePa();
        double perTurn = 0.8 * sheet.engine().displacementM3() / 2 * ambient / (
                287.05 * sheet.ambient().temperatureK());
        double[] ratio = IntStream.range(0, v.length).mapToDouble(i -> v[i] / (perTurn * log.rpm()[i] / 60
                * Math.max(0.05, (ambient - log.vacuumPa()[i]) / ambient))).toArray();
        double middle = Quantile.of(ratio, 0.5);
        double idle = Quantile.of(at(ratio, this::idling), 0.5);
        double[] expected = IntStream.range(0, v.length).mapToDouble(i -> v[i] / ratio[i]).toArray();
        if (correlation(v, expected) < FOLLOWS || middle > 3 || middle < 1 / 3.0 || idle < 0.15 || idle > 6) {
            doubt(find(Channel.AIRFLOW, null), message("problem.an-airflow-no-engine-draws"),
                    message("problem.check-columns-or-name-them"));
        }
    }

    /** From idle to two and a half times idle speed vacuum moves by far more than 4 inHg, whatever the engine. */
    private boolean hardlyMoves() {
        double range = Quantile.of(log.vacuumPa(), 0.99) - Quantile.of(log.vacuumPa(), 0.01);
        return wide() && range < 4.0 * Units.INHG;
    }

    private boolean wide() {
        double idle = sheet.engine().idleRpm();
        return Quantile.of(log.rpm(), 0.05) < 1.4 * idle && Quantile.of(log.rpm(), 0.95) > 2.5 * idle;
    }

    /**
     * A vacuum near the whole barometer comes on overrun only. Full load looks so where absolute pressure is taken for
     * vacuum: rich, with the throttle open, or the engine not slowing down.
     */
    private boolean fullLoadAtMost(double ambient) {
        double[] pedal = log.has(Channel.THROTTLE) ? log.values(Channel.THROTTLE) : null;
        double[] a = pedal == null ? acceleration() : pedal;
        int rich = 0;
        int loaded = 0;
        for (int i = 0; i < log.size(); i++) {
            if (log.vacuumPa()[i] > 0.9 * ambient && log.lambda()[i] < 1.0) {
                rich++;
                loaded += pedal == null ? (a[i] < SLOWING ? 0 : 1) : a[i] > OPEN_AT_IDLE ? 1 : 0;
            }
        }
        return rich > 0.02 * log.size() && loaded > 0.5 * rich;
    }

    /**
     * Correlation of vacuum with throttle, or without one with what acceleration tells: speed rising means load, so
     * vacuum against the engine's acceleration. Negative for a true vacuum.
     */
    private double loadSlope() {
        return correlation(log.has(Channel.THROTTLE) ? log.values(Channel.THROTTLE) : acceleration(), log.vacuumPa());
    }

    /** Acceleration of the engine, rpm/s; NaN where readings are too far apart. */
    private double[] acceleration() {
        double[] t = log.timeS();
        double[] a = new double[t.length];
        Arrays.fill(a, Double.NaN);
        int j = 0;
        for (int i = 0; i < a.length; i++) {
            while (t[i] - t[j] > 0.6) {
                j++;
            }
            if (j < i && t[i] - t[j] > 0.3) {
                int middle = (i + j) / 2;
                a[middle] = Math.clamp((log.rpm()[i] - log.rpm()[j]) / (t[i] - t[j]), -600, 600);
            }
        }
        return a;
    }

    private static double correlation(double[] x, double[] y) {
        double n = 0;
        double sx = 0;
        double sy = 0;
        double sxx = 0;
        double syy = 0;
        double sxy = 0;
        for (int i = 0; i < x.length; i++) {
            if (!Double.isNaN(x[i]) && !Double.isNaN(y[i])) {
                n++;
                sx += x[i];
                sy += y[i];
                sxx += x[i] * x[i];
                syy += y[i] * y[i];
                sxy += x[i] * y[i];
            }
        }
        double vx = sxx - sx * sx / n;
        double vy = syy - sy * sy / n;
        return n < 10 || vx <= 0 || vy <= 0 ? 0.0 : (sxy - sx * sy / n) / Math.sqrt(vx * vy);
    }

    private void rejectEmpty(double[] v, Channel a, @Nullable Channel b) {
        if (Arrays.stream(v).filter(x -> !Double.isNaN(x)).count() < v.length / 2) {
            ColumnPlan c = find(a, b);
            throw new InputProblem(source, line, c.index() + 1, c.title(),
                    message("problem.a-column-that-is-more-than"),
                    message("problem.check-the-sensor-and-the-export"));
        }
    }

    private ColumnPlan find(Channel a, @Nullable Channel b) {
        return columns.stream().filter(c -> c.channel() == a).findFirst().or(() -> columns.stream().filter(c ->
                c.channel() == b).findFirst()).orElseThrow(() -> new InputProblem(source, line, 0, "",
                        message("problem.no-column-for", a.label()), message("problem.add-or-rename-a-column-to",
                                a.header())));
    }

    private static String kPa(double pa) {
        return Quantity.trim(pa / 1e3, 1);
    }
}
