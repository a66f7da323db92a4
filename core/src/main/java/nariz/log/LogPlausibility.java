package nariz.log;

import static nariz.text.Message.message;

import java.util.Arrays;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import nariz.units.Quantity;
import nariz.units.Units;
import org.jspecify.annotations.Nullable;

/** Whether the numbers of a whole column can be what its header says; names the mistakes people make. */
final class LogPlausibility {
    /** From idle to fast running every throttled engine pulls more than this at some moment, Pa. */
    private static final double LEAST_OF_A_WIDE_DRIVE = 33e3;

    private LogPlausibility() {
    }

    static void check(String source, long line, List<ColumnPlan> columns, DriveLog log, BuildSheet sheet) {
        rejectEmpty(source, line, columns, log.rpm(), Channel.RPM, null);
        rejectEmpty(source, line, columns, log.vacuumPa(), Channel.VACUUM, Channel.MAP);
        rejectEmpty(source, line, columns, log.lambda(), Channel.LAMBDA, Channel.AFR);
        ColumnPlan rpm = find(columns, Channel.RPM, null);
        double turning = Quantile.of(log.rpm(), 0.9);
        if (turning < 300) {
            throw problem(source, line, rpm, message("problem.speeds-of-mostly-under-rpm", Quantity.trim(turning, 0)),
                    message("problem.no-engine-runs-that-slowly-are"));
        }
        ColumnPlan vacuum = find(columns, Channel.VACUUM, Channel.MAP);
        double ambient = sheet.ambient().pressurePa();
        double most = Quantile.of(log.vacuumPa(), 0.999);
        if (most > ambient) {
            throw problem(source, line, vacuum, message("problem.a-vacuum-of-kpa-where-the", kPa(most), kPa(ambient)),
                    message("problem.check-the-unit-in-the-header"));
        }
        double range = Quantile.of(log.vacuumPa(), 0.98) - Quantile.of(log.vacuumPa(), 0.02);
        boolean tooLittle = wide(log, sheet) && most < LEAST_OF_A_WIDE_DRIVE;
        if (most < 0.25 * Units.INHG || (most < 12e3 && range < 2.5e3) || tooLittle) {
            throw problem(source, line, vacuum, message("problem.a-vacuum-that-never-exceeds-kpa", kPa(most)),
                    message("problem.a-throttled-engine-pulls-far-more"));
        }
        if (hardlyMoves(log, sheet)) {
            throw problem(source, line, vacuum, message("problem.a-vacuum-that-hardly-moves-between"),
                    message("problem.check-that-this-column-is-vacuum"));
        }
        if (looksAbsolute(log) || richAtMost(log, ambient)) {
            throw problem(source, line, vacuum, message("problem.a-vacuum-that-is-lowest-with"),
                    message("problem.this-looks-like-absolute-manifold-pressure"));
        }
        if (looksLikeVacuum(log, vacuum)) {
            throw problem(source, line, vacuum, message("problem.a-manifold-pressure-that-is-lowest"),
                    message("problem.this-looks-like-vacuum-name-the"));
        }
        lambda(source, line, columns, log, sheet);
    }

    private static void lambda(String source, long line, List<ColumnPlan> columns, DriveLog log,
            BuildSheet sheet) {
        ColumnPlan c = find(columns, Channel.LAMBDA, Channel.AFR);
        double middle = Quantile.of(log.lambda(), 0.5);
        if (middle > 0.6 && middle < 1.5) {
            return;
        }
        double shown = c.channel() == Channel.AFR ? middle * Units.PETROL_GAUGE_STOICH : middle;
        double byFuel = shown / sheet.fuel().stoichAfr();
        Message found = message("problem.a-middle-reading-of-lambda", Quantity.trim(shown, 2), Quantity.trim(middle,
                2));
        if (c.channel() == Channel.AFR && byFuel > 0.75 && byFuel < 1.3) {
            throw problem(source, line, c, found, message("problem.on-the-scale-of-the-sheet", Quantity.trim(byFuel,
                    2)));
        }
        throw problem(source, line, c, found, message("problem.no-engine-runs-there-check-that"));
    }

    /** From idle to two and a half times idle speed vacuum moves by far more than 4 inHg, whatever the engine. */
    private static boolean hardlyMoves(DriveLog log, BuildSheet sheet) {
        double range = Quantile.of(log.vacuumPa(), 0.99) - Quantile.of(log.vacuumPa(), 0.01);
        return wide(log, sheet) && range < 4.0 * Units.INHG;
    }

    private static boolean wide(DriveLog log, BuildSheet sheet) {
        double idle = sheet.engine().idleRpm();
        return Quantile.of(log.rpm(), 0.05) < 1.4 * idle && Quantile.of(log.rpm(), 0.95) > 2.5 * idle;
    }

    /** A vacuum near the whole barometer comes only on overrun, never rich; full load looks so as MAP. */
    private static boolean richAtMost(DriveLog log, double ambient) {
        int count = 0;
        for (int i = 0; i < log.size(); i++) {
            if (log.vacuumPa()[i] > 0.9 * ambient && log.lambda()[i] < 1.0) {
                count++;
            }
        }
        return count > 0.02 * log.size();
    }

    /** Absolute pressure rises as the throttle opens, vacuum falls: compare pull and overrun. */
    private static boolean looksAbsolute(DriveLog log) {
        return loadSlope(log) > 0.25;
    }

    private static boolean looksLikeVacuum(DriveLog log, ColumnPlan c) {
        return c.channel() == Channel.MAP && loadSlope(log) > 0.25;
    }

    /**
     * Correlation of vacuum with throttle, or without one with what acceleration tells: speed rising means load, so
     * vacuum against the engine's acceleration. Negative for a true vacuum.
     */
    private static double loadSlope(DriveLog log) {
        double[] v = log.vacuumPa();
        if (log.has(Channel.THROTTLE)) {
            return correlation(log.values(Channel.THROTTLE), v);
        }
        double[] t = log.timeS();
        double[] a = new double[v.length];
        Arrays.fill(a, Double.NaN);
        int j = 0;
        for (int i = 0; i < v.length; i++) {
            while (t[i] - t[j] > 0.6) {
                j++;
            }
            if (j < i && t[i] - t[j] > 0.3) {
                int middle = (i + j) / 2;
                a[middle] = Math.clamp((log.rpm()[i] - log.rpm()[j]) / (t[i] - t[j]), -600, 600);
            }
        }
        return correlation(a, v);
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

    private static void rejectEmpty(String source, long line, List<ColumnPlan> columns, double[] v, Channel a,
            @Nullable Channel b) {
        if (Arrays.stream(v).filter(x -> !Double.isNaN(x)).count() < v.length / 2) {
            throw problem(source, line, find(columns, a, b), message("problem.a-column-that-is-more-than"),
                    message("problem.check-the-sensor-and-the-export"));
        }
    }

    private static ColumnPlan find(List<ColumnPlan> columns, Channel a, @Nullable Channel b) {
        return columns.stream().filter(c -> c.channel() == a || c.channel() == b).findFirst().orElseThrow();
    }

    private static InputProblem problem(String source, long line, ColumnPlan c, Message found, Message wanted) {
        return new InputProblem(source, line, c.index() + 1, c.title(), found, wanted);
    }

    private static String kPa(double pa) {
        return Quantity.trim(pa / 1e3, 1);
    }
}
